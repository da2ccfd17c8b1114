/**
 * Where each sound is made, for a map of the mouth: vowels by height and backness, consonants by
 * place and manner, after the chart of the International Phonetic Association (2020). What has no
 * place of its own there (ɝ, affricates) stands where its descriptions put it.
 */
import { isVowel, type FurtherSymbol, type PhonemeSymbol } from './phonemes.js';

/** From the lips to the throat. */
export const CONSONANT_PLACES = [
  'bilabial',
  'labiodental',
  'dental',
  'alveolar',
  'postalveolar',
  'palatal',
  'labial–velar',
  'velar',
  'uvular',
  'glottal',
] as const;
export type ConsonantPlace = (typeof CONSONANT_PLACES)[number];

export const MANNERS = ['plosive', 'affricate', 'nasal', 'fricative', 'approximant', 'trill', 'click'] as const;
export type Manner = (typeof MANNERS)[number];

/** Places of articulation in plain words, by what meets. */
export const PLACE_WORDS: Readonly<Record<ConsonantPlace, string>> = {
  bilabial: 'both lips',
  labiodental: 'lip and teeth',
  dental: 'tongue and teeth',
  alveolar: 'behind the teeth',
  postalveolar: 'a little further back',
  palatal: 'hard palate',
  'labial–velar': 'lips, far back',
  velar: 'tongue far back',
  uvular: 'furthest back',
  glottal: 'the throat',
};

/** A place in the vowel quadrilateral. */
export interface VowelPlace {
  /** 0 front, 0.5 central, 1 back. */
  readonly back: number;
  /** 0 close, 1 open, in sevenths of the chart's steps: close, near-close, close-mid, mid, open-mid, near-open, open. */
  readonly open: number;
  readonly rounded: boolean;
  /** Said through the nose too. */
  readonly nasal?: true;
}

export interface VowelSound {
  readonly kind: 'vowel';
  readonly at: VowelPlace;
  /** Where a diphthong goes. */
  readonly to?: VowelPlace;
}

export interface ConsonantSound {
  readonly kind: 'consonant';
  readonly place: ConsonantPlace;
  readonly manner: Manner;
  readonly voiced: boolean;
  /** Beside the middle of the tongue, as l. */
  readonly lateral?: true;
  /** The lips are rounded with it, as in French huit. */
  readonly labial?: true;
}

export type SoundPlace = VowelSound | ConsonantSound;

const HEIGHTS = ['close', 'near-close', 'close-mid', 'mid', 'open-mid', 'near-open', 'open'] as const;
type Height = (typeof HEIGHTS)[number];

const at = (height: Height, back: number, rounded = false): VowelPlace => ({ back, open: HEIGHTS.indexOf(height) / 6, rounded });
const vowel = (height: Height, back: number, rounded = false): VowelSound => ({ kind: 'vowel', at: at(height, back, rounded) });
const glide = (from: VowelPlace, to: VowelPlace): VowelSound => ({ kind: 'vowel', at: from, to });
const consonant = (place: ConsonantPlace, manner: Manner, voiced: boolean): ConsonantSound => ({
  kind: 'consonant',
  place,
  manner,
  voiced,
});

/** Where diphthongs end: near-close front, near-close back. */
const TO_I = at('near-close', 0.15);
const TO_U = at('near-close', 0.85, true);

const lateral = (sound: ConsonantSound): ConsonantSound => ({ ...sound, lateral: true });
const nasal = (sound: VowelSound): VowelSound => ({ ...sound, at: { ...sound.at, nasal: true } });

