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
  /** It only says what the mouth looks like, or could be a word by chance: to be asked, not taken. */
  readonly isWeak: boolean;
}

/**
 * Plain words for what a mouth looks like, in English, German, French, Spanish and Italian,
 * and the group that looks so. Those for a shut mouth say what it is; the others say what it
 * looks like, and are a question.
 */
const LOOKS: Readonly<Record<string, string>> = {
  rest: `rest closed shut neutral silence silent idle sil pause quiet zu geschlossen ruhe still stumm neutre fermee fermé fermée ferme
    repos silencio cerrada cerrado reposo chiusa chiuso riposo neutra neutro neutral`,
  press: 'pressed pursed gepresst pincées pincees apretada apretados serrate serrata',
  teeth: 'teeth zähne zahne dents dientes denti grit clenched',
  lift: 'tongue zunge langue lengua lingua',
  spread: 'smile smiling grin wide breit lächeln lacheln grinsen sourire large sonrisa ancha ancho sorriso larga largo',
  mid: 'open offen ouvert ouverte abierta abierto aperta aperto half halb',
  drop: 'big huge yell shout scream gross groß weit grand grande gran crier grito urlo',
  ring: 'round rund rond ronde redonda redondo tonda tondo rotonda rotondo',
  pucker: 'pout kiss spitz kuss moue bisou baiser beso morritos bacio small klein petit petite',
};
const LOOK_OF = new Map(Object.entries(LOOKS).flatMap(([group, words]) => words.split(/\s+/).map((word) => [word, group] as const)));
/** Together they are more open, or less, than apart. */
const TOGETHER: readonly (readonly [has: readonly string[], group: string])[] = [
  [['mid', 'drop'], 'drop'],
  [['mid', 'spread'], 'drop'],
  [['mid', 'pucker'], 'mid'],
];

/** Letters as vowels, by what most languages say for them; English has other names for them. */
const VOWEL_LETTERS: Readonly<Record<string, string>> = { a: 'AA', e: 'EH', i: 'IH', o: 'OW', u: 'UW' };

/** Spellings of other languages, beside those by ear. */
const FOREIGN: Readonly<Record<string, string>> = {
  sch: 'SH',
  tsch: 'CH',
  gn: 'N',
  gli: 'L',
  ou: 'UW',
  eau: 'OW',
  ü: 'UW',
  ö: 'ER',
  ä: 'EH',
  ñ: 'N',
};

/** Endings of picture files: part of no name. */
const EXTENSIONS = /\.(png|jpe?g|webp|svg|gif|apng|ora|psd|tiff?|bmp|kra|zip|ai|eps)$/i;

const EMPTY_WORDS = new Set(
  'mouth mouths lip lips shape layer frame group front side left right copy final new of and the mund bouche boca bocca lèvres lippen labios labbra drawing phoneme viseme sound pose img image page'.split(
    ' ',
  ),
);

/** A name in its words: parted at anything but letters, and where a capital follows a small letter. */
export function wordsOfName(name: string): string[] {
  return (
    name
      .replace(EXTENSIONS, '')
      // A version says nothing: v2, ver 3, version 04, r1.
      .replace(/(^|[^\p{L}])(?:v|ver|version|rev|r|take|t)[ ._-]?\d+(?=$|[^\p{L}])/giu, '$1 ')
      // Neither does a number, with or without a letter behind it: 3, 03b.
      .replace(/\d+\p{L}?(?=$|[^\p{L}])/gu, ' ')
      .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
      .split(/[^\p{L}ˈˌː]+/u)
      .filter(Boolean)
  );
}

/** Names that are just letters in order (A, B, C …) number the drawings and name no sound. */
export function areLettersInOrder(names: readonly string[]): boolean {
  const letters = names.map((name) => wordsOfName(name).filter((word) => !EMPTY_WORDS.has(word.toLowerCase())));
  if (names.length < 4 || !letters.every((words) => words.length === 1 && words[0]!.length === 1)) return false;
  const sorted = letters.map(([letter]) => letter!.toUpperCase().charCodeAt(0)).sort((a, b) => a - b);
  return sorted.every((code, index) => index === 0 || code === sorted[index - 1]! + 1);
}

/** Groups by their id, as far as a chart has them. */
const having = (groups: readonly SoundGroup[], ids: readonly string[]): string[] => [
  ...new Set(ids.filter((id) => groups.some((group) => group.id === id))),
];

const groupOfSound = (symbol: string | undefined, groups: readonly SoundGroup[]): string[] => {
  const own = symbol === undefined ? undefined : maybeGroupOfPhoneme(groups, symbol);
  return own ? [own.id] : [];
};

