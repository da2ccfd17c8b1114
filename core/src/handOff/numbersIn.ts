/**
 * Numbers of drawings that come in as text: an exposure sheet or a key list as CSV, ours or anybody's, or one column that
 * was copied. Which column is what is guessed, shown, and said otherwise where it is wrong.
 */
import Papa from 'papaparse';
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import type { Refusal } from '../document/refusal.js';
import { maybeMixOfWords, mixId } from '../draw/madeDrawings.js';
import { canMix } from '../draw/mixLooks.js';
import type { CopiedMouths } from '../sheet/copyMouths.js';
import { framesPerSecond, type FrameRate } from '../time/frameRate.js';
import { maybeFrameOfTimecode } from '../time/timecode.js';

export const NUMBERS_LIMITS = { letters: 8_000_000, rows: 200_000, columns: 100 } as const;

/** What a column is: where a row is, which drawing it shows, or nothing that is wanted. */
export type ColumnRole = 'frame' | 'seconds' | 'timecode' | 'drawing' | 'none';

export interface NumbersTable {
  /** Undefined where the first row is one of numbers already. */
  readonly headings: readonly string[] | undefined;
  readonly rows: readonly (readonly string[])[];
}

export interface NumbersChoice {
  /** A role a column; one has drawings, one at most says where a row is: without it rows are frames one after another. */
  readonly roles: readonly ColumnRole[];
  /** The number that the first frame has in the table. */
  readonly firstNumber: number;
  /** Numbers are the drawings' own, or places in the tray from 0 or from 1. */
  readonly numbers: 'own' | 'from 0' | 'from 1';
  /** An empty cell holds the drawing above it; else no mouth is shown there. */
  readonly emptyHolds: boolean;
}

export interface NumbersIn {
  readonly copied: CopiedMouths;
  /** The scene frame, from 0, that the first of them goes to. */
  readonly from: number;
  /** What stands in the drawing column and is no drawing of the chart. */
  readonly unknown: readonly string[];
}

