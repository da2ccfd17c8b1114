/** Time put into a scene and taken out of it, with everything that lies on it. */
import fc from 'fast-check';
import {
  applyPatch,
  framePositionOfSample,
  insertTime,
  isRefusal,
  placedWords,
  removeTime,
  SCENE_KIND,
  takeReading,
  type Exposure,
  type Patch,
  type Refusal,
  type SceneDocument,
  type SceneWord,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHART, testPatch } from '../testing/testPatch.js';

const RATE = { num: 24, den: 1 };
const LENGTH = 48;
/** Frames of 2000 samples: a stamp in 6 to 12, a please in 12 to 20, a gap, a thank in 28 to 34. */
const SAID: readonly (readonly [string, number, number])[] = [
  ['stamp', 6, 12],
  ['please', 12, 20],
  ['thank', 28, 34],
];

function scene(): SceneDocument {
  const bare = emptyScene(LENGTH);
  const reading = {
    sampleRate: 48_000 as const,
    durationSamples: LENGTH * 2000,
    words: SAID.map(([text, from, to]) => ({ text, from: from * 2000, to: to * 2000, confidence: 0.9 })),
    phonemes: SAID.flatMap(([, from, to], word) => {
      const middle = ((from + to) / 2) * 2000;
      const sound = (symbol: string, a: number, b: number) => ({ symbol, from: a, to: b, confidence: 0.9, word });
      return [sound('P', from * 2000, middle), sound('AA', middle, to * 2000)];
    }),
    warnings: [],
  };
  const read = applyPatch(SCENE_KIND, bare, takeReading(bare, 'clip1', reading, countedIds('r')) as Patch);
  const sounds = read.phonemes.map(({ id }) => id);
  const drawings = TEST_CHART.drawings.map(({ id }) => id);
  const exposures = [0, 6, 12, 20, 28, 34].map((from, index, starts): Exposure => ({
    id: `e${index}`,
    track: 'mouth1',
    from,
    to: starts[index + 1] ?? LENGTH,
    drawing: drawings[index]!,
    inked: index % 2 === 0,
    plays: index > 0 && index < 5 ? [sounds[index]!] : [],
  }));
  return {
    ...read,
    clips: read.clips.map((clip) => ({ ...clip, script: 'stamp,  please – thank!', notSpeech: [{ from: 0, to: 8000 }] })),
    exposures,
    views: [{ id: 'v1', track: 'mouth1', from: 34, chartId: 'chart' }],
    marks: [
      { id: 'm1', characterId: 'bramble', frame: 10, text: 'st' },
      { id: 'm2', characterId: 'bramble', frame: 30, text: 'th' },
    ],
  };
}

const said = (document: SceneDocument): string[] =>
  placedWords(document).map(({ text, from, to }) => `${text} ${framePositionOfSample(RATE, from)}-${framePositionOfSample(RATE, to)}`);
const heard = ({ clips }: SceneDocument): string[] =>
  clips.map(({ atFrame, fromSample, toSample, script }) => `${atFrame}: ${fromSample / 2000}-${toSample / 2000} “${script}”`);
const starts = ({ exposures }: SceneDocument): number[] => exposures.map(({ from }) => from);
const refused = (result: Patch | Refusal): string => (isRefusal(result) ? result.refusal : 'not refused');

it('puts a pause into the line: what follows moves, the recording is cut between two words', () => {
  const before = scene();
  const after = testPatch(before, insertTime(before, { frame: 24, count: 6 }, countedIds('n')));
  expect(after.settings[0]!.lengthFrames).toBe(LENGTH + 6);
  expect(heard(after)).toEqual(['0: 0-24 “stamp,  please – ”', '30: 24-48 “thank!”']);
  expect(said(after)).toEqual(['stamp 6-12', 'please 12-20', 'thank 34-40']);
  expect(starts(after)).toEqual([0, 6, 12, 20, 34, 40]);
  expect(after.views[0]!.from).toBe(40);
  expect(after.marks.map(({ frame }) => frame)).toEqual([10, 36]);
  expect(after.clips[0]!.notSpeech).toEqual([{ from: 0, to: 8000 }]);
  expect(after.clips[1]!.notSpeech).toEqual([]);
});

