/**
 * TextGrid, long and short. Of such a file only what stands free counts: numbers, texts between
 * quotes (a quote in one is doubled), flags between angle brackets; all else is there for the
 * eye, and an exclamation mark begins a remark (the format's own manual page, “TextGrid file
 * formats”). Long and short are therefore read by one reader.
 */
import { inTime, MOST_LABELS, type Label, type LabelFault, type LabelTier } from './labels.js';

interface Token {
  readonly line: number;
  readonly value: string | number;
}

const FREE = /"((?:[^"]|"")*)"|<[a-z]+>|![^\n]*|[^\s"!]+|\n/g;
const NUMBER = /^[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?$/;

function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let line = 1;
  for (const [whole, quoted] of text.replace(/\r\n?/g, '\n').matchAll(FREE)) {
    if (quoted !== undefined) {
      tokens.push({ line, value: quoted.replaceAll('""', '"') });
      line += quoted.split('\n').length - 1;
    } else if (whole === '\n') line += 1;
    else if (NUMBER.test(whole)) tokens.push({ line, value: Number(whole) });
  }
  return tokens;
}

class Expected extends Error {
  constructor(
    readonly line: number,
    message: string,
  ) {
    super(message);
  }
}

function* reading(text: string): Generator<LabelTier> {
  const tokens = tokensOf(text);
  let at = 0;
  const next = (what: string, kind: 'string' | 'number'): Token => {
    const token = tokens[at++];
    if (token === undefined) throw new Expected(tokens.at(-1)?.line ?? 1, `The file ends where ${what} was expected.`);
    if (typeof token.value !== kind)
      throw new Expected(
        token.line,
        `${kind === 'number' ? 'A number' : 'A text in quotes'}, ${what}, was expected; “${token.value}” was found.`,
      );
    return token;
  };
  const number = (what: string): number => next(what, 'number').value as number;
  const words = (what: string): string => next(what, 'string').value as string;
  const type = words('the type of the file');
  const sort = words('the class of what it holds');
  if (type !== 'ooTextFile' || sort !== 'TextGrid')
    throw new Expected(1, `“ooTextFile” and “TextGrid” were expected at its head; “${type}” and “${sort}” were found.`);
  number('where it begins');
  number('where it ends');
  const size = number('how many tiers it has');
  let count = 0;
  for (let tier = 0; tier < size; tier++) {
    const { value: kind, line } = next('the class of a tier', 'string');
    const name = words('the name of a tier');
    number('where the tier begins');
    number('where the tier ends');
    const many = number('how many labels the tier has');
    if ((count += many) > MOST_LABELS) throw new Expected(line, `It has more than ${MOST_LABELS} labels. Cut it in parts.`);
    const labels: Label[] = [];
    for (let index = 0; index < many; index++) {
      const from = number('where a label begins');
      if (kind === 'TextTier') words('what a point says');
      else labels.push({ from, to: number('where a label ends'), text: words('what a label says').trim() });
    }
    const sorted = inTime(labels);
    if (!sorted) throw new Expected(line, `Labels of the tier “${name}” lie over one another. They must follow one another.`);
    // Points have no length: they are no words and no sounds.
    if (kind !== 'TextTier') yield { name, labels: sorted };
  }
}

export function readTextGrid(text: string): readonly LabelTier[] | LabelFault {
  try {
    return [...reading(text)];
  } catch (error) {
    if (error instanceof Expected) return { line: error.line, sentence: error.message };
    throw error;
  }
}

const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
/** Microseconds are finer than samples. */
const seconds = (value: number): string => String(Math.round(value * 1e6) / 1e6);

/** The long form; silence is a label without a text, as it must be there. */
export function writeTextGrid(tiers: readonly LabelTier[], durationSeconds: number): string {
  const filled = ({ labels }: LabelTier): Label[] => {
    const whole: Label[] = [];
    let at = 0;
    for (const label of labels) {
      if (label.from > at + 1e-6) whole.push({ from: at, to: label.from, text: '' });
      whole.push(label);
      at = label.to;
    }
    if (at < durationSeconds - 1e-6) whole.push({ from: at, to: durationSeconds, text: '' });
    return whole;
  };
  const lines = [
    'File type = "ooTextFile"',
    'Object class = "TextGrid"',
    '',
    'xmin = 0',
    `xmax = ${seconds(durationSeconds)}`,
    'tiers? <exists>',
    `size = ${tiers.length}`,
    'item []:',
  ];
  tiers.forEach((tier, index) => {
    const labels = filled(tier);
    lines.push(
      `    item [${index + 1}]:`,
      '        class = "IntervalTier"',
      `        name = ${quoted(tier.name)}`,
      '        xmin = 0',
      `        xmax = ${seconds(durationSeconds)}`,
      `        intervals: size = ${labels.length}`,
    );
    labels.forEach(({ from, to, text }, place) =>
      lines.push(
        `        intervals [${place + 1}]:`,
        `            xmin = ${seconds(from)}`,
        `            xmax = ${seconds(to)}`,
        `            text = ${quoted(text)}`,
      ),
    );
  });
  return `${lines.join('\n')}\n`;
}
