/** How words are pronounced, in a thread of its own: the dictionary and the rules take seconds to load. */
import type { StressedSymbol } from '@zest-jaw/core';
import { maybePronunciation } from '@zest-jaw/engine';

export interface PronounceTask {
  readonly words: readonly string[];
}

/** Each word that can be pronounced, with its sounds. */
export default function pronounce({ words }: PronounceTask): [string, StressedSymbol[]][] {
  return words.flatMap((word): [string, StressedSymbol[]][] => {
    const symbols = maybePronunciation(word);
    return symbols ? [[word, symbols]] : [];
  });
}
