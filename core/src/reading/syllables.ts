/**
 * A grammar of the syllables of a language, from a pronouncing dictionary: what may begin a
 * syllable, its vowel, and what may end it, each as likely as it is among the dictionary's
 * words. Consonants between two vowels begin the later syllable as far as a word may begin
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
const MOST = { onsets: 60, nuclei: 15, codas: 50 } as const;

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
  /** The most frequent, of at most three sounds. */
  top(most: number): [string, number][] {
    return [...this.counts]
      .filter(([symbols]) => symbols.split(' ').length <= 3)
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
  const [onsets, nuclei, codas] = [new Tally(), new Tally(), new Tally()];
  for (const symbols of pronunciations) {
    for (const { onset, nucleus, coda } of syllablesOf(symbols, (start) => initial.of(start) >= LEAST_ONSET_WORDS)) {
      onsets.add(onset);
      nuclei.add([nucleus]);
      codas.add(coda);
    }
  }
  const words: [string, string][] = [];
  const rule = (prefix: string, entries: readonly [string, number][]): string => {
    const whole = entries.reduce((sum, [, count]) => sum + count, 0);
    return entries
      .map(([symbols, count]) => {
        const weight = (count / whole).toFixed(5);
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
  return {
    grammar: `#JSGF V1.0; grammar syllables; <onset> = ${onset}; <nucleus> = ${nucleus}; <coda> = ${coda}; public <line> = ( <onset> <nucleus> <coda> )+;`,
    words,
  };
}

/** True for the stand-in words of a {@link SyllableGrammar}. */
export function isSyllablePart(word: string): boolean {
  return /^(onset|nucleus|coda)_/.test(word);
}
