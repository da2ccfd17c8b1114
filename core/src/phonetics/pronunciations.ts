/**
 * Pronunciations kept by a production: how its names and made-up words are said. They go
 * before the dictionary. Written in IPA, in ARPAbet or as one would spell it (`bram-bul`),
 * kept as a text file with a word and its sounds a line.
 */
import { maybeSymbolsOfIpa, ipaOf } from './ipa.js';
import { isVowel, maybeArpabet, nearestEnglish, type StressedSymbol } from './phonemes.js';
import { SPELLINGS } from './spelledSounds.js';

export interface Pronunciation {
  /** Lower case, letters and apostrophes. */
  readonly word: string;
  /** As it was written: IPA, ARPAbet or a respelling. */
  readonly said: string;
}

export const PRONUNCIATION_LIMITS = { letters: 60, sounds: 40, entries: 5000 } as const;

export interface PronunciationFault {
  readonly fault: string;
}

/** A word as it is looked up. */
export function wordToLookUp(text: string): string {
  return text
    .normalize('NFC')
    .toLowerCase()
    .replace(/[’‘ʼ]/g, "'")
    .replace(/[^\p{L}']/gu, '');
}

const IPA_LETTER = /[ɑɒæʌəɔɛɪʊθðʃʒŋɹɝɚɜɡɐøœʁɲˈˌːːʔɾ]/u;

/** Letters of a respelling, longest first, as sounds. Vowels by their commonest reading in respellings (common practice, no source). */
const RESPELLED: readonly (readonly [string, readonly string[]])[] = [
  ...Object.entries({ ...SPELLINGS, tch: 'CH', ph: 'F', igh: 'AY', eye: 'AY', oy: 'OY', zh: 'ZH', dh: 'DH', y: 'IY', u: 'AH' }).map(
    ([letters, symbol]) => [letters, [symbol]] as const,
  ),
  ['ar', ['AA', 'R']] as const,
  ['or', ['AO', 'R']] as const,
  ['air', ['EH', 'R']] as const,
  ['ull', ['AH', 'L']] as const,
  ['ul', ['AH', 'L']] as const,
  ['un', ['AH', 'N']] as const,
  ...'bdfgklmnprstvwz'.split('').map((letter) => [letter, [letter.toUpperCase()]] as const),
  ['h', ['HH']] as const,
].sort((a, b) => b[0].length - a[0].length);

function maybeRespelled(said: string): StressedSymbol[] | undefined {
  const symbols: StressedSymbol[] = [];
  for (const syllable of said.split(/[-\s]+/).filter(Boolean)) {
    const stressed = syllable === syllable.toUpperCase() && /\p{L}{2}/u.test(syllable);
    let rest = syllable.toLowerCase();
    // A y before a vowel is the consonant.
    while (rest.length > 0) {
      if (/^y[aeiou]/.test(rest)) {
        symbols.push({ symbol: 'Y' });
        rest = rest.slice(1);
        continue;
      }
      const spelling = RESPELLED.find(([letters]) => rest.startsWith(letters));
      if (!spelling) return undefined;
      for (const symbol of spelling[1]) symbols.push(/^[AEIOU]/.test(symbol) ? { symbol, stress: stressed ? 1 : 0 } : { symbol });
      rest = rest.slice(spelling[0].length);
    }
  }
  return symbols.length > 0 ? symbols : undefined;
}

/**
 * The sounds of a pronunciation: capitals with spaces are ARPAbet, letters that only IPA has
 * or slashes are IPA, anything else is a respelling in syllables, a stressed one in capitals.
 *
 * @example maybeSounds('SHEE') // [{ symbol: 'SH' }, { symbol: 'IY', stress: 1 }]
 */
export function maybeSounds(said: string): StressedSymbol[] | undefined {
  const text = said.normalize('NFC').trim();
  const bare = text.replace(/^[/[]|[/\]]$/g, '');
  if (bare !== text || IPA_LETTER.test(text)) {
    const symbols = maybeSymbolsOfIpa(bare);
    return symbols && symbols.length > 0 ? symbols : undefined;
  }
  const tokens = text.split(/\s+/).map((token) => (token === token.toUpperCase() ? maybeArpabet(token) : undefined));
  if (tokens.length > 0 && tokens.every((token) => token !== undefined)) return tokens as StressedSymbol[];
  return maybeRespelled(text);
}

/** What is wrong with a pronunciation, as a sentence. */
export function maybePronunciationFault({ word, said }: Pronunciation): string | undefined {
  if (wordToLookUp(word) === '' || word.length > PRONUNCIATION_LIMITS.letters)
    return `“${word}” is not one word of 1 to ${PRONUNCIATION_LIMITS.letters} letters.`;
  const sounds = maybeSounds(said);
  if (!sounds)
    return `“${said}” cannot be read as sounds. Write it in IPA (/ˈbræmbəl/), in ARPAbet (B R AE1 M B AH0 L) or as you would spell it (BRAM-bul).`;
  if (sounds.length > PRONUNCIATION_LIMITS.sounds)
    return `“${said}” has ${sounds.length} sounds. A word may have ${PRONUNCIATION_LIMITS.sounds}.`;
  return undefined;
}

/** Consonants that follow another at the beginning of a syllable. */
const SECOND = new Set(['L', 'R', 'W', 'Y']);

/** Where the syllable of a vowel begins: with the consonant before it, and the one before that when the two go together; a word's first consonants all do. */
function syllableStart(sounds: readonly StressedSymbol[], vowel: number): number {
  let start = vowel;
  while (start > 0 && !isVowel(sounds[start - 1]!.symbol)) start -= 1;
  if (start === 0 || start === vowel) return start;
  return SECOND.has(sounds[vowel - 1]!.symbol) && vowel - 2 >= start ? vowel - 2 : vowel - 1;
}

/** Sounds as IPA, a stress mark before the syllable that is stressed. */
export function ipaOfSounds(sounds: readonly StressedSymbol[]): string {
  const marks = new Map(
    sounds.flatMap(({ stress }, index) => (stress ? [[syllableStart(sounds, index), stress === 1 ? 'ˈ' : 'ˌ'] as const] : [])),
  );
  return sounds.map(({ symbol }, index) => (marks.get(index) ?? '') + ipaOf(symbol)).join('');
}

/**
 * Reads a list of pronunciations: a word, then its sounds, a line; a tab or spaces between.
 * Empty lines and lines that begin with # are passed over. A word may stand twice when it
 * is said in two ways.
 */
export function readPronunciations(text: string): readonly Pronunciation[] | PronunciationFault {
  const entries: Pronunciation[] = [];
  for (const [index, line] of text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .entries()) {
    const trimmed = line.trim();
    if (trimmed === '' || trimmed.startsWith('#')) continue;
    const [, word, said] = /^(\S+)\s+(.+)$/.exec(trimmed) ?? [];
    if (word === undefined || said === undefined)
      return { fault: `Line ${index + 1}, “${trimmed.slice(0, 60)}”, has no sounds. Write a word, then how it is said.` };
    const entry = { word: wordToLookUp(word), said };
    const fault = maybePronunciationFault({ word, said });
    if (fault) return { fault: `Line ${index + 1}: ${fault}` };
    entries.push(entry);
  }
  if (entries.length > PRONUNCIATION_LIMITS.entries)
    return { fault: `There are ${entries.length} words here. A production may keep ${PRONUNCIATION_LIMITS.entries}.` };
  return entries;
}

export function writePronunciations(entries: readonly Pronunciation[]): string {
  return entries.map(({ word, said }) => `${word}\t${said}\n`).join('');
}

/** Sounds in ARPAbet, with spaces between; in IPA where ARPAbet lacks one. @example arpabetOf([{ symbol: 'AE', stress: 1 }, { symbol: 'T' }]) // 'AE1 T' */
export function arpabetOf(sounds: readonly StressedSymbol[]): string {
  if (sounds.some(({ symbol }) => nearestEnglish(symbol) !== symbol)) return `/${ipaOfSounds(sounds)}/`;
  return sounds.map(({ symbol, stress }) => `${symbol}${stress ?? ''}`).join(' ');
}

/** The ways each word is said, in ARPAbet without stress. */
export function waysByWord(entries: readonly Pronunciation[]): ReadonlyMap<string, readonly (readonly string[])[]> {
  const ways = new Map<string, string[][]>();
  for (const { word, said } of entries) {
    const sounds = maybeSounds(said);
    if (sounds) ways.set(word, [...(ways.get(word) ?? []), sounds.map((sound) => sound.symbol)]);
  }
  return ways;
}
