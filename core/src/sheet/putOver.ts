/** One mouth over a span of frames, in ink: what a keycap does to what is selected. */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { frameNumber, type Exposure, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { exposuresOfTrack } from '../scene/exposures.js';

const put = (before: Exposure | null, after: Exposure | null): PatchOp => putsOf<SceneDocument>()('exposures', before, after);

/**
 * Puts a drawing over `[from, to)`, frames. What lies inside gives way, ink too, for this is
 * asked for by name; what reaches over an end keeps what lies outside.
 */
export function putOver(
  scene: SceneDocument,
  { track, from, to, drawing }: { track: string; from: number; to: number; drawing: string },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  if (!maybeDrawing(chart, drawing)) return { refusal: `There is no drawing “${drawing}” in this chart. Choose one from the tray.` };
  const stretch = chartStretchAt(scene, track, from);
  if (!stretch || from >= to || to > stretch.to)
    return {
      refusal: stretch
        ? `The selection reaches past frame ${frameNumber(scene, stretch.to)}, where the head turns to another chart. Select up to there.`
        : 'The selection lies outside the scene.',
    };
  const over = exposuresOfTrack(scene, track).filter((exposure) => exposure.from < to && exposure.to > from);
  const [only] = over;
  const isThere = over.length === 1 && only!.from === from && only!.to === to && only!.drawing === drawing && only!.inked;
  if (isThere) return { refusal: 'That mouth is inked here already.' };
  // The first that is there becomes the mouth, so that a change of mind keeps its id.
  const kept = over.find((exposure) => exposure.from >= from);
  const plays = [...new Set(over.filter((exposure) => exposure.drawing === drawing).flatMap((exposure) => exposure.plays))];
  const ops = over.flatMap((exposure): PatchOp[] => {
    const before = exposure.from < from ? { ...exposure, to: from } : undefined;
    const after = exposure.to > to ? { ...exposure, from: to, ...(before && { id: newId() }) } : undefined;
    if (exposure === kept && !after) return [];
    if (before && after) return [put(exposure, before), put(null, after)];
    return [put(exposure, before ?? after ?? null)];
  });
  const mouth: Exposure = { id: newId(), track, from, to, drawing, inked: true, plays };
  const isKept = kept && kept.to <= to;
  return { id: newId(), reason: 'exposure.put', ops: [...ops, isKept ? put(kept, { ...mouth, id: kept.id }) : put(null, mouth)] };
}
