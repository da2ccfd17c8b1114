/**
 * A drawing part of the way between two others of the same make: built mouths parameter by parameter, drawn ones line by
 * line, where their lines match in kind, number and order.
 */
import { isRefusal, type Refusal } from '../document/refusal.js';
import type { DrawnArt, FillMark, LineMark, Look, Mark, Placement } from './art.js';
import type { MouthStyle } from './mouthFigure.js';
import { blendShapes } from './mouthShape.js';

const between = (a: number, b: number, share: number): number => a + (b - a) * share;

const hex = (value: number): string => Math.round(value).toString(16).padStart(2, '0');

/** A colour between two, `#rrggbb`, part by part. */
function mixColours(a: string, b: string, share: number): string {
  if (a === b) return a;
  const part = (colour: string, at: number): number => parseInt(colour.slice(at, at + 2), 16);
  return `#${[1, 3, 5].map((at) => hex(between(part(a, at), part(b, at), share))).join('')}`;
}

/** Points `stride` numbers each, as many as asked for, evenly along their line; the first and the last stay. */
function resampled(points: readonly number[], stride: number, count: number): number[] {
  const had = points.length / stride;
  if (had === count) return [...points];
  const along = [0];
  for (let at = 1; at < had; at++) {
    const [i, j] = [(at - 1) * stride, at * stride];
    along.push(along[at - 1]! + Math.hypot(points[j]! - points[i]!, points[j + 1]! - points[i + 1]!));
  }
  const length = along.at(-1)!;
  const made: number[] = [];
  let at = 0;
  for (let index = 0; index < count; index++) {
    const target = count === 1 ? 0 : (length * index) / (count - 1);
    while (at < had - 2 && along[at + 1]! < target) at += 1;
    const gap = had > 1 ? along[at + 1]! - along[at]! : 0;
    const share = gap > 0 ? Math.min(1, (target - along[at]!) / gap) : 0;
    const next = Math.min(had - 1, at + 1);
    for (let part = 0; part < stride; part++) made.push(between(points[at * stride + part]!, points[next * stride + part]!, share));
  }
  return made;
}

/** How far points lie from others, squared and summed, of x and y alone. */
function apart(a: readonly number[], b: readonly number[], stride: number): number {
  let sum = 0;
  for (let at = 0; at < a.length; at += stride) sum += (a[at]! - b[at]!) ** 2 + (a[at + 1]! - b[at + 1]!) ** 2;
  return sum;
}

/** Points the other way round. */
function backwards(points: readonly number[], stride: number): number[] {
  const turned: number[] = [];
  for (let at = points.length - stride; at >= 0; at -= stride) turned.push(...points.slice(at, at + stride));
  return turned;
}

const nearest = (a: readonly number[], ways: readonly (readonly number[])[], stride: number): readonly number[] =>
  ways.reduce((best, way) => (apart(a, way, stride) < apart(a, best, stride) ? way : best));

const mixNumbers = (a: readonly number[], b: readonly number[], share: number): number[] =>
  a.map((value, at) => between(value, b[at]!, share));

function mixLines(a: LineMark, b: LineMark, share: number): LineMark {
  const count = Math.max(a.points.length, b.points.length) / 3;
  const [one, other] = [resampled(a.points, 3, count), resampled(b.points, 3, count)];
  // A line may have been drawn from its other end.
  const points = mixNumbers(one, nearest(one, [other, backwards(other, 3)], 3), share);
  return { ...a, points, size: between(a.size, b.size, share), colour: mixColours(a.colour, b.colour, share) };
}

/** A closed ring with as many corners as asked for, evenly along it from its first. */
const ringOf = (ring: readonly number[], count: number): number[] =>
  ring.length / 2 === count ? [...ring] : resampled([...ring, ring[0]!, ring[1]!], 2, count + 1).slice(0, count * 2);

/** Most beginnings of a ring that are tried. */
const TURNS = 240;

/** A ring begun at its corners, at many of them where it has very many, either way round. */
function* turnsOf(ring: readonly number[]): Generator<number[]> {
  const step = 2 * Math.ceil(ring.length / 2 / TURNS);
  for (const way of [ring, backwards(ring, 2)]) for (let at = 0; at < way.length; at += step) yield [...way.slice(at), ...way.slice(0, at)];
}

