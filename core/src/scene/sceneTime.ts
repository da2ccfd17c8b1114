/**
 * Time put into a scene and taken out of it, in everything that lies on it: mouths of every
 * lane, recordings with what was read in them, ear marks, turns of the head, and its length.
 */
import { movedPlaces } from './places.js';
import { putsOf, type Patch, type PatchOp, type PutOp } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { overlapOf, without, type Span } from '../time/span.js';
import { sampleAtFrame } from '../time/samples.js';
import { MAX_SCENE_FRAMES } from './checkScene.js';
import { clipStart } from './clipPlace.js';
import { cutClips, type ClipPiece } from './cutClips.js';
import { exposuresOfTrack } from './exposures.js';
import { frameNumber, sceneSettings, type Clip, type Exposure, type SceneDocument, type TrackView } from './sceneDocument.js';

const put = putsOf<SceneDocument>();

const outsideScene = (scene: SceneDocument): Refusal => ({
  refusal: `These frames lie outside the scene, which has frames ${frameNumber(scene, 0)} to ${frameNumber(scene, sceneSettings(scene).lengthFrames - 1)}.`,
});

/** Time put in at a frame: what starts there or later moves along, what lies across it holds on, and a recording that is crossed pauses. */
export function insertTime(
  scene: SceneDocument,
  { frame, count }: { readonly frame: number; readonly count: number },
  newId: IdSource,
): Patch | Refusal {
  const settings = sceneSettings(scene);
  const { frameRate, lengthFrames } = settings;
  if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames) return outsideScene(scene);
  if (!Number.isInteger(count) || count < 1) return { refusal: `One frame or more can be inserted, not ${count}.` };
  if (lengthFrames + count > MAX_SCENE_FRAMES)
    return { refusal: `The scene would have ${lengthFrames + count} frames. It may have ${MAX_SCENE_FRAMES}: insert fewer.` };
  const at = sampleAtFrame(frameRate, frame);
  const piecesOf = (clip: Clip): ClipPiece[] => {
    const { fromSample: from, toSample: to, atFrame } = clip;
    if (atFrame >= frame) return [{ from, to, atFrame: atFrame + count }];
    const cut = at - clipStart(scene, clip);
    if (cut >= to) return [{ from, to, atFrame }];
    return [
      { from, to: cut, atFrame },
      { from: cut, to, atFrame: frame + count },
    ];
  };
  const mouths = scene.tracks.flatMap(({ id: track }): PatchOp[] => {
    const exposures = exposuresOfTrack(scene, track);
    // What is before the new frames holds on through them; before the first mouth nothing does, so it starts earlier.
    const before = exposures.findLast((exposure) => exposure.to <= frame);
    const first = exposures.find((exposure) => exposure.from >= frame);
    const crosses = exposures.some((exposure) => exposure.from < frame && exposure.to > frame);
    const shift: PatchOp = { op: 'shift', table: 'exposures', track, at: frame, by: count };
    if (crosses) return [shift];
    if (before?.to === frame) return [shift, put('exposures', before, { ...before, to: frame + count })];
    if (first?.from !== frame) return [shift];
    const moved: Exposure = { ...first, from: first.from + count, to: first.to + count };
    return [shift, put('exposures', moved, { ...moved, from: frame })];
  });
  const later = (view: TrackView): PutOp[] => (view.from >= frame ? [put('views', view, { ...view, from: view.from + count })] : []);
  return {
    id: newId(),
    reason: 'frames.insert',
    ops: [
      put('settings', settings, { ...settings, lengthFrames: lengthFrames + count }),
      ...cutClips(scene, piecesOf, newId).ops,
      ...mouths,
      ...scene.views.flatMap(later),
      ...scene.marks.flatMap((mark) => (mark.frame >= frame ? [put('marks', mark, { ...mark, frame: mark.frame + count })] : [])),
      ...scene.remarks.flatMap((one) => (one.frame >= frame ? [put('remarks', one, { ...one, frame: one.frame + count })] : [])),
      ...movedPlaces(scene, (at) => (at >= frame ? at + count : at)),
    ],
  };
}

/** The first word that would be in two: more than half a frame of it goes, and more than half a frame stays. */
function wordCut(scene: SceneDocument, clip: Clip, gone: Span): string | undefined {
  const { frameRate } = sceneSettings(scene);
  const half = sampleAtFrame(frameRate, 1) / 2;
  return scene.words.find((word) => {
    if (word.clip !== clip.id) return false;
    const span = { from: Math.max(word.fromSample, clip.fromSample), to: Math.min(word.toSample, clip.toSample) };
    const taken = overlapOf(span, gone);
    return taken > half && span.to - span.from - taken > half;
  })?.text;
}

