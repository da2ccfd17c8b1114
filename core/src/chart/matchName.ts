/**
 * Names of drawings matched to sound groups by spelling alone: the name of a group, a
 * phoneme in ARPAbet or IPA, letters as one writes a sound (`ee`, `oo`, `sh`), or a plain
 * word for a shut mouth. What was matched by what is always told; nothing is taken from
 * the picture.
 */
import { maybeSymbolsOfIpa } from '../phonetics/ipa.js';
import { maybeArpabet } from '../phonetics/phonemes.js';
import { SPELLINGS } from '../phonetics/spelledSounds.js';
import { maybeGroupOfPhoneme, REST, type SoundGroup } from './soundGroups.js';

export interface NameMatch {
  /** Ids of groups, in the order they were named. */
  readonly groups: readonly string[];
  /** What was taken for what, for the table: `ee → Spread`. */
  readonly because: string;
}

const REST_WORDS = new Set(['rest', 'closed', 'shut', 'neutral', 'silence', 'silent', 'idle', 'sil', 'pause', 'quiet']);

/** Words that say nothing of the sound. */
const EMPTY_WORDS = new Set([
  'mouth',
  'mouths',
  'lip',
  'lips',
  'shape',
  'layer',
  'frame',
  'group',
  'front',
  'side',
  'left',
  'right',
  'copy',
  'final',
  'new',
  'of',
  'and',
  'the',
]);

/** A name in its words: parted at anything but letters, and where a capital follows a small letter. */
export function wordsOfName(name: string): string[] {
  return name
    .replace(/\.[a-z0-9]{1,5}$/i, '')
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .split(/[^\p{L}ˈˌː]+/u)
    .filter(Boolean);
}

/** Names that are just letters in order (A, B, C …) number the drawings and name no sound. */
export function areLettersInOrder(names: readonly string[]): boolean {
  const letters = names.map((name) => wordsOfName(name).filter((word) => !EMPTY_WORDS.has(word.toLowerCase())));
  if (names.length < 4 || !letters.every((words) => words.length === 1 && words[0]!.length === 1)) return false;
  const sorted = letters.map(([letter]) => letter!.toUpperCase().charCodeAt(0)).sort((a, b) => a - b);
  return sorted.every((code, index) => index === 0 || code === sorted[index - 1]! + 1);
}

function groupOfWord(word: string, groups: readonly SoundGroup[]): string[] {
  const lower = word.toLowerCase();
  const named = groups.find((group) => group.name.toLowerCase() === lower || group.id === lower);
  if (named) return [named.id];
  if (REST_WORDS.has(lower)) return groups.some((group) => group.id === REST) ? [REST] : [];
  const symbol = SPELLINGS[lower] ?? maybeArpabet(word.toUpperCase())?.symbol;
  const own = symbol && maybeGroupOfPhoneme(groups, symbol);
  if (own) return [own.id];
  const ipa = /[^a-z]/i.test(word) || word.length === 1 ? maybeSymbolsOfIpa(word) : undefined;
  if (ipa?.length)
    return [...new Set(ipa.flatMap((found) => maybeGroupOfPhoneme(groups, typeof found === 'string' ? found : found.symbol)?.id ?? []))];
  // Letters side by side, as on a chart: MBP, FV. Only consonants, so that no word is taken for its letters.
  if (/^[bcdfghjklmnpqrstvwxyz]{2,6}$/.test(lower)) return [...new Set([...lower].flatMap((letter) => groupOfWord(letter, groups)))];
  return [];
}

/** What a name says of the sounds its drawing plays; undefined when it says nothing. */
export function maybeMatchOfName(name: string, groups: readonly SoundGroup[]): NameMatch | undefined {
  const found: string[] = [];
  const because: string[] = [];
  for (const word of wordsOfName(name)) {
    if (EMPTY_WORDS.has(word.toLowerCase())) continue;
    const ids = groupOfWord(word, groups);
    if (ids.length === 0) continue;
    because.push(`${word} → ${ids.map((id) => groups.find((group) => group.id === id)!.name).join(', ')}`);
    found.push(...ids);
  }
  return found.length > 0 ? { groups: [...new Set(found)], because: because.join('; ') } : undefined;
}