const OF: Readonly<Record<PhonemeSymbol | FurtherSymbol, SoundPlace>> = {
  IY: vowel('close', 0),
  IH: vowel('near-close', 0.15),
  EH: vowel('open-mid', 0),
  AE: vowel('near-open', 0),
  AA: vowel('open', 1),
  AH: vowel('open-mid', 1),
  AO: vowel('open-mid', 1, true),
  UH: vowel('near-close', 0.85, true),
  UW: vowel('close', 1, true),
  ER: vowel('open-mid', 0.5),
  EY: glide(at('close-mid', 0), TO_I),
  AY: glide(at('open', 0.1), TO_I),
  AW: glide(at('open', 0.1), TO_U),
  OY: glide(at('open-mid', 1, true), TO_I),
  OW: glide(at('close-mid', 1, true), TO_U),
  P: consonant('bilabial', 'plosive', false),
  B: consonant('bilabial', 'plosive', true),
  T: consonant('alveolar', 'plosive', false),
  D: consonant('alveolar', 'plosive', true),
  K: consonant('velar', 'plosive', false),
  G: consonant('velar', 'plosive', true),
  CH: consonant('postalveolar', 'affricate', false),
  JH: consonant('postalveolar', 'affricate', true),
  M: consonant('bilabial', 'nasal', true),
  N: consonant('alveolar', 'nasal', true),
  NG: consonant('velar', 'nasal', true),
  F: consonant('labiodental', 'fricative', false),
  V: consonant('labiodental', 'fricative', true),
  TH: consonant('dental', 'fricative', false),
  DH: consonant('dental', 'fricative', true),
  S: consonant('alveolar', 'fricative', false),
  Z: consonant('alveolar', 'fricative', true),
  SH: consonant('postalveolar', 'fricative', false),
  ZH: consonant('postalveolar', 'fricative', true),
  HH: consonant('glottal', 'fricative', false),
  R: consonant('alveolar', 'approximant', true),
  L: lateral(consonant('alveolar', 'approximant', true)),
  Y: consonant('palatal', 'approximant', true),
  W: consonant('labial–velar', 'approximant', true),
  y: vowel('close', 0, true),
  ʏ: vowel('near-close', 0.15, true),
  ø: vowel('close-mid', 0, true),
  œ: vowel('open-mid', 0, true),
  ɯ: vowel('close', 1),
  ɛ̃: nasal(vowel('open-mid', 0)),
  œ̃: nasal(vowel('open-mid', 0, true)),
  ɑ̃: nasal(vowel('open', 1)),
  ɔ̃: nasal(vowel('open-mid', 1, true)),
  ɸ: consonant('bilabial', 'fricative', false),
  β: consonant('bilabial', 'fricative', true),
  ɬ: lateral(consonant('alveolar', 'fricative', false)),
  ç: consonant('palatal', 'fricative', false),
  x: consonant('velar', 'fricative', false),
  ɣ: consonant('velar', 'fricative', true),
  χ: consonant('uvular', 'fricative', false),
  ʁ: consonant('uvular', 'fricative', true),
  ɲ: consonant('palatal', 'nasal', true),
  ʎ: lateral(consonant('palatal', 'approximant', true)),
  ɥ: { ...consonant('palatal', 'approximant', true), labial: true },
  ʙ: consonant('bilabial', 'trill', true),
  rr: consonant('alveolar', 'trill', true),
  ʀ: consonant('uvular', 'trill', true),
  ʘ: consonant('bilabial', 'click', false),
  ǀ: consonant('dental', 'click', false),
  ǃ: consonant('alveolar', 'click', false),
  ǂ: consonant('palatal', 'click', false),
  ǁ: lateral(consonant('alveolar', 'click', false)),
};

const bySymbol: ReadonlyMap<string, SoundPlace> = new Map(Object.entries(OF).map(([symbol, place]) => [symbol.normalize('NFC'), place]));

/** @throws when there is no such phoneme */
export function placeOfSound(symbol: string): SoundPlace {
  const place = bySymbol.get(symbol);
  if (!place) throw new Error(`There is no phoneme “${symbol}”.`);
  return place;
}

const heightOf = ({ open }: VowelPlace): Height => HEIGHTS[Math.round(open * 6)]!;
const backOf = ({ back }: VowelPlace): string => (back < 0.34 ? 'front' : back > 0.66 ? 'back' : 'central');

/** A sound as the chart of the IPA names it. @example nameOfSound('M') // 'voiced bilabial nasal' */
export function nameOfSound(symbol: string): string {
  const place = placeOfSound(symbol);
  if (place.kind === 'consonant') {
    const { voiced, labial, manner, place: where } = place;
    const said = manner === 'click' ? undefined : voiced ? 'voiced' : 'voiceless';
    return [said, labial ? `labial–${where}` : where, place.lateral && 'lateral', manner].filter(Boolean).join(' ');
  }
  const named = (one: VowelPlace): string =>
    [heightOf(one), backOf(one), one.rounded ? 'rounded' : 'unrounded', one.nasal && 'nasal'].filter(Boolean).join(' ');
  return place.to ? `from ${named(place.at)} to ${named(place.to)}` : `${named(place.at)} vowel`;
}

/** Whether the lips are rounded in a vowel, or where a diphthong begins. */
export function isRoundedVowel(symbol: string): boolean {
  const place = isVowel(symbol) ? placeOfSound(symbol) : undefined;
  return place?.kind === 'vowel' && place.at.rounded;
}
