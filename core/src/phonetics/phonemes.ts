/**
 * The phonemes of English as Zest Jaw names them: ARPAbet without stress digits (the 39
 * of the CMU Pronouncing Dictionary), each with its IPA letters (General American, after
 * the chart of the International Phonetic Association, 2020), its kind, and a word to
 * hear it in. The `*` marks the letters that spell the sound. Sounds of other languages go by
 * their IPA letter; the recogniser is given the sound of English that is nearest to the ear.
 */

export type PhonemeKind = 'vowel' | 'diphthong' | 'stop' | 'affricate' | 'fricative' | 'nasal' | 'liquid' | 'glide' | 'trill' | 'click';

export interface Phoneme {
  /** ARPAbet, upper case, no stress digit; an IPA letter for a sound that English lacks (`rr` for the trill r). */
  readonly symbol: string;
  readonly ipa: string;
  readonly kind: PhonemeKind;
  /** A word with the sound's letters between asterisks: `*th*in`. */
  readonly example: string;
}

const inventory = {
  AA: ['ɑ', 'vowel', 'f*a*ther'],
  AE: ['æ', 'vowel', 'st*a*mp'],
  AH: ['ʌ', 'vowel', 'm*u*d'],
  AO: ['ɔ', 'vowel', 'cl*aw*'],
  AW: ['aʊ', 'diphthong', '*ow*l'],
  AY: ['aɪ', 'diphthong', 't*i*de'],
  B: ['b', 'stop', '*b*ell'],
  CH: ['tʃ', 'affricate', 'bea*ch*'],
  D: ['d', 'stop', '*d*oor'],
  DH: ['ð', 'fricative', '*th*ere'],
  EH: ['ɛ', 'vowel', 'sh*e*ll'],
  ER: ['ɝ', 'vowel', 'h*er*mit'],
  EY: ['eɪ', 'diphthong', 'm*ai*l'],
  F: ['f', 'fricative', '*f*ish'],
  G: ['ɡ', 'stop', '*g*ull'],
  HH: ['h', 'fricative', '*h*eron'],
  IH: ['ɪ', 'vowel', 'd*i*p'],
  IY: ['i', 'vowel', 's*ea*'],
  JH: ['dʒ', 'affricate', '*j*elly'],
  K: ['k', 'stop', '*k*elp'],
  L: ['l', 'liquid', '*l*etter'],
  M: ['m', 'nasal', '*m*oon'],
  N: ['n', 'nasal', '*n*ight'],
  NG: ['ŋ', 'nasal', 'wi*ng*'],
  OW: ['oʊ', 'diphthong', 'b*oa*t'],
  OY: ['ɔɪ', 'diphthong', '*oy*ster'],
  P: ['p', 'stop', '*p*ost'],
  R: ['ɹ', 'liquid', '*r*ock'],
  S: ['s', 'fricative', '*s*and'],
  SH: ['ʃ', 'fricative', '*sh*ore'],
  T: ['t', 'stop', '*t*ide'],
  TH: ['θ', 'fricative', '*th*in'],
  UH: ['ʊ', 'vowel', 'h*oo*k'],
  UW: ['u', 'vowel', 'm*oo*n'],
  V: ['v', 'fricative', 'wa*v*e'],
  W: ['w', 'glide', '*w*et'],
  Y: ['j', 'glide', '*y*acht'],
  Z: ['z', 'fricative', 'bree*z*e'],
  ZH: ['ʒ', 'fricative', 'trea*s*ure'],
} as const satisfies Record<string, readonly [string, PhonemeKind, string]>;

export type PhonemeSymbol = keyof typeof inventory;