function mixRings(a: readonly number[], b: readonly number[], share: number): number[] {
  const count = Math.max(a.length, b.length) / 2;
  const one = ringOf(a, count);
  let [best, least] = [ringOf(b, count), Infinity];
  for (const turned of turnsOf(best)) {
    const far = apart(one, turned, 2);
    if (far < least) [best, least] = [turned, far];
  }
  return mixNumbers(one, best, share);
}

function mixFills(a: FillMark, b: FillMark, share: number): FillMark {
  return { ...a, rings: a.rings.map((ring, at) => mixRings(ring, b.rings[at]!, share)), colour: mixColours(a.colour, b.colour, share) };
}

/** A mark in the units of its chart. */
function placed(mark: Mark, { x, y, scale }: Placement): Mark {
  const move = (numbers: readonly number[], stride: number): number[] =>
    numbers.map((value, at) => (at % stride === 0 ? value * scale + x : at % stride === 1 ? value * scale + y : value));
  return mark.kind === 'line'
    ? { ...mark, points: move(mark.points, 3), size: mark.size * scale }
    : { ...mark, rings: mark.rings.map((ring) => move(ring, 2)) };
}

const matches = (a: Mark, b: Mark): boolean =>
  a.kind === 'line' ? b.kind === 'line' : b.kind === 'fill' && a.rings.length === b.rings.length;

function mixDrawn(a: Look & { art: DrawnArt }, b: Look & { art: DrawnArt }, share: number): Look | Refusal {
  const [ours, theirs] = [a.art.marks, b.art.marks];
  if (ours.length !== theirs.length || !ours.every((mark, at) => matches(mark, theirs[at]!)))
    return {
      refusal: `One is drawn with ${ours.length} lines and areas, the other with ${theirs.length}, or in another order. Draw them with the same, in the same order, to have an in-between.`,
    };
  const marks = ours.map((mark, at): Mark => {
    const [one, other] = [placed(mark, a.placement), placed(theirs[at]!, b.placement)];
    return one.kind === 'line' ? mixLines(one, other as LineMark, share) : mixFills(one, other as FillMark, share);
  });
  return { art: { kind: 'drawn', marks }, placement: { x: 0, y: 0, scale: 1 } };
}

/** A finish of its own, where either has one: numbers and colours of both mixed, the rest of the nearer. */
function mixStyles(a: Partial<MouthStyle> | undefined, b: Partial<MouthStyle> | undefined, share: number): Partial<MouthStyle> | undefined {
  const near = share < 0.5 ? a : b;
  if (!a || !b) return near;
  const mixed = Object.entries(near!).map(([key, value]) => {
    const [one, other] = [a[key as keyof MouthStyle], b[key as keyof MouthStyle]] as readonly (string | number | undefined)[];
    if (typeof one === 'number' && typeof other === 'number') return [key, between(one, other, share)];
    return typeof one === 'string' && typeof other === 'string' ? [key, mixColours(one, other, share)] : [key, value];
  });
  return Object.fromEntries(mixed) as Partial<MouthStyle>;
}

/**
 * What is seen a share of the way from one look to another: `mixOfLooks(a, b, 0)` is `a`, `mixOfLooks(a, b, 1)` is `b`.
 *
 * @param share 0 to 1
 * @returns a refusal in words where the two are of another make
 */
export function mixOfLooks(a: Look, b: Look, share: number): Look | Refusal {
  if (share <= 0) return a;
  if (share >= 1) return b;
  const [one, other] = [a.art, b.art];
  if (one.kind === 'placed' || other.kind === 'placed')
    return { refusal: 'A picture has no lines to be mixed: in-betweens are made of built mouths, or of drawn ones.' };
  if (one.kind === 'drawn' && other.kind === 'drawn') return mixDrawn({ ...a, art: one }, { ...b, art: other }, share);
  if (one.kind !== 'built' || other.kind !== 'built')
    return { refusal: 'One is built and the other is drawn: in-betweens are made of two of the same make.' };
  const style = mixStyles(one.style, other.style, share);
  const placement: Placement = {
    x: between(a.placement.x, b.placement.x, share),
    y: between(a.placement.y, b.placement.y, share),
    scale: between(a.placement.scale, b.placement.scale, share),
  };
  return { art: { kind: 'built', shape: blendShapes(one.shape, other.shape, share), ...(style && { style }) }, placement };
}

/** Whether two looks can be mixed. */
export const canMix = (a: Look, b: Look): boolean => !isRefusal(mixOfLooks(a, b, 0.5));
