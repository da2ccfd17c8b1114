/**
 * What can be done to a scene. Commands are pure: they answer with a patch, or with a
 * refusal that says why not. Ids of new records come from the caller.
 */
import { maybeDrawing, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { DocumentRecord } from '../document/documentKind.js';
import { sameJson } from '../document/documentKind.js';
import { putRecord, type Patch, type PatchOp, type PutOp } from '../document/patch.js';
import type { HeardFrames } from '../audio/frameLevels.js';
import { betweenFloorAndPeak, rangeOfLoudness } from '../keying/loudnessCurve.js';
import { checkRules, fullRules, type KeyingRules } from '../keying/rules.js';
import type { Keyed, KeyingJob, NotShown } from '../keying/keyingJob.js';
import { keySounds } from '../keying/keySounds.js';
import type { Reading } from '../reading/reading.js';
import { exposuresOfTrack, maybeExposureAt } from '../sheet/exposures.js';
import { placedSounds, type PlacedSound } from './placedSounds.js';
import { chartStretchAt, chartStretches, type ChartStretch } from './trackCharts.js';
import {
  sceneSettings,
  type Clip,
  type Exposure,
  type SceneDocument,
  type ScenePhoneme,
  type SceneSettings,
  type SceneWord,
  type Track,
} from './sceneDocument.js';

export interface Refusal {
  /** A sentence for the user. */
  readonly refusal: string;
}

export type IdSource = () => string;

export function isRefusal(result: unknown): result is Refusal {
  return typeof result === 'object' && result !== null && 'refusal' in result;
}

const put = putRecord<SceneDocument>;

/** Puts a drawing at a frame, in ink, held to the end of the exposure that was there. */
export function putDrawing(
  scene: SceneDocument,
  { track, frame, drawing }: { track: string; frame: number; drawing: string },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const { lengthFrames } = sceneSettings(scene);
  if (!maybeDrawing(chart, drawing)) return { refusal: `There is no drawing “${drawing}” in this chart. Choose one from the tray.` };
  if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames)
    return { refusal: `Frame ${frame} is outside the scene, which has ${lengthFrames} frames.` };
  const exposures = exposuresOfTrack(scene, track);
  const end = chartStretchAt(scene, track, frame)?.to ?? lengthFrames;
  const there = maybeExposureAt(exposures, frame);
  const reason = 'exposure.put';
  if (!there) {
    const next = exposures.find((exposure) => exposure.from > frame);
    const added: Exposure = { id: newId(), track, from: frame, to: Math.min(next?.from ?? end, end), drawing, inked: true, plays: [] };
    return { id: newId(), reason, ops: [put('exposures', null, added)] };
  }
  if (there.drawing === drawing && there.inked) return { refusal: 'That mouth is inked here already.' };
  if (there.from === frame || there.drawing === drawing) {
    const plays = there.drawing === drawing ? there.plays : [];
    return { id: newId(), reason, ops: [put('exposures', there, { ...there, drawing, inked: true, plays } as Exposure)] };
  }
  const added: Exposure = { id: newId(), track, from: frame, to: there.to, drawing, inked: true, plays: [] };
  return { id: newId(), reason, ops: [put('exposures', there, { ...there, to: frame } as Exposure), put('exposures', null, added)] };
}

/** Inks the exposure at a frame, or turns it back to pencil. */
export function setInk(
  scene: SceneDocument,
  { track, frame, inked }: { track: string; frame: number; inked: boolean },
  newId: IdSource,
): Patch | Refusal {
  const there = maybeExposureAt(exposuresOfTrack(scene, track), frame);
  if (!there) return { refusal: 'There is no mouth at the playhead. Press a keycap to put one there.' };
  if (there.inked === inked) return { refusal: inked ? 'This mouth is inked already.' : 'This mouth is in pencil already.' };
  return {
    id: newId(),
    reason: inked ? 'exposure.ink' : 'exposure.pencil',
    ops: [put('exposures', there, { ...there, inked } as Exposure)],
  };
}

