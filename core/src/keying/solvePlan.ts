/**
 * The cheapest plan, exactly, by dynamic programming over (shape, start frame): the
 * cheapest way to show a shape from a frame on, given all that comes before, is found from
 * the cheapest ways to show each shape before it (R. Bellman, 1957). Starts are tried a few
 * frames around their targets; at most {@link MOST_LOST} shapes in a row are not shown.
 */
import { holdOf, lostBetween, lostCost, MUST_COST, NONE, timingCost, type Plan, type PlanJob } from './planCost.js';
import type { Shape } from './shapes.js';

/** More shapes than this in a row are never left out: a second of quick speech. */
export const MOST_LOST = 14;
/** How far a start may be from its target, in seconds at 24 frames a second: an eighth. */
const REACH = 3;

/** Frames a shape may start at, in order; the first frame of the stretch for those it may begin with. */
export function startsOf(job: PlanJob, index: number): number[] {
  const { from, to, hold, grid, frameScale } = job;
  const shape = job.shapes[index]!;
  const reach = Math.max(2, hold, Math.ceil(REACH / frameScale));
  const target = Math.max(from, shape.target);
  const starts: number[] = [];
  const [first, last] = [Math.max(from + 1, Math.ceil(target - reach)), Math.min(to - 1, Math.floor(target + reach))];
  if (index <= MOST_LOST) starts.push(from);
  for (let start = first; start <= last; start++) if (!grid || start % hold === 0) starts.push(start);
  return starts;
}

interface Reached {
  readonly starts: readonly number[];
  readonly costs: Float64Array;
  /** The shape before and the place of its start, or −1. */
  readonly shapeBefore: Int32Array;
  readonly startBefore: Int32Array;
  /** The least of the costs. */
  readonly least: number;
}

/** What is unseen of a shape by where it starts, and by where it ends. */
const lateCost = (shape: Shape, start: number): number => shape.musts.reduce((sum, { last }) => sum + (start > last ? MUST_COST : 0), 0);
const cutCost = (shape: Shape, start: number, end: number): number =>
  shape.musts.reduce((sum, { first, last }) => sum + (end <= first && start <= last ? MUST_COST : 0), 0);

function leastOf(costs: Float64Array): number {
  let least = Infinity;
  for (const cost of costs) if (cost < least) least = cost;
  return least;
}

function mostOf(costs: Float64Array): number {
  let most = -Infinity;
  for (const cost of costs) if (cost > most) most = cost;
  return most;
}

function reach(job: PlanJob, index: number, reached: readonly Reached[]): Reached {
  const { shapes, changes, from } = job;
  const shape = shapes[index]!;
  const starts = startsOf(job, index);
  const costs = new Float64Array(starts.length).fill(Infinity);
  const [shapeBefore, startBefore] = [new Int32Array(starts.length).fill(-1), new Int32Array(starts.length).fill(-1)];
  const own = Float64Array.from(starts, (start) => timingCost(job, index, start) + lateCost(shape, start));
  if (starts[0] === from) {
    let cost = own[0]! + (job.before === shape.drawing ? 0 : changes[index]!);
    for (let lost = 0; lost < index; lost++) cost += lostCost(job, lost, NONE, index, from);
    costs[0] = cost;
  }
  let mustsBetween = 0;
  let mustDrawing: string | undefined;
  for (let before = index - 1; before >= Math.max(0, index - 1 - MOST_LOST); before--) {
    const earlier = shapes[before]!;
    const { starts: earlierStarts, costs: earlierCosts } = reached[before]!;
    const hold = holdOf(job, earlier);
    const change = earlier.drawing === shape.drawing ? 0 : changes[index]!;
    const isMust = earlier.musts.length > 0;
    const leavesOut = mustsBetween > 0 && earlier.drawing !== mustDrawing ? MUST_COST : 0;
    if (isMust && earlier.drawing !== shape.drawing) {
      mustsBetween += 1;
      mustDrawing = mustsBetween === 1 || mustDrawing === earlier.drawing ? earlier.drawing : undefined;
    }
    // Leaving out what must be seen cannot be cheaper than what was found already.
    if (reached[before]!.least + leavesOut >= mostOf(costs)) continue;
    let [best, bestAt, place] = [Infinity, -1, 0];
    for (let at = starts[0] === from ? 1 : 0; at < starts.length; at++) {
      const start = starts[at]!;
      // What it must show may be cut short by this start and not by the next: then all is looked at again.
      if (isMust) [best, bestAt, place] = [Infinity, -1, 0];
      for (; place < earlierStarts.length && earlierStarts[place]! <= start - hold; place++) {
        const cost = earlierCosts[place]! + (isMust ? cutCost(earlier, earlierStarts[place]!, start) : 0);
        if (cost < best) [best, bestAt] = [cost, place];
      }
      const limit = costs[at]!;
      const shown = best + own[at]! + change;
      if (shown >= limit) continue;
      const cost = shown + lostBetween(job, before, index, start, limit - shown);
      if (cost < limit) {
        costs[at] = cost;
        shapeBefore[at] = before;
        startBefore[at] = bestAt;
      }
    }
  }
  return { starts, costs, shapeBefore, startBefore, least: leastOf(costs) };
}

/** @returns the cheapest plan of the stretch */
export function solvePlan(job: PlanJob): Plan {
  const { shapes, to } = job;
  const reached: Reached[] = [];
  for (let index = 0; index < shapes.length; index++) reached.push(reach(job, index, reached));
  let [best, shape, place] = [Infinity, -1, -1];
  for (let index = shapes.length - 1; index >= Math.max(0, shapes.length - 1 - MOST_LOST); index--) {
    const { starts, costs } = reached[index]!;
    const last = shapes[index]!;
    let after = job.after === undefined || job.after === last.drawing ? 0 : job.changes[index]!;
    for (let lost = index + 1; lost < shapes.length; lost++) after += lostCost(job, lost, index, NONE, to);
    for (let at = 0; at < starts.length; at++) {
      if (to - starts[at]! < holdOf(job, last)) continue;
      const cost = costs[at]! + after + cutCost(last, starts[at]!, to);
      if (cost < best) [best, shape, place] = [cost, index, at];
    }
  }
  // A stretch of a few frames with more sounds than anybody makes in it: its middle one.
  if (shape < 0) return { shown: [shapes.length >> 1], starts: [job.from] };
  const [shown, starts]: [number[], number[]] = [[], []];
  while (shape >= 0) {
    const at: Reached = reached[shape]!;
    shown.push(shape);
    starts.push(at.starts[place]!);
    [shape, place] = [at.shapeBefore[place]!, at.startBefore[place]!];
  }
  return { shown: shown.reverse(), starts: starts.reverse() };
}
