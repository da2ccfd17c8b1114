/**
 * Recordings on the scene's time: placed, slid, trimmed, raised and lowered, silenced,
 * replaced by a better take. A trim keeps what is left where it was heard; a scene grows to
 * hold its clips and never cuts them silently. Ink stays at its frames, the pencil is keyed
 * again after any of it.
 */
import type { HeardFrames } from '../audio/frameLevels.js';
import type { ChartDocument } from '../chart/chart.js';
import { movedPlaces } from './places.js';
import { restDrawing } from '../chart/chart.js';
import { applyPatch, mergePatches, putsOf, type Patch, type PutOp } from '../document/patch.js';
import { sameJson } from '../document/documentKind.js';
import type { Reason } from '../document/reasons.js';
import { DEFAULT_RULES } from '../keying/rules.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { frameAtSample, framesToHold, sampleAtFrame } from '../time/samples.js';
import { MAX_SCENE_FRAMES } from './checkScene.js';
import { clipEnd, clipStart, GAIN_LIMITS, type Recording } from './clipPlace.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { keyPencil } from './pencil.js';
import {
  mouthLanes,
  SCENE_KIND,
  sceneSettings,
  type Clip,
  type Exposure,
  type SceneDocument,
  type SoundsOf,
  type Track,
} from './sceneDocument.js';

/** What may be said of a clip beside its place. */
export type ClipChanges = Partial<Pick<Clip, 'gainDb' | 'muted' | 'soloed' | 'script' | 'language' | 'characterId'>>;

/** The least that a trim leaves of a clip, in samples: a hundredth of a second. */
const SHORTEST_CLIP = SAMPLE_RATE / 100;

const put = putsOf<SceneDocument>();

const gone: Refusal = { refusal: 'That recording is no longer in the scene.' };

const maybeClip = (scene: SceneDocument, id: string): Clip | undefined => scene.clips.find((clip) => clip.id === id);

/** What makes the scene long enough for a clip; empty when it is. */
function growthFor(scene: SceneDocument, clip: Clip): PutOp[] | Refusal {
  const settings = sceneSettings(scene);
  const end = clipEnd(scene, clip);
  if (end > MAX_SCENE_FRAMES)
    return {
      refusal: `“${clip.fileName}” would end at frame ${end}. A scene may have ${MAX_SCENE_FRAMES} frames: place it earlier, or trim it.`,
    };
  return end > settings.lengthFrames ? [put('settings', settings, { ...settings, lengthFrames: end })] : [];
}

/** A changed clip with the growth it needs; a patch without ops when nothing changes. */
function changed(scene: SceneDocument, before: Clip, after: Clip, reason: Reason, newId: IdSource): Patch | Refusal {
  if (sameJson(before, after)) return { id: newId(), reason, ops: [] };
  const growth = growthFor(scene, after);
  return isRefusal(growth) ? growth : { id: newId(), reason, ops: [...growth, put('clips', before, after)] };
}

/** Slides a clip so that it starts at a frame; the scene grows if it must. */
export function slideClip(scene: SceneDocument, id: string, atFrame: number, newId: IdSource): Patch | Refusal {
  const clip = maybeClip(scene, id);
  if (!clip) return gone;
  if (!Number.isInteger(atFrame)) return { refusal: `A clip starts on a whole frame; ${atFrame} is none.` };
  return changed(scene, clip, { ...clip, atFrame: Math.max(0, atFrame) }, 'clip.slide', newId);
}

/**
 * Trims a clip so that it starts at a frame, or ends before it, as far as its recording
 * goes. What is left is heard where it was.
 */
