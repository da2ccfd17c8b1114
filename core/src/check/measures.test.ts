/** The curves and counts of a lane, against cases worked out by hand. */
import { FEELS, measuresOf, type SceneDocument } from '../index.js';
import { mouthOf, spokenScene, withFrames } from '../testing/spokenScene.js';
import { TEST_CHARTS } from '../testing/testPatch.js';

const measures = (scene: SceneDocument, more = {}) => measuresOf({ scene, charts: TEST_CHARTS, ...more }, 'mouth1')!;

// “saw” from half a second on, at 24 frames a second: S for 100 ms (frames 12 to 14.4), AO for 400 ms (14.4 to 24).
const SAW = spokenScene('saw=S100 AO400 -=500', { rules: { ...FEELS[1]!.rules, leadFrames: 0 } });

it('puts the jaw that is keyed beside what the sounds ask for', () => {
  const shut = withFrames(SAW, (all) => all.fill(mouthOf('press'), 0, all.length));
  const { jaw } = measures(shut);
  expect(jaw).toHaveLength(36);
  // The jaw of s is 0.05, of ɔ 0.7 (articulation.ts); frame 14 is 0.4 of the one and 0.6 of the other.
  expect(jaw[5]).toMatchObject({ asked: 0, loud: null, parts: false });
  expect(jaw[5]!.keyed).toBeCloseTo(0, 2);
  expect(jaw[12]!.asked).toBeCloseTo(0.05, 9);
  expect(jaw[14]!.asked).toBeCloseTo(0.4 * 0.05 + 0.6 * 0.7, 9);
  expect(jaw[20]!.asked).toBeCloseTo(0.7, 9);
  expect(jaw.filter(({ parts }) => parts).map(({ frame }) => frame)).toEqual([14, 15, 16, 17, 18, 19, 20, 21, 22, 23]);
  const wide = withFrames(SAW, (all) => all.fill(mouthOf('drop'), 0, all.length));
  expect(measures(wide).jaw[20]).toMatchObject({ keyed: 1, parts: false });
  const levels = new Float32Array(36).fill(-60).fill(-20, 15, 24);
  expect(measures(wide, { heardOf: () => ({ levels, hiss: new Float32Array(36) }) }).jaw[20]!.loud).toBeCloseTo(1, 2);
});

it('counts how long mouths are held, the hold’s grid marked, and how often each is used and after which', () => {
  const pattern = ['rest', 'rest', 'rest', 'drop', 'drop', 'mid', 'drop', 'drop', 'mid', 'mid', 'rest'];
  const scene = withFrames(SAW, (all) => {
    let mouth = mouthOf('rest');
    all.forEach((_, frame) => {
      const drawing = pattern[frame] ?? 'rest';
      if (drawing !== mouth.drawing) mouth = mouthOf(drawing);
      all[frame] = mouth;
    });
  });
  const { holds, uses } = measures(scene);
  // 3 rest, 2 drop, 1 mid, 2 drop, 2 mid, 26 rest.
  expect(holds.map(({ frames, exposures, onGrid }) => [frames, exposures.length, onGrid])).toEqual([
    [1, 1, false],
    [2, 3, true],
    [3, 1, false],
    [26, 1, true],
  ]);
  expect(uses.map(({ label, exposures, frames, after }) => [label, exposures.length, frames, after])).toEqual([
    ['Rest', 2, 29, { label: 'Mid', times: 1 }],
    ['Drop', 2, 4, { label: 'Mid', times: 1 }],
    ['Mid', 2, 3, { label: 'Drop', times: 2 }],
  ]);
});

it('tells how far mouths begin from their sounds, with the middle and the spread', () => {
  const { offsets, median, spread } = measures(SAW);
  expect(Math.abs(median)).toBeLessThanOrEqual(1);
  const late = withFrames(SAW, (all) => {
    const was = [...all];
    all.forEach((_, frame) => (all[frame] = was[Math.max(0, frame - 3)]!));
  });
  const after = measures(late);
  expect(after.median - median).toBeCloseTo(3, 9);
  expect(after.spread).toBeCloseTo(spread, 9);
  expect(after.offsets.map(({ offset }) => offset)).toEqual(offsets.map(({ offset }) => offset + 3));
});

it('scores a phrase by what of it is seen: all of it, nothing of it, a part', () => {
  const scene = spokenScene('saw=S100 AO400 -=900 mama=M100 AA200 M100 AA200 -=600', { rules: { ...FEELS[0]!.rules, leadFrames: 0 } });
  const [first, second] = measures(scene).phrases;
  expect([first!.text, second!.text]).toEqual(['saw', 'mama']);
  expect(first!.seen).toBeGreaterThan(0.9);
  const shut = withFrames(scene, (all) => all.fill(mouthOf('rest'), second!.from - 2, second!.to + 2));
  const [same, worse] = measures(shut).phrases;
  expect(same!.seen).toBeCloseTo(first!.seen, 9);
  expect(worse!.seen).toBeLessThan(0.5 * second!.seen);
  expect(measuresOf({ scene, charts: TEST_CHARTS }, 'nobody')).toBeUndefined();
});
