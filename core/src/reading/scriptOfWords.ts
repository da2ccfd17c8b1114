/**
 * What a script says of some of the words that were read. The script may have been mended
 * since: a word that is now another one stands in the place of the old, so the two are laid
 * beside one another by least edits in which a word may also be *exchanged*, the cheaper the
 * more letters the two share. (Levenshtein's distance, once over words and once over letters.)
 */

/** A word left out or put in. Two of them cost more than the dearest exchange. */
const GAP = 0.7;
const EXCHANGE = { least: 0.5, most: 1.2 };
/** So far from one another, beyond their difference in length, the two are not laid beside one another: half an hour of talk is. */
const BAND = 250;

export const plainWord = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}']/gu, '');

/** Least edits between two words as a share of the longer one, 0 to 1. */
function unlike(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) next.push(Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)));
    row = next;
  }
  return row[b.length]! / Math.max(1, a.length, b.length);
}

export type ScriptEdit = 'same' | 'exchanged' | 'unread' | 'unwritten';

export interface ScriptBeside {
  /** By script word: the read word it stands for, or before which it stands where it was not read. */
  readonly places: readonly { readonly read: number; readonly edit: Exclude<ScriptEdit, 'unwritten'> }[];
  /** By read word: whether the script still says it. */
  readonly isWritten: readonly boolean[];
}

/** A script and what was read of it side by side; words in lower case without marks. */
export function laidBeside(script: readonly string[], read: readonly string[]): ScriptBeside {
  const [rows, columns] = [script.length + 1, read.length + 1];
  const cost = new Float64Array(rows * columns);
  const step: ScriptEdit[] = new Array<ScriptEdit>(rows * columns);
  const reach = BAND + Math.abs(script.length - read.length);
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < columns; j++) {
      if (i === 0 && j === 0) continue;
      if (Math.abs(i - j) > reach) {
        cost[i * columns + j] = Number.POSITIVE_INFINITY;
        continue;
      }
      let [best, edit]: [number, ScriptEdit] = [Number.POSITIVE_INFINITY, 'unread'];
      const offer = (price: number, how: ScriptEdit): void => {
        if (price < best) [best, edit] = [price, how];
      };
      if (i > 0 && j > 0) {
        const before = cost[(i - 1) * columns + j - 1]!;
        if (script[i - 1] === read[j - 1]) offer(before, 'same');
        else if (before < best) {
          const price = EXCHANGE.least + (EXCHANGE.most - EXCHANGE.least) * unlike(script[i - 1]!, read[j - 1]!);
          offer(before + price, 'exchanged');
        }
      }
      if (i > 0) offer(cost[(i - 1) * columns + j]! + GAP, 'unread');
      if (j > 0) offer(cost[i * columns + j - 1]! + GAP, 'unwritten');
      cost[i * columns + j] = best;
      step[i * columns + j] = edit;
    }
  const places: { read: number; edit: Exclude<ScriptEdit, 'unwritten'> }[] = [];
  const isWritten = read.map(() => false);
  for (let [i, j] = [script.length, read.length]; i > 0 || j > 0;) {
    const edit = step[i * columns + j]!;
    if (edit === 'unwritten') j -= 1;
    else if (edit === 'unread') places[--i] = { read: j, edit };
    else {
      isWritten[--j] = edit === 'same';
      places[--i] = { read: j, edit };
    }
  }
  return { places, isWritten };
}

/**
 * The span of script words that says the read words `first` to `last`, both included (none
 * between two where `last` is `first` − 1): `[from, to)`, indexes into the script.
 *
 * What was put in between two words belongs to the side that was mended, or to the part asked for.
 */
export function scriptOfWords(
  script: readonly string[],
  read: readonly string[],
  first: number,
  last: number,
): { readonly from: number; readonly to: number } {
  const { places, isWritten } = laidBeside(script.map(plainWord), read.map(plainWord));
  const isMended = (index: number): boolean => index >= 0 && index < read.length && !isWritten[index];
  const belongs = ({ read: at, edit }: (typeof places)[number]): boolean => {
    if (edit !== 'unread') return at >= first && at <= last;
    if (at > first && at <= last) return true;
    // On the edge of the part: it is the neighbour's when that was mended and the part was not.
    if (at === first && at === last + 1) return true;
    if (at === first) return !isMended(first - 1) || isMended(first);
    return at === last + 1 && (!isMended(last + 1) || isMended(last));
  };
  const from = places.findIndex(belongs);
  if (from < 0) {
    const after = places.findIndex(({ read: at }) => at > last);
    return after < 0 ? { from: script.length, to: script.length } : { from: after, to: after };
  }
  return { from, to: places.findLastIndex(belongs) + 1 };
}
