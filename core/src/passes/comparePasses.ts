/** Two states of a lane side by side: where they differ, in what, and by how much. */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { exposuresOfTrack, indexAtSorted } from '../scene/exposures.js';
import { sceneSettings, type Exposure, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretches } from '../scene/trackCharts.js';
import type { Span } from '../time/span.js';

export interface LaneComparison {
  /** Frames that show another drawing, as spans in order. A frame that only one of them has differs. */
  readonly differs: readonly Span[];
  /** How many frames that is. */
  readonly frames: number;
  /** Frames that show the same, in ink in one and in pencil in the other. */
  readonly inkOnly: number;
  /** Mouths that show lips which must be seen, in this lane and in the other. */
  readonly closures: readonly [here: number, there: number];
  /** Changes in this lane and in the other. */
  readonly changes: readonly [here: number, there: number];
  /** Starts of this lane that have a start of the same drawing near them in the other. */
  readonly matched: number;
  /** Their mean distance in frames: positive where this lane is later. */
  readonly meanOffset: number;
}

/** A start further away than this is another one, in frames. */
const NEAR = 6;

interface Side {
  readonly exposures: readonly Exposure[];
  /** Which chart a frame is on. */
  readonly chartAt: (frame: number) => string;
}

function sideOf(scene: SceneDocument, track: string): Side {
  const stretches = chartStretches(scene, track);
  const chartAt = (frame: number): string =>
    (stretches[indexAtSorted(stretches, frame, ({ from }) => from)] ?? stretches[0])?.chartId ?? '';
  return { exposures: exposuresOfTrack(scene, track), chartAt };
}

/** The frames at which either lane changes, in order. */
function edges(a: readonly Span[], b: readonly Span[], length: number): number[] {
  const all = new Set([0, length]);
  for (const { from, to } of [...a, ...b]) all.add(from).add(to);
  return [...all].filter((frame) => frame <= length).sort((one, other) => one - other);
}

function closuresIn({ exposures, chartAt }: Side, charts: ReadonlyMap<string, ChartDocument>): number {
  const known = new Map<string, boolean>();
  return exposures.filter(({ drawing, from }) => {
    const chartId = chartAt(from);
    const key = `${chartId} ${drawing}`;
    let isClosure = known.get(key);
    if (isClosure === undefined) {
      const chart = charts.get(chartId);
      const groups = chart && maybeDrawing(chart, drawing)?.groups;
      isClosure = chart?.groups.some(({ id, must }) => must && groups?.includes(id)) ?? false;
      known.set(key, isClosure);
    }
    return isClosure;
  }).length;
}

const changesIn = ({ exposures }: Side): number =>
  exposures.filter((one, index) => index > 0 && exposures[index - 1]!.drawing !== one.drawing).length;

/** Starts that agree in the drawing, each matched once, the nearest first. */
function offsetsBetween(a: Side, b: Side): number[] {
  const byDrawing = new Map<string, number[]>();
  for (const { drawing, from } of b.exposures) {
    const starts = byDrawing.get(drawing);
    if (starts) starts.push(from);
    else byDrawing.set(drawing, [from]);
  }
  const pairs: { drawing: string; from: number; start: number }[] = [];
  for (const { drawing, from } of a.exposures) {
    const starts = byDrawing.get(drawing) ?? [];
    const first = Math.max(
      0,
      indexAtSorted(starts, from - NEAR, (start) => start),
    );
    for (let at = first; at < starts.length && starts[at]! <= from + NEAR; at++)
      if (starts[at]! >= from - NEAR) pairs.push({ drawing, from, start: starts[at]! });
  }
  pairs.sort((x, y) => Math.abs(x.from - x.start) - Math.abs(y.from - y.start) || x.from + x.start - y.from - y.start);
  const [taken, given] = [new Set<string>(), new Set<string>()];
  return pairs.flatMap(({ drawing, from, start }) => {
    if (taken.has(`${drawing} ${from}`) || given.has(`${drawing} ${start}`)) return [];
    taken.add(`${drawing} ${from}`);
    given.add(`${drawing} ${start}`);
    return [from - start];
  });
}

/**
 * Compares a lane in two states of a scene. Turned round, `differs` is the same and the offset has the other sign.
 *
 * @param charts those of the lane, by id
 */
export function compareLanes(
  here: SceneDocument,
  there: SceneDocument,
  track: string,
  charts: ReadonlyMap<string, ChartDocument>,
): LaneComparison {
  const [a, b] = [sideOf(here, track), sideOf(there, track)];
  const length = Math.max(sceneSettings(here).lengthFrames, sceneSettings(there).lengthFrames);
  const at = ({ exposures }: Side, frame: number): Exposure | undefined => {
    const found = exposures[indexAtSorted(exposures, frame, ({ from }) => from)];
    return found && frame < found.to ? found : undefined;
  };
  const differs: { from: number; to: number }[] = [];
  let [frames, inkOnly] = [0, 0];
  const all = edges(a.exposures, b.exposures, length);
  all.slice(1).forEach((to, index) => {
    const from = all[index]!;
    const [one, other] = [at(a, from), at(b, from)];
    const isSame = one?.drawing === other?.drawing && (!one || a.chartAt(from) === b.chartAt(from));
    if (isSame) {
      if (one && other && one.inked !== other.inked) inkOnly += to - from;
      return;
    }
    frames += to - from;
    const last = differs.at(-1);
    if (last?.to === from) last.to = to;
    else differs.push({ from, to });
  });
  const offsets = offsetsBetween(a, b);
  return {
    differs,
    frames,
    inkOnly,
    closures: [closuresIn(a, charts), closuresIn(b, charts)],
    changes: [changesIn(a), changesIn(b)],
    matched: offsets.length,
    meanOffset: offsets.length === 0 ? 0 : offsets.reduce((sum, offset) => sum + offset, 0) / offsets.length,
  };
}
