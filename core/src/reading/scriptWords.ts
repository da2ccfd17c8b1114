/**
 * The words that a script says. Stage directions in brackets are not spoken, nor is a
 * speaker's name before a colon at the start of a line; hyphens and dashes part words;
 * numbers, money, times, units and abbreviations are spelled out. What stands between slashes
 * is IPA. Each spoken word keeps the text it is shown by.
 */
import { maybeSymbolsOfIpa } from '../phonetics/ipa.js';
import { currencyInWords, numberInWords, ordinalInWords, yearInWords } from './numberWords.js';

export type ScriptLanguage = 'en' | 'fr' | 'ipa';

export interface ScriptWord {
  /** As written, for the screen: `Odette's`. */
  readonly text: string;
  /** Lower case, letters and apostrophes only, for the dictionary: `odette's`. */
  readonly spoken: string;
  /** Its sounds in ARPAbet, where the script spells them in IPA. */
  readonly sounds?: readonly string[];
}

/** A spoken word and what stands for it in the script: letters `[from, to)`. The words of a number have one place. */
export interface PlacedScriptWord extends ScriptWord {
  readonly from: number;
  readonly to: number;
}

/** Abbreviations as they are said. */
const ABBREVIATIONS: Readonly<Record<string, string>> = {
  mr: 'mister',
  mrs: 'missus',
  ms: 'miz',
  dr: 'doctor',
  st: 'saint',
  prof: 'professor',
  capt: 'captain',
  sgt: 'sergeant',
  gen: 'general',
  jr: 'junior',
  sr: 'senior',
  vs: 'versus',
  etc: 'et cetera',
  approx: 'approximately',
  dept: 'department',
  'e.g': 'for example',
  'i.e': 'that is',
  'a.m': 'a m',
  'p.m': 'p m',
  km: 'kilometers',
  kg: 'kilograms',
  cm: 'centimeters',
  mm: 'millimeters',
  ft: 'feet',
  lb: 'pounds',
  lbs: 'pounds',
  oz: 'ounces',
  mph: 'miles per hour',
};

/** Units and titles that are also words, or too short to be sure of, count only after a number. */
const AFTER_NUMBER = new Set(['km', 'kg', 'cm', 'mm', 'ft', 'lb', 'lbs', 'oz', 'mph']);

/** Signs as they are said. */
const SIGNS: Readonly<Record<string, string>> = { '&': 'and', '%': 'percent', '+': 'plus', '=': 'equals', '@': 'at', '°': 'degrees' };

/** A script has at most this many letters: about half an hour of talk. */
export const MAX_SCRIPT_LETTERS = 40_000;

