/**
 * The points of a built mouth. Two closed outlines of eight points each, the opening and
 * the lips around it, always in the same order: left corner, upper left, top middle,
 * upper right, right corner, lower right, bottom middle, lower left. Everything drawn
 * hangs on them.
 */
import type { MouthShape } from './mouthShape.js';

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** An anchor with the handles of the curve before and after it. */
export interface Node extends Point {
  readonly before: Point;
  readonly after: Point;
}

export type Outline = readonly [Node, Node, Node, Node, Node, Node, Node, Node];

export interface MouthGeometry {
  readonly opening: Outline;
  readonly lips: Outline;
  /** Half width of the opening. */
  readonly halfWidth: number;
  /** y of the opening's top and bottom at the middle. */
  readonly top: number;
  readonly bottom: number;
  readonly cornerY: number;
}

/** Handle length that makes a quarter of a circle out of one cubic curve, in radii. */
const CIRCLE = 0.5523;

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

interface Frame {
  readonly halfWidth: number;
  readonly cornerY: number;
  readonly top: number;
  readonly bottom: number;
  /** How full the curve is at the corners: 0 an almond, 1 an ellipse. */
  readonly fullness: number;
  /** How far the top middle dips below its neighbours (the bow of the upper lip). */
  readonly bow: number;
  readonly lean: number;
}

/** The middle of a cubic curve, with the handles that keep both halves on it (de Casteljau). */
function halved(a: Point, b: Point, c: Point, d: Point): { afterA: Point; middle: Node; beforeD: Point } {
  const between = (p: Point, q: Point): Point => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
  const [ab, bc, cd] = [between(a, b), between(b, c), between(c, d)] as const;
  const [before, after] = [between(ab, bc), between(bc, cd)] as const;
  return { afterA: ab, middle: { ...between(before, after), before, after }, beforeD: cd };
}

/** The eight nodes of a closed outline through its corners, top and bottom. */
function outline({ halfWidth: w, cornerY, top, bottom, fullness, bow, lean }: Frame): Outline {
  const corners = { left: { x: -w, y: cornerY }, right: { x: w, y: cornerY } };
  const inset = w * mix(0.08, 0, fullness);
  const middleX = lean * w * 0.16;
  const quarter = (corner: Point, end: Point, flat: number): ReturnType<typeof halved> =>
    halved(
      corner,
      { x: corner.x - Math.sign(corner.x) * inset, y: mix(corner.y, end.y, mix(0.42, CIRCLE, fullness)) },
      { x: end.x + Math.sign(corner.x) * w * flat, y: end.y },
      end,
    );
  const topMiddle = { x: middleX, y: top + bow };
  const bottomMiddle = { x: middleX, y: bottom };
  const upperFlat = mix(0.46, CIRCLE, fullness);
  const lowerFlat = mix(0.5, CIRCLE + 0.03, fullness);
  const [upperLeft, upperRight] = [quarter(corners.left, topMiddle, upperFlat), quarter(corners.right, topMiddle, upperFlat)];
  const [lowerLeft, lowerRight] = [quarter(corners.left, bottomMiddle, lowerFlat), quarter(corners.right, bottomMiddle, lowerFlat)];
  const turned = (node: Node): Node => ({ ...node, before: node.after, after: node.before });
  return [
    { ...corners.left, before: lowerLeft.afterA, after: upperLeft.afterA },
    upperLeft.middle,
    { ...topMiddle, before: upperLeft.beforeD, after: upperRight.beforeD },
    turned(upperRight.middle),
    { ...corners.right, before: upperRight.afterA, after: lowerRight.afterA },
    lowerRight.middle,
    { ...bottomMiddle, before: lowerRight.beforeD, after: lowerLeft.beforeD },
    turned(lowerLeft.middle),
  ];
}

/** The geometry of a mouth; see the file's header for the order of the points. */
export function mouthGeometry(shape: MouthShape): MouthGeometry {
  const { jaw, width, round, upperLip, lowerLip, press, bite, smile, skew } = shape;
  const lips = (upperLip + lowerLip) / 2;
  const halfWidth = mix(13, 45, width) * (1 - press * 0.06);
  const open = Math.max(jaw, 0);
  const top = -mix(0.4, mix(4.5, 9, round), Math.min(1, open * 4)) * (1 - press);
  const bottom = mix(0.6, 54, open) * (1 - press * 0.98);
  const closed = 1 - Math.min(1, open * 3);
  const cornerY = mix(bottom * 0.16, 0, closed) - smile * mix(5, 6.5, closed) * (1 - round * 0.8) + press * 1.2;
  const restSag = closed * (1 - press) * Math.max(0, smile) * 4.5;
  const frame = {
    halfWidth,
    cornerY,
    top: top + restSag,
    bottom: bottom + restSag,
    fullness: mix(0.2 + 0.5 * open, 1, round),
    bow: mix(0.9, 0, round) * Math.min(1, open * 5),
    lean: skew,
  };
  const upper = upperLip * mix(5.5, 6.5, round) + press * 4.2;
  const lower = lowerLip * mix(6.5, 8, round) + press * 4.5 + bite * 1.5;
  const out = lips * mix(2, 6, round);
  return {
    opening: outline(frame),
    lips: outline({
      ...frame,
      halfWidth: halfWidth + out,
      top: frame.top - upper,
      bottom: frame.bottom + lower,
      fullness: Math.min(1, frame.fullness + 0.12),
      bow: frame.bow + upperLip * 1.6 + press * 3,
    }),
    halfWidth,
    top: frame.top,
    bottom: frame.bottom,
    cornerY,
  };
}

const number = (value: number): string => String(Math.round(value * 100) / 100);
const at = (point: Point): string => `${number(point.x)} ${number(point.y)}`;

/** Some nodes joined by curves, as SVG path data; closed when `close`. */
export function pathOfNodes(nodes: readonly Node[], close: boolean): string {
  const [first, ...others] = nodes as [Node, ...Node[]];
  let path = `M${at(first)}`;
  let previous = first;
  for (const node of close ? [...others, first] : others) {
    path += `C${at(previous.after)} ${at(node.before)} ${at(node)}`;
    previous = node;
  }
  return close ? `${path}Z` : path;
}

/** The same curve run the other way. */
export function reversedNodes(nodes: readonly Node[]): Node[] {
  return [...nodes].reverse().map((node) => ({ ...node, before: node.after, after: node.before }));
}

/** Nodes moved by dx, dy, handles and all. */
export function movedNode(node: Node, dx: number, dy: number): Node {
  const move = (point: Point): Point => ({ x: point.x + dx, y: point.y + dy });
  return { ...move(node), before: move(node.before), after: move(node.after) };
}
