/**
 * How often each sound of English is said. D. B. Fry, “The frequency of occurrence of speech sounds in Southern
 * English” (Archives néerlandaises de phonétique expérimentale 20, 1947): per cent of all sounds of running speech,
 * from memory. His vowels are taken for the nearest here: ə and ʌ are AH, ɜː is ER, ɒ and ɑː are AA, and of his
 * centring diphthongs (ɪə, eə, ʊə) the first half.
 */
import { PHONEMES, type PhonemeSymbol } from './phonemes.js';

const PER_CENT: Readonly<Record<PhonemeSymbol, number>> = {
  AH: 10.74 + 1.75,
  IH: 8.33 + 0.21,
  N: 7.58,
  T: 6.42,
  D: 5.14,
  S: 4.81,
  L: 3.66,
  DH: 3.56,
  R: 3.51,
  M: 3.22,
  K: 3.09,
  EH: 2.97 + 0.34,
  W: 2.81,
  Z: 2.46,
  V: 2.0,
  B: 1.97,
  AY: 1.83,
  F: 1.79,
  P: 1.78,
  EY: 1.71,
  IY: 1.65,
  OW: 1.51,
  HH: 1.46,
  AE: 1.45,
  AA: 1.37 + 0.79,
  AO: 1.24,
  NG: 1.15,
  UW: 1.13,
  G: 1.05,
  SH: 0.96,
  Y: 0.88,
  UH: 0.86 + 0.06,
  AW: 0.61,
  JH: 0.6,
  ER: 0.52,
  CH: 0.41,
  TH: 0.37,
  OY: 0.14,
  ZH: 0.1,
};

const TOTAL = PHONEMES.reduce((sum, { symbol }) => sum + PER_CENT[symbol as PhonemeSymbol], 0);

/** The share of all sounds that is this one, 0 to 1; 0 for no sound of English. */
export function frequencyOfSound(symbol: string): number {
  return (PER_CENT[symbol as PhonemeSymbol] ?? 0) / TOTAL;
}
