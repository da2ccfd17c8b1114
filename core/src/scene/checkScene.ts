/**
 * Every invariant of a scene in one place: records sorted, exposures disjoint and inside
 * the scene, `from < to`, whole numbers, and nothing that points at what is not there.
 */
import type { ChartDocument } from '../chart/chart.js';
import { drawingsIn } from '../draw/madeDrawings.js';
import { checkRules } from '../keying/rules.js';
import { maybePhoneme } from '../phonetics/phonemes.js';
import { isFrameRate } from '../time/frameRate.js';
import { MAX_MARK_LETTERS } from './earMarks.js';
import { GAIN_LIMITS } from './clipPlace.js';
import { chartsWithOneOffs, checkOneOffs } from './oneOffs.js';
import { SCENE_KIND, sceneSettings, type Clip, type SceneDocument } from './sceneDocument.js';
import { chartStretches } from './trackCharts.js';

/** The longest scene accepted, in frames: half an hour at 30 fps. */
export const MAX_SCENE_FRAMES = 54_000;

const isSpan = (from: number, to: number): boolean => Number.isInteger(from) && Number.isInteger(to) && from >= 0 && from < to;

function checkSettings(scene: SceneDocument): string[] {
  if (scene.settings.length !== 1) return ['A scene has exactly one record of settings.'];
  const { title, frameRate, firstFrame, lengthFrames } = sceneSettings(scene);
  const faults: string[] = [];
  if (title.trim() === '' || title.length > 200) faults.push('A scene needs a title of 1 to 200 letters.');
  if (!isFrameRate(frameRate)) faults.push('The frame rate must be a fraction between 1 and 120 frames a second.');
  if (!Number.isInteger(firstFrame) || firstFrame < 0 || firstFrame > 9_999_999)
    faults.push('The first frame number must be a whole number from 0 to 9999999.');
  if (!Number.isInteger(lengthFrames) || lengthFrames < 1 || lengthFrames > MAX_SCENE_FRAMES)
    faults.push(`A scene is 1 to ${MAX_SCENE_FRAMES} frames long.`);
  return faults;
}

function checkOrder(scene: SceneDocument): string[] {
  const faults: string[] = [];
  for (const table of Object.keys(SCENE_KIND) as (keyof SceneDocument)[]) {
    const compare = SCENE_KIND[table].compare as (a: unknown, b: unknown) => number;
    const records = scene[table];
    if (new Set(records.map((record) => record.id)).size !== records.length) faults.push(`Two ${table} have the same id.`);
    for (let index = 1; index < records.length; index++) {
      if (compare(records[index - 1], records[index]) > 0) faults.push(`The ${table} are out of order at ${records[index]!.id}.`);
    }
  }
  return faults;
}

function checkClip({ id, atFrame, lengthSamples, fromSample, toSample, gainDb, notSpeech = [], phrases = [] }: Clip): string[] {
  const faults: string[] = [];
  if (!Number.isInteger(atFrame) || atFrame < 0) faults.push(`Clip ${id} must start on a whole frame from 0.`);
  if (!Number.isInteger(lengthSamples) || !isSpan(fromSample, toSample) || toSample > lengthSamples)
    faults.push(`What is heard of clip ${id} must lie inside its recording and be at least a sample long.`);
  if (!(gainDb >= GAIN_LIMITS.least && gainDb <= GAIN_LIMITS.most))
    faults.push(`The gain of clip ${id} may be ${GAIN_LIMITS.least} to ${GAIN_LIMITS.most} dB.`);
  if (!notSpeech.every(({ from, to }) => isSpan(from, to) && to <= lengthSamples))
    faults.push(`What is not speech in clip ${id} must lie inside its recording.`);
  phrases.forEach(({ from, to, rules }, index) => {
    if (!isSpan(from, to) || to > lengthSamples || from < (phrases[index - 1]?.to ?? 0))
      faults.push(`The phrases of clip ${id} that have rules of their own must lie inside it, one after another.`);
    faults.push(...checkRules(rules));
  });
  return faults;
}

function checkReadingTables(scene: SceneDocument): string[] {
  const faults: string[] = [];
  const lengths = new Map(scene.clips.map((clip) => [clip.id, clip.lengthSamples]));
  const words = new Map(scene.words.map((word) => [word.id, word]));
  let before = { clip: '', toSample: 0 };
  for (const item of [...scene.words, ...scene.phonemes]) {
    const length = lengths.get(item.clip);
    if (length === undefined) faults.push(`${item.id} belongs to the clip ${item.clip}, which is not there.`);
    else if (!isSpan(item.fromSample, item.toSample) || item.toSample > length) faults.push(`${item.id} does not lie inside its clip.`);
  }
  for (const phoneme of scene.phonemes) {
    if (!maybePhoneme(phoneme.symbol)) faults.push(`${phoneme.id} is “${phoneme.symbol}”, which is no phoneme.`);
    if (phoneme.word !== null && words.get(phoneme.word)?.clip !== phoneme.clip)
      faults.push(`${phoneme.id} belongs to the word ${phoneme.word}, which is not in its clip.`);
    if (before.clip === phoneme.clip && phoneme.fromSample < before.toSample)
      faults.push(`${phoneme.id} starts before the sound before it ends.`);
    before = phoneme;
  }
  return faults;
}