/** The plans of several charts as one: each for its own stretches, cut where the chart changes. */
function joinedPlans(stretches: readonly ChartStretch[], plans: ReadonlyMap<string, Keyed>): Keyed {
  const exposures = stretches.flatMap(({ from, to, chartId }) =>
    plans.get(chartId)!.exposures.flatMap((exposure) => {
      const cut = { ...exposure, from: Math.max(from, exposure.from), to: Math.min(to, exposure.to) };
      return cut.from < cut.to ? [cut] : [];
    }),
  );
  // A closure is missing only where no chart's plan shows it.
  const [first, ...others] = [...plans.values()];
  const notShown = first!.notShown.filter(({ sound }) => others.every((plan) => plan.notShown.some((entry) => entry.sound === sound)));
  return { exposures, notShown };
}

/** What of a track is keyed, and what is known of its sound. */
export interface KeyingScope {
  /** Frames, half-open; the whole track when left out. The plan is that of the whole track, taken over there only. */
  readonly from?: number;
  readonly to?: number;
  /** What is heard of the track's speaker in each frame of the scene. Shape: lengthFrames. */
  readonly heard?: HeardFrames | undefined;
}

/** What the plan of a track is made from, for one of its charts. */
export function keyingJobOf(
  scene: SceneDocument,
  track: Track,
  chart: ChartDocument,
  heard?: HeardFrames,
): KeyingJob & { readonly sounds: readonly PlacedSound[] } {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const rules = fullRules(track.rules);
  const own = heard && rangeOfLoudness(heard.levels);
  const loudness =
    heard && own && betweenFloorAndPeak(heard.levels, { floorDb: rules.floorDb ?? own.floorDb, peakDb: rules.peakDb ?? own.peakDb });
  return {
    sounds: placedSounds(scene, track.characterId),
    frameRate,
    lengthFrames,
    chart,
    rules: track.rules,
    ink: exposuresOfTrack(scene, track.id).filter((exposure) => exposure.inked),
    ...(heard && loudness ? { loudness, hiss: heard.hiss } : {}),
  };
}

/**
 * Keys a track again: every pencilled exposure is planned anew between the inked ones.
 * Exposures that come out the same keep their ids, so keying twice changes nothing.
 *
 * @param charts the charts the track uses, by id
 * @returns the patch, whose ops are empty when nothing changes, and the closures that could not be shown
 */
export function keyPencil(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
  { from: first = 0, to: last = Infinity, heard }: KeyingScope = {},
): { patch: Patch; notShown: readonly NotShown[] } | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  if (fullRules(track.rules).source === 'loudness' && !heard)
    return { refusal: 'This mouth is keyed by loudness, and the recording has not been heard yet. Wait until its wave is there.' };
  const placed = placedSounds(scene, track.characterId);
  const current = exposuresOfTrack(scene, trackId);
  const stretches = chartStretches(scene, trackId);
  const missing = stretches.find((stretch) => !charts.has(stretch.chartId));
  if (missing) return { refusal: 'The mouth chart of this track is gone. Choose another chart.' };
  const plans = new Map(
    [...new Set(stretches.map((stretch) => stretch.chartId))].map((id) => [
      id,
      keySounds(keyingJobOf(scene, track, charts.get(id)!, heard)),
    ]),
  );
  const keyed = stretches.length === 1 ? plans.get(stretches[0]!.chartId)! : joinedPlans(stretches, plans);
  const isOutside = ({ from, to }: { from: number; to: number }): boolean => to <= first || from >= last;
  // Pencil that reaches over an end of the scope is cut there; what lies outside stays.
  const kept = current
    .filter((exposure) => !exposure.inked && (exposure.from < first || exposure.to > last))
    .flatMap((exposure) => {
      const { drawing, plays } = exposure;
      const head = { from: exposure.from, to: Math.min(exposure.to, first), drawing, plays };
      const tail = { from: Math.max(exposure.from, last), to: exposure.to, drawing, plays };
      return isOutside(exposure) ? [] : [head, tail].filter(({ from, to }) => from < to);
    });
  const planned = keyed.exposures
    .filter((exposure) => !isOutside(exposure))
    .map(({ from, to, drawing, plays }) => ({
      from: Math.max(from, first),
      to: Math.min(to, last),
      drawing,
      plays: plays.map((index) => placed[index]!.id),
    }));
  const walls = new Set(stretches.map((stretch) => stretch.from));
  const fresh = joinedAlike(
    [...kept, ...planned].sort((a, b) => a.from - b.from),
    walls,
  );
  const pencilled = new Map(
    current.filter((exposure) => !exposure.inked && !isOutside(exposure)).map((exposure) => [exposure.from, exposure]),
  );
  const puts: PutOp[] = [];
  for (const { from, to, drawing, plays } of fresh) {
    const wanted = { from, to, drawing, plays };
    const there = pencilled.get(from);
    pencilled.delete(from);
    const after: Exposure = { id: there?.id ?? newId(), track: trackId, inked: false, ...wanted };
    if (!there || !sameJson(there, after)) puts.push(put('exposures', there ?? null, after));
  }
  const removed = [...pencilled.values()].map((exposure) => put('exposures', exposure, null));
  return { patch: { id: newId(), reason: 'pencil.key', ops: [...removed, ...puts] }, notShown: keyed.notShown };
}

