/** Looking things up on a track. Exposures are sorted and disjoint, so bisection finds them. */
import type { Exposure, SceneDocument } from './sceneDocument.js';

const remembered = new WeakMap<readonly Exposure[], Map<string, readonly Exposure[]>>();

/** The exposures of one track, in order. Remembered per document. */
export function exposuresOfTrack(scene: SceneDocument, track: string): readonly Exposure[] {
  let byTrack = remembered.get(scene.exposures);
  if (!byTrack) remembered.set(scene.exposures, (byTrack = new Map()));
  let found = byTrack.get(track);
  const isOfTrack = (exposure: Exposure): boolean => exposure.track === track;
  if (!found) byTrack.set(track, (found = scene.exposures.every(isOfTrack) ? scene.exposures : scene.exposures.filter(isOfTrack)));
  return found;
}

/** The index of the last item that starts at or before `position`; −1 when none does. */
export function indexAtSorted<T>(sorted: readonly T[], position: number, fromOf: (item: T) => number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (fromOf(sorted[middle]!) <= position) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The exposure that covers a frame; undefined in a gap. */
export function maybeExposureAt(exposures: readonly Exposure[], frame: number): Exposure | undefined {
  const found = exposures[indexAtSorted(exposures, frame, (exposure) => exposure.from)];
  return found && frame < found.to ? found : undefined;
}

/** Share of a track's frames that are inked, 0 to 1. */
export function inkedShare(exposures: readonly Exposure[], lengthFrames: number): number {
  const inked = exposures.reduce((sum, exposure) => sum + (exposure.inked ? exposure.to - exposure.from : 0), 0);
  return lengthFrames > 0 ? inked / lengthFrames : 0;
}
