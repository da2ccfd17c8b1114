/**
 * Accents of English as ways in which a word may be said. Each rule adds pronunciations to
 * a dictionary word; which of them was said the recogniser decides. After J. C. Wells,
 * "Accents of English" (1982), from memory: the loss of r at the end of a syllable, the
 * tapped t, the dropped h and th-fronting.
 */
import { isVowel } from './phonemes.js';

export const ACCENTS = ['us', 'gb'] as const;

export interface Accent {
  /** General American, or British: no r at the end of a syllable, and British vowels. */
  readonly base: (typeof ACCENTS)[number];
  /** r only before a vowel, also in General American. */
  readonly nonRhotic: boolean;
  /** h may be left out: 'and for hand. */
  readonly droppedH: boolean;
  /** t between vowels may be tapped like a d: wadder for water. */
  readonly flappedT: boolean;
  /** th as f or v: fink for think, bruvver for brother. */
  readonly thFronting: boolean;
}

export const PLAIN_ACCENT: Accent = { base: 'us', nonRhotic: false, droppedH: false, flappedT: false, thFronting: false };

/** No word is offered in more ways than this: each way costs the recogniser time. */
const MOST_WAYS = 8;

type Sounds = readonly string[];
type Rule = (sounds: Sounds) => Sounds | undefined;

/** Replaces sounds where a test holds; undefined when none was. */
const where =
  (test: (sounds: Sounds, index: number) => boolean, into: (sound: string) => readonly string[]): Rule =>
  (sounds) => {
    let changed = false;
    const result = sounds.flatMap((sound, index) => {
      if (!test(sounds, index)) return [sound];
      changed = true;
      return into(sound);
    });
    return changed ? result : undefined;
  };

const beforeVowel = (sounds: Sounds, index: number): boolean => isVowel(sounds[index + 1] ?? '');

/** r, alone or in its vowel, where no vowel follows. */
const dropR = where(
  (sounds, index) => (sounds[index] === 'R' || sounds[index] === 'ER') && !beforeVowel(sounds, index),
  (sound) => (sound === 'ER' ? ['AH'] : []),
);
const dropH = where(
  (sounds, index) => sounds[index] === 'HH',
  () => [],
);
const flapT = where(
  (sounds, index) => sounds[index] === 'T' && isVowel(sounds[index - 1] ?? '') && beforeVowel(sounds, index),
  () => ['D'],
);
const frontTh = where(
  (sounds, index) => sounds[index] === 'TH' || (sounds[index] === 'DH' && index > 0),
  (sound) => [sound === 'TH' ? 'F' : 'V'],
);
/** The vowel of lot and of bath, and the one of goat, as they are in the south of England, in the nearest American sounds. */
const britishLot = where(
  (sounds, index) => sounds[index] === 'AA' && sounds[index + 1] !== 'R',
  () => ['AO'],
);
const britishBath = where(
  (sounds, index) => sounds[index] === 'AE' && ['S', 'F', 'TH', 'N'].includes(sounds[index + 1] ?? ''),
  () => ['AA'],
);
const britishGoat = where(
  (sounds, index) => sounds[index] === 'OW',
  () => ['AH', 'UH'],
);

function rulesOf({ base, nonRhotic, droppedH, flappedT, thFronting }: Accent): Rule[] {
  return [
    ...(nonRhotic || base === 'gb' ? [dropR] : []),
    ...(base === 'gb' ? [britishLot, britishBath, britishGoat] : []),
    ...(droppedH ? [dropH] : []),
    ...(flappedT ? [flapT] : []),
    ...(thFronting ? [frontTh] : []),
  ];
}

export function isPlainAccent(accent: Accent): boolean {
  return rulesOf(accent).length === 0;
}

/**
 * The ways a word may be said in an accent, the dictionary's own first.
 *
 * @param ways pronunciations in ARPAbet without stress
 * @example inAccent([['B', 'R', 'AH', 'DH', 'ER']], { ...PLAIN_ACCENT, thFronting: true })
 *   // [['B', 'R', 'AH', 'DH', 'ER'], ['B', 'R', 'AH', 'V', 'ER']]
 */
export function inAccent(ways: readonly Sounds[], accent: Accent): string[][] {
  const found = new Map<string, Sounds>(ways.map((way) => [way.join(' '), way]));
  for (const rule of rulesOf(accent))
    for (const way of [...found.values()]) {
      const changed = rule(way);
      if (changed && changed.length > 0 && found.size < MOST_WAYS) found.set(changed.join(' '), changed);
    }
  return [...found.values()].map((way) => [...way]);
}

/** Reads an accent from its words: `gb`, `us,flapped-t,dropped-h`; undefined when a word is none. */
export function maybeAccent(text: string): Accent | undefined {
  let accent = PLAIN_ACCENT;
  for (const word of text.split(/[\s,+]+/).filter(Boolean)) {
    if (word === 'us' || word === 'gb') accent = { ...accent, base: word };
    else if (word === 'non-rhotic') accent = { ...accent, nonRhotic: true };
    else if (word === 'dropped-h') accent = { ...accent, droppedH: true };
    else if (word === 'flapped-t') accent = { ...accent, flappedT: true };
    else if (word === 'th-fronting') accent = { ...accent, thFronting: true };
    else return undefined;
  }
  return accent;
}
