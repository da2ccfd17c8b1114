/** A script and the reading of it kept together: a word that is changed in one is changed in the other, and nothing else of the script is. */
import { laidBeside, plainWord } from '../reading/scriptOfWords.js';
import { placedScriptWords, type PlacedScriptWord, type ScriptLanguage } from '../reading/scriptWords.js';

interface Written {
  readonly script: string;
  readonly language: ScriptLanguage;
}

/** For each word that was read, the script's word it stands for; undefined where the script has none. */
export function writtenWords({ script, language }: Written, read: readonly string[]): (PlacedScriptWord | undefined)[] {
  const written = placedScriptWords(script.normalize('NFC'), language);
  const { places } = laidBeside(
    written.map(({ text }) => plainWord(text)),
    read.map(plainWord),
  );
  const found = new Array<PlacedScriptWord | undefined>(read.length).fill(undefined);
  places.forEach(({ read: at, edit }, index) => {
    if (edit !== 'unread') found[at] = written[index];
  });
  return found;
}

/**
 * The script with some words of the reading written otherwise where they stand in it.
 *
 * @param first and `last`, by index into `read`, both included
 * @returns the same script where it does not have them, or where they are a number in figures
 */
export function scriptWith(
  written: Written,
  read: readonly string[],
  { first, last, text }: { readonly first: number; readonly last: number; readonly text: string },
): string {
  const places = writtenWords(written, read);
  const [from, to] = [places[first], places[last]];
  const shares = (a: PlacedScriptWord | undefined, b: PlacedScriptWord | undefined): boolean => a !== undefined && a.from === b?.from;
  if (!from || !to || shares(from, places[first - 1]) || shares(to, places[last + 1])) return written.script;
  const script = written.script.normalize('NFC');
  return script.slice(0, from.from) + text + script.slice(to.to);
}

/** The script with a word put in after one that was read; at its start where none was before. */
export function scriptWithWordAfter(written: Written, read: readonly string[], after: number, text: string): string {
  const places = writtenWords(written, read);
  const script = written.script.normalize('NFC');
  const before = places.slice(0, after + 1).findLast((place) => place !== undefined);
  if (before) return `${script.slice(0, before.to)} ${text}${script.slice(before.to)}`;
  const [next] = places.filter((place) => place !== undefined);
  const at = next?.from ?? script.length;
  return `${script.slice(0, at)}${at > 0 && !/\s$/.test(script.slice(0, at)) ? ' ' : ''}${text} ${script.slice(at)}`.trimEnd();
}

/** Words of the reading that a changed script now writes otherwise, each in the place of one word. */
export function rewrittenWords(
  before: Written,
  after: Written,
  read: readonly string[],
): { readonly index: number; readonly text: string }[] {
  const [was, is] = [writtenWords(before, read), writtenWords(after, read)];
  return read.flatMap((_, index) => {
    const [old, now] = [was[index], is[index]];
    if (!old || !now || old.text === now.text || plainWord(now.text) === plainWord(read[index]!)) return [];
    return [{ index, text: now.text }];
  });
}