export function trimClip(scene: SceneDocument, id: string, end: 'from' | 'to', frame: number, newId: IdSource): Patch | Refusal {
  const clip = maybeClip(scene, id);
  if (!clip) return gone;
  if (!Number.isInteger(frame)) return { refusal: `A clip is trimmed at a whole frame; ${frame} is none.` };
  const { frameRate } = sceneSettings(scene);
  const start = clipStart(scene, clip);
  const wanted = sampleAtFrame(frameRate, Math.max(0, frame)) - start;
  if (end === 'to') {
    const toSample = Math.min(clip.lengthSamples, Math.max(clip.fromSample + SHORTEST_CLIP, wanted));
    return changed(scene, clip, { ...clip, toSample }, 'clip.trim', newId);
  }
  // At NTSC rates a slide may have moved the recording by a sample against the frames: its head is not lost for that.
  const earliest = framesToHold(frameRate, Math.max(0, start - 1));
  const latest = frameAtSample(frameRate, start + clip.toSample - SHORTEST_CLIP);
  const atFrame = Math.min(latest, Math.max(earliest, frame));
  return changed(scene, clip, { ...clip, atFrame, fromSample: Math.max(0, sampleAtFrame(frameRate, atFrame) - start) }, 'clip.trim', newId);
}

/** What is changed of a clip, by the first of its changes. */
const clipReason = (changes: ClipChanges): Reason => `clip.${(Object.keys(changes) as (keyof ClipChanges)[])[0] ?? 'script'}`;

/** Gain, mute, solo, script, language, who speaks. A speaker new to the scene gets a track. */
export function changeClip(
  scene: SceneDocument,
  id: string,
  changes: ClipChanges,
  newId: IdSource,
  speaker?: { readonly chartId: string; readonly chart: ChartDocument },
): Patch | Refusal {
  const clip = maybeClip(scene, id);
  if (!clip) return gone;
  const { gainDb = clip.gainDb, characterId = clip.characterId } = changes;
  if (!(gainDb >= GAIN_LIMITS.least && gainDb <= GAIN_LIMITS.most))
    return { refusal: `The gain is ${gainDb} dB. It may be ${GAIN_LIMITS.least} to ${GAIN_LIMITS.most} dB.` };
  const patch = changed(scene, clip, { ...clip, ...changes }, clipReason(changes), newId);
  if (isRefusal(patch)) return patch;
  const track = trackFor(scene, characterId, speaker, newId);
  if (isRefusal(track)) return track;
  return { ...patch, ops: [...patch.ops, ...track] };
}

/** What gives a character a mouth track, at rest throughout; nothing when it has one. */
function trackFor(
  scene: SceneDocument,
  characterId: string,
  speaker: { readonly chartId: string; readonly chart: ChartDocument } | undefined,
  newId: IdSource,
): PutOp[] | Refusal {
  if (mouthLanes(scene).some((track) => track.characterId === characterId)) return [];
  if (!speaker) return { refusal: 'This character has no mouth chart. Make one, then let it speak.' };
  const rules = scene.tracks[0]?.rules ?? DEFAULT_RULES;
  const order = Math.floor(Math.max(-1, ...scene.tracks.map((track) => track.order))) + 1;
  const track: Track = { id: newId(), kind: 'mouth', characterId, chartId: speaker.chartId, order, rules };
  const rest: Exposure = {
    id: newId(),
    track: track.id,
    from: 0,
    to: sceneSettings(scene).lengthFrames,
    drawing: restDrawing(speaker.chart).id,
    inked: false,
    plays: [],
  };
  return [put('tracks', null, track), put('exposures', null, rest)];
}

/** Places one more recording in the scene. */
export function addClip(
  scene: SceneDocument,
  clip: Clip,
  newId: IdSource,
  speaker?: { readonly chartId: string; readonly chart: ChartDocument },
): Patch | Refusal {
  const growth = growthFor(scene, clip);
  if (isRefusal(growth)) return growth;
  const track = trackFor(scene, clip.characterId, speaker, newId);
  if (isRefusal(track)) return track;
  return { id: newId(), reason: 'clip.add', ops: [...growth, put('clips', null, clip), ...track] };
}

/**
 * Puts a better take in the place of a clip's recording, whole, at the same frame. Its
 * reading is kept as far as the new take goes, and stays that of the old one until it is
 * read again.
 */
