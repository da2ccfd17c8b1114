/** Any drawing as a figure, and the box it fills. */
import type { Art, Box, DrawnArt, Look } from './art.js';
import type { Push } from './madeDrawings.js';
import { mouthFigure, type Figure, type MouthStyle } from './mouthFigure.js';
import { mouthGeometry, type Node } from './mouthGeometry.js';
import { pathOfMark, ringsOfMark } from './penLine.js';

/** The figure of a drawing's art in the style of its chart, in the art's own units. */
export function artFigure(art: Art, style: MouthStyle): Figure {
  if (art.kind === 'built') return mouthFigure(art.shape, art.style ? { ...style, ...art.style } : style);
  if (art.kind === 'placed') return [{ picture: art.picture, preview: art.preview, width: art.width, height: art.height }];
  return art.marks.map((mark) => ({ path: pathOfMark(mark), fill: mark.colour, evenOdd: mark.kind === 'fill' }));
}

/** The box around points; undefined without any. */
export function maybeBoxOfPoints(points: readonly number[]): Box | undefined {
  if (points.length < 2) return undefined;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let at = 0; at < points.length; at += 2) {
    left = Math.min(left, points[at]!);
    right = Math.max(right, points[at]!);
    top = Math.min(top, points[at + 1]!);
    bottom = Math.max(bottom, points[at + 1]!);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Points along a closed outline, eight a curve. */
function alongOutline(nodes: readonly Node[]): number[] {
  return nodes.flatMap((a, index) => {
    const d = nodes[(index + 1) % nodes.length]!;
    const [b, c] = [a.after, d.before];
    return Array.from({ length: 8 }, (_, step) => {
      const [t, u] = [step / 8, 1 - step / 8];
      const at = (p: number, q: number, r: number, s: number): number => u ** 3 * p + 3 * u * u * t * q + 3 * u * t * t * r + t ** 3 * s;
      return [at(a.x, b.x, c.x, d.x), at(a.y, b.y, c.y, d.y)];
    }).flat();
  });
}

const boxesOfDrawn = new WeakMap<DrawnArt, Box>();

/** The box that a drawing's ink fills, in the art's own units; a point at the cross when it is empty. */
export function boxOfArt(art: Art): Box {
  if (art.kind === 'placed') return art.ink;
  if (art.kind === 'built') {
    const { opening, lips } = mouthGeometry(art.shape);
    return maybeBoxOfPoints([...alongOutline(opening), ...alongOutline(lips)])!;
  }
  let box = boxesOfDrawn.get(art);
  if (!box)
    boxesOfDrawn.set(
      art,
      (box = maybeBoxOfPoints(art.marks.flatMap((mark) => ringsOfMark(mark).flat())) ?? { x: 0, y: 0, width: 0, height: 0 }),
    );
  return box;
}

/** The box that a drawing fills on the chart's square. */
export function boxOfLook({ art, placement: { x, y, scale }, push }: Look): Box {
  const box = boxOfArt(art);
  const placed = { x: box.x * scale + x, y: box.y * scale + y, width: box.width * scale, height: box.height * scale };
  return push ? pushedBox(placed, push) : placed;
}

/** The box around a box that is stretched about the cross, then turned. */
function pushedBox({ x, y, width, height }: Box, push: Push): Box {
  const turn = (push.angle * Math.PI) / 180;
  const corners = [x, x + width].flatMap((left) =>
    [y, y + height].flatMap((top) => {
      const [across, down] = [left * push.width, top * push.height];
      return [across * Math.cos(turn) - down * Math.sin(turn), across * Math.sin(turn) + down * Math.cos(turn)];
    }),
  );
  return maybeBoxOfPoints(corners)!;
}
