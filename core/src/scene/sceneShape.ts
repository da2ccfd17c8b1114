/**
 * The shape of a scene's records: which fields each has and what kind of thing stands in
 * them. It is asked before anything else is, so that every other check and every page may
 * rely on it. What a value may be beyond its kind is `checkScene`'s.
 */
import { SCENE_KIND, type SceneDocument } from './sceneDocument.js';

type Test = (value: unknown) => boolean;
type Shape = Readonly<Record<string, Test>>;

const text: Test = (value) => typeof value === 'string';
const number: Test = (value) => typeof value === 'number' && Number.isFinite(value);
const flag: Test = (value) => typeof value === 'boolean';
const orNull =
  (test: Test): Test =>
  (value) =>
    value === null || test(value);
const maybe =
  (test: Test): Test =>
  (value) =>
    value === undefined || test(value);
const oneOf =
  (...values: readonly unknown[]): Test =>
  (value) =>
    values.includes(value);
const listOf =
  (test: Test): Test =>
  (value) =>
    Array.isArray(value) && value.every(test);
const record =
  (shape: Shape): Test =>
  (value) =>
    maybeWrongField(shape, value) === undefined;
const anyRecord: Test = (value) => value !== null && typeof value === 'object' && !Array.isArray(value);

/** The first field that is not of its kind; `''` when there is no record at all. */
function maybeWrongField(shape: Shape, value: unknown): string | undefined {
  if (!anyRecord(value)) return '';
  return Object.keys(shape).find((field) => !shape[field]!((value as Record<string, unknown>)[field]));
}

const SHAPES: Readonly<Record<keyof SceneDocument, Shape>> = {
  settings: { id: oneOf('scene'), title: text, frameRate: record({ num: number, den: number }), firstFrame: number, lengthFrames: number },
  clips: {
    id: text,
    characterId: text,
    audio: text,
    fileName: text,
    atFrame: number,
    lengthSamples: number,
    fromSample: number,
    toSample: number,
    gainDb: number,
    muted: flag,
    soloed: flag,
    readOf: orNull(text),
    script: text,
    language: text,
    notSpeech: maybe(listOf(record({ from: number, to: number }))),
    phrases: maybe(listOf(record({ from: number, to: number, rules: anyRecord }))),
  },
  words: { id: text, clip: text, text, fromSample: number, toSample: number, confidence: number, guessed: maybe(flag) },
  phonemes: {
    id: text,
    clip: text,
    word: orNull(text),
    symbol: text,
    stress: maybe(oneOf(0, 1, 2)),
    fromSample: number,
    toSample: number,
    confidence: number,
  },
  tracks: { id: text, kind: oneOf('mouth'), characterId: text, chartId: text, order: number, rules: anyRecord },
  views: { id: text, track: text, from: number, chartId: text },
  marks: { id: text, characterId: text, frame: number, text },
  exposures: { id: text, track: text, from: number, to: number, drawing: text, inked: flag, plays: listOf(text) },
};

/** What is wrong with the shape of a would-be scene, as sentences; empty when it has that of a scene. */
export function sceneShapeFaults(candidate: unknown): string[] {
  if (!anyRecord(candidate)) return ['This is not a scene document.'];
  const tables = candidate as Readonly<Record<string, unknown>>;
  return (Object.keys(SCENE_KIND) as (keyof SceneDocument)[]).flatMap((table) => {
    const records = tables[table];
    if (!Array.isArray(records)) return [`A scene document has a list of ${table}; here there is none.`];
    return records.flatMap((value: unknown) => {
      const field = maybeWrongField(SHAPES[table], value);
      if (field === undefined) return [];
      const id = String((value as { id?: unknown } | null)?.id ?? 'without an id');
      return [
        field === ''
          ? `A record of the ${table} is not a record.`
          : `The field “${field}” of ${id} in the ${table} is missing or of the wrong kind. Reload the page and make the change again.`,
      ];
    });
  });
}