export function replaceTake(scene: SceneDocument, id: string, take: Recording, newId: IdSource): Patch | Refusal {
  const clip = maybeClip(scene, id);
  if (!clip) return gone;
  if (take.audio === clip.audio)
    return { refusal: `This is the recording that is there already, “${clip.fileName}”. Choose another take.` };
  const { notSpeech: _, phrases, ...kept } = clip;
  const ruled = phrases?.flatMap((phrase) =>
    phrase.from < take.lengthSamples ? [{ ...phrase, to: Math.min(phrase.to, take.lengthSamples) }] : [],
  );
  const after: Clip = { ...kept, ...take, fromSample: 0, toSample: take.lengthSamples, ...(ruled && { phrases: ruled }) };
  const patch = changed(scene, clip, after, 'clip.replace', newId);
  if (isRefusal(patch)) return patch;
  const lost = new Set<string>();
  const cut = (table: 'words' | 'phonemes'): PutOp[] =>
    scene[table].flatMap((record) => {
      if (record.clip !== id || record.toSample <= take.lengthSamples) return [];
      if (record.fromSample < take.lengthSamples) return [put(table, record, { ...record, toSample: take.lengthSamples })];
      lost.add(record.id);
      return [put(table, record, null)];
    });
  // Words first: a sound that stays must not name a word that goes.
  const ops = [...cut('words'), ...cut('phonemes')];
  return { ...patch, ops: [...patch.ops, ...ops, ...withoutPlays(scene, lost)] };
}

/** Takes sounds off the lists of what exposures play. */
function withoutPlays(scene: SceneDocument, lost: ReadonlySet<string>): PutOp[] {
  if (lost.size === 0) return [];
  return scene.exposures.flatMap((exposure) => {
    const plays = exposure.plays.filter((sound) => !lost.has(sound));
    return plays.length === exposure.plays.length ? [] : [put('exposures', exposure, { ...exposure, plays })];
  });
}

/** Takes a clip out, with its reading. Ink stays. */
export function removeClip(scene: SceneDocument, id: string, newId: IdSource): Patch | Refusal {
  const clip = maybeClip(scene, id);
  if (!clip) return gone;
  if (scene.clips.length === 1) return { refusal: 'This is the only recording of the scene. Put a better take in its place, or mute it.' };
  const of = <T extends { readonly clip: string }>(records: readonly T[]): T[] => records.filter((record) => record.clip === id);
  const [words, phonemes] = [of(scene.words), of(scene.phonemes)];
  return {
    id: newId(),
    reason: 'clip.remove',
    ops: [
      ...words.map((word) => put('words', word, null)),
      ...phonemes.map((phoneme) => put('phonemes', phoneme, null)),
      ...withoutPlays(scene, new Set(phonemes.map((phoneme) => phoneme.id))),
      put('clips', clip, null),
    ],
  };
}

/** The scene may end before a clip does, which is then said; it may not lose ink, marks or a change of chart. */
export function setLength(scene: SceneDocument, lengthFrames: number, newId: IdSource): Patch | Refusal {
  const settings = sceneSettings(scene);
  if (!Number.isInteger(lengthFrames) || lengthFrames < 1 || lengthFrames > MAX_SCENE_FRAMES)
    return { refusal: `The scene cannot be ${lengthFrames} frames long. It may be 1 to ${MAX_SCENE_FRAMES}.` };
  const lastInk = Math.max(0, ...scene.exposures.filter((exposure) => exposure.inked).map((exposure) => exposure.to));
  const lastMark = Math.max(-1, ...scene.marks.map((mark) => mark.frame), ...scene.views.map((view) => view.from)) + 1;
  const least = Math.max(lastInk, lastMark);
  if (lengthFrames < least) {
    const what = lastInk >= lastMark ? 'There is ink' : 'There are ear marks or a change of chart';
    return { refusal: `${what} up to frame ${least - 1 + settings.firstFrame}. Take it away first, or end the scene after it.` };
  }
  const exposures = scene.exposures.flatMap((exposure) => {
    if (exposure.to <= lengthFrames) return [];
    return [put('exposures', exposure, exposure.from >= lengthFrames ? null : { ...exposure, to: lengthFrames })];
  });
  // What somebody has said of a frame that goes is kept at the last one.
  const remarks = scene.remarks.flatMap((one) =>
    one.frame < lengthFrames ? [] : [put('remarks', one, { ...one, frame: lengthFrames - 1 })],
  );
  return {
    id: newId(),
    reason: 'scene.length',
    ops: [
      ...exposures,
      ...remarks,
      ...movedPlaces(scene, (at) => (at < lengthFrames ? at : null)),
      put('settings', settings, { ...settings, lengthFrames }),
    ],
  };
}

