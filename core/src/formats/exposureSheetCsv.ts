/**
 * The exposure sheet as CSV (RFC 4180): one row a frame, the frame's number and timecode,
 * what is said, and for each mouth track the drawing's number and label and whether it is
 * decided. The number stands in the first frame of an exposure and a bar in the frames
 * that hold it, as on paper. Text that a spreadsheet would run as a formula is quoted.
 */
import Papa from 'papaparse';
import { writtenNumber } from '../chart/chart.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { formatTimecode } from '../time/timecode.js';
import { exposureSheetRows, type SheetRow, type SheetTrack } from '../sheet/exposureSheet.js';

/** Stands in a frame that holds the drawing above it. */
export const HOLD_BAR = '|';

/** The headings of the columns. */
export function exposureSheetHeadings(tracks: readonly SheetTrack[]): string[] {
  return ['frame', 'timecode', 'words', 'sounds', ...tracks.flatMap(({ name }) => [`${name} mouth`, `${name} drawing`, `${name} keyed`])];
}

/** A row as the texts of its columns. */
export function exposureSheetCells({ number, timecode, words, sounds, cells }: SheetRow): string[] {
  const texts = cells.flatMap((cell) => {
    if (!cell) return ['', '', ''];
    if (!cell.isStart) return [HOLD_BAR, HOLD_BAR, ''];
    return [writtenNumber(cell.drawing), cell.drawing.label, cell.inked ? 'ink' : 'pencil'];
  });
  return [String(number), timecode, words.join(' '), sounds.join(' '), ...texts];
}

export interface SheetCounting {
  /** The number of the first frame; the scene's when left out. */
  readonly firstNumber?: number;
  /** Timecode that leaves numbers out, where the rate has it; so when left out. */
  readonly drop?: boolean;
}

/** A row counted as it is asked for. */
export function countedRow(scene: SceneDocument, row: SheetRow, frame: number, { firstNumber, drop }: Required<SheetCounting>): SheetRow {
  return { ...row, number: firstNumber + frame, timecode: formatTimecode(sceneSettings(scene).frameRate, frame, drop) };
}

/** The sheet as one string, rows ended by CR LF. */
export function exposureSheetCsv(
  scene: SceneDocument,
  tracks: readonly SheetTrack[],
  { firstNumber = sceneSettings(scene).firstFrame, drop = true }: SheetCounting = {},
): string {
  const rows = exposureSheetRows(scene, tracks).map((row, frame) => countedRow(scene, row, frame, { firstNumber, drop }));
  const table = [exposureSheetHeadings(tracks), ...rows.map(exposureSheetCells)];
  return Papa.unparse(table, { escapeFormulae: true, newline: '\r\n' }) + '\r\n';
}
