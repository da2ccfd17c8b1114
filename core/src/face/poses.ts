/** Poses: a named set of drawings over several parts of a face, put into all of their lanes at once. */
import { maybeDrawing, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { ChartHead, HeadPose } from '../chart/head.js';
import { partsOfHead, type PartLook } from '../chart/headParts.js';
import { applyPatch, mergePatches, type Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { maybeBetween } from '../keying/afterPlan.js';
import { addPartLane, maybePartLane } from '../scene/partLanes.js';
import { SCENE_KIND, type SceneDocument } from '../scene/sceneDocument.js';
import { putOver } from '../sheet/putOver.js';

/** What a face shows as a pose of it, of those parts that have a lane. */
export function poseOfFace(
  scene: SceneDocument,
  characterId: string,
  head: ChartHead,
  face: readonly PartLook[],
  name: string,
  newId: IdSource,
): HeadPose {
  const kept = partsOfHead(head).filter((part) => maybePartLane(scene, characterId, part.name));
  const drawings = kept.flatMap(({ id }) => face.filter(({ part }) => part === id).map(({ part, drawing }) => ({ part, drawing })));
  return { id: newId(), name: name.trim(), drawings };
}

/**
 * Puts a pose over some frames, in ink, as one change. A lane that is not there yet is made; a part or a drawing that is gone
 * is left out.
 *
 * @param mouth the mouth lane of whose face it is
 */
export function putPose(
  scene: SceneDocument,
  {
    mouth,
    head,
    pose,
    from,
    to,
    strength = 1,
  }: {
    readonly mouth: string;
    readonly head: ChartHead;
    readonly pose: HeadPose;
    readonly from: number;
    readonly to: number;
    /** Of the way from rest, 0 to 1: a part whose drawings cannot be mixed shows the nearest between, or the whole pose. */
    readonly strength?: number;
  },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  const characterId = scene.tracks.find(({ id }) => id === mouth)?.characterId;
  if (characterId === undefined) return { refusal: 'That lane is no longer in the scene.' };
  let [now, whole] = [scene, undefined as Patch | undefined];
  let refused: Refusal | undefined;
  const take = (patch: Patch | Refusal): void => {
    if (isRefusal(patch)) {
      refused ??= patch;
      return;
    }
    now = applyPatch(SCENE_KIND, now, patch);
    whole = whole ? mergePatches(whole, patch) : patch;
  };
  for (const { part: id, drawing } of pose.drawings) {
    const part = partsOfHead(head).find((one) => one.id === id);
    const chart = part && charts.get(part.chartId);
    if (!part || !chart || !maybeDrawing(chart, drawing)) continue;
    if (!maybePartLane(now, characterId, part.name)) take(addPartLane(now, { mouth, part }, chart, newId));
    const lane = maybePartLane(now, characterId, part.name);
    const shown = strength < 1 ? (maybeBetween(chart, restDrawing(chart).id, drawing, strength) ?? drawing) : drawing;
    if (lane) take(putOver(now, { track: lane.id, from, to, drawing: shown }, chart, newId));
  }
  return whole
    ? { ...whole, reason: 'pose.put' }
    : (refused ?? { refusal: `Nothing of the pose “${pose.name}” is on this head any more.` });
}
