/** The words of a script beside those that were found: what was not said can be shown struck through. */
import { matchSymbols } from './boundaryErrors.js';

export interface ScriptLineWord {
  readonly text: string;
  /** Index into the words that were read; undefined for a word that was not said. */
  readonly read?: number;
}

const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}']/gu, '');

/**
 * Both lists as one, in order, by least edits.
 *
 * @example besideScript(['Put', 'the', 'wet', 'stamp'], ['put', 'stamp']).map((word) => word.read) // [0, undefined, undefined, 1]
 */
export function besideScript(script: readonly string[], read: readonly string[]): ScriptLineWord[] {
  const pairs = new Map(matchSymbols(read.map(plain), script.map(plain)).map(([found, written]) => [written, found]));
  const line: ScriptLineWord[] = [];
  let next = 0;
  script.forEach((text, index) => {
    const found = pairs.get(index);
    if (found === undefined) {
      line.push({ text });
      return;
    }
    for (; next < found; next++) line.push({ text: read[next]!, read: next });
    line.push({ text: read[found]!, read: found });
    next = found + 1;
  });
  for (; next < read.length; next++) line.push({ text: read[next]!, read: next });
  return line;
}
