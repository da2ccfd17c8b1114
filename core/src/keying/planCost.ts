/**
 * What a plan costs. A plan shows some of the shapes of a stretch, each from a start frame
 * to the next one's start:
 *
 *   Σ timing(start − target) + Σ over shapes not shown of what is lost + change · number of changes
 *
 * What is lost of a shape that is not shown is its weight times how different the drawing
 * seen in its place looks, by the share of its time that the one before and the one after
 * it are seen; a shape that must be seen costs more than everything else together.
 */
import type { ChartLook } from './chartLook.js';
import type { Shape } from './shapes.js';

/** No shape: before the first of a stretch, after the last. */
export const NONE = -1;

export interface PlanJob {
  readonly shapes: readonly Shape[];
  /** The frames to fill, half-open. */
  readonly from: number;
  readonly to: number;
  /** What is lost of each shape when the drawing of another is seen. */
  readonly lost: LostTable;
  /** Least frames of each shape. Shape: as `shapes`. */
  readonly holds: Int32Array;
  /** 1 for shapes that may be held for less, down to a frame. Shape: as `shapes`. */
  readonly ones: Uint8Array;
  /** 1 for shapes that start on multiples of their hold only. Shape: as `shapes`. */
  readonly grid: Uint8Array;
  /** What a change costs, for each shape that it is a change to. */
  readonly changes: Float64Array;
  /** Frames at 24 a second that a frame lasts. */
  readonly frameScale: number;
  /** What the ink on either side shows. */
  readonly before?: string | undefined;
  readonly after?: string | undefined;
}

/** A late mouth is seen sooner than an early one (common practice, no source; the figures are ours). */
const EARLY = 0.05;
const LATE = 0.12;
/** More than all the rest of a stretch. */
export const MUST_COST = 1000;

/** What is lost between shapes, by their kinds: a kind is a group with a drawing. */
export interface LostTable {
  readonly kindOf: Int32Array;
  readonly kinds: number;
  readonly between: Float64Array;
  /** Of each shape, in frames. */
  readonly targets: Float64Array;
  readonly ends: Float64Array;
  readonly weights: Float64Array;
}

export function lostTable(shapes: readonly Shape[], look: ChartLook): LostTable {
  const kinds = new Map<string, number>();
  const first: Shape[] = [];
  const kindOf = Int32Array.from(shapes, (shape) => {
    const key = `${shape.group} ${shape.drawing}`;
    let kind = kinds.get(key);
    if (kind === undefined) {
      kinds.set(key, (kind = first.length));
      first.push(shape);
    }
    return kind;
  });
  const between = new Float64Array(first.length ** 2);
  first.forEach((shape, kind) => {
    first.forEach(
      (seen, other) => (between[kind * first.length + other] = shape.drawing === seen.drawing ? 0 : look.lost(shape.group, seen.drawing)),
    );
  });
  const column = (of: (shape: Shape) => number): Float64Array => Float64Array.from(shapes, of);
  return {
    kindOf,
    kinds: first.length,
    between,
    targets: column((shape) => shape.target),
    ends: column((shape) => shape.end),
    weights: column((shape) => shape.weight),
  };
}

export function timingCost(job: PlanJob, index: number, start: number): number {
  const shape = job.shapes[index]!;
  const off = (start - Math.max(job.from, shape.target)) * job.frameScale;
  return (off < 0 ? EARLY : LATE) * off * off * (shape.isPause ? 0.5 : 1);
}

/** Least frames a shape is held where there is room. */
export function holdOf({ holds, ones, from, to }: PlanJob, index: number): number {
  return Math.min(to - from, ones[index] === 1 ? 1 : holds[index]!);
}

/** Whether a shape may start at a frame as far as the grid goes; the start of the stretch is always allowed. */
export function isOnGrid({ holds, grid, from }: PlanJob, index: number, start: number): boolean {
  return grid[index] === 0 || start % holds[index]! === 0 || start === from;
}

