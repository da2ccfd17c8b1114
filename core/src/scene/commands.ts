/**
 * What can be done to a scene. Commands are pure: they answer with a patch, or with a
 * refusal that says why not. Ids of new records come from the caller.
 */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import type { DocumentRecord } from '../document/documentKind.js';
import { sameJson } from '../document/documentKind.js';
import { putRecord, type Patch, type PatchOp, type PutOp } from '../document/patch.js';
import { checkRules, type KeyingRules } from '../keying/rules.js';
import type { Keyed, NotShown } from '../keying/keyingJob.js';
import { keySounds } from '../keying/keySounds.js';
import type { Reading } from '../reading/reading.js';
import { exposuresOfTrack, maybeExposureAt } from '../sheet/exposures.js';
import { placedSounds } from './placedSounds.js';
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
): { patch: Patch; notShown: readonly NotShown[] } | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const placed = placedSounds(scene, track.characterId);
  const current = exposuresOfTrack(scene, trackId);
  const ink = current.filter((exposure) => exposure.inked);
  const stretches = chartStretches(scene, trackId);
  const missing = stretches.find((stretch) => !charts.has(stretch.chartId));
  if (missing) return { refusal: 'The mouth chart of this track is gone. Choose another chart.' };
  const plans = new Map(
    [...new Set(stretches.map((stretch) => stretch.chartId))].map((id) => [
      id,
      keySounds({ sounds: placed, frameRate, lengthFrames, chart: charts.get(id)!, rules: track.rules, ink }),
    ]),
  );
  const keyed = stretches.length === 1 ? plans.get(stretches[0]!.chartId)! : joinedPlans(stretches, plans);
  const pencilled = new Map(current.filter((exposure) => !exposure.inked).map((exposure) => [exposure.from, exposure]));
  const puts: PutOp[] = [];
  for (const { from, to, drawing, plays } of keyed.exposures) {
    const wanted = { from, to, drawing, plays: plays.map((index) => placed[index]!.id) };
    const there = pencilled.get(from);
    pencilled.delete(from);
    const after: Exposure = { id: there?.id ?? newId(), track: trackId, inked: false, ...wanted };
    if (!there || !sameJson(there, after)) puts.push(put('exposures', there ?? null, after));
  }
  const removed = [...pencilled.values()].map((exposure) => put('exposures', exposure, null));
  return { patch: { id: newId(), reason: 'pencil.key', ops: [...removed, ...puts] }, notShown: keyed.notShown };
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