interface Held {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  readonly plays: readonly string[];
}

/** Neighbours that share a drawing are one exposure, but not across a change of chart. */
function joinedAlike(exposures: readonly Held[], walls: ReadonlySet<number>): Held[] {
  const joined: Held[] = [];
  for (const exposure of exposures) {
    const before = joined.at(-1);
    if (before && before.to === exposure.from && before.drawing === exposure.drawing && !walls.has(exposure.from))
      joined[joined.length - 1] = { ...before, to: exposure.to, plays: [...new Set([...before.plays, ...exposure.plays])] };
    else joined.push(exposure);
  }
  return joined;
}

/** Inks every exposure that reaches into some frames, or turns it back to pencil. */
export function inkSpan(
  scene: SceneDocument,
  { track, from, to, inked }: { track: string; from: number; to: number; inked: boolean },
  newId: IdSource,
): Patch | Refusal {
  const ops = exposuresOfTrack(scene, track)
    .filter((exposure) => exposure.from < to && exposure.to > from && exposure.inked !== inked)
    .map((exposure) => put('exposures', exposure, { ...exposure, inked } as Exposure));
  if (ops.length === 0) return { refusal: inked ? 'All of it is inked already.' : 'There is no ink here to turn back to pencil.' };
  return { id: newId(), reason: inked ? 'exposure.ink' : 'exposure.pencil', ops };
}

/** Takes pencil away: what is left is held from the ink before it, or rests. */
export function erasePencil(
  scene: SceneDocument,
  { track, from, to }: { track: string; from: number; to: number },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  const exposures = exposuresOfTrack(scene, track);
  const stretches = chartStretches(scene, track);
  const restAt = (frame: number): string | undefined => {
    const chart = charts.get(stretches.findLast((stretch) => stretch.from <= frame)?.chartId ?? '');
    return chart && restDrawing(chart).id;
  };
  const pencilled = exposures.filter((exposure) => !exposure.inked && exposure.from < to && exposure.to > from);
  if (pencilled.every((exposure) => exposure.drawing === restAt(exposure.from))) return { refusal: 'There is no pencil here to erase.' };
  const emptied = joinedAlike(
    pencilled.flatMap(({ from: start, to: end, drawing, plays }) => {
      const [first, last] = [Math.max(start, from), Math.min(end, to)];
      const parts: Held[] = [
        { from: start, to: first, drawing, plays },
        { from: first, to: last, drawing: restAt(first) ?? drawing, plays: [] },
        { from: last, to: end, drawing, plays },
      ];
      return parts.filter((part) => part.from < part.to);
    }),
    new Set(stretches.map((stretch) => stretch.from)),
  );
  const there = new Map(pencilled.map((exposure) => [exposure.from, exposure]));
  const puts = emptied.map((part) => {
    const before = there.get(part.from) ?? null;
    there.delete(part.from);
    return put('exposures', before, { id: before?.id ?? newId(), track, inked: false, ...part } as Exposure);
  });
  const removed = [...there.values()].map((exposure) => put('exposures', exposure, null));
  return { id: newId(), reason: 'pencil.erase', ops: [...removed, ...puts] };
}

