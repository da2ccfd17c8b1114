/**
 * The phonemes of English as Zest Jaw names them: ARPAbet without stress digits (the 39
 * of the CMU Pronouncing Dictionary), each with its IPA letters (General American, after
 * the chart of the International Phonetic Association, 2020), its kind, and a word to
 * hear it in. The `*` marks the letters that spell the sound.
 */

export type PhonemeKind = 'vowel' | 'diphthong' | 'stop' | 'affricate' | 'fricative' | 'nasal' | 'liquid' | 'glide';

export interface Phoneme {
  /** ARPAbet, upper case, no stress digit. */
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

/** Every phoneme, in the order of its symbol. */
export const PHONEMES: readonly Phoneme[] = Object.entries(inventory).map(([symbol, [ipa, kind, example]]) => ({
  symbol,
  ipa,
  kind,
  example,
}));

const bySymbol: ReadonlyMap<string, Phoneme> = new Map(PHONEMES.map((phoneme) => [phoneme.symbol, phoneme]));

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
