/**
 * Sound groups: the phonemes that look alike on the lips (visemes). The thirteen default
 * groups are named for how the mouth is made. A group that `must` be seen is kept by the
 * keying whatever else gives way: pressed lips and the bitten lip are what an audience
 * misses first.
 */
import { articulationOf, lookDistance } from '../phonetics/articulation.js';
import { nearestEnglish } from '../phonetics/phonemes.js';

export interface SoundGroup {
  readonly id: string;
  readonly name: string;
  /** ARPAbet symbols; Rest has none, it plays silence. */
  readonly phonemes: readonly string[];
  /** What the viewer must see. */
  readonly look: string;
  readonly must: boolean;
  readonly colour: string;
  /** Its drawing was chosen by hand: no proposal changes it. */
  readonly inked?: true;
  /** Its r, l, h and schwa take the shape of the vowel after them. */
  readonly follows?: true;
  /** Its drawings take turns, for variety; else loudness and stress choose among them. */
  readonly inTurn?: true;
  /** Its rounded vowels round the consonants right before them. */
  readonly rounds?: true;
}

const group = (name: string, phonemes: string, look: string, colour: string, must = false): SoundGroup => ({
  id: name.toLowerCase(),
  name,
  phonemes: phonemes.split(' ').filter(Boolean),
  look,
  must,
  colour,
});

/** The group that plays silence. */
export const REST = 'rest';

/** In the order of the tray. */
export const DEFAULT_SOUND_GROUPS: readonly SoundGroup[] = [
  group('Rest', '', 'relaxed, closed', '#A79E8B'),
  group('Press', 'M B P', 'lips pressed together', '#C8435A', true),
  group('Bite', 'F V', 'lower lip under the upper teeth', '#DE7356', true),
  group('Tip', 'TH DH', 'tongue tip between the teeth', '#8A6BA8'),
  group('Lift', 'L', 'open, tongue tip raised', '#6585C2'),
  group('Teeth', 'S Z T D N', 'teeth nearly together, lips apart', '#3C83A8'),
  group('Push', 'SH ZH CH JH', 'lips pushed forward, teeth showing', '#3E9A92'),
  // h is only breath: the lips are where the vowel after it wants them (common practice, no source).
  { ...group('Back', 'K G NG HH', 'half open, nothing special at the front', '#8A9550'), follows: true },
  group('Spread', 'IY IH EY Y', 'corners out, small opening', '#6FA34F'),
  group('Mid', 'EH AH AE', 'relaxed, medium opening', '#C79A1B'),
  group('Drop', 'AA AY AW', 'jaw fully down', '#DD8420'),
  group('Ring', 'AO OW OY', 'rounded, medium opening', '#AD6427'),
  // Lips round early: through the consonants before a rounded vowel (R. Daniloff and K. Moll, “Coarticulation of lip
  // rounding”, 1968; from memory).
  { ...group('Pucker', 'UW UH W R ER', 'rounded, small opening', '#94558A'), rounds: true },
];

const finer: Readonly<Record<string, readonly SoundGroup[]>> = {
  teeth: [group('Hiss', 'S Z', 'teeth shut, lips apart', '#3C83A8'), group('Tap', 'T D N', 'teeth apart, tongue behind them', '#5B9FBF')],
  mid: [group('Mid', 'EH AE', 'relaxed, medium opening', '#C79A1B'), group('Loose', 'AH', 'hardly open, nothing tense', '#B5A05A')],
  pucker: [
    { ...group('Pucker', 'UW UH W', 'rounded, small opening', '#94558A'), rounds: true },
    group('Curl', 'R ER', 'rounded, tongue drawn back', '#B07FA8'),
  ],
};

/** The thirteen with three of them parted in two, for a chart that can show the difference. */
export const SIXTEEN_SOUND_GROUPS: readonly SoundGroup[] = DEFAULT_SOUND_GROUPS.flatMap((whole) => finer[whole.id] ?? [whole]);

/** The group that a phoneme was put in; undefined when it was put in none. */
export function maybeOwnGroup(groups: readonly SoundGroup[], symbol: string): SoundGroup | undefined {
  return groups.find((candidate) => candidate.phonemes.includes(symbol));
}

/** Where the sounds that English lacks were placed, by the groups they were placed among. */
const placedByLook = new WeakMap<readonly SoundGroup[], Map<string, SoundGroup | undefined>>();

/**
 * The group that a phoneme looks like; undefined when none does. A sound that English lacks, in no group, is placed by
 * its features: it goes with the sound of any group that looks most like it.
 */
export function maybeGroupOfPhoneme(groups: readonly SoundGroup[], symbol: string): SoundGroup | undefined {
  const own = maybeOwnGroup(groups, symbol);
  if (own || nearestEnglish(symbol) === symbol) return own;
  let placed = placedByLook.get(groups);
  if (!placed) placedByLook.set(groups, (placed = new Map()));
  if (!placed.has(symbol)) placed.set(symbol, maybeAlike(groups, symbol));
  return placed.get(symbol);
}

function maybeAlike(groups: readonly SoundGroup[], symbol: string): SoundGroup | undefined {
  const look = articulationOf(symbol);
  let [best, least]: [SoundGroup | undefined, number] = [undefined, Infinity];
  for (const candidate of groups)
    for (const phoneme of candidate.phonemes) {
      const away = lookDistance(look, articulationOf(phoneme));
      if (away < least) [best, least] = [candidate, away];
    }
  return best;
}

/** From silence over the lips to the tongue and the vowels. */
const ORDER = [
  'rest',
  'press',
  'bite',
  'tip',
  'lift',
  'teeth',
  'hiss',
  'tap',
  'push',
  'back',
  'spread',
  'mid',
  'loose',
  'drop',
  'ring',
  'pucker',
  'curl',
];
const placeOf = ({ id }: SoundGroup): number => (ORDER.indexOf(id) < 0 ? ORDER.length : ORDER.indexOf(id));

/** The order of groups: the standard ones as they stand, then those of one's own by name. */
export function inMapOrder(a: SoundGroup, b: SoundGroup): number {
  if (placeOf(a) !== placeOf(b)) return placeOf(a) - placeOf(b);
  return a.name < b.name ? -1 : a.name > b.name ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;
}
