/** Numbers as they are said in English. */
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
    [1_000_000_000, 'billion'],
    [1_000_000, 'million'],
    [1000, 'thousand'],
    [100, 'hundred'],
  ] as const) {
    if (value >= size) return [...numberInWords(Math.floor(value / size)), name, ...(value % size ? numberInWords(value % size) : [])];
  }
  return [];
}

const ORDINALS: Readonly<Record<string, string>> = {
  one: 'first',
  two: 'second',
  three: 'third',
  five: 'fifth',
  eight: 'eighth',
  nine: 'ninth',
  twelve: 'twelfth',
};

/** @example ordinalInWords(21) // ['twenty', 'first'] */
export function ordinalInWords(value: number): string[] {
  const words = numberInWords(value);
  const last = words.at(-1)!;
  return [...words.slice(0, -1), ORDINALS[last] ?? (last.endsWith('y') ? `${last.slice(0, -1)}ieth` : `${last}th`)];
}

/** A year in pairs: nineteen eighty four; two thousand and its first nine years whole. */
export function yearInWords(year: number): string[] {
  const [century, rest] = [Math.floor(year / 100), year % 100];
  if (year % 1000 < 10) return numberInWords(year);
  return [...numberInWords(century), ...(rest === 0 ? ['hundred'] : rest < 10 ? ['oh', ...numberInWords(rest)] : numberInWords(rest))];
}

const MONEY: Readonly<Record<string, readonly [string, string, string, string]>> = {
  $: ['dollar', 'dollars', 'cent', 'cents'],
  '£': ['pound', 'pounds', 'penny', 'pence'],
  '€': ['euro', 'euros', 'cent', 'cents'],
};

/** @example currencyInWords('$', 3, 50) // ['three', 'dollars', 'fifty', 'cents'] */
export function currencyInWords(sign: string, whole: number, parts: number): string[] {
  const [one, many, part, manyParts] = MONEY[sign]!;
  const units = whole > 0 || parts === 0 ? [...numberInWords(whole), whole === 1 ? one : many] : [];
  return [...units, ...(parts > 0 ? [...numberInWords(parts), parts === 1 ? part : manyParts] : [])];
}
