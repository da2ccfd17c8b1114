/**
 * Fewer swaps: what is keyed, with mouths left out one after another, each time those that the face loses least by. A lane
 * is cut into runs of its mouths, each run shows one of them throughout, and the cheapest way to cut it is found exactly,
 * by dynamic programming, for every price of a swap at which another way becomes the cheapest: the lower hull of what is
 * lost against how many swaps there are. What a hand has inked stays as it is, and lips that must meet always meet.
 */
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import type { Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { lookOfChart } from '../keying/chartLook.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { putOver } from '../sheet/putOver.js';
import { framesPerSecond } from '../time/frameRate.js';
import type { Span } from '../time/span.js';

/** Frames that show one mouth. */
export interface SwapSpan extends Span {
  /** null where no mouth is on. */
  readonly drawing: string | null;
}

export interface SwapPlan {
  readonly swaps: number;
  /** Frames that show another mouth than is keyed. */
  readonly otherFrames: number;
  /** What the face loses, in frames of a mouth that is wholly another. */
  readonly lost: number;
  readonly spans: readonly SwapSpan[];
}

/** Mouths as they are keyed, those next to each other that are the same as one. */
interface Block extends SwapSpan {
  readonly chartId: string;
  /** Inked, closed, or none: it stays. */
  readonly stays: boolean;
}

/** A run longer than this, in mouths, is never shown as one: two seconds on twos and more. */
const LONGEST_RUN = 24;
/**
 * The most that sparing a swap may cost, in seconds of a mouth that is wholly another: an eighth, three frames at 24. Beyond
 * it the line no longer bears it; found by eye on the demo.
 */
const HIGHEST_PRICE = 1 / 8;

const isSame = (a: Block, b: Block): boolean => a.drawing === b.drawing && a.chartId === b.chartId;

function blocksOf(scene: SceneDocument, trackId: string, charts: ReadonlyMap<string, ChartDocument>): Block[] {
  const { lengthFrames } = sceneSettings(scene);
  const blocks: Block[] = [];
  const add = (block: Block): void => {
    const last = blocks.at(-1);
    if (block.from >= block.to) return;
    if (last && isSame(last, block)) blocks[blocks.length - 1] = { ...last, to: block.to, stays: last.stays || block.stays };
    else blocks.push(block);
  };
  let at = 0;
  for (const { from, to, drawing, inked } of exposuresOfTrack(scene, trackId)) {
    const { chartId } = chartStretchAt(scene, trackId, from)!;
    const chart = charts.get(chartId);
    const own = chart && maybeDrawing(chart, drawing);
    const isClosed = own?.groups.some((id) => chart!.groups.some((group) => group.id === id && group.must)) ?? true;
    add({ from: at, to: Math.min(from, lengthFrames), drawing: null, chartId: '', stays: true });
    add({ from, to: Math.min(to, lengthFrames), drawing, chartId, stays: inked || isClosed });
    at = Math.max(at, to);
  }
  add({ from: at, to: lengthFrames, drawing: null, chartId: '', stays: true });
  return blocks;
}

/** How much the face loses in a frame that shows one mouth of a chart for another: 0 to about 1. */
function lostBetween(chart: ChartDocument, asked: Drawing, seen: Drawing): number {
  if (asked.id === seen.id) return 0;
  const look = lookOfChart(chart);
  if (asked.groups.length > 0) return Math.min(...asked.groups.map((group) => look.lost(group, seen.id)));
  // One that plays no sound is known by how open it is.
  const widest = Math.max(1e-9, ...chart.drawings.map((drawing) => measureLook(drawing).opening));
  return Math.abs(measureLook(asked).opening - measureLook(seen).opening) / widest;
}

/** What the DP needs to know: what each block loses when a mouth is seen in it. Infinite where it may not be. */
interface Table {
  readonly blocks: readonly Block[];
  /** The mouths of the lane, as one number each. */
  readonly kinds: readonly { readonly chartId: string; readonly drawing: string | null }[];
  readonly kindOf: Int32Array;
  /** Shape: blocks × kinds. */
  readonly lost: Float64Array;
}

function tableOf(blocks: readonly Block[], charts: ReadonlyMap<string, ChartDocument>): Table {
  const known = new Map<string, number>();
  const kinds: { chartId: string; drawing: string | null }[] = [];
  const kindOf = Int32Array.from(blocks, ({ chartId, drawing }) => {
    const key = `${chartId} ${drawing}`;
    let kind = known.get(key);
    if (kind === undefined) {
      known.set(key, (kind = kinds.length));
      kinds.push({ chartId, drawing });
    }
    return kind;
  });
  const between = new Float64Array(kinds.length ** 2).fill(Infinity);
  kinds.forEach((asked, a) =>
    kinds.forEach((seen, b) => {
      const chart = charts.get(asked.chartId);
      const [one, other] = [asked, seen].map(({ drawing }) => chart && drawing !== null && maybeDrawing(chart, drawing));
      if (a === b) between[a * kinds.length + b] = 0;
      else if (chart && asked.chartId === seen.chartId && one && other) between[a * kinds.length + b] = lostBetween(chart, one, other);
    }),
  );
  const lost = new Float64Array(blocks.length * kinds.length);
  blocks.forEach(({ from, to, stays }, index) => {
    for (let kind = 0; kind < kinds.length; kind++) {
      const each = stays && kind !== kindOf[index] ? Infinity : between[kindOf[index]! * kinds.length + kind]!;
      lost[index * kinds.length + kind] = each === Infinity ? Infinity : each * (to - from);
    }
  });
  return { blocks, kinds, kindOf, lost };
}

/** The cheapest cut of a lane at a price of a swap. */
function cheapest({ blocks, kinds, kindOf, lost }: Table, price: number): SwapPlan {
  const count = blocks.length;
  const cost = new Float64Array(count + 1).fill(Infinity);
  const cutAt = new Int32Array(count + 1);
  const shown = new Int32Array(count + 1);
  const run = new Float64Array(kinds.length);
  cost[0] = 0;
  for (let end = 1; end <= count; end++) {
    run.fill(0);
    for (let start = end - 1; start >= Math.max(0, end - LONGEST_RUN); start--) {
      let least = Infinity;
      for (let kind = 0; kind < kinds.length; kind++) {
        run[kind]! += lost[start * kinds.length + kind]!;
        if (run[kind]! < least) least = run[kind]!;
      }
      // Nothing can be shown over so many any more.
      if (least === Infinity) break;
      const before = cost[start]! + (start > 0 ? price : 0);
      if (before + least >= cost[end]!) continue;
      // A mouth is shown where it is keyed: one of the run's own.
      for (let own = start; own < end; own++) {
        const kind = kindOf[own]!;
        if (before + run[kind]! >= cost[end]!) continue;
        cost[end] = before + run[kind]!;
        cutAt[end] = start;
        shown[end] = kind;
      }
    }
  }
  const spans: (SwapSpan & { readonly kind: number })[] = [];
  let [otherFrames, total] = [0, 0];
  for (let end = count; end > 0; end = cutAt[end]!) {
    const kind = shown[end]!;
    for (let at = cutAt[end]!; at < end; at++) {
      total += lost[at * kinds.length + kind]!;
      if (kindOf[at] !== kind) otherFrames += blocks[at]!.to - blocks[at]!.from;
    }
    const span = { from: blocks[cutAt[end]!]!.from, to: blocks[end - 1]!.to, drawing: kinds[kind]!.drawing, kind };
    const after = spans[0];
    if (after?.kind === kind) spans[0] = { ...span, to: after.to };
    else spans.unshift(span);
  }
  return {
    swaps: Math.max(0, spans.length - 1),
    otherFrames,
    lost: total,
    spans: spans.map(({ from, to, drawing }) => ({ from, to, drawing })),
  };
}

/**
 * From what is keyed to the fewest swaps the lane bears, each with fewer swaps than the one before it.
 *
 * @param charts by id, one-offs among their drawings
 * @returns at least one: the lane as it is
 */
export function swapPlansOf(scene: SceneDocument, trackId: string, charts: ReadonlyMap<string, ChartDocument>): SwapPlan[] {
  const blocks = blocksOf(scene, trackId, charts);
  const table = tableOf(blocks, charts);
  const asKeyed: SwapPlan = {
    swaps: Math.max(0, blocks.length - 1),
    otherFrames: 0,
    lost: 0,
    spans: blocks.map(({ from, to, drawing }) => ({ from, to, drawing })),
  };
  const fewest = cheapest(table, HIGHEST_PRICE * framesPerSecond(sceneSettings(scene).frameRate));
  const between = (more: SwapPlan, fewer: SwapPlan): SwapPlan[] => {
    if (more.swaps - fewer.swaps < 2) return [];
    const found = cheapest(table, (fewer.lost - more.lost) / (more.swaps - fewer.swaps));
    if (found.swaps >= more.swaps || found.swaps <= fewer.swaps) return [];
    return [...between(more, found), found, ...between(found, fewer)];
  };
  return fewest.swaps < asKeyed.swaps ? [asKeyed, ...between(asKeyed, fewest), fewest] : [asKeyed];
}

/** Lays a plan into its lane as one step: what it changes comes in ink, everything else stays as it is. */
export function takeSwapPlan(
  scene: SceneDocument,
  trackId: string,
  { spans }: SwapPlan,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  const blocks = blocksOf(scene, trackId, charts);
  const ops: Patch['ops'][number][] = [];
  let next = 0;
  for (const { from, to, drawing } of spans) {
    while (next < blocks.length && blocks[next]!.to <= from) next += 1;
    const own = blocks[next];
    if (drawing === null || (own?.from === from && own.to === to && own.drawing === drawing)) continue;
    const { chartId } = chartStretchAt(scene, trackId, from)!;
    const put = putOver(scene, { track: trackId, from, to, drawing }, charts.get(chartId)!, newId);
    if (isRefusal(put)) return put;
    ops.push(...put.ops);
  }
  if (ops.length === 0) return { refusal: 'This is the lane as it is. Move the slider to leave swaps out.' };
  return { id: newId(), reason: 'exposure.fewer', ops };
}