/** What is heard of one of the speakers in each frame of a scene, where it is known. */
export type HeardOf = (scene: SoundsOf, characterId: string) => HeardFrames | undefined;

/**
 * The pencil of every track keyed again. A track whose chart is not there is left as it is.
 *
 * @param charts the charts of every track, by id
 */
export function pencilKeyed(
  scene: SceneDocument,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
  heardOf: HeardOf = () => undefined,
): Patch {
  const keyed = (of: SceneDocument, kind: Track['kind']): Patch => {
    const ops = of.tracks.flatMap((track) => {
      const made =
        track.kind === kind && !track.locked
          ? keyPencil(of, track.id, charts, newId, { heard: heardOf(of, track.characterId) })
          : undefined;
      return made && !isRefusal(made) ? made.patch.ops : [];
    });
    return { id: newId(), reason: 'pencil.key', ops };
  };
  const mouths = keyed(scene, 'mouth');
  if (!scene.tracks.some(({ kind }) => kind === 'part')) return mouths;
  // Lids look at the mouths.
  const whole = mergePatches(mouths, keyed(applyPatch(SCENE_KIND, scene, mouths), 'part'));
  const after = applyPatch(SCENE_KIND, scene, whole);
  return hasLinks(after) ? mergePatches(whole, linkedKeyed(after, charts, newId)) : whole;
}

/** Whether any lane goes with another. */
export const hasLinks = ({ tracks }: Pick<SceneDocument, 'tracks'>): boolean => tracks.some(({ links }) => (links?.length ?? 0) > 0);

/**
 * The pencil of the lanes that go with others keyed again, after what those show: first those that lead, then those that go
 * with them. A lane that leads is keyed by its own rules only.
 */
export function linkedKeyed(scene: SceneDocument, charts: ReadonlyMap<string, ChartDocument>, newId: IdSource): Patch {
  const waiting = scene.tracks.filter(({ links, locked }) => (links?.length ?? 0) > 0 && !locked);
  const leads = (lane: Track, other: Track): boolean =>
    lane.characterId === other.characterId && (other.links ?? []).some(({ of }) => of?.toLowerCase() === lane.part?.toLowerCase());
  let [now, whole] = [scene, { id: newId(), reason: 'pencil.key', ops: [] } as Patch];
  while (waiting.length > 0) {
    // In a ring any may be first: each is keyed once.
    const at = Math.max(
      0,
      waiting.findIndex((lane) => !waiting.some((other) => other !== lane && leads(other, lane))),
    );
    const [lane] = waiting.splice(at, 1);
    const made = keyPencil(now, lane!.id, charts, newId);
    if (isRefusal(made) || made.patch.ops.length === 0) continue;
    now = applyPatch(SCENE_KIND, now, made.patch);
    whole = mergePatches(whole, made.patch);
  }
  return { ...whole, reason: 'pencil.key' };
}

/** A change with the pencil keyed again after it, as one patch. */
export function withPencilKeyed(
  scene: SceneDocument,
  change: Patch | Refusal,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
  heardOf?: HeardOf,
): Patch | Refusal {
  if (isRefusal(change) || change.ops.length === 0) return change;
  return mergePatches(change, pencilKeyed(applyPatch(SCENE_KIND, scene, change), charts, newId, heardOf));
}
