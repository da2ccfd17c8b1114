/** One mouth that changes is one system's business: no other is painted or told again. */
import {
  applyPatch,
  newScene,
  putDrawing,
  pencilKeyed,
  SCENE_KIND,
  starterChart,
  takeReading,
  type Patch,
  type SceneDocument,
} from '@zest-jaw/core';
import { planBarSheet } from './plan.js';
import { sheetGatherer } from './sheetData.js';
import { dataWithin, isSameData } from './systemData.js';

const chart = starterChart('Test', 'brush');
const charts = new Map([['chart', chart]]);
let count = 0;
const newId = (): string => `n${++count}`;

/** Forty seconds of words, two a second. */
function scene(): SceneDocument {
  const lengthSamples = 40 * 48_000;
  const start = newScene({
    title: 'Test',
    frameRate: { num: 24, den: 1 },
    firstFrame: 1,
    chartId: 'chart',
    chart,
    rules: { leadFrames: 1, holdFrames: 2, strict: false },
    clip: { characterId: 'c', audio: 'a', fileName: 'f', lengthSamples, script: '', language: 'en' },
  });
  const spans = Array.from({ length: 78 }, (_, index) => ({ from: index * 24_000 + 2000, to: index * 24_000 + 20_000 }));
  const reading = takeReading(
    start,
    'clip1',
    {
      sampleRate: 48_000,
      durationSamples: lengthSamples,
      words: spans.map((span, index) => ({ ...span, text: `w${index}`, confidence: 1 })),
      phonemes: spans.map((span, index) => ({ ...span, symbol: ['AA', 'M', 'IY'][index % 3]!, confidence: 1, word: index })),
      warnings: [],
    },
    newId,
  ) as Patch;
  const read = applyPatch(SCENE_KIND, start, reading);
  return applyPatch(SCENE_KIND, read, pencilKeyed(read, charts, newId));
}

it('a mouth put by hand changes the data of its own system alone', () => {
  const before = scene();
  const track = before.tracks[0]!.id;
  const frame = 500;
  const drawing = chart.drawings.find(({ id }) => id !== before.exposures.find(({ from, to }) => from <= frame && frame < to)!.drawing)!.id;
  const after = applyPatch(SCENE_KIND, before, putDrawing(before, { track, frame, drawing }, chart, newId) as Patch);
  const gather = sheetGatherer();
  const [first, second] = [gather(before, track, charts, []), gather(after, track, charts, [])];
  expect(second.words).toBe(first.words);
  expect(second.sounds).toBe(first.sounds);
  const { systems } = planBarSheet(before, { width: 1000 });
  expect(systems.length).toBeGreaterThan(5);
  const changed = systems.filter((system) => !isSameData(dataWithin(first, system), dataWithin(second, system)));
  expect(changed.map(({ from, to }) => [from <= frame && frame < to])).toEqual([[true]]);
});

it('is all that the sheet shows, system by system', () => {
  const whole = sheetGatherer()(scene(), 'mouth1', charts, []);
  const { systems } = planBarSheet(scene(), { width: 1000 });
  const parts = systems.map((system) => dataWithin(whole, system));
  for (const list of ['words', 'sounds', 'exposures'] as const)
    expect(new Set(parts.flatMap((part) => part[list].map(({ id }) => id)))).toEqual(new Set(whole[list].map(({ id }) => id)));
});

it('another lane stays the very same while this one changes, and is made anew when it does itself', () => {
  const plain = scene();
  const [own] = plain.tracks;
  const two: SceneDocument = {
    ...plain,
    tracks: [own!, { ...own!, id: 'z-second', order: 1 }],
    exposures: [...plain.exposures, { id: 'second', track: 'z-second', from: 0, to: 900, drawing: 'rest', inked: false, plays: [] }],
  };
  const gather = sheetGatherer();
  const others = (of: SceneDocument) => gather(of, own!.id, charts, []).others;
  const put = (of: SceneDocument, track: string): SceneDocument =>
    applyPatch(SCENE_KIND, of, putDrawing(of, { track, frame: 40, drawing: 'drop' }, chart, newId) as Patch);
  const before = others(two);
  expect(before).toHaveLength(1);
  const changed = put(two, own!.id);
  expect(others(changed)).toBe(before);
  // Beside another lane, too, one mouth is one system's business.
  const { systems } = planBarSheet(two, { width: 1000 });
  const [first, second] = [gather(two, own!.id, charts, []), gather(changed, own!.id, charts, [])];
  const painted = systems.filter((system) => !isSameData(dataWithin(first, system), dataWithin(second, system)));
  expect(painted.map(({ from, to }) => from <= 40 && 40 < to)).toEqual([true]);
  const both = others(put(changed, 'z-second'));
  expect(both).not.toBe(before);
  expect(both[0]!.exposures.length).toBeGreaterThan(before[0]!.exposures.length);
});