/** Letters side by side, each a sound, as on a chart of mouths: MBP, FV, AEI, CDGKNRSTYZ. */
function groupsOfLetters(word: string, groups: readonly SoundGroup[]): string[] {
  const letters = [...word.toLowerCase()];
  return [
    ...new Set(
      letters.flatMap((letter) =>
        groupOfSound(VOWEL_LETTERS[letter] ?? SPELLINGS[letter] ?? maybeArpabet(letter.toUpperCase())?.symbol, groups),
      ),
    ),
  ];
}

interface WordMatch {
  readonly groups: readonly string[];
  readonly isWeak: boolean;
}

function matchOfWord(word: string, groups: readonly SoundGroup[]): WordMatch | undefined {
  const lower = word.toLowerCase();
  const sure = (ids: readonly string[]): WordMatch | undefined => (ids.length > 0 ? { groups: ids, isWeak: false } : undefined);
  const named = groups.find((group) => group.name.toLowerCase() === lower || group.id === lower);
  if (named) return sure([named.id]);
  const looks = LOOK_OF.get(lower) ?? LOOK_OF.get(lower.normalize('NFD').replace(/\p{M}/gu, ''));
  if (looks) {
    const ids = having(groups, [looks]);
    return ids.length > 0 ? { groups: ids, isWeak: looks !== REST } : undefined;
  }
  const isCapitals = word === word.toUpperCase() && /^[A-Z]+$/.test(word);
  // Capitals side by side with no vowel, or nothing but vowels, are letters; AE and OW in capitals are sounds of ARPAbet.
  if (isCapitals && word.length > 1 && /^([AEIOU]+|[^AEIOU]+)$/.test(word) && !maybeArpabet(word)) {
    const known = FOREIGN[lower] ?? (/^(SH|CH|TH|NG|ZH|OO|EE|MM|FF|SS|LL|RR)$/.test(word) ? SPELLINGS[lower] : undefined);
    return sure(known ? groupOfSound(known, groups) : groupsOfLetters(word, groups));
  }
  const own = groupOfSound(FOREIGN[lower] ?? SPELLINGS[lower] ?? maybeArpabet(word.toUpperCase())?.symbol, groups);
  if (own.length > 0) return sure(own);
  if (/^[aeiou]$/.test(lower)) return sure(groupsOfLetters(lower, groups));
  const ipa = /[^a-z]/i.test(word) || word.length === 1 ? maybeSymbolsOfIpa(word) : undefined;
  if (ipa?.length)
    return sure([...new Set(ipa.flatMap((found) => groupOfSound(typeof found === 'string' ? found : found.symbol, groups)))]);
  // Only consonants, so that no word is taken for its letters.
  if (/^[bcdfghjklmnpqrstvwxyz]{2,12}$/.test(lower)) return sure(groupsOfLetters(lower, groups));
  return undefined;
}

/** What a name says of the sounds its drawing plays; undefined when it says nothing. */
export function maybeMatchOfName(name: string, groups: readonly SoundGroup[]): NameMatch | undefined {
  const nameOf = (id: string): string => groups.find((group) => group.id === id)!.name;
  const matches = wordsOfName(name).flatMap((word) => {
    if (EMPTY_WORDS.has(word.toLowerCase())) return [];
    const match = matchOfWord(word, groups);
    return match ? [{ word, ...match }] : [];
  });
  // What is spelled counts before what it looks like.
  const spelled = matches.filter((match) => !match.isWeak);
  const used = spelled.length > 0 ? spelled : matches;
  if (used.length === 0) return undefined;
  const said = [...new Set(used.flatMap((match) => match.groups))];
  const together = spelled.length > 0 ? undefined : TOGETHER.find(([has]) => has.every((id) => said.includes(id)));
  const found = together ? having(groups, [together[1]]) : said;
  const because = together
    ? `${used.map(({ word }) => word).join(' ')} → ${found.map(nameOf).join(', ')}`
    : used.map(({ word, groups: ids }) => `${word} → ${ids.map(nameOf).join(', ')}`).join('; ');
  return { groups: found, because, isWeak: spelled.length === 0 };
}

/**
 * Names without what all of them begin with: `mouth ee`, `mouth oo` are `ee` and `oo`. Only
 * whole words are taken away, and never all of a name.
 */
export function withoutCommonBeginning(names: readonly string[]): string[] {
  if (names.length < 2) return [...names];
  const parts = names.map((name) => name.replace(EXTENSIONS, '').split(/(?<=[ _.\-/])/));
  let common = 0;
  while (parts.every((words) => common < words.length - 1 && words[common]!.toLowerCase() === parts[0]![common]!.toLowerCase()))
    common += 1;
  return parts.map((words) => words.slice(common).join('').trim());
}
