/**
 * The words of a script as the recogniser knows them: as the production says them, else as
 * the dictionary does, in the speaker's accent, else guessed from their spelling.
 */
import { inAccent, isPlainAccent, nearestEnglish, type Accent, type ScriptWord } from '@zest-jaw/core';
import { maybeGuess, maybeSoundsOf } from './pronounce.js';
import type { Recogniser } from './recogniser.js';

/** A script word with the word of the recogniser's vocabulary that stands for it. */
export interface KnownWord extends ScriptWord {
  readonly token: string;
  /** Its sounds were guessed from its spelling. */
  readonly guessed?: true;
  /** The ways it is said that have sounds English lacks. */
  readonly ways?: readonly (readonly string[])[];
}

export interface Vocabulary {
  readonly words: readonly KnownWord[];
  /** Words whose sounds were guessed, as they are written. */
  readonly guessed: readonly string[];
  /** A word that nothing can be made of, as it is written. */
  readonly unknown?: string;
}

export interface Speech {
  /** How the production says its own words, by word: ARPAbet without stress, each in one or more ways. */
  readonly pronunciations: ReadonlyMap<string, readonly (readonly string[])[]>;
  readonly accent: Accent;
}

/** Tokens already taught to a recogniser, by the ways they are said. */
const taught = new WeakMap<Recogniser, Map<string, string>>();

/** A token that is said in exactly these ways, or the nearest to them in English; the same ways have the same token. */
export function tokenOf(recogniser: Recogniser, ways: readonly (readonly string[])[]): string {
  let tokens = taught.get(recogniser);
  if (!tokens) taught.set(recogniser, (tokens = new Map()));
  const spelled = ways.map((way) => way.map(nearestEnglish).join(' '));
  const key = spelled.join(' | ');
  let token = tokens.get(key);
  if (!token) {
    tokens.set(key, (token = `said_${tokens.size + 1}`));
    recogniser.addWord(token, ...spelled);
  }
  return token;
}

export function vocabularyOf(recogniser: Recogniser, script: readonly ScriptWord[], { pronunciations, accent }: Speech): Vocabulary {
  const guessed: string[] = [];
  const plain = isPlainAccent(accent) || recogniser.language !== 'en';
  const words: KnownWord[] = [];
  for (const word of script) {
    const own = word.sounds ? [word.sounds] : pronunciations.get(word.spoken);
    if (own) {
      const isForeign = own.some((way) => way.some((symbol) => nearestEnglish(symbol) !== symbol));
      words.push({ ...word, token: tokenOf(recogniser, own), ...(isForeign ? { ways: own } : {}) });
      continue;
    }
    const isKnown = recogniser.maybePronunciation(word.spoken) !== undefined;
    if (isKnown && plain) {
      words.push({ ...word, token: word.spoken });
      continue;
    }
    const dictionary = recogniser.language === 'en' ? maybeSoundsOf(word.spoken) : undefined;
    const guess = isKnown ? undefined : recogniser.language === 'en' ? maybeGuess(word.spoken)?.map(({ symbol }) => symbol) : undefined;
    const ways = dictionary ?? (guess && [guess]);
    if (!ways) {
      // Known to the recogniser in its own way only: the accent cannot be applied.
      if (isKnown) words.push({ ...word, token: word.spoken });
      else return { words, guessed, unknown: word.text };
      continue;
    }
    const isGuess = guess !== undefined && !dictionary;
    if (isGuess) guessed.push(word.text);
    const token = tokenOf(recogniser, plain ? ways : inAccent(ways, accent));
    words.push({ ...word, token, ...(isGuess ? { guessed: true as const } : {}) });
  }
  return { words, guessed };
}
