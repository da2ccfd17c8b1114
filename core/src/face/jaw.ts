/**
 * The jaw: how far it is down in each frame, driven by what is keyed, earlier by a lead, eased, and by a share. It moves the jaw
 * piece of a head, and whatever other part hangs on it: a beard, a hat that bobs.
 */
import { jawDropOf, maybeHead, type ChartDocument } from '../chart/chart.js';
import { type HeadPart, type JawMotion } from '../chart/head.js';
import { seenAt } from '../scene/blend.js';
import { sceneSettings, type SceneDocument, type Track } from '../scene/sceneDocument.js';

type Charts = ReadonlyMap<string, ChartDocument>;

/** With the mouth, as far as it opens. */
export const PLAIN_JAW: JawMotion = { lead: 0, ease: 0, share: 1 };

/** How far the jaw is down at a frame: the mouths around that frame `lead` later, those nearer weighing more, times the share; 0 to 1. */
export function jawOf({ lead, ease, share }: JawMotion, openAt: (frame: number) => number, frame: number): number {
  let [sum, weights] = [0, 0];
  for (let by = -ease; by <= ease; by++) {
    const weight = ease + 1 - Math.abs(by);
    sum += weight * openAt(frame + lead + by);
    weights += weight;
  }
  return Math.max(0, Math.min(1, (share * sum) / weights));
}

/** How far the jaw of a face is down at a frame, 0 to 1. */
export function jawAt(scene: SceneDocument, track: Track, charts: Charts, frame: number): number {
  const { lengthFrames } = sceneSettings(scene);
  const inScene = (at: number): number => Math.max(0, Math.min(lengthFrames - 1, at));
  const inForce = seenAt(scene, track, charts, inScene(frame));
  const openAt = (at: number): number => {
    const seen = seenAt(scene, track, charts, inScene(at));
    return seen?.drawing ? jawDropOf(seen.chart, seen.drawing) : 0;
  };
  return jawOf((inForce && maybeHead(inForce.chart)?.jawMotion) ?? PLAIN_JAW, openAt, frame);
}

/** The jaw in each frame of a mouth's lane, 0 to 1. Shape: as many as frames. */
export function jawCurve(scene: SceneDocument, trackId: string, charts: Charts): Float32Array {
  const track = scene.tracks.find(({ id }) => id === trackId);
  return Float32Array.from({ length: sceneSettings(scene).lengthFrames }, (_, frame) => (track ? jawAt(scene, track, charts, frame) : 0));
}

/** How far down a part is moved by the jaw, in units of what carries it. */
export const dropOfPart = ({ jaw = 0 }: Pick<HeadPart, 'jaw'>, open: number): number => jaw * open;
