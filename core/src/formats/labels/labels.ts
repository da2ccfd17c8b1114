/**
 * Labels: what is said when, as other programs of speech keep it. A file has tiers, each a list
 * of labels in time; which tier is words and which sounds is the reader's to say.
 */

/** In seconds from the recording's start. */
export interface Label {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

export interface LabelTier {
  readonly name: string;
  /** In order, none over another; gaps are silence. */
  readonly labels: readonly Label[];
}

/** Why a file of labels cannot be read: where, what was found, what was expected. */
export interface LabelFault {
  /** From 1. */
  readonly line: number;
  readonly sentence: string;
}

export const isLabelFault = (result: readonly LabelTier[] | LabelFault): result is LabelFault => 'sentence' in result;

export const LABEL_KINDS = ['TextGrid', 'vtt', 'srt', 'ctm', 'tsv', 'json'] as const;
export type LabelKind = (typeof LABEL_KINDS)[number];

const EXTENSIONS: Readonly<Record<string, LabelKind>> = {
  textgrid: 'TextGrid',
  vtt: 'vtt',
  srt: 'srt',
  ctm: 'ctm',
  tsv: 'tsv',
  lab: 'tsv',
  txt: 'tsv',
  json: 'json',
};

/** What kind of labels a file has, by its name. @example maybeLabelKind('line.TextGrid') // 'TextGrid' */
export function maybeLabelKind(fileName: string): LabelKind | undefined {
  const extension = fileName.slice(fileName.lastIndexOf('.') + 1).toLowerCase();
  return EXTENSIONS[extension];
}

/** The most labels that a file may have, over all its tiers. */
export const MOST_LABELS = 200_000;

/** A text of labels from its bytes: UTF-8, or UTF-16 where its mark says so. */
export function textOfLabels(bytes: Uint8Array): string {
  const [a, b] = bytes;
  const encoding = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : 'utf-8';
  return new TextDecoder(encoding).decode(bytes);
}

/** Labels sorted, those without a length or a text left out; undefined where two overlap by more than a rounding. */
export function inTime(labels: readonly Label[]): readonly Label[] | undefined {
  const sorted = labels.filter(({ from, to, text }) => to > from && text.trim() !== '').sort((x, y) => x.from - y.from);
  const isApart = sorted.every(({ from }, index) => index === 0 || from >= sorted[index - 1]!.to - 0.001);
  return isApart ? sorted : undefined;
}
