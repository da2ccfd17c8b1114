/**
 * The words that a script says. Stage directions in brackets are not spoken; hyphens and
 * dashes part words; numbers up to the millions are spelled out. Each spoken word keeps
 * the text it is shown by.
 */

export interface ScriptWord {
  /** As written, for the screen: `Odette's`. */
  readonly text: string;
  /** Lower case, letters and apostrophes only, for the dictionary: `odette's`. */
  readonly spoken: string;
}

const ONES =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  );
const TENS = ['', '', 'twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'];

/** A whole number in English words. */
export function numberInWords(value: number): string[] {
  if (value < 20) return [ONES[value]!];
  if (value < 100) return [TENS[Math.floor(value / 10)]!, ...(value % 10 ? [ONES[value % 10]!] : [])];
  for (const [size, name] of [
    [1_000_000, 'million'],
    [1000, 'thousand'],
    [100, 'hundred'],
  ] as const) {
    if (value >= size) return [...numberInWords(Math.floor(value / size)), name, ...(value % size ? numberInWords(value % size) : [])];
  }
  return [];
}

const TITLES: Readonly<Record<string, string>> = { mr: 'mister', mrs: 'missus', ms: 'miz', dr: 'doctor', st: 'saint' };

/** A script has at most this many letters: about half an hour of talk. */
export const MAX_SCRIPT_LETTERS = 40_000;

/**
 * @example scriptWords('Put 12 stamps (sighs) here.').map((word) => word.spoken)
 *   // ['put', 'twelve', 'stamps', 'here']
 */
export function scriptWords(script: string, language: 'en' | 'fr' = 'en'): ScriptWord[] {
  const said = script
    .normalize('NFC')
    .replace(/\[[^\]]*\]|\([^)]*\)/g, ' ')
    .replace(/[’‘ʼ]/g, "'")
    .replace(/(\d),(?=\d{3})/g, '$1');
  const tokens = language === 'fr' ? said.replace(/(\p{L}')(?=\p{L})/gu, '$1 ') : said;
  return tokens.split(/[\s\u2010-\u2015/-]+/).flatMap((token) => {
    const text = token.replace(/^[^\p{L}\p{N}']+|[^\p{L}\p{N}']+$/gu, '');
    const plain = text.toLowerCase().replace(/[^\p{L}\p{N}']/gu, '');
    if (language === 'en' && TITLES[plain]) return [{ text, spoken: TITLES[plain] }];
    if (/^\d{1,9}$/.test(plain) && language === 'en') return numberInWords(Number(plain)).map((spoken) => ({ text: spoken, spoken }));
    const spoken = language === 'fr' ? plain.replace(/^'+/, '') : plain.replace(/^'+|'+$/g, '');
    return /\p{L}/u.test(spoken) ? [{ text: text.replace(/^'+|'+$/g, language === 'fr' && text.endsWith("'") ? "'" : ''), spoken }] : [];
  });
}