const plainOf = (token: string): string => token.toLowerCase().replace(/[^\p{L}\p{N}']/gu, '');

/** Words made of one token, each shown by what is said. */
const said = (words: readonly string[]): ScriptWord[] => words.map((spoken) => ({ text: spoken, spoken }));

/** A token with digits in it: a number, money, a time, a year, an ordinal; undefined when it is none. */
function maybeNumber(token: string): string[] | undefined {
  const written = token.replace(/^[^\p{N}\p{L}$£€#+-]+|[^\p{N}\p{L}%°]+$/gu, '');
  const isGrouped = /\d,\d{3}(?!\d)/.test(written);
  const bare = written.replace(/,(?=\d{3}(?!\d))/g, '');
  if (/^-\d/.test(bare)) return ['minus', ...(maybeNumber(bare.slice(1)) ?? [])];
  const money = /^([$£€])(\d{1,9})(?:\.(\d{2}))?$/.exec(bare);
  if (money) return currencyInWords(money[1]!, Number(money[2]), Number(money[3] ?? 0));
  const time = /^(\d{1,2}):(\d{2})$/.exec(bare);
  if (time) {
    const [hours, minutes] = [Number(time[1]), Number(time[2])];
    return [...numberInWords(hours), ...(minutes === 0 ? ["o'clock"] : [...(minutes < 10 ? ['oh'] : []), ...numberInWords(minutes)])];
  }
  const ordinal = /^(\d{1,9})(?:st|nd|rd|th)$/i.exec(bare);
  if (ordinal) return ordinalInWords(Number(ordinal[1]));
  const decade = /^(\d{3,4})s$/i.exec(bare);
  if (decade) return plural(yearInWords(Number(decade[1])));
  const percent = /^(\d{1,9})(?:\.(\d+))?([%°])$/.exec(bare);
  const decimal = /^[#+]?(-?\d{1,9})\.(\d+)$/.exec(bare) ?? (percent?.[2] === undefined ? null : percent);
  if (decimal) {
    const digits = [...decimal[2]!].flatMap((digit) => numberInWords(Number(digit)));
    const sign = percent ? [SIGNS[percent[3]!]!] : [];
    return [...numberInWords(Math.abs(Number(decimal[1]))), 'point', ...digits, ...sign];
  }
  if (percent) return [...numberInWords(Number(percent[1])), SIGNS[percent[3]!]!];
  const hash = /^#(\d{1,9})$/.exec(bare);
  if (hash) return ['number', ...numberInWords(Number(hash[1]))];
  if (!isGrouped && /^(1[1-9]|20)\d\d$/.test(bare)) return yearInWords(Number(bare));
  if (/^\d{1,9}$/.test(bare)) return numberInWords(Number(bare));
  if (/^\d{10,}$/.test(bare)) return [...bare].flatMap((digit) => numberInWords(Number(digit)));
  // B52, 3D: digits and letters said one after the other.
  const mixed = /^(?:\p{L}+\d+|\d+\p{L}+)+$/u.test(bare) ? bare.match(/\p{L}+|\d+/gu) : null;
  return mixed?.flatMap((part) => (/\d/.test(part) ? numberInWords(Number(part.slice(0, 9))) : [part.toLowerCase()]));
}

function plural(words: string[]): string[] {
  const last = words.at(-1)!;
  return [...words.slice(0, -1), last.endsWith('y') ? `${last.slice(0, -1)}ies` : `${last}s`];
}

/** What is spoken of a script: directions, names before a colon and markup are blanks, so that each letter stays where it is. */
function spokenText(script: string): string {
  const blank = (taken: string): string => taken.replace(/\S/g, ' ');
  return (
    script
      .replace(/\[[^\]]*\]|\([^)]*\)|\{[^}]*\}|<[^>]*>/g, blank)
      .replace(/[’‘ʼ]/g, "'")
      // One to three words with capitals before a colon at the start of a line; not a time.
      .replace(/^[\t ]*(?:\p{Lu}[\p{L}'.]*(?:[\t ]+[\p{Lu}\p{N}#][\p{L}\p{N}'.]*){0,2})[\t ]*:(?=\s|$)/gmu, blank)
  );
}

function englishToken(token: string, afterNumber: boolean): ScriptWord[] {
  const sign = SIGNS[token];
  if (sign) return said([sign]);
  if (/\d/.test(token)) {
    const number = maybeNumber(token);
    if (number) return said(number);
  }
  const text = token.replace(/^[^\p{L}\p{N}']+|[^\p{L}\p{N}']+$/gu, '');
  const short = text.toLowerCase();
  const abbreviation = ABBREVIATIONS[short] ?? ABBREVIATIONS[short.replace(/\./g, '')];
  if (abbreviation && (afterNumber || !AFTER_NUMBER.has(short))) {
    const words = abbreviation.split(' ');
    return words.length === 1 ? [{ text, spoken: abbreviation }] : said(words);
  }
  // U.S.A. is spelled; so are capitals without a vowel.
  const letters = /^(?:\p{L}\.){2,}\p{L}?$/u.test(`${text}.`) ? text.replace(/\./g, '') : undefined;
  if (letters) return said([...letters.toLowerCase()]);
  const spoken = plainOf(token).replace(/^'+|'+$/g, '');
  return /\p{L}/u.test(spoken) ? [{ text: text.replace(/^'+|'+$/g, ''), spoken }] : [];
}

function frenchToken(token: string): ScriptWord[] {
  const text = token.replace(/^[^\p{L}\p{N}']+|[^\p{L}\p{N}']+$/gu, '');
  const spoken = plainOf(token).replace(/^'+/, '');
  return /\p{L}/u.test(spoken) ? [{ text: text.replace(/^'+|'+$/g, text.endsWith("'") ? "'" : ''), spoken }] : [];
}

/** A word in IPA; left out when a letter of it is not known. */
function ipaToken(token: string): ScriptWord[] {
  const symbols = maybeSymbolsOfIpa(token);
  if (!symbols || symbols.length === 0) return [];
  const sounds = symbols.map(({ symbol }) => symbol);
  return [{ text: token, spoken: `/${sounds.join(' ')}/`, sounds }];
}

/** Parts of a text between separators, with where they begin. */
function* partsBetween(text: string, separator: RegExp): Generator<{ readonly part: string; readonly at: number }> {
  let at = 0;
  for (const match of text.matchAll(separator)) {
    yield { part: text.slice(at, match.index), at };
    at = match.index + match[0].length;
  }
  yield { part: text.slice(at), at };
}

const BETWEEN_TOKENS = /[\s\u2010-\u2015/]+|-+(?=[^\d])|(?<=\D)-+/g;
/** French words run into the next with an apostrophe. */
const BETWEEN_FRENCH = /[\s\u2010-\u2015/]+|-+(?=[^\d])|(?<=\D)-+|(?<=\p{L}')(?=\p{L})/gu;
const IPA_BETWEEN_SLASHES = /\/[^\s/]+(?: [^\s/]+)*\//g;

/** The words of a token at a place, without the marks around it. */
function placed(words: readonly ScriptWord[], token: string, at: number): PlacedScriptWord[] {
  const before = /^[^\p{L}\p{N}$£€#+&%=@°-]*/u.exec(token)![0].length;
  const after = /[^\p{L}\p{N}'&%=@°]*$/u.exec(token.slice(before))![0].length;
  return words.map((word) => ({ ...word, from: at + before, to: at + token.length - after }));
}

/**
 * The words of a script with where each stands in it.
 *
 * @param script in Unicode's composed form (NFC): places are counted in it
 */
export function placedScriptWords(script: string, language: ScriptLanguage = 'en'): PlacedScriptWord[] {
  const spoken = spokenText(script);
  const words: PlacedScriptWord[] = [];
  if (language === 'ipa') {
    for (const { part, at } of partsBetween(spoken, /[\s/|]+/g))
      words.push(...ipaToken(part).map((word) => ({ ...word, from: at, to: at + part.length })));
    return words;
  }
  const plainPart = (text: string, start: number): void => {
    let afterNumber = false;
    for (const { part, at } of partsBetween(text, language === 'fr' ? BETWEEN_FRENCH : BETWEEN_TOKENS)) {
      const own = language === 'fr' ? frenchToken(part) : englishToken(part, afterNumber);
      words.push(...placed(own, part, start + at));
      afterNumber = /\d/.test(part);
    }
  };
  let next = 0;
  for (const match of spoken.matchAll(IPA_BETWEEN_SLASHES)) {
    const ipa = ipaToken(match[0].slice(1, -1));
    if (ipa.length === 0) continue;
    plainPart(spoken.slice(next, match.index), next);
    next = match.index + match[0].length;
    words.push(...ipa.map((word) => ({ ...word, from: match.index, to: next })));
  }
  plainPart(spoken.slice(next), next);
  return words;
}

/**
 * @example scriptWords('Put 12 stamps (sighs) here.').map((word) => word.spoken)
 *   // ['put', 'twelve', 'stamps', 'here']
 */
export function scriptWords(script: string, language: ScriptLanguage = 'en'): ScriptWord[] {
  return placedScriptWords(script.normalize('NFC'), language).map(({ from: _, to: __, ...word }) => word);
}