/** As above, then the sound of English that is nearest to the ear. */
const further = {
  y: ['y', 'vowel', 'French l*u*ne', 'UW'],
  ʏ: ['ʏ', 'vowel', 'German h*ü*bsch', 'UH'],
  ø: ['ø', 'vowel', 'French p*eu*', 'UH'],
  œ: ['œ', 'vowel', 'French n*eu*f', 'UH'],
  ɯ: ['ɯ', 'vowel', 'Turkish k*ı*z', 'UH'],
  ɛ̃: ['ɛ̃', 'vowel', 'French v*in*', 'AE'],
  œ̃: ['œ̃', 'vowel', 'French br*un*', 'AH'],
  ɑ̃: ['ɑ̃', 'vowel', 'French bl*an*c', 'AA'],
  ɔ̃: ['ɔ̃', 'vowel', 'French b*on*', 'AO'],
  ɸ: ['ɸ', 'fricative', 'Japanese *f*une', 'F'],
  β: ['β', 'fricative', 'Spanish la*v*a', 'V'],
  ɬ: ['ɬ', 'fricative', 'Welsh *ll*yn', 'L'],
  ç: ['ç', 'fricative', 'German i*ch*', 'HH'],
  x: ['x', 'fricative', 'Scottish lo*ch*', 'HH'],
  ɣ: ['ɣ', 'fricative', 'Spanish a*g*ua', 'G'],
  χ: ['χ', 'fricative', 'Welsh ba*ch*', 'HH'],
  ʁ: ['ʁ', 'fricative', 'French *r*ue', 'HH'],
  ɲ: ['ɲ', 'nasal', 'Spanish ni*ñ*o', 'N'],
  ʎ: ['ʎ', 'liquid', 'Italian fi*gl*io', 'L'],
  ɥ: ['ɥ', 'glide', 'French h*u*it', 'W'],
  ʙ: ['ʙ', 'trill', '*br*rr, lips shaking', 'B'],
  rr: ['r', 'trill', 'Spanish pe*rr*o', 'R'],
  ʀ: ['ʀ', 'trill', 'German *r*ot, rolled', 'HH'],
  ʘ: ['ʘ', 'click', 'a *kiss* in the air', 'P'],
  ǀ: ['ǀ', 'click', '*tut* tut', 'T'],
  ǃ: ['ǃ', 'click', 'a cork that *pops*', 'K'],
  ǂ: ['ǂ', 'click', 'a *tick* at the palate', 'K'],
  ǁ: ['ǁ', 'click', 'a *giddy-up* to a horse', 'T'],
} as const satisfies Record<string, readonly [string, PhonemeKind, string, PhonemeSymbol]>;

export type FurtherSymbol = keyof typeof further;

/** Every phoneme of English, in the order of its symbol. */
export const PHONEMES: readonly Phoneme[] = Object.entries(inventory).map(([symbol, [ipa, kind, example]]) => ({
  symbol,
  ipa,
  kind,
  example,
}));

/** Sounds that English lacks: rounded front vowels, nasal ones, sounds further back, trills and clicks. */
export const FURTHER_SOUNDS: readonly Phoneme[] = Object.entries(further).map(([symbol, [ipa, kind, example]]) => ({
  symbol: symbol.normalize('NFC'),
  ipa,
  kind,
  example,
}));

export const ALL_SOUNDS: readonly Phoneme[] = [...PHONEMES, ...FURTHER_SOUNDS];

const bySymbol: ReadonlyMap<string, Phoneme> = new Map(ALL_SOUNDS.map((phoneme) => [phoneme.symbol, phoneme]));

const nearest: ReadonlyMap<string, string> = new Map(
  Object.entries(further).map(([symbol, [, , , near]]) => [symbol.normalize('NFC'), near]),
);

/** A sound as a recogniser of English knows it: itself, or the one that is nearest to the ear. */
export function nearestEnglish(symbol: string): string {
  return nearest.get(symbol) ?? symbol;
}

export function maybePhoneme(symbol: string): Phoneme | undefined {
  return bySymbol.get(symbol);
}

export function isVowel(symbol: string): boolean {
  const kind = bySymbol.get(symbol)?.kind;
  return kind === 'vowel' || kind === 'diphthong';
}

/** One ARPAbet token taken apart: `AY1` → `{symbol: 'AY', stress: 1}`. */
export interface StressedSymbol {
  readonly symbol: string;
  /** 0 none, 1 primary, 2 secondary; absent where the source marks none. */
  readonly stress?: 0 | 1 | 2;
}

/** Reads one ARPAbet token, with or without a stress digit, in either case; undefined when there is no such sound. */
export function maybeArpabet(token: string): StressedSymbol | undefined {
  const match = /^([A-Z]{1,2})([012])?$/.exec(token.toUpperCase());
  const name = match?.[1] === 'AX' ? 'AH' : match?.[1];
  if (!name || !bySymbol.has(name)) return undefined;
  return match?.[2] === undefined ? { symbol: name } : { symbol: name, stress: Number(match[2]) as 0 | 1 | 2 };
}
