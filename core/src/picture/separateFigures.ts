/** Many mouths on one picture: the separate figures, or the cells of a grid, in reading order. */
import type { Box } from '../draw/art.js';
import { areasOf } from './areas.js';
import { figureOf } from './ground.js';
import { type Raster } from './raster.js';

/** Pieces closer than this share of the picture's shorter side belong to one figure: a tongue beside its mouth, the dot of a dimple. */
const NEAR = 0.018;
/** Figures with less than this share of the largest one's area are dust. */
const DUST = 0.02;
/** A piece of less than this share of the largest one, or of fewer pixels than this, is a grain. */
const GRAIN = 0.001;
const GRAIN_CELLS = 6;
/** Of a picture of dust, only the largest pieces are looked at. */
const MOST_PIECES = 1000;
/** Analysed at no more than this many pixels a side. */
const ANALYSED = 900;

export const GRID_LIMITS = { most: 40 } as const;

interface Piece {
  left: number;
  top: number;
  right: number;
  bottom: number;
  area: number;
}

/** Connected figures, eight ways, at `step` pixels a cell. */
function piecesOf(raster: Raster, step: number): Piece[] {
  const figure = figureOf(raster);
  const width = Math.ceil(raster.width / step);
  const height = Math.ceil(raster.height / step);
  const cells = new Uint8Array(width * height);
  for (let y = 0; y < raster.height; y++)
    for (let x = 0; x < raster.width; x++)
      if (figure.bits[y * raster.width + x]) cells[Math.floor(y / step) * width + Math.floor(x / step)]! += 1;
  return areasOf({ width, height, bits: cells.map((count) => (count > 0 ? 1 : 0)) }, 'corners').map(
    ({ pixels, left, top, right, bottom }) => ({
      left,
      top,
      right,
      bottom,
      area: pixels.reduce((sum, at) => sum + cells[at]!, 0),
    }),
  );
}

const gap = (aFrom: number, aTo: number, bFrom: number, bTo: number): number => Math.max(0, Math.max(aFrom, bFrom) - Math.min(aTo, bTo));

/** Joins pieces that lie closer than `near`, until none does. */
function joined(pieces: readonly Piece[], near: number): Piece[] {
  const result = pieces.map((piece) => ({ ...piece }));
  for (let again = true; again;) {
    again = false;
    for (let a = 0; a < result.length; a++)
      for (let b = result.length - 1; b > a; b--) {
        const [one, two] = [result[a]!, result[b]!];
        if (Math.max(gap(one.left, one.right, two.left, two.right), gap(one.top, one.bottom, two.top, two.bottom)) > near) continue;
        one.left = Math.min(one.left, two.left);
        one.top = Math.min(one.top, two.top);
        one.right = Math.max(one.right, two.right);
        one.bottom = Math.max(one.bottom, two.bottom);
        one.area += two.area;
        result.splice(b, 1);
        again = true;
      }
  }
  return result;
}

/**
 * Boxes as one reads them: by rows, each from left to right. A row is as deep as what
 * begins beside the upper half of its topmost box, and takes in all whose middle lies in it.
 */
export function inReadingOrder<B extends Box>(boxes: readonly B[]): B[] {
  const waiting = [...boxes].sort((a, b) => a.y - b.y);
  const ordered: B[] = [];
  while (waiting.length > 0) {
    const [first] = waiting as [B];
    const beside = waiting.filter((box) => box.y < first.y + first.height / 2);
    const bottom = Math.max(...beside.map((box) => box.y + box.height));
    const row = waiting.filter((box) => box.y + box.height / 2 < bottom);
    ordered.push(...row.sort((a, b) => a.x - b.x));
    for (const box of row) waiting.splice(waiting.indexOf(box), 1);
  }
  return ordered;
}

/**
 * The boxes of the separate figures of a picture, in its pixels, in reading order. A picture
 * of one mouth gives one box; an empty one gives none.
 */
export function separateFigures(raster: Raster): Box[] {
  const step = Math.max(1, Math.ceil(Math.max(raster.width, raster.height) / ANALYSED));
  const near = (Math.min(raster.width, raster.height) / step) * NEAR;
  const found = piecesOf(raster, step).sort((a, b) => b.area - a.area);
  // Grains of noise must not make a bridge from one figure to the next.
  const grain = Math.max(GRAIN_CELLS, (found[0]?.area ?? 0) * GRAIN);
  const pieces = joined(found.filter((piece) => piece.area >= grain).slice(0, MOST_PIECES), near);
  const largest = Math.max(0, ...pieces.map((piece) => piece.area));
  const boxes = pieces
    .filter((piece) => piece.area >= largest * DUST)
    .map(({ left, top, right, bottom }) => ({
      x: left * step,
      y: top * step,
      width: Math.min(raster.width, (right + 1) * step) - left * step,
      height: Math.min(raster.height, (bottom + 1) * step) - top * step,
    }));
  return inReadingOrder(boxes);
}

/** The cells of a grid over a picture, in reading order, the rests spread over the cells. */
export function gridCells(width: number, height: number, columns: number, rows: number): Box[] {
  return Array.from({ length: columns * rows }, (_, index) => {
    const [column, row] = [index % columns, Math.floor(index / columns)];
    const [x, y] = [Math.round((column * width) / columns), Math.round((row * height) / rows)];
    return { x, y, width: Math.round(((column + 1) * width) / columns) - x, height: Math.round(((row + 1) * height) / rows) - y };
  });
}
