/** Lines of a script with times, as captions have them: they hold a reading to those, give or take a second. */
import { SAMPLE_RATE } from '../time/frameRate.js';
import type { Span } from '../time/span.js';
import { scriptWords, type ScriptLanguage } from './scriptWords.js';

/** Samples of the recording. */
export interface TimedLine {
  readonly fromSample: number;
  readonly toSample: number;
  readonly text: string;
}

/** Captions come on before what they say and stay after it: a word is looked for so much around its line, in samples. */
export const LINE_MARGIN = SAMPLE_RATE;

/** Lines that a clip may be held to. */
export const MOST_LINES = 5000;

/** The script of lines: each a line of its own. */
export const scriptOfLines = (lines: readonly TimedLine[]): string => lines.map(({ text }) => text.replace(/\s+/g, ' ').trim()).join('\n');

/**
 * Where each word of the script of some lines may lie, one span a word, in samples.
 *
 * @param fromSample of what is heard: spans are counted from there
 */
export function placesOfWords(lines: readonly TimedLine[], language: ScriptLanguage, fromSample = 0): Span[] {
  return lines.flatMap((line) => {
    const place = { from: line.fromSample - fromSample - LINE_MARGIN, to: line.toSample - fromSample + LINE_MARGIN };
    return scriptWords(line.text, language).map(() => place);
  });
}