/**
 * Frames taken out of the scene: what is in them goes, what follows moves up. Refused where a
 * word would be cut in two, or nothing would be left.
 */
export function removeTime(scene: SceneDocument, { from, to }: Span, newId: IdSource): Patch | Refusal {
  const settings = sceneSettings(scene);
  const { frameRate, lengthFrames } = settings;
  if (!Number.isInteger(from) || !Number.isInteger(to) || from < 0 || from >= to || to > lengthFrames) return outsideScene(scene);
  const taken = to - from;
  if (taken === lengthFrames) return { refusal: 'These are all the frames of the scene. Leave some.' };
  const [start, end] = [sampleAtFrame(frameRate, from), sampleAtFrame(frameRate, to)];
  const goneOf = (clip: Clip): Span => {
    const zero = clipStart(scene, clip);
    return { from: start - zero, to: end - zero };
  };
  for (const clip of scene.clips) {
    const word = wordCut(scene, clip, goneOf(clip));
    if (word !== undefined)
      return { refusal: `“${word}” would be cut in two. Select all of it, or none, or take the frames out of the mouths alone.` };
  }
  const piecesOf = (clip: Clip): ClipPiece[] => {
    const { fromSample, toSample, atFrame } = clip;
    const heard = { from: fromSample, to: toSample };
    if (atFrame >= to) return [{ ...heard, atFrame: atFrame - taken }];
    return without(heard, goneOf(clip)).map((piece) => ({
      ...piece,
      atFrame: piece.from === fromSample && atFrame < from ? atFrame : from,
    }));
  };
  const { ops, lost, clips } = cutClips(scene, piecesOf, newId);
  if (clips.length === 0) return { refusal: 'No recording would be left in the scene. Leave some of it.' };
  const withoutLost = (exposure: Exposure): Exposure =>
    exposure.plays.some((sound) => lost.has(sound)) ? { ...exposure, plays: exposure.plays.filter((sound) => !lost.has(sound)) } : exposure;
  const mouths = scene.tracks.flatMap(({ id: track }): PatchOp[] => {
    const puts = exposuresOfTrack(scene, track).flatMap((exposure): PutOp[] => {
      const crosses = exposure.from < from && exposure.to > to;
      const [left] = crosses ? [exposure] : without(exposure, { from, to });
      if (!left) return [put('exposures', exposure, null)];
      const after = withoutLost(left);
      return after === exposure ? [] : [put('exposures', exposure, after)];
    });
    return [...puts, { op: 'shift', table: 'exposures', track, at: from, by: -taken }];
  });
  return {
    id: newId(),
    reason: 'frames.remove',
    ops: [
      ...mouths,
      ...ops,
      ...scene.tracks.flatMap(({ id }) => viewsWithout(scene, id, { from, to })),
      ...scene.marks.flatMap((mark) => {
        if (mark.frame < from) return [];
        return [put('marks', mark, mark.frame < to ? null : { ...mark, frame: mark.frame - taken })];
      }),
      ...movedPlaces(scene, (at) => (at < from ? at : at < to ? null : at - taken)),
      // What somebody has said stays, at the cut.
      ...scene.remarks.flatMap((one) => {
        if (one.frame < from) return [];
        const frame = Math.max(0, Math.min(lengthFrames - taken - 1, one.frame < to ? from : one.frame - taken));
        return frame === one.frame ? [] : [put('remarks', one, { ...one, frame })];
      }),
      put('settings', settings, { ...settings, lengthFrames: lengthFrames - taken }),
    ],
  };
}

/** Turns of the head in frames that go: the last of them is seen from where they were. */
function viewsWithout(scene: SceneDocument, track: string, { from, to }: Span): PutOp[] {
  const views = scene.views.filter((view) => view.track === track);
  // What follows the frames keeps its chart, though it was turned to inside them.
  const last = views.findLast((view) => view.from >= from && view.from <= to);
  const { lengthFrames } = sceneSettings(scene);
  const isSeen = last !== undefined && to < lengthFrames;
  const own = scene.tracks.find(({ id }) => id === track)!;
  return views.flatMap((view): PutOp[] => {
    if (view.from < from) return [];
    if (view.from > to) return [put('views', view, { ...view, from: view.from - (to - from) })];
    if (view !== last || !isSeen) return [put('views', view, null)];
    if (from > 0) return view.from === from ? [] : [put('views', view, { ...view, from })];
    return [put('tracks', own, { ...own, chartId: view.chartId }), put('views', view, null)];
  });
}
