/**
 * The French model's phonemes by the IPA letter the model gives for each: as ARPAbet, or as themselves where English
 * lacks them. The schwa is said with rounded lips.
 */
const ARPABET_OF_FRENCH: Readonly<Record<string, string>> = {
  aa: 'AA',
  ai: 'EH',
  an: 'ɑ̃',
  au: 'OW',
  bb: 'B',
  ch: 'SH',
  dd: 'D',
  ee: 'UH',
  ei: 'EY',
  eu: 'ø',
  ff: 'F',
  gg: 'G',
  gn: 'ɲ',
  ii: 'IY',
  in: 'ɛ̃',
  jj: 'ZH',
  kk: 'K',
  ll: 'L',
  mm: 'M',
  nn: 'N',
  oe: 'œ',
  on: 'ɔ̃',
  oo: 'AO',
  ou: 'UW',
  pp: 'P',
  rr: 'ʁ',
  ss: 'S',
  tt: 'T',
  un: 'œ̃',
  uu: 'y',
  uy: 'ɥ',
  vv: 'V',
  ww: 'W',
  yy: 'Y',
  zz: 'Z',
};

/** undefined for silence and noise. */
export function arpabetOfFrench(symbol: string): string | undefined {
  return ARPABET_OF_FRENCH[symbol.toLowerCase()];
}