/** Changes the rules of a track; the pencil stays as it is until it is keyed again. */
export function setRules(scene: SceneDocument, trackId: string, rules: KeyingRules, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  const [fault] = checkRules(rules);
  if (fault) return { refusal: fault };
  return { id: newId(), reason: 'track.rules', ops: [put('tracks', track, { ...track, rules } as Track)] };
}

/** Changes the line that a clip speaks. */
export function setScript(scene: SceneDocument, clipId: string, script: string, newId: IdSource): Patch | Refusal {
  const clip = scene.clips.find((candidate) => candidate.id === clipId);
  if (!clip) return { refusal: 'That recording is no longer in the scene.' };
  return { id: newId(), reason: 'clip.script', ops: [put('clips', clip, { ...clip, script } as Clip)] };
}

/** Changes the scene's title or first frame number. */
export function setSettings(scene: SceneDocument, changes: Partial<Pick<SceneSettings, 'title' | 'firstFrame'>>, newId: IdSource): Patch {
  const before = sceneSettings(scene);
  return { id: newId(), reason: 'scene.settings', ops: [put('settings', before, { ...before, ...changes } as SceneSettings)] };
}

/** The records of a reading under a clip. Their ids follow from the clip's, so that reading again changes records instead of replacing them. */
export function readingRecords(clip: string, reading: Reading): { words: SceneWord[]; phonemes: ScenePhoneme[] } {
  const wordId = (index: number): string => `${clip}.w${index}`;
  return {
    words: reading.words.map(({ text, from, to, confidence, guessed }, index) => ({
      id: wordId(index),
      clip,
      text,
      fromSample: from,
      toSample: to,
      confidence,
      ...(guessed ? { guessed } : {}),
    })),
    phonemes: reading.phonemes.map(({ symbol, stress, from, to, confidence, word }, index) => ({
      id: `${clip}.p${index}`,
      clip,
      word: word === null ? null : wordId(word),
      symbol,
      ...(stress === undefined ? {} : { stress }),
      fromSample: from,
      toSample: to,
      confidence,
    })),
  };
}

/** Replaces what was read of a clip. Ink stays; sounds that are gone are no longer listed as played. */
export function takeReading(scene: SceneDocument, clipId: string, reading: Reading, newId: IdSource): Patch | Refusal {
  const clip = scene.clips.find((candidate) => candidate.id === clipId);
  if (!clip) return { refusal: 'That recording is no longer in the scene.' };
  const records = readingRecords(clipId, reading);
  const { notSpeech: _, ...said } = clip;
  const clipRead: Clip = { ...said, readOf: clip.audio, ...(reading.notSpeech ? { notSpeech: reading.notSpeech } : {}) };
  const replace = (table: 'words' | 'phonemes', fresh: readonly DocumentRecord[]): PatchOp[] => {
    const old = new Map(
      (scene[table] as readonly (SceneWord | ScenePhoneme)[])
        .filter((record) => record.clip === clipId)
        .map((record) => [record.id, record]),
    );
    const puts = fresh.flatMap((record) => {
      const before = old.get(record.id) ?? null;
      old.delete(record.id);
      return sameJson(before, record) ? [] : [put(table, before, record)];
    });
    return [...[...old.values()].map((record) => put(table, record, null)), ...puts];
  };
  const known = new Set([...scene.phonemes.filter((phoneme) => phoneme.clip !== clipId), ...records.phonemes].map((phoneme) => phoneme.id));
  const exposures = scene.exposures.flatMap((exposure) => {
    const plays = exposure.plays.filter((id) => known.has(id));
    return plays.length === exposure.plays.length ? [] : [put('exposures', exposure, { ...exposure, plays } as Exposure)];
  });
  return {
    id: newId(),
    reason: 'reading.take',
    ops: [
      ...(sameJson(clip, clipRead) ? [] : [put('clips', clip, clipRead)]),
      ...replace('words', records.words),
      ...replace('phonemes', records.phonemes),
      ...exposures,
    ],
  };
}
