/** Filling the area between pen lines at a point, as one pours colour: flood on a grid, then trace the edge. */
import { contours } from 'd3-contour';
import type { Box, FillMark, Mark } from '../draw/art.js';
import { gridSize, maskOfMark, type Grid } from './paintMarks.js';
import { flooded } from './ground.js';
import { emptyMask } from './raster.js';
import type { Point } from '../draw/mouthGeometry.js';

/** Pixels a unit of the grid that is flooded. */
const PER_UNIT = 4;
/** The colour goes this far under the lines around it, in units, so that no gap shows. */
const UNDER_LINES = 0.6;
/** Points of the traced edge closer to the line between their neighbours than this are left out, in units. */
const TOLERANCE = 0.14;

/** Fewer points for nearly the same ring (Ramer 1972, Douglas and Peucker 1973). Rings are closed. */
export function simplifiedRing(ring: readonly number[], tolerance: number): number[] {
  const count = ring.length / 2;
  if (count <= 4) return [...ring];
  const keep = new Uint8Array(count);
  const half = count >> 1;
  keep[0] = keep[half] = 1;
  const pending: [number, number][] = [
    [0, half],
    [half, count],
  ];
  while (pending.length > 0) {
    const [from, to] = pending.pop()!;
    const [ax, ay] = [ring[from * 2]!, ring[from * 2 + 1]!];
    const [bx, by] = [ring[(to % count) * 2]!, ring[(to % count) * 2 + 1]!];
    const length = Math.hypot(bx - ax, by - ay) || 1;
    let [furthest, at] = [tolerance, -1];
    for (let index = from + 1; index < to; index++) {
      const away = Math.abs((bx - ax) * (ay - ring[index * 2 + 1]!) - (ax - ring[index * 2]!) * (by - ay)) / length;
      if (away > furthest) [furthest, at] = [away, index];
    }
    if (at < 0) continue;
    keep[at] = 1;
    pending.push([from, at], [at, to]);
  }
  return ring.filter((_, index) => keep[index >> 1]);
}

/**
 * The area around a point that no line crosses, as a fill.
 *
 * @param box what may be filled; an area that reaches its edge is open
 * @returns undefined when the point lies on a line, or the area is open to the edge
 */
export function maybeFillAt(marks: readonly Mark[], point: Point, box: Box, colour: string, id: string): FillMark | undefined {
  const grid: Grid = { box, perUnit: PER_UNIT };
  const { width, height } = gridSize(grid);
  const free = emptyMask(width, height);
  free.bits.fill(1);
  for (const mark of marks)
    if (mark.kind === 'line')
      maskOfMark(mark, grid).bits.forEach((bit, at) => {
        if (bit) free.bits[at] = 0;
      });
  const [column, row] = [Math.floor((point.x - box.x) * PER_UNIT), Math.floor((point.y - box.y) * PER_UNIT)];
  const start = row * width + column;
  if (column < 0 || row < 0 || column >= width || row >= height || !free.bits[start]) return undefined;
  const area = flooded(free, [start]);
  const isEdge = (at: number): boolean => at < width || at >= width * (height - 1) || at % width === 0 || at % width === width - 1;
  const spread = Math.round(UNDER_LINES * PER_UNIT);
  const values = new Array<number>(width * height).fill(0);
  for (let at = 0; at < area.bits.length; at++) {
    if (!area.bits[at]) continue;
    if (isEdge(at)) return undefined;
    const [x, y] = [at % width, Math.floor(at / width)];
    for (let nearY = Math.max(0, y - spread); nearY <= Math.min(height - 1, y + spread); nearY++)
      for (let nearX = Math.max(0, x - spread); nearX <= Math.min(width - 1, x + spread); nearX++) values[nearY * width + nearX] = 1;
  }
  const [shape] = contours().size([width, height]).thresholds([0.5])(values);
  const rings = (shape?.coordinates ?? []).flat().map((ring) => {
    const open = ring.slice(0, -1).flatMap(([x, y]) => [x! / PER_UNIT + box.x, y! / PER_UNIT + box.y]);
    return simplifiedRing(open, TOLERANCE).map((value) => Math.round(value * 100) / 100);
  });
  const whole = rings.filter((ring) => ring.length >= 6);
  return whole.length > 0 ? { id, kind: 'fill', rings: whole, colour } : undefined;
}
