/**
 * A lane that blends: each mouth comes in over the last frames of the one before it, as eased mixes of the two, for those who
 * work smoothly. A mouth is whole on the frame it begins on. Frames of mouths that must be seen are theirs: out of such a one
 * the next comes in over its own first frames.
 */
import { maybeDrawing, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { putsOf, type Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { canBeMadeOf, mixId } from '../draw/madeDrawings.js';
import { canMix } from '../draw/mixLooks.js';
import { exposuresOfTrack, indexAtSorted } from './exposures.js';
import type { Exposure, SceneDocument, Track } from './sceneDocument.js';
import { chartStretchAt } from './trackCharts.js';

/** Frames over which a mouth comes in. */
export const BLEND_LIMITS = { least: 2, most: 12 } as const;

/** Has the mouths of a lane come in over some frames, or cut from one to the next (`null`). */
export function setBlend(scene: SceneDocument, trackId: string, frames: number | null, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (!track) return { refusal: 'That lane is no longer in the scene.' };
  const { least, most } = BLEND_LIMITS;
  if (frames !== null && !(Number.isInteger(frames) && frames >= least && frames <= most))
    return { refusal: `A blend of ${frames} frames is out of range. ${least} to ${most} can be asked for.` };
  const { blend: _, ...plain } = track;
  const after: Track = frames === null ? plain : { ...plain, blend: frames };
  return { id: newId(), reason: 'lane.blend', ops: [putsOf<SceneDocument>()('tracks', track, after)] };
}

const musts = new WeakMap<ChartDocument, ReadonlySet<string>>();

/** Whether a drawing plays what must be seen. */
function isMust(chart: ChartDocument, { groups }: Drawing): boolean {
  let known = musts.get(chart);
  if (!known) musts.set(chart, (known = new Set(chart.groups.flatMap(({ id, must }) => (must ? [id] : [])))));
  return groups.some((group) => known.has(group));
}

/** Eased at both ends. */
const smooth = (share: number): number => share ** 2 * (3 - 2 * share);

/** Mixes of a blend go in steps: a picture is drawn once. */
const STEPS = 40;

function mixOf(a: Drawing, b: Drawing, share: number): string {
  if (!canBeMadeOf(a.id) || !canBeMadeOf(b.id) || !canMix(a, b)) return a.id;
  return mixId(a.id, b.id, Math.round(smooth(share) * STEPS) / STEPS);
}

/**
 * The drawing that is seen at a frame of an exposure.
 *
 * @param index of the exposure in its lane
 * @param blend frames; undefined where the lane cuts
 */
export function blendedDrawing(
  lane: readonly Exposure[],
  index: number,
  frame: number,
  chart: ChartDocument,
  blend: number | undefined,
): string {
  const here = lane[index]!;
  const drawing = blend === undefined ? undefined : maybeDrawing(chart, here.drawing);
  if (blend === undefined || !drawing || isMust(chart, drawing)) return here.drawing;
  const [before, next] = [lane[index - 1], lane[index + 1]];
  const first = Math.max(here.from + 1, here.to - blend + 1);
  const following = next?.from === here.to ? maybeDrawing(chart, next.drawing) : undefined;
  if (following && frame >= first) return mixOf(drawing, following, (frame - first + 1) / (here.to - first + 1));
  const leading = before?.to === here.from ? maybeDrawing(chart, before.drawing) : undefined;
  const frames = Math.min(blend - 1, Math.floor((here.to - here.from) / 2));
  if (!leading || !isMust(chart, leading) || frame - here.from >= frames) return here.drawing;
  return mixOf(leading, drawing, (frame - here.from + 1) / (frames + 1));
}

/** What is seen of a lane at a frame. */
export interface SeenAt {
  readonly chartId: string;
  readonly chart: ChartDocument;
  /** Undefined in a gap, and where it is gone from its chart. */
  readonly drawing: Drawing | undefined;
  /** The frame since which the exposure is held. */
  readonly since: number;
}

/** @param charts by id; undefined where the one in force is not among them */
export function seenAt(
  scene: SceneDocument,
  { id, blend, hidden, muted }: Pick<Track, 'id' | 'blend' | 'hidden' | 'muted'>,
  charts: ReadonlyMap<string, ChartDocument>,
  frame: number,
): SeenAt | undefined {
  const chartId = chartStretchAt(scene, id, frame)?.chartId ?? '';
  const chart = charts.get(chartId);
  if (!chart) return undefined;
  if (hidden) return { chartId, chart, drawing: undefined, since: 0 };
  if (muted) return { chartId, chart, drawing: restDrawing(chart), since: 0 };
  const lane = exposuresOfTrack(scene, id);
  const index = indexAtSorted(lane, frame, ({ from }) => from);
  const here = lane[index];
  const drawing = here && frame < here.to ? maybeDrawing(chart, blendedDrawing(lane, index, frame, chart, blend)) : undefined;
  return { chartId, chart, drawing, since: here?.from ?? 0 };
}
