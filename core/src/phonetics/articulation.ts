/**
 * What can be seen of a sound on a face, each feature 0 to 1. They follow from the standard
 * description of each phoneme: place and manner of consonants; height, backness and rounding
 * of vowels (the chart of the International Phonetic Association, 2020). The numbers are our
 * own scale: a close vowel opens the jaw 0.15, an open one 1; what a description does not
 * name is 0. A sound that English lacks is given what its place shows.
 */
import { FURTHER_SOUNDS, type PhonemeSymbol } from './phonemes.js';
import { placeOfSound, type ConsonantSound, type SoundPlace } from './soundPlaces.js';

export const FEATURES = ['jaw', 'spread', 'round', 'press', 'bite', 'teeth', 'tip', 'tongue'] as const;
export type Feature = (typeof FEATURES)[number];
/** Jaw opening, lips spread, lips rounded, lips together, lip on teeth, teeth seen, tongue tip up, tongue out. */
export type Articulation = Readonly<Record<Feature, number>>;

/** How much each feature counts to the eye: lips that meet and the jaw first, what the tongue does inside last. */
const SEEN: Articulation = { jaw: 1.2, spread: 0.6, round: 1, press: 1.2, bite: 1, teeth: 0.45, tip: 0.3, tongue: 0.6 };

/** The features of silence: lips closed, not pressed. */
export const AT_REST: Articulation = { jaw: 0, spread: 0.1, round: 0, press: 0.45, bite: 0, teeth: 0, tip: 0, tongue: 0 };

const articulation = (features: Partial<Articulation>): Articulation => ({
  jaw: 0,
  spread: 0,
  round: 0,
  press: 0,
  bite: 0,
  teeth: 0,
  tip: 0,
  tongue: 0,
  ...features,
});

/** Jaw by height: close, near-close, close-mid, open-mid, near-open, open. Spread and round by backness and rounding. */
const OF: Readonly<Record<PhonemeSymbol, Articulation>> = {
  IY: articulation({ jaw: 0.15, spread: 1, teeth: 0.5 }),
  IH: articulation({ jaw: 0.3, spread: 0.7, teeth: 0.4 }),
  EY: articulation({ jaw: 0.4, spread: 0.8, teeth: 0.4 }),
  EH: articulation({ jaw: 0.6, spread: 0.5, teeth: 0.3 }),
  AE: articulation({ jaw: 0.8, spread: 0.6, teeth: 0.3 }),
  AA: articulation({ jaw: 1 }),
  AY: articulation({ jaw: 0.95, spread: 0.2 }),
  AW: articulation({ jaw: 0.95, round: 0.1 }),
  AH: articulation({ jaw: 0.5 }),
  AO: articulation({ jaw: 0.7, round: 0.6 }),
  OW: articulation({ jaw: 0.45, round: 0.8 }),
  OY: articulation({ jaw: 0.6, round: 0.65 }),
  UH: articulation({ jaw: 0.3, round: 0.6 }),
  UW: articulation({ jaw: 0.15, round: 1 }),
  ER: articulation({ jaw: 0.3, round: 0.5 }),
  M: articulation({ press: 1 }),
  B: articulation({ press: 1 }),
  P: articulation({ press: 1 }),
  F: articulation({ jaw: 0.1, bite: 1, teeth: 0.4 }),
  V: articulation({ jaw: 0.1, bite: 1, teeth: 0.4 }),
  TH: articulation({ jaw: 0.2, teeth: 0.5, tip: 0.5, tongue: 1 }),
  DH: articulation({ jaw: 0.2, teeth: 0.5, tip: 0.5, tongue: 1 }),
  T: articulation({ jaw: 0.15, spread: 0.3, teeth: 0.7, tip: 1 }),
  D: articulation({ jaw: 0.15, spread: 0.3, teeth: 0.7, tip: 1 }),
  N: articulation({ jaw: 0.2, spread: 0.3, teeth: 0.5, tip: 1 }),
  S: articulation({ jaw: 0.05, spread: 0.4, teeth: 1, tip: 0.8 }),
  Z: articulation({ jaw: 0.05, spread: 0.4, teeth: 1, tip: 0.8 }),
  SH: articulation({ jaw: 0.1, round: 0.7, teeth: 0.9 }),
  ZH: articulation({ jaw: 0.1, round: 0.7, teeth: 0.9 }),
  CH: articulation({ jaw: 0.1, round: 0.6, teeth: 0.9, tip: 0.6 }),
  JH: articulation({ jaw: 0.1, round: 0.6, teeth: 0.9, tip: 0.6 }),
  L: articulation({ jaw: 0.4, spread: 0.1, tip: 1, tongue: 0.2 }),
  R: articulation({ jaw: 0.2, round: 0.6 }),
  W: articulation({ jaw: 0.1, round: 1 }),
  Y: articulation({ jaw: 0.15, spread: 0.8, teeth: 0.4 }),
  K: articulation({ jaw: 0.35, teeth: 0.1 }),
  G: articulation({ jaw: 0.35, teeth: 0.1 }),
  NG: articulation({ jaw: 0.35, teeth: 0.1 }),
  HH: articulation({ jaw: 0.4 }),
};

