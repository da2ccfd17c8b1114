/** Two states of a scene compared, and one taken from the other. */
import fc from 'fast-check';
import {
  addOneOff,
  compareLanes,
  exposuresOfTrack,
  isRefusal,
  laneFacts,
  restDrawing,
  takeFromPass,
  type SceneDocument,
} from '../index.js';
import { mouthOf, spokenScene, withFrames } from '../testing/spokenScene.js';
import { countedIds, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const SCENE = spokenScene();
const LENGTH = SCENE.settings[0]!.lengthFrames;
const compare = (a: SceneDocument, b: SceneDocument) => compareLanes(a, b, track, TEST_CHARTS);
const shownIn = (scene: SceneDocument): string[] => {
  const frames: string[] = [];
  for (const { from, to, drawing, inked } of exposuresOfTrack(scene, track))
    for (let frame = from; frame < to; frame++) frames[frame] = `${drawing}${inked ? ' ink' : ''}`;
  return frames;
};
const anyHand = fc.array(
  fc.record({
    from: fc.nat(LENGTH - 1),
    length: fc.integer({ min: 1, max: 15 }),
    drawing: fc.constantFrom('rest', 'press', 'drop', 'mid', 'ring'),
  }),
  { maxLength: 6 },
);
const handled = (marks: readonly { from: number; length: number; drawing: string }[]): SceneDocument =>
  withFrames(SCENE, (all) => {
    for (const { from, length, drawing } of marks) all.fill(mouthOf(drawing), from, Math.min(all.length, from + length));
  });

it('tells where two lanes differ, in closures, changes and time', () => {
  const other = withFrames(SCENE, (all) => {
    all.fill(all[24]!, 25, 27);
    all.fill(all[100]!, 91, 100);
  });
  const { differs, frames, closures, meanOffset, matched } = compare(SCENE, other);
  expect(differs).toEqual([
    { from: 25, to: 27 },
    { from: 91, to: 100 },
  ]);
  expect(frames).toBe(11);
  expect(closures[0] - closures[1]).toBe(1);
  expect(matched).toBeGreaterThan(20);
  expect(meanOffset).toBeGreaterThanOrEqual(0);
  expect(compare(SCENE, SCENE)).toMatchObject({ differs: [], frames: 0, inkOnly: 0, meanOffset: 0 });
  const inked = { ...SCENE, exposures: SCENE.exposures.map((one) => ({ ...one, inked: true })) };
  expect(compare(SCENE, inked)).toMatchObject({ frames: 0, inkOnly: LENGTH });
  const late = withFrames(SCENE, (all) => {
    const was = [...all];
    all.forEach((_, frame) => (all[frame] = was[Math.max(0, frame - 2)]!));
  });
  expect(compare(late, SCENE).meanOffset).toBeGreaterThan(1);
});

it('is the same turned round: any two hands', () => {
  fc.assert(
    fc.property(anyHand, anyHand, (one, other) => {
      const [a, b] = [handled(one), handled(other)];
      const [there, back] = [compare(a, b), compare(b, a)];
      expect(back.differs).toEqual(there.differs);
      expect(back.frames).toBe(there.frames);
      expect(back.closures).toEqual([...there.closures].reverse());
      expect(back.changes).toEqual([...there.changes].reverse());
      expect(back.matched).toBe(there.matched);
      expect(back.meanOffset + there.meanOffset).toBeCloseTo(0, 9);
    }),
    { numRuns: 80, seed: 7 },
  );
});

it('takes frames from the other exactly, ink as ink and pencil as pencil, and nothing beside them: any two hands', () => {
  fc.assert(
    fc.property(anyHand, anyHand, fc.nat(LENGTH - 2), fc.integer({ min: 1, max: 60 }), (one, other, from, length) => {
      const [here, there] = [handled(one), handled(other)];
      const to = Math.min(LENGTH, from + length);
      const patch = takeFromPass(here, there, { track, from, to }, TEST_CHARTS, countedIds('q'));
      const wanted = shownIn(here).map((shown, frame) => (frame >= from && frame < to ? shownIn(there)[frame] : shown));
      if (isRefusal(patch)) {
        expect(shownIn(here)).toEqual(wanted);
        return;
      }
      expect(shownIn(testPatch(here, patch))).toEqual(wanted);
      const all = takeFromPass(here, there, { track, from: 0, to: LENGTH, whole: true }, TEST_CHARTS, countedIds('w'));
      if (!isRefusal(all)) expect(compare(testPatch(here, all), there)).toMatchObject({ frames: 0, inkOnly: 0 });
    }),
    { numRuns: 60, seed: 7 },
  );
});

it('brings the feel and the one-offs that are shown there, and says what it cannot take', () => {
  const made = addOneOff(SCENE, { chartId: 'chart', label: 'Gasp', look: restDrawing(TEST_CHART) }, TEST_CHART, countedIds('g'));
  if (isRefusal(made)) throw new Error(made.refusal);
  const base = testPatch(SCENE, made.patch);
  const other: SceneDocument = {
    ...withFrames(base, (all) => all.fill(mouthOf(made.made), 45, 50)),
    tracks: SCENE.tracks.map((one) => ({ ...one, rules: { ...one.rules, holdFrames: 3 } })),
  };
  const patch = takeFromPass(SCENE, other, { track, from: 0, to: LENGTH, whole: true }, TEST_CHARTS, countedIds('w'));
  const after = testPatch(SCENE, patch);
  expect(after.tracks[0]!.rules.holdFrames).toBe(3);
  expect(after.oneOffs).toHaveLength(1);
  expect(takeFromPass(SCENE, SCENE, { track, from: 0, to: 20 }, TEST_CHARTS, countedIds())).toEqual({
    refusal: expect.stringMatching(/same in both/),
  });
  const faster = { ...SCENE, settings: [{ ...SCENE.settings[0]!, frameRate: { num: 25, den: 1 } }] };
  expect(takeFromPass(SCENE, faster, { track, from: 0, to: 20 }, TEST_CHARTS, countedIds())).toEqual({
    refusal: expect.stringMatching(/another frame rate/),
  });
  const strange = withFrames(SCENE, (all) => all.fill(mouthOf('grin'), 5, 9));
  expect(takeFromPass(SCENE, strange, { track, from: 0, to: 20 }, TEST_CHARTS, countedIds())).toEqual({
    refusal: expect.stringMatching(/“grin” at frame 6/),
  });
});

it('tells of a pass what a list shows', () => {
  const facts = laneFacts(SCENE);
  expect(facts).toMatchObject({ lengthFrames: LENGTH, inked: 0, chartId: 'chart' });
  expect(facts.changes).toBeCloseTo((SCENE.exposures.length - 1) / (LENGTH / 24), 9);
  expect(SCENE.exposures.map(({ drawing }) => drawing)).toContain(facts.posterDrawing);
});
