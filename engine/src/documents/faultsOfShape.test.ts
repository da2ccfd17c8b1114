/** Any one field made wrong is told, where it is and what it may be; what is right has no fault. */
import {
  applyPatch,
  CHART_KIND,
  DEFAULT_RULES,
  FEELS,
  newScene,
  pencilKeyed,
  SCENE_KIND,
  starterChart,
  takeReading,
  type ChartDocument,
  type DocumentRecord,
  type Patch,
  type SceneDocument,
} from '@zest-jaw/core';
import fc from 'fast-check';
import { faultsOfShape, maybeFaultOfRecord, type ShapeName } from './faultsOfShape.js';

const HASH = 'a'.repeat(64);
const plain = starterChart('Test', 'brush');
const measures = { opening: 20, width: 80, teeth: 0.2, darkness: 0.5 };
const placement = { x: 1, y: -2, scale: 0.5 };
/** A chart with a mouth of each kind, and a head with a jaw. */
const chart: ChartDocument = {
  ...plain,
  head: [
    {
      id: 'head',
      art: { kind: 'picture', picture: HASH },
      width: 400,
      height: 300,
      mouth: { x: 10, y: 20, scale: 1.5, angle: -4 },
      jaw: { picture: HASH, box: { x: 0, y: 1, width: 30, height: 20 }, travel: 12 },
      backdrop: ['#dce9e6', 'transparent', '#e0d3b6'],
    },
  ],
  drawings: plain.drawings.map((drawing, index) => {
    if (index === 1)
      return {
        ...drawing,
        tags: ['angry'],
        cross: { x: 1, y: 2 },
        art: {
          kind: 'placed',
          picture: HASH,
          preview: HASH,
          width: 200,
          height: 100,
          ink: { x: 1, y: 2, width: 150, height: 60 },
          page: { x: 0, y: 0 },
          measures,
        },
      };
    if (index === 2)
      return {
        ...drawing,
        variants: [{ art: drawing.art, placement }],
        art: {
          kind: 'drawn',
          reference: { picture: HASH, box: { x: 0, y: 0, width: 5, height: 6 }, opacity: 0.5 },
          marks: [
            { id: 'm1', kind: 'line', points: [0, 0, 1, 5, 5, 0.5], size: 3, colour: '#102030' },
            { id: 'm2', kind: 'fill', rings: [[0, 0, 5, 0, 5, 5]], colour: '#a0b0c0' },
          ],
        },
      };
    return drawing;
  }),
};

function scene(): SceneDocument {
  let count = 0;
  const newId = (): string => `n${++count}`;
  const start = newScene({
    title: 'Test',
    frameRate: { num: 24, den: 1 },
    firstFrame: 1,
    chartId: 'chart',
    chart,
    rules: FEELS[1]!.rules,
    clip: { characterId: 'odette', audio: HASH, fileName: 'line.wav', lengthSamples: 96_000, script: 'oh map', language: 'en' },
  });
  const reading = takeReading(
    start,
    'clip1',
    {
      sampleRate: 48_000,
      durationSamples: 96_000,
      words: [{ text: 'oh', from: 1000, to: 9000, confidence: 0.9, guessed: true }],
      phonemes: [{ symbol: 'OW', stress: 1, from: 1000, to: 9000, confidence: 0.9, word: 0 }],
      warnings: [],
      notSpeech: [{ from: 50_000, to: 60_000 }],
    },
    newId,
  ) as Patch;
  const read = applyPatch(SCENE_KIND, start, reading);
  const keyed = applyPatch(SCENE_KIND, read, pencilKeyed(read, new Map([['chart', chart]]), newId));
  return {
    ...keyed,
    clips: [{ ...keyed.clips[0]!, phrases: [{ from: 1000, to: 9000, rules: DEFAULT_RULES }] }],
    views: [{ id: 'v1', track: keyed.tracks[0]!.id, from: 30, chartId: 'other' }],
    marks: [{ id: 'mark1', characterId: 'odette', frame: 3, text: 'oo' }],
  };
}

const DOCUMENTS: readonly (readonly [ShapeName, Readonly<Record<string, readonly DocumentRecord[]>>])[] = [
  ['scene', scene() as unknown as Readonly<Record<string, readonly DocumentRecord[]>>],
  ['chart', chart as unknown as Readonly<Record<string, readonly DocumentRecord[]>>],
];

