/**
 * Registration of a whole chart: the upper lip hardly moves, the jaw does. Three ways to
 * line drawings up, each answered as new placements, so that the difference can be shown
 * before it is accepted.
 */
import { boxOfLook } from '../draw/artFigure.js';
import type { Point } from '../draw/mouthGeometry.js';
import type { Look, Placement } from '../draw/art.js';
import { restDrawing, type ChartDocument, type Drawing } from './chart.js';

/** By the top edge and middle of what is drawn; by the crosses; as they were on the page they were cut from. */
export type LineUpWay = 'top' | 'cross' | 'page';

export interface LinedUp {
  readonly drawing: Drawing;
  readonly before: Placement;
  readonly after: Placement;
  /** How far the drawing moves, in the chart's units. */
  readonly moved: Point;
}

export interface LineUp {
  readonly changes: readonly LinedUp[];
  /** Drawings that cannot be lined up this way: no cross, no page. */
  readonly left: readonly Drawing[];
}

/** Moves smaller than this, in units, are none. */
const STILL = 0.005;

/** The middle of the upper lip in the art's own units: where it was marked, or the origin of a mouth made here. */
export function maybeCross(look: Look): Point | undefined {
  return look.cross ?? (look.art.kind === 'placed' ? undefined : { x: 0, y: 0 });
}

/** Top edge and middle, on the chart. */
function topMiddle(look: Look): Point {
  const { x, y, width } = boxOfLook(look);
  return { x: x + width / 2, y };
}

/** The placement in which each drawing of a page lies as it did there, the anchor staying where it is. */
function asOnPage(drawing: Drawing, anchor: Drawing): Placement | undefined {
  if (drawing.art.kind !== 'placed' || anchor.art.kind !== 'placed' || !drawing.art.page || !anchor.art.page) return undefined;
  const { scale, x, y } = anchor.placement;
  return {
    scale,
    x: x + (drawing.art.page.x - anchor.art.page.x) * scale,
    y: y + (drawing.art.page.y - anchor.art.page.y) * scale,
  };
}

/**
 * @param anchorId the drawing that stays; the rest drawing when not given
 */
export function lineUp(chart: ChartDocument, way: LineUpWay, anchorId?: string): LineUp {
  const anchor = chart.drawings.find((drawing) => drawing.id === anchorId) ?? restDrawing(chart);
  const anchorTop = topMiddle(anchor);
  const placed = (drawing: Drawing): Placement | undefined => {
    const { placement } = drawing;
    if (way === 'page') return asOnPage(drawing, anchor);
    if (way === 'cross') {
      const cross = maybeCross(drawing);
      return cross && { ...placement, x: -cross.x * placement.scale, y: -cross.y * placement.scale };
    }
    const top = topMiddle(drawing);
    return { ...placement, x: placement.x + anchorTop.x - top.x, y: placement.y + anchorTop.y - top.y };
  };
  const changes: LinedUp[] = [];
  const left: Drawing[] = [];
  for (const drawing of chart.drawings) {
    const after = placed(drawing);
    if (!after) {
      left.push(drawing);
      continue;
    }
    const [was, is] = [topMiddle(drawing), topMiddle({ ...drawing, placement: after })];
    const moved = { x: is.x - was.x, y: is.y - was.y };
    const rescaled = Math.abs(after.scale / drawing.placement.scale - 1) > 1e-6;
    if (Math.abs(moved.x) >= STILL || Math.abs(moved.y) >= STILL || rescaled)
      changes.push({ drawing, before: drawing.placement, after, moved });
  }
  return { changes, left };
}