/** What a place of consonants shows; stops and nasals press or raise what fricatives only bring near. */
function ofConsonant({ place, manner, labial }: ConsonantSound): Articulation {
  const [isHiss, isOpen] = [manner === 'fricative', manner === 'approximant' || manner === 'trill'];
  const lips: Partial<Articulation> = labial ? { round: 1 } : {};
  switch (place) {
    case 'bilabial':
      return articulation(isHiss ? { press: 0.6, round: 0.2 } : { press: 1 });
    case 'labiodental':
      return articulation({ jaw: 0.1, bite: 1, teeth: 0.4 });
    case 'dental':
      return articulation(manner === 'click' ? { jaw: 0.2, teeth: 0.6, tip: 1 } : { jaw: 0.2, teeth: 0.5, tip: 0.5, tongue: 1 });
    case 'alveolar':
      return articulation(
        isHiss ? { jaw: 0.05, spread: 0.4, teeth: 0.9, tip: 0.8 } : { jaw: isOpen ? 0.35 : 0.2, spread: 0.2, teeth: 0.4, tip: 1 },
      );
    case 'postalveolar':
      return articulation({ jaw: 0.1, round: 0.65, teeth: 0.9 });
    case 'palatal':
      return articulation({ jaw: 0.15, spread: labial ? 0 : 0.7, teeth: labial ? 0 : 0.4, ...lips });
    case 'labial–velar':
      return articulation({ jaw: 0.1, round: 1 });
    default:
      return articulation({ jaw: 0.4, teeth: 0.1 });
  }
}

/** Jaw by height and lips by rounding and backness, in the steps of the vowels above; the nose is not seen. */
function ofPlace(sound: SoundPlace): Articulation {
  if (sound.kind === 'consonant') return ofConsonant(sound);
  const { open, back, rounded } = sound.at;
  const jaw = 0.15 + 0.85 * open;
  return articulation(
    rounded ? { jaw, round: 1 - 0.6 * open } : { jaw, spread: Math.max(0, 1 - 2 * back) * (1 - 0.6 * open), teeth: 0.4 * (1 - open) },
  );
}

const bySymbol: ReadonlyMap<string, Articulation> = new Map([
  ...Object.entries(OF),
  ...FURTHER_SOUNDS.map(({ symbol }) => [symbol, ofPlace(placeOfSound(symbol))] as const),
]);

/** What a sound shows by its place alone, in the same steps. */
export const articulationByPlace = (symbol: string): Articulation => ofPlace(placeOfSound(symbol));

/** @throws when there is no such phoneme */
export function articulationOf(symbol: string): Articulation {
  const own = bySymbol.get(symbol);
  if (!own) throw new Error(`There is no phoneme “${symbol}”.`);
  return own;
}

/** The mean of several; at rest for none. */
export function meanArticulation(all: readonly Articulation[]): Articulation {
  if (all.length === 0) return AT_REST;
  const sum = (feature: Feature): number => all.reduce((total, one) => total + one[feature], 0) / all.length;
  return Object.fromEntries(FEATURES.map((feature) => [feature, sum(feature)])) as Record<Feature, number>;
}

/** How different two mouths look: 0 for the same, about 1 for an open jaw against pressed lips. Symmetric. */
export function lookDistance(a: Articulation, b: Articulation): number {
  let sum = 0;
  for (const feature of FEATURES) sum += (SEEN[feature] * (a[feature] - b[feature])) ** 2;
  return Math.sqrt(sum) / Math.hypot(SEEN.jaw, SEEN.press);
}
