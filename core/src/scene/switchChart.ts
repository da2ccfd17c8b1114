/** Changing the chart of a track from a frame on, up to the next change. */
import { maybeDrawing, maybeDrawingOfGroup, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { putsOf, type Patch, type PutOp } from '../document/patch.js';
import { withDrawings } from '../draw/madeDrawings.js';
import { exposuresOfTrack } from './exposures.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { sceneSettings, type SceneDocument, type Track, type TrackView } from './sceneDocument.js';
import { chartStretchAt } from './trackCharts.js';

const put = putsOf<SceneDocument>();

/**
 * The drawing of another chart that stands for one: the one that plays its first sound group,
 * else the one of its name, else the one as far open.
 */
export function counterpart(drawing: Drawing | undefined, to: ChartDocument): Drawing {
  if (!drawing) return restDrawing(to);
  const [group] = drawing.groups;
  const same = (group && maybeDrawingOfGroup(to, group)) || to.drawings.find((other) => other.label === drawing.label);
  if (same) return same;
  const opening = measureLook(drawing).opening;
  const away = (other: Drawing): number => Math.abs(measureLook(other).opening - opening);
  return to.drawings.reduce((nearest, other) => (away(other) < away(nearest) ? other : nearest));
}

/** What changes in a track's own chart and its views. */
function changedViews(scene: SceneDocument, track: Track, frame: number, chartId: string, newId: IdSource): PutOp[] {
  const views = scene.views.filter((view) => view.track === track.id);
  const there = views.find((view) => view.from === frame);
  if (frame === 0) return [put('tracks', track, { ...track, chartId })];
  const before = views.findLast((view) => view.from < frame)?.chartId ?? track.chartId;
  if (before === chartId) return there ? [put('views', there, null)] : [];
  const after: TrackView = there ? { ...there, chartId } : { id: newId(), track: track.id, from: frame, chartId };
  return [put('views', there ?? null, after)];
}

/** Views that say what holds anyway, now that what goes before them has changed. */
function needlessViews(scene: SceneDocument, trackId: string, to: number, chartId: string): PutOp[] {
  const next = scene.views.find((view) => view.track === trackId && view.from === to);
  return next?.chartId === chartId ? [put('views', next, null)] : [];
}

/**
 * Puts a track on another chart from a frame on, up to where it changes again. The mouths there
 * become their counterparts; ink stays ink, and an exposure across the frame is cut there.
 *
 * @param charts both charts, by id
 */
export function switchChart(
  scene: SceneDocument,
  { track: trackId, frame, chartId }: { track: string; frame: number; chartId: string },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  const stretch = chartStretchAt(scene, trackId, frame);
  const to = charts.get(chartId);
  const from = stretch && charts.get(stretch.chartId);
  if (!track || !stretch || !from) return { refusal: 'That track is no longer in the scene.' };
  if (!to) return { refusal: 'That chart is no longer there. Choose another.' };
  const { lengthFrames } = sceneSettings(scene);
  if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames)
    return { refusal: `Frame ${frame} is outside the scene, which has ${lengthFrames} frames.` };
  if (stretch.chartId === chartId) return { refusal: 'This chart is in use here already.' };
  const ops: PutOp[] = [...changedViews(scene, track, frame, chartId, newId), ...needlessViews(scene, trackId, stretch.to, chartId)];
  for (const exposure of exposuresOfTrack(scene, trackId)) {
    if (exposure.to <= frame || exposure.from >= stretch.to) continue;
    const drawing = withDrawings(exposure.drawing, (id) => counterpart(maybeDrawing(from, id), to).id)!;
    if (exposure.from >= frame) {
      if (drawing !== exposure.drawing) ops.push(put('exposures', exposure, { ...exposure, drawing }));
      continue;
    }
    ops.push(put('exposures', exposure, { ...exposure, to: frame }));
    ops.push(put('exposures', null, { ...exposure, id: newId(), from: frame, drawing }));
  }
  return { id: newId(), reason: 'track.chart', ops };
}
