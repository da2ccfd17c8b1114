/**
 * Timed text: WebVTT (W3C, “WebVTT: The Web Video Text Tracks Format”) with the times of words
 * inside its cues, SubRip, CTM (NIST's time-marked conversations: file, channel, start, length,
 * word, and how sure it is) and lines of `from to text` in seconds with tabs between them.
 */
import { inTime, MOST_LABELS, type Label, type LabelFault, type LabelTier } from './labels.js';

const fault = (line: number, sentence: string): LabelFault => ({ line, sentence });

const TIME = String.raw`(?:(\d{1,3}):)?(\d{2}):(\d{2})[.,](\d{3})`;
const CUE = new RegExp(String.raw`^\s*${TIME}\s+-->\s+${TIME}`);
const INNER = new RegExp(`<${TIME}>`, 'g');

const secondsOf = ([hours, minutes, seconds, thousandths]: readonly (string | undefined)[]): number =>
  Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(seconds) + Number(thousandths) / 1000;

/** Tags of a cue, and the characters that stand for others. */
const plain = (text: string): string =>
  text
    .replace(/<[^>]*>/g, '')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&nbsp;', ' ')
    .replaceAll('&amp;', '&')
    .replace(/\s+/g, ' ')
    .trim();

/** What stands between the times inside a cue, each from its time to the next. */
function wordsInCue({ from, to, text }: Label): Label[] {
  const marks = [...text.matchAll(INNER)];
  if (marks.length === 0) return [];
  const starts = [from, ...marks.map(([, ...parts]) => secondsOf(parts))];
  const pieces = text.split(new RegExp(`<(?:\\d{1,3}:)?\\d{2}:\\d{2}[.,]\\d{3}>`));
  return pieces.flatMap((piece, index) => {
    const said = plain(piece);
    return said === '' ? [] : [{ from: starts[index]!, to: starts[index + 1] ?? to, text: said }];
  });
}

/** The tier of a caption file that has its lines. */
export const LINES = 'lines';

/** WebVTT and SubRip: lines are a tier, and where cues have the times of their words, words another. */
export function readCaptions(source: string): readonly LabelTier[] | LabelFault {
  const lines = source
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split('\n');
  const cues: Label[] = [];
  for (let index = 0; index < lines.length; index++) {
    const line = lines[index]!;
    if (!line.includes('-->')) continue;
    const found = CUE.exec(line);
    if (!found)
      return fault(index + 1, `Times such as 00:00:01.000 --> 00:00:02.500 were expected; “${line.trim().slice(0, 60)}” was found.`);
    const [from, to] = [secondsOf(found.slice(1, 5)), secondsOf(found.slice(5, 9))];
    if (to <= from) return fault(index + 1, 'This cue ends before it begins.');
    const text: string[] = [];
    while (index + 1 < lines.length && lines[index + 1]!.trim() !== '') text.push(lines[(index += 1)]!);
    cues.push({ from, to, text: text.join(' ') });
    if (cues.length > MOST_LABELS) return fault(index + 1, `It has more than ${MOST_LABELS} cues. Cut it in parts.`);
  }
  if (cues.length === 0) return fault(1, 'No cue was found: a line of two times with --> between them was expected.');
  const words = inTime(cues.flatMap(wordsInCue));
  const said = inTime(cues.map((cue) => ({ ...cue, text: plain(cue.text) })));
  if (!said || !words) return fault(1, 'Cues lie over one another. They must follow one another.');
  return [{ name: LINES, labels: said }, ...(words.length > 0 ? [{ name: 'words', labels: words }] : [])];
}

