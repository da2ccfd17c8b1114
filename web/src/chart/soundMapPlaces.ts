/** Where the chips of a sound map lie: vowels in the quadrilateral, consonants by place and manner; in pixels of the map. */
import {
  ALL_SOUNDS,
  CONSONANT_PLACES,
  MANNERS,
  PHONEMES,
  placeOfSound,
  type ConsonantPlace,
  type ConsonantSound,
  type Phoneme,
  type VowelPlace,
} from '@zest-jaw/core';

export const MAP_WIDTH = 760;
export const VOWELS_HEIGHT = 268;
const MARGIN = { x: 56, y: 30 };
/** How much the front of the mouth gives way from close to open: the quadrilateral leans. */
const LEAN = 0.4;
/** From one chip to the next where several have one place. */
const BESIDE = 38;
/** Below the words that name the places. */
const FIRST_ROW = 62;
const CLOSE_FIRST_ROW = 48;
const ROW = 38;
/** Rows lie closer where sounds of every language are shown. */
const CLOSE_ROW = 31;

export interface Point {
  readonly x: number;
  readonly y: number;
}

export interface PlacedSound extends Phoneme {
  readonly at: Point;
  /** Where a diphthong begins and ends. */
  readonly arrow?: { readonly from: Point; readonly to: Point };
}

export interface MapPlaces {
  readonly vowels: readonly PlacedSound[];
  readonly consonants: readonly PlacedSound[];
  /** Columns of consonants, from the lips to the throat. */
  readonly columns: readonly { readonly place: ConsonantPlace; readonly x: number }[];
  /** Rows of consonants. */
  readonly rows: readonly { readonly name: string; readonly y: number }[];
  readonly consonantsHeight: number;
}

/** A place in the quadrilateral. */
export function pointOfVowel({ back, open }: Pick<VowelPlace, 'back' | 'open'>): Point {
  const [left, right] = [MARGIN.x + open * LEAN * (MAP_WIDTH - 2 * MARGIN.x), MAP_WIDTH - MARGIN.x];
  return { x: left + back * (right - left), y: MARGIN.y + open * (VOWELS_HEIGHT - 2 * MARGIN.y) };
}

/** Chips of diphthongs lie this far along their arrow, where no other sound has its place. */
const ALONG: Readonly<Record<string, number>> = { EY: 0, AY: 0.2, AW: 0.2, OY: 0.5, OW: 0 };

/** Chips that would lie on one another lie side by side, in order; at the edges of the vowels they begin or end there. */
function sideBySide(sounds: readonly (PlacedSound & { readonly order: number })[]): PlacedSound[] {
  const keyOf = ({ at }: PlacedSound): string => `${Math.round(at.x)} ${Math.round(at.y)}`;
  const together = new Map<string, typeof sounds>();
  for (const sound of sounds) together.set(keyOf(sound), [...(together.get(keyOf(sound)) ?? []), sound]);
  return [...together.values()].flatMap((all) => {
    const { x } = all[0]!.at;
    const isLast = x >= MAP_WIDTH - MARGIN.x - 1;
    const isFirst = x <= MARGIN.x + 1 && all[0]!.kind === 'vowel';
    const first = isFirst ? 0 : isLast ? BESIDE / 2 - (all.length - 1) * BESIDE : -((all.length - 1) / 2) * BESIDE;
    return [...all]
      .sort((a, b) => a.order - b.order)
      .map(({ order: _, ...sound }, index) => ({
        ...sound,
        at: { x: sound.at.x + (all.length === 1 ? 0 : first + index * BESIDE), y: sound.at.y },
      }));
  });
}

/** Unrounded before rounded, then those said through the nose. */
const orderOfVowel = ({ rounded, nasal }: VowelPlace): number => Number(rounded) + 2 * Number(nasal ?? false);
/** Without voice, with it, then what is made beside the tongue or with rounded lips. */
const orderOfConsonant = ({ voiced, lateral, labial }: ConsonantSound): number => Number(voiced) + 2 * Number(Boolean(lateral ?? labial));

function placedVowel(phoneme: Phoneme): (PlacedSound & { readonly order: number })[] {
  const place = placeOfSound(phoneme.symbol);
  if (place.kind !== 'vowel') return [];
  const from = pointOfVowel(place.at);
  const order = orderOfVowel(place.at);
  if (!place.to) return [{ ...phoneme, at: from, order }];
  const to = pointOfVowel(place.to);
  const share = ALONG[phoneme.symbol] ?? 0;
  return [{ ...phoneme, order, at: { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }, arrow: { from, to } }];
}

const LATERAL = 'lateral';

function layOut(sounds: readonly Phoneme[], isWide: boolean): MapPlaces {
  const consonants = sounds.flatMap((phoneme) => {
    const place = placeOfSound(phoneme.symbol);
    return place.kind === 'consonant' ? [{ phoneme, place }] : [];
  });
  const rowOf = ({ manner, lateral }: ConsonantSound): string => (isWide && lateral && manner !== 'click' ? LATERAL : manner);
  const used = new Set(consonants.map(({ place }) => rowOf(place)));
  const rows = MANNERS.flatMap((manner) => (manner === 'approximant' ? [manner, LATERAL] : [manner]))
    .filter((name) => used.has(name))
    .map((name, index) => ({ name, y: isWide ? CLOSE_FIRST_ROW + index * CLOSE_ROW : FIRST_ROW + index * ROW }));
  const places = CONSONANT_PLACES.filter((place) => consonants.some((one) => one.place.place === place));
  const step = (MAP_WIDTH - 2 * MARGIN.x) / (places.length - 1);
  const columns = places.map((place, index) => ({ place, x: MARGIN.x + index * step }));
  return {
    vowels: sideBySide(sounds.flatMap(placedVowel)),
    consonants: sideBySide(
      consonants.map(({ phoneme, place }) => ({
        ...phoneme,
        order: orderOfConsonant(place),
        at: { x: columns.find((column) => column.place === place.place)!.x, y: rows.find(({ name }) => name === rowOf(place))!.y },
      })),
    ),
    columns,
    rows,
    consonantsHeight: rows.at(-1)!.y + 20,
  };
}

/** The sounds of English. */
export const ENGLISH_PLACES = layOut(PHONEMES, false);
/** With those of other languages. */
export const ALL_PLACES = layOut(ALL_SOUNDS, true);

/** The next chip in a direction: the nearest that lies more that way than aside. */
export function nextChip(
  { vowels, consonants }: MapPlaces,
  from: string,
  key: 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown',
): string | undefined {
  // Consonants lie below the vowels.
  const all = [...vowels, ...consonants.map((one) => ({ ...one, at: { x: one.at.x, y: one.at.y + VOWELS_HEIGHT } }))];
  const own = all.find(({ symbol }) => symbol === from);
  if (!own) return all[0]?.symbol;
  const isAcross = key === 'ArrowLeft' || key === 'ArrowRight';
  const sign = key === 'ArrowLeft' || key === 'ArrowUp' ? -1 : 1;
  let [best, least]: [string | undefined, number] = [undefined, Infinity];
  for (const { symbol, at } of all) {
    const [along, aside] = isAcross
      ? [sign * (at.x - own.at.x), Math.abs(at.y - own.at.y)]
      : [sign * (at.y - own.at.y), Math.abs(at.x - own.at.x)];
    if (along <= 1 || aside > 2 * along) continue;
    const far = along + 2 * aside;
    if (far < least) [best, least] = [symbol, far];
  }
  return best;
}
