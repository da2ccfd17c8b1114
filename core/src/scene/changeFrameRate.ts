/**
 * The same scene at another frame rate. Everything stays where it is in time: mouths, clips,
 * marks and changes of chart move to the nearest frame of the new rate, those of a strict
 * track to the nearest frame of its hold. Two that meet there are one, and the one that must
 * be seen stays: lips that meet, meet.
 */
import type { ChartDocument } from '../chart/chart.js';
import { movedPlaces } from './places.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import { fullRules } from '../keying/rules.js';
import { exposuresOfTrack } from './exposures.js';
import { formatFrameRate, isFrameRate, sameFrameRate, SAMPLE_RATE, type FrameRate } from '../time/frameRate.js';
import { framesToHold } from '../time/samples.js';
import { MAX_SCENE_FRAMES } from './checkScene.js';
import { clipEnd } from './clipPlace.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { sceneSettings, type Exposure, type SceneDocument, type Track } from './sceneDocument.js';
import { chartStretches } from './trackCharts.js';

const put = putsOf<SceneDocument>();

export interface RateChange {
  readonly patch: Patch;
  readonly lengthFrames: number;
  /** Mouths that fell together with a neighbour. */
  readonly merged: readonly Exposure[];
}

/** Whether a drawing plays something that must be seen: lips together, or lip on teeth. */
function mustBeSeen(charts: ReadonlyMap<string, ChartDocument>, chartId: string, drawing: string): boolean {
  const chart = charts.get(chartId);
  const must = new Set(chart?.groups.filter((group) => group.must).map((group) => group.id));
  return chart?.drawings.find((candidate) => candidate.id === drawing)?.groups.some((group) => must.has(group)) ?? false;
}

/** The exposures of a track on the frames of the new rate, covering what they covered. */
function retimed(
  scene: SceneDocument,
  track: Track,
  charts: ReadonlyMap<string, ChartDocument>,
  frameAt: (frame: number) => number,
  lengthFrames: number,
): { kept: Exposure[]; merged: Exposure[] } {
  const { strict, holdFrames } = fullRules(track.rules);
  const grid = strict ? holdFrames : 1;
  const stretches = chartStretches(scene, track.id);
  const chartAt = (frame: number): string => stretches.findLast((stretch) => stretch.from <= frame)?.chartId ?? track.chartId;
  const borders = new Set(stretches.map((stretch) => frameAt(stretch.from)));
  const placed = (frame: number): number => {
    const exact = frameAt(frame);
    return borders.has(exact) || exact >= lengthFrames
      ? Math.min(exact, lengthFrames)
      : Math.min(lengthFrames, Math.round(exact / grid) * grid);
  };
  const kept: Exposure[] = [];
  const merged: Exposure[] = [];
  for (const exposure of exposuresOfTrack(scene, track.id)) {
    const [from, to] = [placed(exposure.from), placed(exposure.to)];
    const before = kept.at(-1);
    if (from < to && (!before || before.to <= from)) {
      kept.push({ ...exposure, from, to });
      continue;
    }
    // Nothing is left of it, or of the one before it: one of the two has the frame.
    const chartId = chartAt(exposure.from);
    const wins =
      before !== undefined &&
      (exposure.inked !== before.inked
        ? exposure.inked
        : mustBeSeen(charts, chartId, exposure.drawing) && !mustBeSeen(charts, chartId, before.drawing));
    const start = Math.min(from, lengthFrames - 1) - (from >= to && before && before.to - before.from > 1 && before.to === from ? 1 : 0);
    if (!wins || borders.has(from)) {
      merged.push(exposure);
      if (before && to > before.to && before.to >= from) kept[kept.length - 1] = { ...before, to };
      continue;
    }
    if (before.from < start) {
      kept[kept.length - 1] = { ...before, to: start };
      kept.push({ ...exposure, from: start, to: Math.max(to, start + 1) });
    } else {
      kept.pop();
      merged.push(before);
      kept.push({ ...exposure, from: before.from, to: Math.max(to, before.to) });
    }
  }
  return { kept, merged };
}

/**
 * Changes a scene's frame rate.
 *
 * @param charts the charts it uses, by id
 */
export function changeFrameRate(
  scene: SceneDocument,
  rate: FrameRate,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): RateChange | Refusal {
  const settings = sceneSettings(scene);
  if (!isFrameRate(rate)) return { refusal: 'A scene may have 1 to 120 frames a second, such as 24 or 29.97.' };
  if (sameFrameRate(rate, settings.frameRate)) return { refusal: `The scene has ${formatFrameRate(rate)} frames a second already.` };
  const factor = (rate.num * settings.frameRate.den) / (rate.den * settings.frameRate.num);
  const frameAt = (frame: number): number => Math.round(frame * factor);
  const next = { ...settings, frameRate: rate };
  const moved: SceneDocument = {
    ...scene,
    settings: [next],
    clips: scene.clips.map((clip) => ({ ...clip, atFrame: frameAt(clip.atFrame) })),
  };
  const lengthFrames = Math.max(
    1,
    framesToHold(rate, Math.round((settings.lengthFrames * SAMPLE_RATE * settings.frameRate.den) / settings.frameRate.num)),
    ...moved.clips.map((clip) => clipEnd(moved, clip)),
  );
  if (lengthFrames > MAX_SCENE_FRAMES)
    return { refusal: `The scene would have ${lengthFrames} frames. It may have ${MAX_SCENE_FRAMES}: choose a lower rate, or cut it.` };
  const ops: PatchOp[] = [put('settings', settings, { ...next, lengthFrames } as never)];
  scene.clips.forEach((clip, index) => {
    const after = moved.clips[index]!;
    if (after.atFrame !== clip.atFrame) ops.push(put('clips', clip, after));
  });
  for (const view of scene.views) {
    const from = Math.min(lengthFrames - 1, Math.max(1, frameAt(view.from)));
    if (from !== view.from) ops.push(put('views', view, { ...view, from } as never));
  }
  const taken = new Set<string>();
  for (const mark of scene.marks) {
    const frame = Math.min(lengthFrames - 1, frameAt(mark.frame));
    const place = `${mark.characterId} ${frame}`;
    // Two marks on one frame are the first of them.
    if (taken.has(place)) ops.push(put('marks', mark, null));
    else if (frame !== mark.frame) ops.push(put('marks', mark, { ...mark, frame } as never));
    taken.add(place);
  }
  for (const one of scene.remarks) {
    const frame = Math.min(lengthFrames - 1, frameAt(one.frame));
    if (frame !== one.frame) ops.push(put('remarks', one, { ...one, frame } as never));
  }
  ops.push(...movedPlaces(scene, (frame) => Math.min(lengthFrames - 1, frameAt(frame))));
  const merged: Exposure[] = [];
  for (const track of scene.tracks) {
    const lane = retimed(scene, track, charts, frameAt, lengthFrames);
    merged.push(...lane.merged);
    const kept = new Map(lane.kept.map((exposure) => [exposure.id, exposure]));
    for (const exposure of exposuresOfTrack(scene, track.id)) {
      const after = kept.get(exposure.id) ?? null;
      if (!after || after.from !== exposure.from || after.to !== exposure.to) ops.push(put('exposures', exposure, after));
    }
  }
  return { patch: { id: newId(), reason: 'scene.rate', ops }, lengthFrames, merged };
}
