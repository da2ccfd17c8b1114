/**
 * IPA to ARPAbet and back. IPA is read greedily, longest spelling first, so that `tʃ` is
 * one sound; stress marks attach to the next vowel; length, syllable dots and ties are
 * passed over. A plain r is the English one, as broad transcriptions write it; rr is the trill.
 */
import { ALL_SOUNDS, isVowel, maybePhoneme, type StressedSymbol } from './phonemes.js';

/** Other spellings of the same sounds, and of sounds that look like one of ours. */
const ALSO: Readonly<Record<string, readonly string[]>> = {
  ɒ: ['AA'],
  a: ['AA'],
  ɐ: ['AH'],
  ə: ['AH'],
  ɜ: ['ER'],
  'ɜ˞': ['ER'],
  ɜɹ: ['ER'],
  ɚ: ['ER'],
  əɹ: ['ER'],
  e: ['EY'],
  ɛɪ: ['EY'],
  əʊ: ['OW'],
  o: ['OW'],
  ɪə: ['IH', 'AH'],
  eə: ['EH', 'AH'],
  ʊə: ['UH', 'AH'],
  g: ['G'],
  r: ['R'],
  rr: ['rr'],
  ɾ: ['T'],
  ʔ: ['T'],
  ɫ: ['L'],
  ʍ: ['W'],
  ᵻ: ['IH'],
  ɨ: ['IH'],
  n̩: ['AH', 'N'],
  l̩: ['AH', 'L'],
  m̩: ['AH', 'M'],
  ɔʏ: ['OY'],
  ts: ['T', 'S'],
  pf: ['P', 'F'],
  ʧ: ['CH'],
  ʤ: ['JH'],
};

const SPELLINGS: readonly (readonly [string, readonly string[]])[] = [
  ...ALL_SOUNDS.flatMap(({ ipa, symbol }): [string, string[]][] => (ipa in ALSO ? [] : [[ipa, [symbol]]])),
  ...Object.entries(ALSO),
]
  .map(([ipa, symbols]) => [ipa.normalize('NFD'), symbols] as const)
  .sort((a, b) => b[0].length - a[0].length);

/** Nothing to hear by themselves: length, syllable break, brackets, spaces. */
const PASSED_OVER = /[ːˑ./[\]()\s|]/u;

/** Bars that join two letters into one sound, above, below and between. */
const TIES = /[\u035C\u0361\u203F]/gu;

/** ARPAbet as IPA; the symbol itself where it is not known. */
export function ipaOf(symbol: string): string {
  return maybePhoneme(symbol)?.ipa ?? symbol;
}

/**
 * Reads IPA as ARPAbet symbols with stress; undefined when a letter is not known.
 *
 * @example maybeSymbolsOfIpa('ˈʃiː') // [{ symbol: 'SH' }, { symbol: 'IY', stress: 1 }]
 */
export function maybeSymbolsOfIpa(ipa: string): StressedSymbol[] | undefined {
  const symbols: StressedSymbol[] = [];
  let rest = ipa.normalize('NFD').replace(TIES, '');
  let stress: 0 | 1 | 2 = 0;
  while (rest.length > 0) {
    const mark = rest[0]!;
    if (mark === 'ˈ' || mark === 'ˌ') {
      stress = mark === 'ˈ' ? 1 : 2;
      rest = rest.slice(1);
      continue;
    }
    if (PASSED_OVER.test(mark)) {
      rest = rest.slice(1);
      continue;
    }
    const spelling = SPELLINGS.find(([letters]) => rest.startsWith(letters));
    if (!spelling) return undefined;
    for (const symbol of spelling[1]) {
      if (!isVowel(symbol)) symbols.push({ symbol });
      else {
        symbols.push({ symbol, stress });
        stress = 0;
      }
    }
    rest = rest.slice(spelling[0].length);
  }
  return symbols;
}
