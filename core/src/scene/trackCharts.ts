/** Which chart a track's mouths are on, frame by frame: it may change inside a scene, as when a head turns. */
import type { Span } from '../time/span.js';
import { sceneSettings, type SceneDocument } from './sceneDocument.js';

/** A stretch of a track on one chart, from frame `from` up to, not including, `to`. */
export interface ChartStretch extends Span {
  readonly chartId: string;
}

/** What says which chart is in force where. */
export type ChartsInForce = Pick<SceneDocument, 'settings' | 'tracks' | 'views'>;

/** The stretches of a track, in order; together they cover the scene. */
export function chartStretches(scene: ChartsInForce, trackId: string): readonly ChartStretch[] {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return [];
  const { lengthFrames } = sceneSettings(scene);
  const starts = [{ from: 0, chartId: track.chartId }, ...scene.views.filter((view) => view.track === trackId)];
  return starts.map(({ from, chartId }, index) => ({ from, to: starts[index + 1]?.from ?? lengthFrames, chartId }));
}

/** The stretch that covers a frame. */
export function chartStretchAt(scene: ChartsInForce, trackId: string, frame: number): ChartStretch | undefined {
  const stretches = chartStretches(scene, trackId);
  return stretches.findLast((stretch) => stretch.from <= frame) ?? stretches[0];
}

/** Every chart that a scene uses, by id. */
export function chartIdsOfScene(scene: SceneDocument): Set<string> {
  return new Set([...scene.tracks, ...scene.views].map((one) => one.chartId));
}
