/**
 * What can be done to a scene. Commands are pure: they answer with a patch, or with a
 * refusal that says why not. Ids of new records come from the caller.
 */
import type { IdSource, Refusal } from '../document/refusal.js';
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import { checkRules, type KeyingRules } from '../keying/rules.js';
import type { Reading } from '../reading/reading.js';
import { exposuresOfTrack, maybeExposureAt } from './exposures.js';
import { readingOfClip, withInkKept } from './readingParts.js';
import { chartStretchAt } from './trackCharts.js';
import {
  sceneSettings,
  type Clip,
  type Exposure,
  type SceneDocument,
  type ScenePhoneme,
  type SceneSettings,
  type SceneWord,
} from './sceneDocument.js';

const put = putsOf<SceneDocument>();

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
    return { id: newId(), reason, ops: [put('exposures', there, { ...there, drawing, inked: true, plays })] };
  }
  const added: Exposure = { id: newId(), track, from: frame, to: there.to, drawing, inked: true, plays: [] };
  return { id: newId(), reason, ops: [put('exposures', there, { ...there, to: frame }), put('exposures', null, added)] };
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
    ops: [put('exposures', there, { ...there, inked })],
  };
}

/** Inks every exposure that reaches into some frames, or turns it back to pencil. */
export function inkSpan(
  scene: SceneDocument,
  { track, from, to, inked }: { track: string; from: number; to: number; inked: boolean },
  newId: IdSource,
): Patch | Refusal {
  const ops = exposuresOfTrack(scene, track)
    .filter((exposure) => exposure.from < to && exposure.to > from && exposure.inked !== inked)
    .map((exposure) => put('exposures', exposure, { ...exposure, inked }));
  if (ops.length === 0) return { refusal: inked ? 'All of it is inked already.' : 'There is no ink here to turn back to pencil.' };
  return { id: newId(), reason: inked ? 'exposure.ink' : 'exposure.pencil', ops };
}

/** Changes the rules of a track; the pencil stays as it is until it is keyed again. */
export function setRules(scene: SceneDocument, trackId: string, rules: KeyingRules, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  const [fault] = checkRules(rules);
  if (fault) return { refusal: fault };
  return { id: newId(), reason: 'track.rules', ops: [put('tracks', track, { ...track, rules })] };
}

/** Changes the line that a clip speaks. */
export function setScript(scene: SceneDocument, clipId: string, script: string, newId: IdSource): Patch | Refusal {
  const clip = scene.clips.find((candidate) => candidate.id === clipId);
  if (!clip) return { refusal: 'That recording is no longer in the scene.' };
  return { id: newId(), reason: 'clip.script', ops: [put('clips', clip, { ...clip, script })] };
}

/** Changes the scene's title or first frame number. */
export function setSettings(scene: SceneDocument, changes: Partial<Pick<SceneSettings, 'title' | 'firstFrame'>>, newId: IdSource): Patch {
  const before = sceneSettings(scene);
  return { id: newId(), reason: 'scene.settings', ops: [put('settings', before, { ...before, ...changes })] };
}

/**
 * The records of a reading under a clip. Their ids follow from the clip's, so that reading again
 * changes records instead of replacing them; one that another clip has, which was once a part of this one, is made anew.
 */
export function readingRecords(
  clip: string,
  reading: Reading,
  idFor: (id: string) => string = (id) => id,
): { words: SceneWord[]; phonemes: ScenePhoneme[] } {
  const wordIds = reading.words.map((_, index) => idFor(`${clip}.w${index}`));
  return {
    words: reading.words.map(({ text, from, to, confidence, guessed, inked }, index) => ({
      id: wordIds[index]!,
      clip,
      text,
      fromSample: from,
      toSample: to,
      confidence,
      ...(guessed ? { guessed } : {}),
      ...(inked ? { inked } : {}),
    })),
    phonemes: reading.phonemes.map(({ symbol, stress, from, to, confidence, word, inked }, index) => ({
      id: idFor(`${clip}.p${index}`),
      clip,
      word: word === null ? null : wordIds[word]!,
      symbol,
      ...(stress === undefined ? {} : { stress }),
      fromSample: from,
      toSample: to,
      confidence,
      ...(inked ? { inked } : {}),
    })),
  };
}

/** Replaces what was read of a clip. Ink stays; sounds that are gone are no longer listed as played. */
export function takeReading(scene: SceneDocument, clipId: string, reading: Reading, newId: IdSource): Patch | Refusal {
  const clip = scene.clips.find((candidate) => candidate.id === clipId);
  if (!clip) return { refusal: 'That recording is no longer in the scene.' };
  const elsewhere = new Set([...scene.words, ...scene.phonemes].filter((record) => record.clip !== clipId).map(({ id }) => id));
  const whole = withInkKept(readingOfClip(scene, clip), reading);
  const records = readingRecords(clipId, whole, (id) => (elsewhere.has(id) ? newId() : id));
  const { notSpeech: _, ...said } = clip;
  const clipRead: Clip = { ...said, readOf: clip.audio, ...(whole.notSpeech ? { notSpeech: whole.notSpeech } : {}) };
  const replace = (table: 'words' | 'phonemes', fresh: readonly (SceneWord | ScenePhoneme)[]): PatchOp[] => {
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
    return plays.length === exposure.plays.length ? [] : [put('exposures', exposure, { ...exposure, plays })];
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