/** Marks of a hold on a sheet: bars, ditto marks, dashes (common practice, no source). */
const HOLDS = /^(\||¦|│|"|''|〃|-+|–|—|:|\.)$/u;
/** More than this share of a column empty, and nothing else for a hold, is held. */
const HELD_SHARE = 0.3;
const isNumber = (text: string): boolean => /^-?\d+([.,]\d+)?$/.test(text.trim());
const TIMECODE = /^\d\d:\d\d:\d\d[:;]\d\d$/;

/** Reads text between commas, tabs, semicolons or bars; one column is one column. A first row that names no drawing and no number is headings. */
export function readNumbers(text: string, chart: ChartDocument): NumbersTable | Refusal {
  if (text.length > NUMBERS_LIMITS.letters)
    return {
      refusal: `This is ${Math.round(text.length / 1e6)} MB of text. It may be ${NUMBERS_LIMITS.letters / 1e6} MB: bring in a part of it.`,
    };
  const plain = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .replace(/\n+$/, '');
  // A bar in a column of its own is a hold, not what parts columns. What parts columns stands in every line: a comma may
  // be a decimal one, a semicolon may stand in a timecode.
  const sample = plain.split('\n', 20).filter((line) => line.trim() !== '');
  const delimiter = ['\t', ';', ','].find((mark) => sample.length > 0 && sample.every((line) => line.includes(mark)));
  const rows = delimiter === undefined ? plain.split('\n').map((line) => [line]) : Papa.parse<string[]>(plain, { delimiter }).data;
  if (rows.length > NUMBERS_LIMITS.rows) return { refusal: `There are ${rows.length} rows. There may be ${NUMBERS_LIMITS.rows}.` };
  const cells = rows.map((row) => row.slice(0, NUMBERS_LIMITS.columns).map((cell) => cell.trim()));
  if (cells.every((row) => row.every((cell) => cell === '')))
    return { refusal: 'There is nothing in it. Paste a column of numbers, or choose a sheet or a key list as CSV.' };
  const [first] = cells;
  const isHead =
    first!.every((cell) => !isNumber(cell) && !HOLDS.test(cell) && !TIMECODE.test(cell) && !drawingOf(chart, cell, 'own')) &&
    first!.some((cell) => cell !== '') &&
    cells.length > 1;
  return { headings: isHead ? first : undefined, rows: isHead ? cells.slice(1) : cells };
}

/** The drawing that a cell names: by number, as an in-between of two numbers, or by label in any case. */
function drawingOf(chart: ChartDocument, cell: string, numbers: NumbersChoice['numbers']): Drawing | undefined {
  const mix = maybeMixOfWords(cell);
  if (mix) {
    const [a, b] = [drawingOf(chart, mix.a, numbers), drawingOf(chart, mix.b, numbers)];
    return a && b && canMix(a, b) ? maybeDrawing(chart, mixId(a.id, b.id, mix.share)) : undefined;
  }
  if (/^\d+$/.test(cell)) {
    const number = Number(cell);
    if (numbers === 'own') return chart.drawings.find((drawing) => drawing.number === number);
    return [...chart.drawings].sort((a, b) => a.place - b.place)[numbers === 'from 0' ? number : number - 1];
  }
  const label = cell.toLowerCase();
  return chart.drawings.find((drawing) => drawing.label.toLowerCase() === label);
}

/** What each column is taken for, by its heading and by what stands in it. */
export function guessNumbers({ headings, rows }: NumbersTable, chart: ChartDocument): NumbersChoice {
  const width = Math.max(1, ...rows.slice(0, 200).map((row) => row.length));
  const columns = Array.from({ length: width }, (_, column) => rows.slice(0, 400).map((row) => row[column] ?? ''));
  const head = (column: number): string => (headings?.[column] ?? '').toLowerCase();
  const rises = (cells: readonly string[]): boolean => {
    const values = cells.filter(isNumber).map((cell) => Number(cell.replace(',', '.')));
    return (
      values.length > 1 && values.length >= cells.length - 1 && values.every((value, index) => index === 0 || value > values[index - 1]!)
    );
  };
  const isPlace = (cells: readonly string[]): boolean => cells.filter((cell) => cell !== '').every((cell) => TIMECODE.test(cell));
  const roles = columns.map((cells, column): ColumnRole => {
    if (/^(time ?code|tc)$/.test(head(column)) || (cells.some((cell) => cell !== '') && isPlace(cells))) return 'timecode';
    if (/^(seconds?|secs?|time)$/.test(head(column))) return 'seconds';
    if (/^(frames?|fr|no)$/.test(head(column)) && rises(cells)) return 'frame';
    if (headings === undefined && width > 1 && rises(cells)) return cells.some((cell) => /[.,]\d/.test(cell)) ? 'seconds' : 'frame';
    return 'none';
  });
  // Where a row is is said once: frames before times.
  const at = (['frame', 'timecode', 'seconds'] as const).map((role) => roles.indexOf(role)).find((column) => column >= 0);
  const plain = roles.map((role, column) => (column === at ? role : 'none'));
  const known = columns.map((cells, column) => {
    if (column === at) return -1;
    const said = cells.filter((cell) => cell !== '' && !HOLDS.test(cell));
    if (said.length === 0) return -1;
    const share = said.filter((cell) => drawingOf(chart, cell, 'own')).length / said.length;
    return share + (/mouth|number|drawing|level|cel/.test(head(column)) ? 0.5 : 0) + (said.every(isNumber) ? 0.2 : 0);
  });
  const best = known.indexOf(Math.max(...known));
  const cells = columns[best] ?? [];
  const firstFrame = at !== undefined && plain[at] === 'frame' ? Number(columns[at]!.find(isNumber) ?? 0) : 0;
  return {
    roles: plain.map((role, column) => (column === best ? 'drawing' : role)),
    firstNumber: firstFrame,
    numbers: cells.includes('0') && !chart.drawings.some(({ number }) => number === 0) ? 'from 0' : 'own',
    // Who writes holds out leaves nothing empty that is held; who leaves much empty means it held.
    emptyHolds:
      at === undefined ||
      (!cells.some((cell) => HOLDS.test(cell)) && cells.filter((cell) => cell === '').length > cells.length * HELD_SHARE),
  };
}

/**
 * The mouths of a table, to be laid into a lane.
 *
 * @param lengthFrames of the scene: the last mouth is held to its end where the table says only where mouths change
 */
export function mouthsOfNumbers(
  { rows }: NumbersTable,
  { roles, firstNumber, numbers, emptyHolds }: NumbersChoice,
  {
    chart,
    chartId,
    frameRate,
    lengthFrames,
  }: { readonly chart: ChartDocument; readonly chartId: string; readonly frameRate: FrameRate; readonly lengthFrames: number },
): NumbersIn | Refusal {
  const what = roles.indexOf('drawing');
  if (what < 0) return { refusal: 'Say which column has the drawings.' };
  const at = roles.findIndex((role) => role === 'frame' || role === 'seconds' || role === 'timecode');
  const frameOf = (row: readonly string[], index: number): number | undefined => {
    if (at < 0) return index;
    const cell = row[at] ?? '';
    if (roles[at] === 'timecode') {
      const frame = maybeFrameOfTimecode(frameRate, cell);
      return frame === undefined ? undefined : frame - firstNumber;
    }
    if (!isNumber(cell)) return undefined;
    const value = Number(cell.replace(',', '.'));
    return roles[at] === 'seconds' ? Math.round(value * framesPerSecond(frameRate)) : Math.round(value) - firstNumber;
  };
  const unknown = new Set<string>();
  const starts: { frame: number; drawing: Drawing | null }[] = [];
  let last = -1;
  rows.forEach((row, index) => {
    const frame = frameOf(row, index);
    if (frame === undefined || frame < 0 || frame >= lengthFrames || frame <= last) return;
    const cell = row[what] ?? '';
    last = frame;
    if (HOLDS.test(cell) || (cell === '' && emptyHolds)) return;
    const drawing = cell === '' ? null : drawingOf(chart, cell, numbers);
    if (drawing === undefined) unknown.add(cell);
    // What is not known is no reason to hold what was there before: a gap shows where to look.
    starts.push({ frame, drawing: drawing ?? null });
  });
  const [first] = starts;
  if (!first || starts.every(({ drawing }) => drawing === null))
    return { refusal: 'No cell of that column names a drawing of this chart. Choose another column, or say how the numbers count.' };
  // Rows one a frame end where they end; a list of changes goes on to the end of the scene.
  const isEveryFrame = at < 0 || last - first.frame + 1 === rows.length;
  const end = isEveryFrame ? last + 1 : lengthFrames;
  const mouths = starts.flatMap(({ frame, drawing }, index) => {
    const to = starts[index + 1]?.frame ?? end;
    return drawing && to > frame ? [{ from: frame - first.frame, to: to - first.frame, drawing: drawing.id }] : [];
  });
  const drawings = new Map(chart.drawings.map((drawing) => [drawing.id, drawing]));
  return { copied: { frames: end - first.frame, chartId, mouths: joined(mouths), drawings }, from: first.frame, unknown: [...unknown] };
}

/** Every frame listed says the same drawing again and again: one mouth, held. */
function joined(mouths: CopiedMouths['mouths']): CopiedMouths['mouths'] {
  const held: CopiedMouths['mouths'][number][] = [];
  for (const mouth of mouths) {
    const last = held.at(-1);
    if (last?.to === mouth.from && last.drawing === mouth.drawing) held[held.length - 1] = { ...last, to: mouth.to };
    else held.push(mouth);
  }
  return held;
}