it('cuts a word where time is put into it, and it is in both parts', () => {
  const before = scene();
  const after = testPatch(before, insertTime(before, { frame: 15, count: 4 }, countedIds('n')));
  expect(heard(after)).toEqual(['0: 0-15 “stamp,  please – ”', '19: 15-48 “please – thank!”']);
  expect(said(after)).toEqual(['stamp 6-12', 'please 12-15', 'please 19-24', 'thank 32-38']);
  const halves = after.words.filter(({ text }: SceneWord) => text === 'please');
  for (const { id, clip } of halves)
    expect(after.phonemes.filter((sound) => sound.word === id && sound.clip === clip).length).toBeGreaterThan(0);
});

it('takes frames out between words, with the recording, the marks and the turn of the head in them', () => {
  const before = scene();
  const after = testPatch(before, removeTime(before, { from: 21, to: 25 }, countedIds('n')));
  expect(heard(after)).toEqual(['0: 0-21 “stamp,  please – ”', '21: 25-48 “thank!”']);
  expect(said(after)).toEqual(['stamp 6-12', 'please 12-20', 'thank 24-30']);
  expect(starts(after)).toEqual([0, 6, 12, 20, 24, 30]);
  expect(after.views[0]!.from).toBe(30);
  const whole = testPatch(before, removeTime(before, { from: 28, to: 36 }, countedIds('n')));
  expect(said(whole)).toEqual(['stamp 6-12', 'please 12-20']);
  expect(whole.marks.map(({ id }) => id)).toEqual(['m1']);
  expect(whole.views[0]!.from).toBe(28);
});

it('lets a turn of the head in the first frames be the chart it begins with', () => {
  const before = { ...scene(), views: [{ id: 'v1', track: 'mouth1', from: 6, chartId: 'other' }] };
  const after = applyPatch(SCENE_KIND, before, removeTime(before, { from: 0, to: 12 }, countedIds('n')) as Patch);
  expect(after.views).toEqual([]);
  expect(after.tracks[0]!.chartId).toBe('other');
});

it('refuses what would cut a word in two, and says which; what leaves nothing; what lies outside', () => {
  const before = scene();
  expect(refused(removeTime(before, { from: 15, to: 25 }, countedIds()))).toContain('“please” would be cut in two');
  expect(refused(removeTime(before, { from: 0, to: LENGTH }, countedIds()))).toContain('all the frames');
  expect(refused(removeTime(before, { from: 40, to: 60 }, countedIds()))).toContain('frames 1 to 48');
  expect(refused(insertTime(before, { frame: 10, count: 60_000 }, countedIds()))).toContain('insert fewer');
  expect(refused(insertTime(before, { frame: 90, count: 1 }, countedIds()))).toContain('outside the scene');
  const short = { ...before, clips: before.clips.map((clip) => ({ ...clip, toSample: 20 * 2000 })) };
  expect(refused(removeTime(short, { from: 0, to: 20 }, countedIds()))).toContain('No recording would be left');
});

it('does not call a word cut for a part of a frame: words do not end on frames', () => {
  const before = scene();
  const late = {
    ...before,
    words: before.words.map((word) => (word.text === 'please' ? { ...word, toSample: word.toSample + 700 } : word)),
  };
  expect(isRefusal(removeTime(late, { from: 20, to: 24 }, countedIds()))).toBe(false);
});

it('insert then remove is nothing, wherever it is and at every rate', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: LENGTH - 1 }),
      fc.integer({ min: 1, max: 30 }),
      fc.constantFrom(RATE, { num: 30_000, den: 1001 }, { num: 25, den: 1 }),
      (frame, count, frameRate) => {
        const made = scene();
        const before = { ...made, settings: made.settings.map((settings) => ({ ...settings, frameRate })) };
        const inserted = testPatch(before, insertTime(before, { frame, count }, countedIds('n')));
        const removed = testPatch(inserted, removeTime(inserted, { from: frame, to: frame + count }, countedIds('o')));
        expect(removed).toEqual(before);
      },
    ),
  );
});

it('keeps every invariant for any frames taken out', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: LENGTH - 1 }), fc.integer({ min: 1, max: LENGTH }), (from, length) => {
      const before = scene();
      const result = removeTime(before, { from, to: from + length }, countedIds('n'));
      fc.pre(!isRefusal(result));
      const after = testPatch(before, result);
      expect(after.settings[0]!.lengthFrames).toBe(LENGTH - length);
      expect(said(after).length).toBeLessThanOrEqual(SAID.length);
    }),
  );
});
