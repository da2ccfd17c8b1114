/** Where an exposure starts, moved by hand: from then on it is ink. */
import { putsOf, type Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { exposuresOfTrack } from '../scene/exposures.js';

/**
 * Moves the start of the exposure that starts at frame `from` to frame `to`, as far as leaves
 * it and the exposure before it a frame each. The one that starts is inked; the one before
 * gives way, or is held longer, and stays what it was. A patch without ops when nothing moves.
 */
export function startExposure(
  scene: SceneDocument,
  { track, from, to }: { track: string; from: number; to: number },
  newId: IdSource,
): Patch | Refusal {
  const exposures = exposuresOfTrack(scene, track);
  const index = exposures.findIndex((exposure) => exposure.from === from);
  const moved = exposures[index];
  if (!moved) return { refusal: `No mouth starts at frame ${from + sceneSettings(scene).firstFrame}. Take hold of the edge between two.` };
  const before = exposures[index - 1];
  const stretch = chartStretchAt(scene, track, from);
  if (from === 0) return { refusal: 'The first mouth starts with the scene.' };
  if (from === stretch?.from)
    return { refusal: 'The chart changes here: its first mouth starts with it. Move the change of chart instead.' };
  const touches = before?.to === from;
  const least = touches ? before.from + 1 : (before?.to ?? stretch?.from ?? 0);
  const start = Math.max(least, Math.min(moved.to - 1, to));
  const put = putsOf<SceneDocument>();
  const reason = 'exposure.start';
  if (start === from) return { id: newId(), reason, ops: [] };
  const giving = touches ? [put('exposures', before, { ...before, to: start })] : [];
  const taking = put('exposures', moved, { ...moved, from: start, inked: true });
  // The one that gives way goes first, so that the two never overlap.
  return { id: newId(), reason, ops: start > from ? [taking, ...giving] : [...giving, taking] };
}
