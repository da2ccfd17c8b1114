/** Pen marks as pixels, without a browser: for measuring a drawn mouth and for filling an area between lines. */
import type { Box, DrawnArt, Mark } from '../draw/art.js';
import { ringsOfMark } from '../draw/penLine.js';
import { emptyMask, type Mask, type Raster } from './raster.js';

/** Where the raster lies: its first pixel's corner at (box.x, box.y), `perUnit` pixels a unit. */
export interface Grid {
  readonly box: Box;
  readonly perUnit: number;
}

export function gridSize({ box, perUnit }: Grid): { width: number; height: number } {
  return { width: Math.max(1, Math.ceil(box.width * perUnit)), height: Math.max(1, Math.ceil(box.height * perUnit)) };
}

/** The pixels whose middles lie inside the rings: by the even-odd rule, or wherever the winding is not zero. */
export function maskOfRings(rings: readonly (readonly number[])[], grid: Grid, rule: 'even-odd' | 'winding'): Mask {
  const { box, perUnit } = grid;
  const { width, height } = gridSize(grid);
  const mask = emptyMask(width, height);
  const crossings: { x: number; turn: number }[][] = Array.from({ length: height }, () => []);
  for (const ring of rings) {
    const count = ring.length / 2;
    for (let index = 0; index < count; index++) {
      const next = (index + 1) % count;
      const [x1, y1] = [(ring[index * 2]! - box.x) * perUnit, (ring[index * 2 + 1]! - box.y) * perUnit];
      const [x2, y2] = [(ring[next * 2]! - box.x) * perUnit, (ring[next * 2 + 1]! - box.y) * perUnit];
      if (y1 === y2) continue;
      const [top, bottom] = y1 < y2 ? [y1, y2] : [y2, y1];
      for (let row = Math.max(0, Math.ceil(top - 0.5)); row < Math.min(height, Math.ceil(bottom - 0.5)); row++) {
        crossings[row]!.push({ x: x1 + ((row + 0.5 - y1) / (y2 - y1)) * (x2 - x1), turn: y1 < y2 ? 1 : -1 });
      }
    }
  }
  crossings.forEach((row, y) => {
    row.sort((a, b) => a.x - b.x);
    let winding = 0;
    for (let index = 0; index + 1 < row.length; index++) {
      winding += rule === 'winding' ? row[index]!.turn : 1;
      if (rule === 'winding' ? winding === 0 : winding % 2 === 0) continue;
      const from = Math.max(0, Math.ceil(row[index]!.x - 0.5));
      const to = Math.min(width, Math.ceil(row[index + 1]!.x - 0.5));
      if (to > from) mask.bits.fill(1, y * width + from, y * width + to);
    }
  });
  return mask;
}

export function maskOfMark(mark: Mark, grid: Grid): Mask {
  return maskOfRings(ringsOfMark(mark), grid, mark.kind === 'fill' ? 'even-odd' : 'winding');
}

/** A drawn mouth as a raster, back to front, without smoothing. */
export function rasterOfMarks({ marks }: DrawnArt, grid: Grid): Raster {
  const { width, height } = gridSize(grid);
  const pixels = new Uint8Array(width * height * 4);
  for (const mark of marks) {
    const colour = [1, 3, 5].map((at) => Number.parseInt(mark.colour.slice(at, at + 2), 16));
    maskOfMark(mark, grid).bits.forEach((bit, at) => {
      if (bit) pixels.set([colour[0]!, colour[1]!, colour[2]!, 255], at * 4);
    });
  }
  return { width, height, pixels };
}
