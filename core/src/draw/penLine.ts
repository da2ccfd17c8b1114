/** The outline of a pen line: thick where the pen was pressed, thin where it was not. */
import { getStroke } from 'perfect-freehand';
import type { LineMark, Mark } from './art.js';

/** How far the width gives way to the pressure, 0 to 1. */
const THINNING = 0.6;

/** @returns the closed outline, x and y one after the other */
export function outlineOfLine({ points, size }: Pick<LineMark, 'points' | 'size'>): number[] {
  const input: [number, number, number][] = [];
  for (let at = 0; at < points.length; at += 3) input.push([points[at]!, points[at + 1]!, points[at + 2]!]);
  return getStroke(input, { size, thinning: THINNING, smoothing: 0.5, streamline: 0.25, simulatePressure: false, last: true }).flat();
}

const number = (value: number): string => String(Math.round(value * 100) / 100);

/** A closed ring as path data, its corners rounded off into curves when `smooth`. */
export function pathOfRing(ring: readonly number[], smooth: boolean): string {
  const count = ring.length / 2;
  const x = (index: number): number => ring[(index % count) * 2]!;
  const y = (index: number): number => ring[(index % count) * 2 + 1]!;
  if (!smooth || count < 4) {
    return `M${Array.from({ length: count }, (_, index) => `${number(x(index))} ${number(y(index))}`).join('L')}Z`;
  }
  const middle = (index: number): string => `${number((x(index) + x(index + 1)) / 2)} ${number((y(index) + y(index + 1)) / 2)}`;
  let path = `M${middle(0)}`;
  for (let index = 1; index <= count; index++) path += `Q${number(x(index))} ${number(y(index))} ${middle(index)}`;
  return `${path}Z`;
}

const outlines = new WeakMap<Mark, readonly (readonly number[])[]>();

/** The rings that a mark fills; kept, because a mark never changes. */
export function ringsOfMark(mark: Mark): readonly (readonly number[])[] {
  let rings = outlines.get(mark);
  if (!rings) outlines.set(mark, (rings = mark.kind === 'line' ? [outlineOfLine(mark)] : mark.rings));
  return rings;
}

/** A mark as path data, to be filled by the even-odd rule when it is a fill. */
export function pathOfMark(mark: Mark): string {
  return ringsOfMark(mark)
    .filter((ring) => ring.length >= 6)
    .map((ring) => pathOfRing(ring, mark.kind === 'line'))
    .join('');
}
