/**
 * Mends: what a note offers, made a patch. Of several ways the first is taken that makes its note go without making another
 * of weight, which is tried on the lane itself around the place.
 */
import { applyPatch, mergePatches, type Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import type { InkedSpan } from '../keying/keyingJob.js';
import { keySounds } from '../keying/keySounds.js';
import { changeClip, setLength } from '../scene/clips.js';
import { clipStart } from '../scene/clipPlace.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { chartsWithOneOffs } from '../scene/oneOffs.js';
import { keyingJobOf } from '../scene/pencil.js';
import { SCENE_KIND, sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt, chartStretches } from '../scene/trackCharts.js';
import { laidOver, laneChange, openLane, outside, partOf, type Laid } from '../sheet/lane.js';
import { slideFrames } from '../sheet/laneEdits.js';
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';
import { overlaps, type Span } from '../time/span.js';
import { checkedLane } from './checkedLane.js';
import type { CheckJob } from './checkedScene.js';
import { checkNotes, laneNotes } from './checkNotes.js';
import type { Mend, MendPiece, Note } from './note.js';

/** A mend is tried with so much of the lane around it, in seconds. */
const AROUND = 3;
/** From this weight on a note that a mend makes is worse than none mended. */
const OF_WEIGHT = 2;

const NOTHING: Refusal = { refusal: 'Nothing changes: it is mended already.' };
const NO_WAY: Refusal = { refusal: 'Nothing mends this without making something else. Look at it by hand.' };

/** The lane around some frames, the rest of the scene left out: what is near is all that a mend can touch. */
function nearby(scene: SceneDocument, track: string, { from, to }: Span): SceneDocument {
  const fps = framesPerSecond(sceneSettings(scene).frameRate);
  const reach = Math.ceil(AROUND * fps);
  const near: Span = { from: from - reach, to: to + reach };
  const perSample = fps / SAMPLE_RATE;
  const starts = new Map(scene.clips.map((clip) => [clip.id, clipStart(scene, clip)]));
  const isNear = ({ clip, fromSample, toSample }: { clip: string; fromSample: number; toSample: number }): boolean => {
    const start = starts.get(clip) ?? 0;
    return overlaps({ from: (start + fromSample) * perSample, to: (start + toSample) * perSample }, near);
  };
  return {
    ...scene,
    words: scene.words.filter(isNear),
    phonemes: scene.phonemes.filter(isNear),
    exposures: exposuresOfTrack(scene, track).filter((exposure) => overlaps(exposure, near)),
  };
}

/** What the plan has in some frames, all around them as it is. */
function planned(job: CheckJob, track: string, span: Span): Laid[] {
  const scene = nearby(job.scene, track, span);
  const own = scene.tracks.find(({ id }) => id === track)!;
  const stretch = chartStretchAt(scene, track, span.from);
  const chart = chartsWithOneOffs(scene, job.charts).get(stretch?.chartId ?? '');
  if (!chart) return [];
  const keying = keyingJobOf(scene, own, chart, job.heardOf?.(own.characterId));
  const around = outside(exposuresOfTrack(scene, track), span).map(({ from, to, drawing }): InkedSpan => ({ from, to, drawing }));
  const [first, last] = [around[0]?.from ?? span.from, around.at(-1)?.to ?? span.to];
  const walls: InkedSpan[] = [
    ...(Math.min(first, span.from) > 0 ? [{ from: 0, to: Math.min(first, span.from), drawing: '' }] : []),
    ...around,
    ...(Math.max(last, span.to) < keying.lengthFrames ? [{ from: Math.max(last, span.to), to: keying.lengthFrames, drawing: '' }] : []),
  ];
  const { exposures } = keySounds({ ...keying, ink: walls });
  return partOf(
    exposures.map(({ from, to, drawing, plays }) => ({
      from,
      to,
      drawing,
      inked: false,
      plays: plays.map((sound) => keying.sounds[sound]!.id),
    })),
    span,
  );
}

/** Mouths of a hand: in ink, with the sounds of the mouth whose place they take where they show the same. */
const inkedPieces = (pieces: readonly MendPiece[], scene: SceneDocument, track: string): Laid[] =>
  pieces.map(({ from, to, drawing }) => {
    const same = exposuresOfTrack(scene, track).find((one) => one.drawing === drawing && one.from <= to && one.to >= from);
    return { from, to, drawing, inked: true, plays: same?.plays ?? [] };
  });

/** A mouth that is laid beside one that shows the same is one with it, decided as a whole; what lies further off is let be. */
function joined(lane: readonly Laid[], { from, to }: Span): Laid[] {
  const made: Laid[] = [];
  for (const laid of lane) {
    const before = made.at(-1);
    const isBeside = laid.from >= from && laid.from <= to;
    if (isBeside && before?.to === laid.from && before.drawing === laid.drawing) {
      const id = before.id ?? laid.id;
      const plays = [...new Set([...before.plays, ...laid.plays])];
      made[made.length - 1] = { ...before, ...(id !== undefined && { id }), to: laid.to, inked: true, plays };
    } else made.push(laid);
  }
  return made;
}

/** A mend as one patch. */
export function mendPatch(job: CheckJob, mend: Mend, newId: IdSource): Patch | Refusal {
  const { scene } = job;
  if (mend.do === 'length') return lengthened(job, mend.frames, newId);
  if (mend.do === 'gain') return asMend(changeClip(scene, mend.clip, { gainDb: mend.db }, newId));
  if (mend.do === 'slide') return slidWhole(scene, mend.track, mend.by, newId);
  const stretch = chartStretchAt(scene, mend.track, mend.from);
  if (!stretch) return NOTHING;
  const span = { from: Math.max(stretch.from, mend.from), to: Math.min(stretch.to, mend.to) };
  const open = openLane(scene, { track: mend.track, ...span });
  if (isRefusal(open)) return open;
  const pieces = mend.do === 'plan' ? planned(job, mend.track, span) : inkedPieces(mend.pieces, scene, mend.track);
  if (pieces.length === 0) return NOTHING;
  const laid = laidOver(open.lane, span, pieces);
  const next = mend.do === 'plan' ? laid : joined(laid, span);
  return laneChange(scene, { track: mend.track, reason: 'check.mend', refusal: NOTHING.refusal }, open, next, newId);
}

const asMend = (patch: Patch | Refusal): Patch | Refusal => (isRefusal(patch) ? patch : { ...patch, reason: 'check.mend' });

/** Another length; where the scene grows, its new frames are keyed as the plan has them. */
function lengthened(job: CheckJob, frames: number, newId: IdSource): Patch | Refusal {
  const before = sceneSettings(job.scene).lengthFrames;
  const patch = asMend(setLength(job.scene, frames, newId));
  if (isRefusal(patch) || frames <= before) return patch;
  let [scene, whole] = [applyPatch(SCENE_KIND, job.scene, patch), patch];
  for (const { id } of scene.tracks) {
    const keyed = mendPatch({ ...job, scene }, { do: 'plan', track: id, from: before, to: frames }, newId);
    if (isRefusal(keyed)) continue;
    scene = applyPatch(SCENE_KIND, scene, keyed);
    whole = { ...mergePatches(whole, keyed), reason: 'check.mend' };
  }
  return whole;
}

/** Each stretch of a chart slid by itself: no mouth passes a turn of the head. */
function slidWhole(scene: SceneDocument, track: string, by: number, newId: IdSource): Patch | Refusal {
  let now = scene;
  let whole: Patch | undefined;
  for (const { from, to } of chartStretches(scene, track)) {
    const patch = slideFrames(now, { track, from, to, by }, newId);
    if (isRefusal(patch)) continue;
    now = applyPatch(SCENE_KIND, now, patch);
    whole = whole ? mergePatches(whole, patch) : patch;
  }
  return whole ? { ...whole, reason: 'check.mend' } : NOTHING;
}

/** Whether two notes are of the same thing. */
const isSame = (one: Note, other: Note): boolean =>
  one.kind === other.kind &&
  one.track === other.track &&
  (one.of !== undefined && one.of === other.of
    ? Math.abs(one.from - other.from) < 200
    : one.from <= other.to + 1 && other.from <= one.to + 1);

/** What is said before and after a mend, as far as the mend can change it. */
function notesAround(job: CheckJob, note: Note, mend: Mend): (scene: SceneDocument) => Note[] {
  if (note.track === null || mend.do === 'slide' || mend.do === 'length' || mend.do === 'gain')
    return (scene) => checkNotes({ ...job, scene });
  const track = note.track;
  const { from, to } = mend;
  const span = { from: Math.min(from, note.from), to: Math.max(to, note.to) };
  return (whole) => {
    const scene = nearby(whole, track, span);
    const own = scene.tracks.find(({ id }) => id === track)!;
    const options = { heard: job.heardOf?.(own.characterId), limits: job.limits };
    return laneNotes(checkedLane(scene, own, chartsWithOneOffs(scene, job.charts), options));
  };
}

export interface TriedMend {
  readonly mend: Mend;
  readonly patch: Patch;
}

/** The first way that mends a note and makes nothing else of weight. */
export function mendOfNote(job: CheckJob, note: Note, newId: IdSource): TriedMend | Refusal {
  for (const mend of note.mends) {
    const patch = mendPatch(job, mend, newId);
    if (isRefusal(patch)) continue;
    const notes = notesAround(job, note, mend);
    const before = notes(job.scene);
    const after = notes(applyPatch(SCENE_KIND, job.scene, patch));
    const isGone = !after.some((one) => isSame(one, note));
    const isClean = after.every((one) => one.weight < OF_WEIGHT || before.some((other) => isSame(one, other)));
    if (isGone && isClean) return { mend, patch };
  }
  return NO_WAY;
}

export interface MendedAll {
  readonly patch: Patch;
  readonly mended: number;
  /** Those that nothing mends, and those in ink. */
  readonly left: number;
}

/**
 * Mends many notes as one patch, one after another on what the lane has become; ink is left as it is.
 *
 * @param onStep called after each with the share done, 0 to 1; answers whether to go on
 */
export function mendAll(
  job: CheckJob,
  notes: readonly Note[],
  newId: IdSource,
  onStep: (done: number) => boolean = () => true,
): MendedAll | Refusal {
  let scene = job.scene;
  let whole: Patch | undefined;
  let mended = 0;
  for (const [index, note] of notes.entries()) {
    if (!onStep(index / notes.length)) return { refusal: 'Given up. Nothing was changed.' };
    if (note.isInk || note.mends.length === 0) continue;
    const tried = mendOfNote({ ...job, scene }, note, newId);
    if (isRefusal(tried)) continue;
    scene = applyPatch(SCENE_KIND, scene, tried.patch);
    whole = whole ? mergePatches(whole, tried.patch) : tried.patch;
    mended += 1;
  }
  return whole ? { patch: { ...whole, reason: 'check.mend' }, mended, left: notes.length - mended } : NO_WAY;
}

/** What a mend does, in words. */
export function mendInWords(mend: Mend, { labelOf, firstFrame }: { labelOf(drawing: string): string; firstFrame: number }): string {
  const frames = (from: number, to: number): string =>
    to - from === 1 ? `frame ${from + firstFrame}` : `frames ${from + firstFrame} to ${to - 1 + firstFrame}`;
  switch (mend.do) {
    case 'lay':
      return mend.pieces.map(({ from, to, drawing }) => `“${labelOf(drawing)}” in ${frames(from, to)}`).join(', ');
    case 'plan':
      return `${frames(mend.from, mend.to).replace(/^f/, 'F')} as the plan has them`;
    case 'slide':
      return `The whole lane ${Math.abs(mend.by)} ${Math.abs(mend.by) === 1 ? 'frame' : 'frames'} ${mend.by < 0 ? 'earlier' : 'later'}`;
    case 'length':
      return `A scene of ${mend.frames} frames`;
    case 'gain':
      return `A gain of ${mend.db} dB`;
  }
}
