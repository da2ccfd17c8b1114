/** Pronouncing dictionaries as text: a word and its sounds a line. */
import { maybePhoneme } from './phonemes.js';

/** The pronunciations of a dictionary file, in ARPAbet without stress; lines that are none are passed over. */
export function pronunciationsOf(dictionary: string): string[][] {
  return dictionary.split('\n').flatMap((line) => {
    const [word, ...symbols] = line.trim().split(/\s+/);
    return word && /^\p{L}/u.test(word) && symbols.length > 0 && symbols.every(maybePhoneme) ? [symbols] : [];
  });
}