/** What it costs to show a shape from `start` to `end` when not all of it that must be seen is. */
export function unseenCost(shape: Shape, start: number, end: number): number {
  let cost = 0;
  for (const { first, last } of shape.musts) if (start > last || end <= first) cost += MUST_COST;
  return cost;
}

/**
 * What is lost of a shape that is not shown, between the shape before it, seen until `turn`,
 * and the one after it, seen from then on.
 */
export function lostCost(job: PlanJob, index: number, before: number, after: number, turn: number): number {
  const { shapes, lost } = job;
  const shape = shapes[index]!;
  let cost = 0;
  if (shape.musts.length > 0) {
    const [isBefore, isAfter] = [shapes[before]?.drawing === shape.drawing, shapes[after]?.drawing === shape.drawing];
    for (const { first, last } of shape.musts) if (!(isBefore && turn > first) && !(isAfter && turn <= last)) cost += MUST_COST;
  }
  const start = Math.max(job.from, shape.target);
  const end = Math.min(job.to, shape.end);
  if (end <= start) return cost;
  const share = before === NONE ? 0 : after === NONE ? 1 : Math.min(1, Math.max(0, (turn - start) / (end - start)));
  const row = lost.kindOf[index]! * lost.kinds;
  if (share > 0) cost += shape.weight * share * lost.between[row + lost.kindOf[before]!]!;
  if (share < 1) cost += shape.weight * (1 - share) * lost.between[row + lost.kindOf[after]!]!;
  return cost;
}

/** What is lost of all shapes between two that are shown, the second from `turn`; no more than `limit` is counted up. */
export function lostBetween(job: PlanJob, before: number, after: number, turn: number, limit: number): number {
  const { kindOf, kinds, between, targets, ends, weights } = job.lost;
  const { from, to } = job;
  const [kindBefore, kindAfter] = [kindOf[before]!, kindOf[after]!];
  let cost = 0;
  for (let index = before + 1; index < after && cost < limit; index++) {
    if (job.shapes[index]!.musts.length > 0) {
      cost += lostCost(job, index, before, after, turn);
      continue;
    }
    const start = targets[index]! > from ? targets[index]! : from;
    const end = ends[index]! < to ? ends[index]! : to;
    if (end <= start) continue;
    const share = turn <= start ? 0 : turn >= end ? 1 : (turn - start) / (end - start);
    const row = kindOf[index]! * kinds;
    cost += weights[index]! * (share * between[row + kindBefore]! + (1 - share) * between[row + kindAfter]!);
  }
  return cost;
}

/** Shapes that are shown, by index, with the frames they start at. */
export interface Plan {
  readonly shown: readonly number[];
  readonly starts: readonly number[];
}

/** The whole cost of a plan; Infinity where it breaks a hold or does not fill the stretch. */
export function planCost(job: PlanJob, { shown, starts }: Plan): number {
  if (shown.length === 0 || starts[0] !== job.from) return Infinity;
  let cost = 0;
  for (let at = 0; at < shown.length; at++) {
    const [index, start, end] = [shown[at]!, starts[at]!, starts[at + 1] ?? job.to];
    const shape = job.shapes[index]!;
    if (end - start < holdOf(job, index) || !isOnGrid(job, index, start)) return Infinity;
    const before = at === 0 ? job.before : job.shapes[shown[at - 1]!]!.drawing;
    if (before !== shape.drawing) cost += job.changes[index]!;
    cost += timingCost(job, index, start) + unseenCost(shape, start, end);
    for (let lost = (shown[at - 1] ?? -1) + 1; lost < index; lost++) cost += lostCost(job, lost, shown[at - 1] ?? NONE, index, start);
  }
  const last = job.shapes[shown.at(-1)!]!;
  for (let lost = shown.at(-1)! + 1; lost < job.shapes.length; lost++) cost += lostCost(job, lost, shown.at(-1)!, NONE, job.to);
  if (job.after !== undefined && job.after !== last.drawing) cost += job.changes[shown.at(-1)!]!;
  return cost;
}