function rows(
  source: string,
  labelOf: (cells: string[]) => { readonly label: Label; readonly tier: string } | string,
  split: RegExp,
): readonly LabelTier[] | LabelFault {
  const tiers = new Map<string, Label[]>();
  let count = 0;
  for (const [index, line] of source
    .replace(/^\uFEFF/, '')
    .split(/\r\n?|\n/)
    .entries()) {
    if (line.trim() === '' || line.startsWith(';;') || line.startsWith('#')) continue;
    const made = labelOf(line.trim().split(split));
    if (typeof made === 'string') return fault(index + 1, `${made}; “${line.trim().slice(0, 60)}” was found.`);
    if ((count += 1) > MOST_LABELS) return fault(index + 1, `It has more than ${MOST_LABELS} labels. Cut it in parts.`);
    const tier = tiers.get(made.tier);
    if (tier) tier.push(made.label);
    else tiers.set(made.tier, [made.label]);
  }
  if (tiers.size === 0) return fault(1, 'There is no label in this file.');
  const named: LabelTier[] = [];
  for (const [name, labels] of tiers) {
    const sorted = inTime(labels);
    if (!sorted) return fault(1, 'Labels lie over one another. They must follow one another.');
    named.push({ name, labels: sorted });
  }
  return named;
}

const isTime = (text: string | undefined): text is string => text !== undefined && /^\d+(\.\d+)?([eE]-?\d+)?$/.test(text);

/** Words by channel. */
export function readCtm(source: string): readonly LabelTier[] | LabelFault {
  return rows(
    source,
    ([, channel, start, length, word]) => {
      if (channel === undefined || !isTime(start) || !isTime(length) || word === undefined)
        return 'A file, a channel, a start and a length in seconds, and a word were expected';
      return { tier: `channel ${channel}`, label: { from: Number(start), to: Number(start) + Number(length), text: word } };
    },
    /\s+/,
  );
}

export function readTabbed(source: string): readonly LabelTier[] | LabelFault {
  return rows(
    source,
    ([from, to, ...text]) => {
      if (!isTime(from) || !isTime(to) || text.length === 0 || Number(to) < Number(from))
        return 'A start and an end in seconds and a text, with tabs between them, were expected';
      return { tier: 'labels', label: { from: Number(from), to: Number(to), text: text.join(' ').trim() } };
    },
    /\t/,
  );
}

function clock(seconds: number, comma: '.' | ','): string {
  const thousandths = Math.round(seconds * 1000);
  const two = (value: number): string => String(value).padStart(2, '0');
  const [hours, minutes] = [Math.floor(thousandths / 3_600_000), Math.floor(thousandths / 60_000) % 60];
  return `${two(hours)}:${two(minutes)}:${two(Math.floor(thousandths / 1000) % 60)}${comma}${String(thousandths % 1000).padStart(3, '0')}`;
}

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** A cue a phrase, with the time of each word inside it. */
export function writeVtt(phrases: readonly (readonly Label[])[]): string {
  const cues = phrases.map((words) => {
    const said = words.map(({ from, text }, index) => (index === 0 ? escaped(text) : `<${clock(from, '.')}>${escaped(text)}`)).join(' ');
    return `${clock(words[0]!.from, '.')} --> ${clock(words.at(-1)!.to, '.')}\n${said}\n`;
  });
  return ['WEBVTT\n', ...cues].join('\n');
}

export function writeSrt(phrases: readonly (readonly Label[])[]): string {
  return phrases
    .map(
      (words, index) =>
        `${index + 1}\n${clock(words[0]!.from, ',')} --> ${clock(words.at(-1)!.to, ',')}\n${words.map(({ text }) => escaped(text)).join(' ')}\n`,
    )
    .join('\n');
}

/** @param sure how sure each word is, 0 to 1 */
export function writeCtm(words: readonly (Label & { readonly sure: number })[], file: string): string {
  return words
    .map(
      ({ from, to, text, sure }) =>
        `${file} 1 ${from.toFixed(3)} ${(to - from).toFixed(3)} ${text.replace(/\s+/g, '_')} ${sure.toFixed(2)}\n`,
    )
    .join('');
}

export function writeTabbed(labels: readonly Label[]): string {
  return labels.map(({ from, to, text }) => `${from.toFixed(6)}\t${to.toFixed(6)}\t${text}\n`).join('');
}
