/**
 * SAMPA, the Speech Assessment Methods Phonetic Alphabet in ASCII (J. Wells, 1987), and its extension
 * X-SAMPA (1995), for the sounds of English: as ARPAbet. From memory. Its letters mean other sounds
 * than those of ARPAbet, so a tier is in the one or in the other.
 */
import type { StressedSymbol } from '../../phonetics/phonemes.js';

const SAMPA: Readonly<Record<string, string>> = {
  p: 'P',
  b: 'B',
  t: 'T',
  d: 'D',
  k: 'K',
  g: 'G',
  tS: 'CH',
  dZ: 'JH',
  f: 'F',
  v: 'V',
  T: 'TH',
  D: 'DH',
  s: 'S',
  z: 'Z',
  S: 'SH',
  Z: 'ZH',
  h: 'HH',
  m: 'M',
  n: 'N',
  N: 'NG',
  l: 'L',
  r: 'R',
  'r\\': 'R',
  w: 'W',
  W: 'W',
  j: 'Y',
  '?': 'T',
  '4': 'T',
  '5': 'L',
  i: 'IY',
  'i:': 'IY',
  I: 'IH',
  e: 'EH',
  E: 'EH',
  '{': 'AE',
  A: 'AA',
  'A:': 'AA',
  Q: 'AA',
  a: 'AA',
  'a:': 'AA',
  O: 'AO',
  'O:': 'AO',
  U: 'UH',
  u: 'UW',
  'u:': 'UW',
  V: 'AH',
  '@': 'AH',
  '6': 'AH',
  '3': 'ER',
  '3:': 'ER',
  '3`': 'ER',
  '@`': 'ER',
  eI: 'EY',
  aI: 'AY',
  OI: 'OY',
  '@U': 'OW',
  oU: 'OW',
  aU: 'AW',
  // Centring diphthongs, by where they begin.
  'I@': 'IH',
  'e@': 'EH',
  'E@': 'EH',
  'U@': 'UH',
  // Rounded front vowels and the French r: as IPA is read.
  y: 'UW',
  Y: 'UH',
  '2': 'UH',
  '9': 'UH',
  H: 'W',
  R: 'HH',
  x: 'HH',
  C: 'HH',
};

/** Spellings that neither ARPAbet nor IPA has: a tier with one of them is in SAMPA. */
const ONLY_SAMPA = /^["%]?(?:\{|@|@`|[Aa]:|i:|u:|O:|3:?`?|[eaO]I|[@oa]U|[IeEU]@|tS|dZ|r\\|\?|[2469])$/;

/** A sound in SAMPA; a quote before it is the first stress, a per cent sign the second. */
export function maybeSampa(text: string): StressedSymbol | undefined {
  const [, mark, letters] = /^(["%]?)(.+)$/.exec(text.trim()) ?? [];
  const symbol = letters === undefined ? undefined : SAMPA[letters];
  if (symbol === undefined) return undefined;
  return { symbol, ...(mark ? { stress: mark === '"' ? (1 as const) : (2 as const) } : {}) };
}

/** Whether labels of sounds are in SAMPA: one of them is spelled as only SAMPA does. */
export const isInSampa = (texts: Iterable<string>): boolean => {
  for (const text of texts) if (ONLY_SAMPA.test(text.trim())) return true;
  return false;
};