function checkExposures(scene: SceneDocument, charts: ReadonlyMap<string, ChartDocument>): string[] {
  const faults: string[] = [];
  const { lengthFrames } = sceneSettings(scene);
  const drawings = new Map([...charts].map(([id, chart]) => [id, new Set(chart.drawings.map((drawing) => drawing.id))]));
  const stretches = new Map(scene.tracks.map((track) => [track.id, chartStretches(scene, track.id)]));
  let before = { track: '', to: 0 };
  for (const exposure of scene.exposures) {
    const stretch = stretches.get(exposure.track)?.findLast((candidate) => candidate.from <= exposure.from);
    if (!stretch) faults.push(`Exposure ${exposure.id} is on the track ${exposure.track}, which is not there.`);
    else if (exposure.to > stretch.to) faults.push(`Exposure ${exposure.id} runs past frame ${stretch.to}, where the chart changes.`);
    else if (!drawingsIn(exposure.drawing).every((drawing) => drawings.get(stretch.chartId)?.has(drawing)))
      faults.push(`Exposure ${exposure.id} shows the drawing ${exposure.drawing}, which is not in its chart.`);
    if (!isSpan(exposure.from, exposure.to) || exposure.to > lengthFrames)
      faults.push(`Exposure ${exposure.id} does not lie inside the scene.`);
    if (before.track === exposure.track && exposure.from < before.to)
      faults.push(`Exposure ${exposure.id} starts before the one before it ends.`);
    before = exposure;
  }
  return faults;
}

function checkViews(scene: SceneDocument, charts: ReadonlyMap<string, ChartDocument>): string[] {
  const { lengthFrames } = sceneSettings(scene);
  const tracks = new Set(scene.tracks.map((track) => track.id));
  return scene.views.flatMap((view, index) => {
    const before = scene.views[index - 1];
    if (!tracks.has(view.track)) return [`The change of chart ${view.id} is on the track ${view.track}, which is not there.`];
    if (!charts.has(view.chartId)) return [`The change of chart ${view.id} is to ${view.chartId}, which is not there.`];
    if (!Number.isInteger(view.from) || view.from < 1 || view.from >= lengthFrames)
      return [`The change of chart ${view.id} must lie on a whole frame after the first, inside the scene.`];
    return before?.track === view.track && before.from === view.from ? [`The chart changes twice at frame ${view.from}.`] : [];
  });
}

function checkMarks(scene: SceneDocument): string[] {
  const { lengthFrames } = sceneSettings(scene);
  return scene.marks.flatMap((mark, index) => {
    const before = scene.marks[index - 1];
    if (!Number.isInteger(mark.frame) || mark.frame < 0 || mark.frame >= lengthFrames)
      return [`The ear mark ${mark.id} must lie on a whole frame inside the scene.`];
    if (mark.text.trim() === '' || mark.text.length > MAX_MARK_LETTERS) return [`An ear mark has 1 to ${MAX_MARK_LETTERS} letters.`];
    return before?.characterId === mark.characterId && before.frame === mark.frame
      ? [`There are two ear marks at frame ${mark.frame}.`]
      : [];
  });
}

function checkRemarks(scene: SceneDocument): string[] {
  const { lengthFrames } = sceneSettings(scene);
  return scene.remarks.flatMap(({ id, frame, text, strokes = [] }) => {
    if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames)
      return [`The remark ${id} must lie on a whole frame inside the scene.`];
    return text.trim() === '' && strokes.length === 0 ? ['A remark says something, in words or as a stroke.'] : [];
  });
}

function checkPlaces(scene: SceneDocument): string[] {
  const { lengthFrames } = sceneSettings(scene);
  const tracks = new Map(scene.tracks.map((track) => [track.id, track]));
  return scene.places.flatMap((key, index) => {
    const [track, before] = [tracks.get(key.track), scene.places[index - 1]];
    if (!track) return [`The place ${key.id} is of the lane ${key.track}, which is not there.`];
    if (key.of === 'head' && track.kind !== 'mouth') return ['A whole head is moved with the lane of its mouth.'];
    if (!Number.isInteger(key.frame) || key.frame < 0 || key.frame >= lengthFrames)
      return [`The place ${key.id} must lie on a whole frame inside the scene.`];
    const isTwice = before?.track === key.track && before.of === key.of && before.frame === key.frame;
    return isTwice ? [`There are two places of one lane at frame ${key.frame}.`] : [];
  });
}

/**
 * What is wrong with a scene, as sentences; empty when nothing is.
 *
 * @param charts the charts it uses, by id
 */
export function checkScene(scene: SceneDocument, charts: ReadonlyMap<string, ChartDocument>): string[] {
  const settings = checkSettings(scene);
  if (settings.length > 0) return settings;
  const oneOffs = checkOneOffs(scene, charts);
  if (oneOffs.length > 0) return oneOffs;
  const seen = chartsWithOneOffs(scene, charts);
  const tracks = scene.tracks.flatMap((track) => [
    ...(charts.has(track.chartId) ? [] : [`Track ${track.id} uses the chart ${track.chartId}, which is not there.`]),
    ...checkRules(track.rules),
    ...(track.kind === 'part' && !track.part ? [`Lane ${track.id} is of a part of the face without a name.`] : []),
  ]);
  const parts = scene.tracks.flatMap(({ characterId, part }) => (part === undefined ? [] : [`${characterId} ${part.toLowerCase()}`]));
  if (new Set(parts).size < parts.length) tracks.push('Two lanes are of the same part of one face.');
  return [
    ...checkOrder(scene),
    ...tracks,
    ...checkViews(scene, charts),
    ...checkMarks(scene),
    ...checkRemarks(scene),
    ...checkPlaces(scene),
    ...scene.clips.flatMap(checkClip),
    ...checkReadingTables(scene),
    ...checkExposures(scene, seen),
  ];
}
