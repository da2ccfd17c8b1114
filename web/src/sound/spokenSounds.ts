/**
 * How the synthesiser is told to say each sound: a voice of its own language, and the sound in its mnemonics. A
 * consonant is said before or after a vowel, where it can be made out. Its IPA of each is checked against ours.
 */

export interface SpokenSound {
  readonly voice: string;
  readonly said: string;
}

const ENGLISH: Readonly<Record<string, string>> = {
  AA: 'A:',
  AE: 'a',
  AH: 'V',
  AO: 'O:',
  AW: 'aU',
  AY: 'aI',
  B: 'bA:',
  CH: 'tSA:',
  D: 'dA:',
  DH: 'DA:',
  EH: 'E',
  ER: '3:',
  EY: 'eI',
  F: 'fA:',
  G: 'gA:',
  HH: 'hA:',
  IH: 'It',
  IY: 'i:',
  JH: 'dZA:',
  K: 'kA:',
  L: 'lA:',
  M: 'mA:',
  N: 'nA:',
  NG: 'A:N',
  OW: 'oU',
  OY: 'OI',
  P: 'pA:',
  R: 'rA:',
  S: 'sA:',
  SH: 'SA:',
  T: 'tA:',
  TH: 'TA:',
  UH: 'U',
  UW: 'u:',
  V: 'vA:',
  W: 'wA:',
  Y: 'jA:',
  Z: 'zA:',
  ZH: 'ZA:',
};

/** Language and mnemonics; what stands in none of them the synthesiser has no way of saying. */
const FURTHER: Readonly<Record<string, readonly [string, string]>> = {
  y: ['fr-fr', 'y'],
  ø: ['fr-fr', 'Y'],
  œ: ['fr-fr', 'W'],
  ɯ: ['ko', 'u-'],
  ɛ̃: ['fr-fr', 'E~'],
  œ̃: ['fr-fr', 'W~'],
  ɑ̃: ['fr-fr', 'A~'],
  ɔ̃: ['fr-fr', 'O~'],
  β: ['es', 'aBa'],
  ɬ: ['cy', 'l#a'],
  ç: ['de', 'aC'],
  x: ['de', 'ax'],
  ɣ: ['es', 'aQa'],
  χ: ['cy', 'aX'],
  ʁ: ['fr-fr', 'ra'],
  ɲ: ['fr-fr', 'n^a'],
  ʎ: ['it', 'l^a'],
  rr: ['es', 'RRa'],
  ʀ: ['de', 'r"a'],
};

const spoken: ReadonlyMap<string, SpokenSound> = new Map([
  ...Object.entries(ENGLISH).map(([symbol, said]) => [symbol, { voice: 'en-us', said }] as const),
  ...Object.entries(FURTHER).map(([symbol, [voice, said]]) => [symbol.normalize('NFC'), { voice, said }] as const),
]);

/** undefined for clicks and what else no voice of the synthesiser says. */
export const maybeSpokenSound = (symbol: string): SpokenSound | undefined => spoken.get(symbol);
