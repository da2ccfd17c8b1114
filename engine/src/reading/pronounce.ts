/**
 * How a word is pronounced when the recogniser's dictionary does not know it, and which
 * vowels of a known word are stressed. Letter-to-sound is `phonemize`; stress is from the
 * CMU Pronouncing Dictionary.
 */
import { createRequire } from 'node:module';
import { isVowel, maybeArpabet, maybeSymbolsOfIpa, nearestEnglish, type StressedSymbol } from '@zest-jaw/core';
import { dictionary } from 'cmu-pronouncing-dictionary';

let toIpa: ((text: string) => string) | undefined;

/** `phonemize` takes two seconds to load, so it is loaded with the first unknown word; as an ES import it fails on Node 20. */
function letterToSound(word: string): string {
  toIpa ??= (createRequire(import.meta.url)('phonemize') as { toIPA(text: string): string }).toIPA;
  return toIpa(word);
}

/** ARPAbet for an English word by its spelling; undefined when nothing can be made of it. */
export function maybeGuess(word: string): StressedSymbol[] | undefined {
  // An accent the English rules do not know is read as the letter without it.
  const plain = word.normalize('NFD').replace(/\p{M}/gu, '');
  const symbols = maybeSymbolsOfIpa(letterToSound(plain));
  if (!symbols || symbols.length === 0) return undefined;
  return symbols.map((sound) => ({ ...sound, symbol: nearestEnglish(sound.symbol) }));
}

function dictionaryVariants(word: string): StressedSymbol[][] {
  const spellings = [word, ...[1, 2, 3, 4].map((variant) => `${word}(${variant})`)];
  return spellings.flatMap((spelling) => {
    const tokens = dictionary[spelling]?.split(' ').map(maybeArpabet);
    return tokens?.every((token) => token !== undefined) ? [tokens as StressedSymbol[]] : [];
  });
}

/** The ways a word of the CMU Pronouncing Dictionary is said, without stress; undefined for a word it does not have. */
export function maybeSoundsOf(word: string): string[][] | undefined {
  const variants = dictionaryVariants(word).map((variant) => variant.map(({ symbol }) => symbol));
  return variants.length > 0 ? variants : undefined;
}

/** The sounds of an English word, or of several: from the CMU Pronouncing Dictionary, else by its spelling. */
export function maybePronunciation(text: string): StressedSymbol[] | undefined {
  const words = text.toLowerCase().match(/[\p{L}']+/gu) ?? [];
  const symbols = words.map((word) => dictionaryVariants(word)[0] ?? maybeGuess(word));
  return words.length > 0 && symbols.every((found) => found !== undefined) ? (symbols.flat() as StressedSymbol[]) : undefined;
}

/**
 * Stress for each phoneme of a word as it was said: 0, 1 or 2 for vowels, undefined for
 * consonants. The dictionary variant with the same vowels decides, else one with as many,
 * else the first vowel is taken as stressed.
 */
export function stressOf(word: string, symbols: readonly string[]): (0 | 1 | 2 | undefined)[] {
  const vowels = symbols.filter(isVowel);
  const variants = dictionaryVariants(word).map((variant) => variant.filter((token) => token.stress !== undefined));
  const same = variants.find((variant) => variant.map((token) => token.symbol).join() === vowels.join());
  const alike = same ?? variants.find((variant) => variant.length === vowels.length);
  let vowel = 0;
  return symbols.map((symbol) => {
    if (!isVowel(symbol)) return undefined;
    const stress = alike ? alike[vowel]!.stress : vowel === 0 ? 1 : 0;
    vowel += 1;
    return stress;
  });
}
