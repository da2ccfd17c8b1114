/**
 * The cheapest plan, exactly, by dynamic programming over (shape, start frame): the
 * cheapest way to show a shape from a frame on, given all that comes before, is found from
 * the cheapest ways to show each shape before it (R. Bellman, 1957). Starts are tried a few
 * frames around their targets; at most {@link MOST_LOST} shapes in a row are not shown.
 */
import { holdOf, isOnGrid, lostBetween, lostCost, MUST_COST, NONE, timingCost, type Plan, type PlanJob } from './planCost.js';
import type { Shape } from './shapes.js';

/** More shapes than this in a row are never left out: a second of quick speech. */
export const MOST_LOST = 14;
/** How far a start may be from its target, in seconds at 24 frames a second: an eighth. */
const REACH = 3;

/** Frames a shape may start at, in order; the first frame of the stretch for those it may begin with. */
export function startsOf(job: PlanJob, index: number): number[] {
  const { from, to, holds, frameScale } = job;
  const shape = job.shapes[index]!;
  const reach = Math.max(2, holds[index]!, Math.ceil(REACH / frameScale));
  const target = Math.max(from, shape.target);
  const starts: number[] = [];
  const [first, last] = [Math.max(from + 1, Math.ceil(target - reach)), Math.min(to - 1, Math.floor(target + reach))];
  if (index <= MOST_LOST) starts.push(from);
  for (let start = first; start <= last; start++) if (isOnGrid(job, index, start)) starts.push(start);
  return starts;
}

/** All that is reached so far, flat: the starts of a shape lie from its offset up to the next one's. */
interface Reached {
  /** Shape: shapes + 1. */
  readonly offsets: Int32Array;
  readonly starts: Int32Array;
  /** The cheapest way to each start. */
  readonly costs: Float64Array;
  /** The place of the start before it on that way, or −1. */
  readonly before: Int32Array;
  /** The least of the costs of each shape. */
  readonly least: Float64Array;
}

function nothingReached(job: PlanJob): Reached {
  const { length } = job.shapes;
  const offsets = new Int32Array(length + 1);
  const starts: number[] = [];
  for (let index = 0; index < length; index++) {
    starts.push(...startsOf(job, index));
    offsets[index + 1] = starts.length;
  }
  return {
    offsets,
    starts: Int32Array.from(starts),
    costs: new Float64Array(starts.length).fill(Infinity),
    before: new Int32Array(starts.length).fill(-1),
    least: new Float64Array(length).fill(Infinity),
  };
}

/** What is unseen of a shape by where it starts, and by where it ends. */
function lateCost({ musts }: Shape, start: number): number {
  let cost = 0;
  for (const { last } of musts) if (start > last) cost += MUST_COST;
  return cost;
}

function cutCost({ musts }: Shape, start: number, end: number): number {
  let cost = 0;
  for (const { first, last } of musts) if (end <= first && start <= last) cost += MUST_COST;
  return cost;
}

/** Finds the cheapest way to every start of a shape from the shapes before it. */
function reach(job: PlanJob, index: number, reached: Reached, own: Float64Array): void {
  const { shapes, changes, from } = job;
  const { offsets, starts, costs, before, least } = reached;
  const shape = shapes[index]!;
  const [opens, closes] = [offsets[index]!, offsets[index + 1]!];
  for (let at = opens; at < closes; at++) own[at - opens] = timingCost(job, index, starts[at]!) + lateCost(shape, starts[at]!);
  const canBegin = opens < closes && starts[opens] === from;
  if (canBegin) {
    let cost = own[0]! + (job.before === shape.drawing ? 0 : changes[index]!);
    for (let lost = 0; lost < index; lost++) cost += lostCost(job, lost, NONE, index, from);
    costs[opens] = cost;
  }
  let mustsBetween = 0;
  let mustDrawing: string | undefined;
  for (let earlier = index - 1; earlier >= Math.max(0, index - 1 - MOST_LOST); earlier--) {
    const shapeBefore = shapes[earlier]!;
    const hold = holdOf(job, earlier);
    const change = shapeBefore.drawing === shape.drawing ? 0 : changes[index]!;
    const isMust = shapeBefore.musts.length > 0;
    const leavesOut = mustsBetween > 0 && shapeBefore.drawing !== mustDrawing ? MUST_COST : 0;
    if (isMust && shapeBefore.drawing !== shape.drawing) {
      mustsBetween += 1;
      mustDrawing = mustsBetween === 1 || mustDrawing === shapeBefore.drawing ? shapeBefore.drawing : undefined;
    }
    let most = -Infinity;
    for (let at = opens; at < closes; at++) if (costs[at]! > most) most = costs[at]!;
    // Leaving out what must be seen cannot be cheaper than what was found already.
    if (least[earlier]! + leavesOut >= most) continue;
    const [first, end] = [offsets[earlier]!, offsets[earlier + 1]!];
    let [best, bestAt, place] = [Infinity, -1, first];
    for (let at = canBegin ? opens + 1 : opens; at < closes; at++) {
      const start = starts[at]!;
      // What it must show may be cut short by this start and not by the next: then all is looked at again.
      if (isMust) [best, bestAt, place] = [Infinity, -1, first];
      for (; place < end && starts[place]! <= start - hold; place++) {
        const cost = costs[place]! + (isMust ? cutCost(shapeBefore, starts[place]!, start) : 0);
        if (cost < best) [best, bestAt] = [cost, place];
      }
      const limit = costs[at]!;
      const shown = best + own[at - opens]! + change;
      if (shown >= limit) continue;
      const cost = shown + lostBetween(job, earlier, index, start, limit - shown);
      if (cost < limit) {
        costs[at] = cost;
        before[at] = bestAt;
      }
    }
  }
  for (let at = opens; at < closes; at++) if (costs[at]! < least[index]!) least[index] = costs[at]!;
}

/** @returns the cheapest plan of the stretch */
export function solvePlan(job: PlanJob): Plan {
  const { shapes, to } = job;
  const reached = nothingReached(job);
  const { offsets, starts, costs, before } = reached;
  let widest = 0;
  for (let index = 0; index < shapes.length; index++) widest = Math.max(widest, offsets[index + 1]! - offsets[index]!);
  const own = new Float64Array(widest);
  for (let index = 0; index < shapes.length; index++) reach(job, index, reached, own);
  let [best, shape, place] = [Infinity, -1, -1];
  for (let index = shapes.length - 1; index >= Math.max(0, shapes.length - 1 - MOST_LOST); index--) {
    const last = shapes[index]!;
    let after = job.after === undefined || job.after === last.drawing ? 0 : job.changes[index]!;
    for (let lost = index + 1; lost < shapes.length; lost++) after += lostCost(job, lost, index, NONE, to);
    for (let at = offsets[index]!; at < offsets[index + 1]!; at++) {
      if (to - starts[at]! < holdOf(job, index)) continue;
      const cost = costs[at]! + after + cutCost(last, starts[at]!, to);
      if (cost < best) [best, shape, place] = [cost, index, at];
    }
  }
  // A stretch of a few frames with more sounds than anybody makes in it: its middle one.
  if (shape < 0) return { shown: [shapes.length >> 1], starts: [job.from] };
  const [shown, shownFrom]: [number[], number[]] = [[], []];
  for (; place >= 0; place = before[place]!) {
    while (place < offsets[shape]!) shape -= 1;
    shown.push(shape);
    shownFrom.push(starts[place]!);
  }
  return { shown: shown.reverse(), starts: shownFrom.reverse() };
}
