/**
 * A grammar of the syllables of a language, from a pronouncing dictionary: what may begin a
 * syllable, its vowel, and what may end it, each as likely as it is among the dictionary's
 * words; and the frequent syllables whole, which keeps together what goes together. Consonants between two vowels begin the later syllable as far as a word may begin
 * with them (the maximal onset principle; D. Kahn, "Syllable-based generalizations in
 * English phonology", 1976).
 */
import { isVowel, maybePhoneme } from '../phonetics/phonemes.js';

export interface SyllableGrammar {
  /** In the Java Speech Grammar Format. */
  readonly grammar: string;
  /** The parts of syllables as words with their sounds. */
  readonly words: readonly (readonly [word: string, symbols: string])[];
}

/** A word may begin with these consonants when at least so many words of the dictionary do. */
const LEAST_ONSET_WORDS = 60;
const MOST = { onsets: 60, nuclei: 15, codas: 50, whole: 1500 } as const;
/** Most syllables are one of the frequent ones, heard whole; the others are put together. */
const HEARD_WHOLE = 0.8;

/** The pronunciations of a dictionary file: a word and its sounds a line, in ARPAbet without stress; other lines are passed over. */
export function pronunciationsOf(dictionary: string): string[][] {
  return dictionary.split('\n').flatMap((line) => {
    const [word, ...symbols] = line.trim().split(/\s+/);
    return word && /^\p{L}/u.test(word) && symbols.length > 0 && symbols.every(maybePhoneme) ? [symbols] : [];
  });
}

const key = (symbols: readonly string[]): string => symbols.join(' ');

class Tally {
  private readonly counts = new Map<string, number>();
  add(symbols: readonly string[]): void {
    this.counts.set(key(symbols), (this.counts.get(key(symbols)) ?? 0) + 1);
  }
  of(symbols: readonly string[]): number {
    return this.counts.get(key(symbols)) ?? 0;
  }
  /** The most frequent, of at most so many sounds. */
  top(most: number, longest = 3): [string, number][] {
    return [...this.counts]
      .filter(([symbols]) => symbols.split(' ').length <= longest)
      .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
      .slice(0, most);
  }
}

/** A pronunciation in syllables; empty when it has no vowel. */
export function syllablesOf(
  symbols: readonly string[],
  mayBegin: (onset: readonly string[]) => boolean,
): { onset: string[]; nucleus: string; coda: string[] }[] {
  const vowels = symbols.flatMap((symbol, index) => (isVowel(symbol) ? [index] : []));
  let start = 0;
  return vowels.map((vowel, index) => {
    const next = vowels[index + 1];
    let end = symbols.length;
    if (next !== undefined) {
      end = vowel + 1;
      while (end < next && !mayBegin(symbols.slice(end, next))) end += 1;
    }
    const syllable = { onset: symbols.slice(start, vowel), nucleus: symbols[vowel]!, coda: symbols.slice(vowel + 1, end) };
    start = end;
    return syllable;
  });
}

export function syllableGrammar(pronunciations: readonly (readonly string[])[]): SyllableGrammar {
  const initial = new Tally();
  for (const symbols of pronunciations) {
    const vowel = symbols.findIndex(isVowel);
    if (vowel >= 0) initial.add(symbols.slice(0, vowel));
  }
  const [onsets, nuclei, codas, whole] = [new Tally(), new Tally(), new Tally(), new Tally()];
  for (const symbols of pronunciations) {
    for (const { onset, nucleus, coda } of syllablesOf(symbols, (start) => initial.of(start) >= LEAST_ONSET_WORDS)) {
      onsets.add(onset);
      nuclei.add([nucleus]);
      codas.add(coda);
      whole.add([...onset, nucleus, ...coda]);
    }
  }
  const words: [string, string][] = [];
  const rule = (prefix: string, entries: readonly [string, number][]): string => {
    const all = entries.reduce((sum, [, count]) => sum + count, 0);
    return entries
      .map(([symbols, count]) => {
        const weight = (count / all).toFixed(6);
        if (symbols === '') return `/${weight}/ <NULL>`;
        const word = `${prefix}_${symbols.toLowerCase().replaceAll(' ', '_')}`;
        words.push([word, symbols]);
        return `/${weight}/ ${word}`;
      })
      .join(' | ');
  };
  const onset = rule('onset', onsets.top(MOST.onsets));
  const nucleus = rule('nucleus', nuclei.top(MOST.nuclei));
  const coda = rule('coda', codas.top(MOST.codas));
  const syllable = rule('syllable', whole.top(MOST.whole, 6));
  return {
    grammar: `#JSGF V1.0; grammar syllables; <onset> = ${onset}; <nucleus> = ${nucleus}; <coda> = ${coda}; <whole> = ${syllable}; <parts> = <onset> <nucleus> <coda>; public <line> = ( /${HEARD_WHOLE}/ <whole> | /${(1 - HEARD_WHOLE).toFixed(1)}/ <parts> )+;`,
    words,
  };
}

/** True for the stand-in words of a {@link SyllableGrammar}. */
export function isSyllablePart(word: string): boolean {
  return /^(onset|nucleus|coda|syllable)_/.test(word);
}
