/**
 * The French model's phonemes as ARPAbet: the English sound that looks the same on the
 * lips, by the IPA letter the model gives for each. The uvular r is made at the back.
 */
const ARPABET_OF_FRENCH: Readonly<Record<string, string>> = {
  aa: 'AA',
  ai: 'EH',
  an: 'AA',
  au: 'OW',
  bb: 'B',
  ch: 'SH',
  dd: 'D',
  ee: 'UH',
  ei: 'EY',
  eu: 'UH',
  ff: 'F',
  gg: 'G',
  gn: 'N',
  ii: 'IY',
  in: 'AE',
  jj: 'ZH',
  kk: 'K',
  ll: 'L',
  mm: 'M',
  nn: 'N',
  oe: 'UH',
  on: 'AO',
  oo: 'AO',
  ou: 'UW',
  pp: 'P',
  rr: 'HH',
  ss: 'S',
  tt: 'T',
  un: 'AH',
  uu: 'UW',
  uy: 'W',
  vv: 'V',
  ww: 'W',
  yy: 'Y',
  zz: 'Z',
};

/** undefined for silence and noise. */
export function arpabetOfFrench(symbol: string): string | undefined {
  return ARPABET_OF_FRENCH[symbol.toLowerCase()];
}
