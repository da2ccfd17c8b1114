/**
 * The exposure sheet's layout, without a browser: a row a frame, columns for what is counted,
 * heard, said and shown. Blocks of rows are painted together; hit testing is its inverse.
 */
import { timeScale } from '@zest-jaw/core';
import { OTHER_LANE, type Hit, type RowName, type SystemPlan } from '../barSheet/plan.js';

export type ColumnName = 'frame' | 'wave' | 'words' | 'sounds' | 'mouth' | 'others';

export interface Column {
  readonly name: ColumnName;
  /** Which of the others it is, counted from 0. */
  readonly index: number;
  readonly title: string;
  /** Pixels from the sheet's left. */
  readonly x: number;
  readonly width: number;
}

export interface UprightPlan {
  readonly columns: readonly Column[];
  readonly width: number;
  readonly rowHeight: number;
  readonly height: number;
  readonly lengthFrames: number;
  /** Frames painted together, as systems of their own. */
  readonly blocks: readonly SystemPlan[];
}

/** Frames in a block. */
export const BLOCK_FRAMES = 48;
/** So many rows are in sight at least, where the page is not very low. */
const ROWS_IN_SIGHT = 29;
const ROW = { least: 16, most: 26 } as const;

const WIDTHS = { frame: 78, sounds: 52 } as const;
const WAVE = { least: 60, most: 150 } as const;
const WORDS = { least: 70, most: 170 } as const;
const LANE = { least: 96, most: 330 } as const;
const GAP = 6;

/**
 * @param width of the sheet, in pixels
 * @param room height in sight, in pixels
 * @param others names of the others who speak
 */
export function planUpright(
  lengthFrames: number,
  {
    width,
    room,
    name,
    others,
  }: { readonly width: number; readonly room: number; readonly name: string; readonly others: readonly string[] },
): UprightPlan {
  const rowHeight = Math.min(ROW.most, Math.max(ROW.least, Math.floor(room / ROWS_IN_SIGHT)));
  const lanes = 1 + others.length;
  const left = Math.max(0, width - WIDTHS.frame - WIDTHS.sounds - GAP * (3 + lanes));
  // Of what is left the words and the wave have a share each, the lanes the rest.
  const share = (of: { readonly least: number; readonly most: number }, room: number): number =>
    Math.min(of.most, Math.max(of.least, Math.floor(room)));
  const words = share(WORDS, left / (lanes + 2));
  const wave = share(WAVE, left / (lanes + 3));
  const lane = share(LANE, (left - words - wave) / lanes);
  const wanted: readonly (readonly [ColumnName, number, string, number])[] = [
    ['frame', WIDTHS.frame, 'frame', 0],
    ['wave', wave, 'wave', 0],
    ['words', words, 'words', 0],
    ['sounds', WIDTHS.sounds, 'sounds', 0],
    ['mouth', lane, name, 0],
    ...others.map((other, index) => ['others', lane, other, index] as const),
  ];
  let x = 0;
  const columns = wanted.map(([column, own, title, index]): Column => {
    const made = { name: column, title, index, x, width: own };
    x += own + GAP;
    return made;
  });
  const blocks: SystemPlan[] = [];
  for (let from = 0; from < lengthFrames; from += BLOCK_FRAMES) {
    const to = Math.min(lengthFrames, from + BLOCK_FRAMES);
    blocks.push({
      index: blocks.length,
      from,
      to,
      wordsFrom: from,
      wordsTo: to,
      top: from * rowHeight,
      scale: timeScale(from, to, 0, rowHeight),
    });
  }
  return { columns, width: Math.max(width, x - GAP), rowHeight, height: lengthFrames * rowHeight, lengthFrames, blocks };
}

export const columnNamed = ({ columns }: UprightPlan, name: ColumnName): Column => columns.find((column) => column.name === name)!;

/** Columns that are lanes of the bar sheet too: a press on one means what it means there. */
const ROW_OF: Partial<Record<ColumnName, RowName>> = { words: 'words', sounds: 'sounds', mouth: 'mouth', others: 'others' };

/** What lies under a point of the sheet, as it would on the bar sheet. */
export function hitUpright({ columns, rowHeight, lengthFrames }: UprightPlan, x: number, y: number): Hit {
  const column = columns.find((one) => x >= one.x && x < one.x + one.width + GAP);
  const position = y / rowHeight;
  const index = column?.index ?? 0;
  return {
    frame: Math.min(lengthFrames - 1, Math.max(0, Math.floor(position))),
    position,
    row: column && ROW_OF[column.name],
    within: index * OTHER_LANE,
    rowHeight: OTHER_LANE,
    perFrame: rowHeight,
  };
}
