/** What is done to mouths chosen one by one, wherever in a track they are: one patch, one step of undo. */
import { maybeDrawing, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { Patch, PatchOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { chartStretches } from '../scene/trackCharts.js';
import { joined } from '../time/span.js';
import { heldOver, laidOver, laneChange, openLane, type Laid, type Lane } from './lane.js';

export interface ChosenMouths {
  readonly track: string;
  /** Of exposures; those that are gone are passed over. */
  readonly ids: ReadonlySet<string>;
}

const NONE: Refusal = { refusal: 'None of the chosen mouths is there any more. Choose some again.' };

/** What becomes of the lane of each chart, as one patch. */
function changed(
  scene: SceneDocument,
  { track, ids }: ChosenMouths,
  { reason, refusal }: { readonly reason: Reason; readonly refusal: string },
  next: (lane: Lane, chosen: readonly Laid[], chartId: string) => Lane,
  newId: IdSource,
): Patch | Refusal {
  if (!scene.exposures.some((exposure) => exposure.track === track && ids.has(exposure.id))) return NONE;
  const ops: PatchOp[] = [];
  for (const { from, to, chartId } of chartStretches(scene, track)) {
    const open = openLane(scene, { track, from, to });
    if (isRefusal(open)) return open;
    const chosen = open.lane.filter(({ id }) => id !== undefined && ids.has(id));
    if (chosen.length === 0) continue;
    const patch = laneChange(scene, { track, reason, refusal }, open, next(open.lane, chosen, chartId), newId);
    if (!isRefusal(patch)) ops.push(...patch.ops);
  }
  return ops.length > 0 ? { id: newId(), reason, ops } : { refusal };
}

const each =
  (become: (laid: Laid) => Laid) =>
  (lane: Lane, chosen: readonly Laid[]): Lane => {
    const those = new Set(chosen);
    return lane.map((laid) => (those.has(laid) ? become(laid) : laid));
  };

/** Inks the chosen mouths, or takes them back to pencil. */
export function inkChosen(
  scene: SceneDocument,
  { inked, ...chosen }: ChosenMouths & { readonly inked: boolean },
  newId: IdSource,
): Patch | Refusal {
  const reason = inked ? 'exposure.ink' : 'exposure.pencil';
  const refusal = inked ? 'They are all inked already.' : 'They are all in pencil already.';
  return changed(
    scene,
    chosen,
    { reason, refusal },
    each((laid) => ({ ...laid, inked })),
    newId,
  );
}

/** Another drawing for each chosen mouth, in ink; those on a chart without it stay as they are. */
export function exchangeChosen(
  scene: SceneDocument,
  { drawing, ...chosen }: ChosenMouths & { readonly drawing: string },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  return changed(
    scene,
    chosen,
    { reason: 'exposure.swap', refusal: 'They are all that drawing already.' },
    (lane, those, chartId) => {
      const chart = charts.get(chartId);
      if (!chart || !maybeDrawing(chart, drawing)) return lane;
      return each((laid) =>
        laid.drawing === drawing && laid.inked
          ? laid
          : { ...laid, drawing, inked: true, plays: laid.drawing === drawing ? laid.plays : [] },
      )(lane, those);
    },
    newId,
  );
}

/** The chosen mouths go: the one before each holds on, or the mouth rests. */
export function deleteChosen(
  scene: SceneDocument,
  { toRest, ...chosen }: ChosenMouths & { readonly toRest: boolean },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  return changed(
    scene,
    chosen,
    { reason: 'exposure.delete', refusal: 'Nothing would be left to hold on. Delete them to rest.' },
    (lane, those, chartId) => {
      const chart = charts.get(chartId);
      const gone = new Set(those);
      const left = lane.filter((laid) => !gone.has(laid));
      if (toRest || left.length === 0) {
        const drawing = chart && restDrawing(chart).id;
        if (drawing === undefined) return lane;
        return those.reduce<Lane>(
          (now, { from, to }) => laidOver(now, { from, to }, [{ from, to, drawing, inked: true, plays: [] }]),
          left,
        );
      }
      return joined(those).reduce<Lane>((now, gap) => heldOver(now, gap), left);
    },
    newId,
  );
}
