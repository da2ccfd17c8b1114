/** The eraser: lines part where it went, fills lose what it covered. */
import polygonClipping, { type MultiPolygon, type Ring } from 'polygon-clipping';
import type { FillMark, LineMark, Mark } from './art.js';
import { outlineOfLine } from './penLine.js';

const pairs = (ring: readonly number[]): Ring =>
  Array.from({ length: ring.length / 2 }, (_, index) => [ring[index * 2]!, ring[index * 2 + 1]!]);

/** How near a point comes to a path of x, y pairs. */
function distanceToPath(x: number, y: number, path: readonly number[]): number {
  let nearest = Infinity;
  for (let at = 0; at < path.length; at += 2) {
    const [ax, ay] = [path[at]!, path[at + 1]!];
    const [bx, by] = at + 2 < path.length ? [path[at + 2]!, path[at + 3]!] : [ax, ay];
    const length = (bx - ax) ** 2 + (by - ay) ** 2;
    const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length));
    nearest = Math.min(nearest, Math.hypot(x - ax - along * (bx - ax), y - ay - along * (by - ay)));
  }
  return nearest;
}

/** A line with points no further apart than `step`, so that it parts where the eraser went and not at its next point. */
function densified(points: readonly number[], step: number): number[] {
  const dense: number[] = points.slice(0, 3);
  for (let at = 3; at < points.length; at += 3) {
    const [ax, ay, ap] = [points[at - 3]!, points[at - 2]!, points[at - 1]!];
    const [bx, by, bp] = [points[at]!, points[at + 1]!, points[at + 2]!];
    const pieces = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / step));
    for (let piece = 1; piece <= pieces; piece++) {
      const t = piece / pieces;
      dense.push(ax + (bx - ax) * t, ay + (by - ay) * t, ap + (bp - ap) * t);
    }
  }
  return dense;
}

function erasedLine(line: LineMark, path: readonly number[], radius: number, newId: () => string): Mark[] {
  const reach = radius + line.size / 2;
  const nearest = (points: readonly number[]): boolean => {
    for (let at = 0; at < points.length; at += 3) if (distanceToPath(points[at]!, points[at + 1]!, path) < reach) return true;
    return false;
  };
  const dense = densified(line.points, radius / 2);
  if (!nearest(dense)) return [line];
  const runs: number[][] = [[]];
  for (let at = 0; at < dense.length; at += 3) {
    if (distanceToPath(dense[at]!, dense[at + 1]!, path) < radius) {
      if (runs.at(-1)!.length > 0) runs.push([]);
    } else runs.at(-1)!.push(dense[at]!, dense[at + 1]!, dense[at + 2]!);
  }
  const whole = runs.filter((run) => run.length >= 6);
  if (whole.length === 1 && whole[0]!.length === dense.length) return [line];
  return whole.map((points) => ({ ...line, id: newId(), points }));
}

function erasedFill(fill: FillMark, eraser: MultiPolygon): Mark[] {
  // The even-odd rule as a set operation, so that holes stay holes.
  const area = polygonClipping.xor([pairs(fill.rings[0]!)], ...fill.rings.slice(1).map((ring) => [pairs(ring)]));
  const left = polygonClipping.difference(area, eraser);
  const rings = left.flat().map((ring) => ring.slice(0, -1).flat());
  const same = rings.length === fill.rings.length && rings.flat().length === fill.rings.flat().length;
  if (same) return [fill];
  const whole = rings.filter((ring) => ring.length >= 6);
  return whole.length > 0 ? [{ ...fill, rings: whole }] : [];
}

/**
 * Marks after the eraser went along a path.
 *
 * @param path x and y one after the other
 * @param radius half the eraser's width
 */
export function eraseMarks(marks: readonly Mark[], path: readonly number[], radius: number, newId: () => string): Mark[] {
  const points = Array.from({ length: path.length / 2 }, (_, index) => [path[index * 2]!, path[index * 2 + 1]!, 1]).flat();
  const outline = outlineOfLine({ points: points.length > 3 ? points : [...points, path[0]! + 0.01, path[1]!, 1], size: radius * 1.6 });
  const eraser = polygonClipping.union([pairs(outline)]);
  return marks.flatMap((mark) => (mark.kind === 'line' ? erasedLine(mark, path, radius, newId) : erasedFill(mark, eraser)));
}

/** Marks moved by dx, dy. */
export function movedMark(mark: Mark, dx: number, dy: number): Mark {
  if (mark.kind === 'line')
    return { ...mark, points: mark.points.map((value, index) => (index % 3 === 0 ? value + dx : index % 3 === 1 ? value + dy : value)) };
  return { ...mark, rings: mark.rings.map((ring) => ring.map((value, index) => (index % 2 === 0 ? value + dx : value + dy))) };
}

/** The topmost mark at a point, a line taken to be `near` wider on each side; undefined when there is none. */
export function maybeMarkAt(marks: readonly Mark[], x: number, y: number, near: number): Mark | undefined {
  return [...marks].reverse().find((mark) => {
    if (mark.kind === 'line') {
      const path = mark.points.filter((_, index) => index % 3 < 2);
      return distanceToPath(x, y, path) <= mark.size / 2 + near;
    }
    return mark.rings.reduce((inside, ring) => inside !== isInsideRing(ring, x, y), false);
  });
}

function isInsideRing(ring: readonly number[], x: number, y: number): boolean {
  let inside = false;
  for (let at = 0, before = ring.length - 2; at < ring.length; before = at, at += 2) {
    const [ax, ay, bx, by] = [ring[at]!, ring[at + 1]!, ring[before]!, ring[before + 1]!];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}