type Path = readonly (string | number)[];

/** Every place in a value at which something stands. */
function places(value: unknown, path: Path = []): Path[] {
  if (value === null || typeof value !== 'object') return [path];
  const inner = Object.entries(value).flatMap(([key, one]) => places(one, [...path, Array.isArray(value) ? Number(key) : key]));
  return path.length === 0 ? inner : [path, ...inner];
}

/** A copy with something else at a place. */
function withAt(value: unknown, [first, ...rest]: Path, other: unknown): unknown {
  if (first === undefined) return other;
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }) as Record<string | number, unknown>;
  copy[first] = withAt(copy[first], rest, other);
  return copy;
}

it.each(DOCUMENTS)('a whole %s has no fault', (shape, document) => expect(faultsOfShape(shape, document)).toEqual([]));

/** Where nothing may be. */
const MAY_BE_NULL = /\.(readOf|word|floorDb|peakDb|tag)$/;

it.each(DOCUMENTS)('any one field of a %s made wrong is told', (shape, document) => {
  const all = Object.entries(document).flatMap(([table, records]) =>
    records.slice(0, 4).flatMap((record) => places(record).map((path) => ({ table, record, path }))),
  );
  expect(all.length).toBeGreaterThan(60);
  const wrong = fc.constantFrom<unknown>(
    { not: 'this' },
    Number.NaN,
    Number.POSITIVE_INFINITY,
    -1e9,
    1e12,
    'x'.repeat(1_000_000),
    null,
    [[1]],
    undefined,
  );
  fc.assert(
    fc.property(fc.constantFrom(...all), wrong, ({ table, record, path }, other) => {
      const name = `.${path.join('.')}`;
      fc.pre(!(other === null && MAY_BE_NULL.test(name)));
      // What may be missing is right without it.
      fc.pre(other !== undefined || maybeFaultOfRecord(shape, table, withAt(record, path, null)) !== undefined);
      const isMaybe = other === undefined && maybeFaultOfRecord(shape, table, withAt(record, path, undefined)) === undefined;
      if (isMaybe) return;
      const fault = maybeFaultOfRecord(shape, table, withAt(record, path, other));
      expect(fault).toMatch(/^The record .* of the \w+ has a field “[\w.]*” /);
      expect(fault!.length).toBeLessThan(600);
    }),
    { numRuns: 600 },
  );
});

it.each(DOCUMENTS)('a %s without a table, with another, or with a field more, is none', (shape, document) => {
  for (const table of Object.keys(document)) {
    expect(faultsOfShape(shape, { ...document, [table]: undefined })[0]).toMatch(new RegExp(`list of ${table}`));
    const [record] = document[table]!;
    if (record) expect(maybeFaultOfRecord(shape, table, { ...record, more: 1 })).toMatch(/“more” that is not known/);
  }
  expect(faultsOfShape(shape, { ...document, spells: [] })[0]).toMatch(/no table “spells”/);
  expect(faultsOfShape(shape, null)[0]).toMatch(/^This is not a/);
  expect(faultsOfShape(shape, [])[0]).toMatch(/^This is not a/);
});

it('says what is there and what may be', () => {
  const { exposures, tracks } = scene();
  expect(maybeFaultOfRecord('scene', 'exposures', { ...exposures[0]!, from: -3 })).toBe(
    `The record ${exposures[0]!.id} of the exposures has a field “from” that is -3. It must be a whole number from 0 to 54000. Reload the page and make the change again.`,
  );
  expect(maybeFaultOfRecord('scene', 'tracks', { ...tracks[0]!, rules: { ...DEFAULT_RULES, calm: 7 } })).toMatch(
    /“rules.calm” that is 7\. It must be a number from 0 to 1\./,
  );
  expect(maybeFaultOfRecord('chart', 'drawings', { ...chart.drawings[0]!, art: { kind: 'woven' } })).toMatch(/field “art”/);
  expect(Object.keys(CHART_KIND).every((table) => maybeFaultOfRecord('chart', table, 7)?.includes('no record'))).toBe(true);
});
