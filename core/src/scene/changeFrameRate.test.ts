/** The same scene at another frame rate: everything stays where it is in time. */
import fc from 'fast-check';
import {
  changeFrameRate,
  exposuresOfTrack,
  isRefusal,
  keyPencil,
  putDrawing,
  sceneSettings,
  setInk,
  setRules,
  type FrameRate,
  type RateChange,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, sceneWithReading, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const rates: FrameRate[] = [8, 12, 15, 24, 25, 30, 48, 60].map((num) => ({ num, den: 1 })).concat([{ num: 30_000, den: 1001 }]);

function changed(scene: SceneDocument, rate: FrameRate): RateChange {
  const change = changeFrameRate(scene, rate, TEST_CHARTS, countedIds('r'));
  if (isRefusal(change)) throw new Error(change.refusal);
  return change;
}

/** A scene of two seconds with a reading, keyed, some of it inked. */
function keyed(inkAt: readonly number[] = []): SceneDocument {
  let scene = sceneWithReading(['P', 'L', 'IY', 'Z', 'M', 'AA', 'B', 'EH', 'F', 'OW'], 5600);
  const plan = keyPencil(scene, track, TEST_CHARTS, countedIds('k'));
  if (isRefusal(plan)) throw new Error(plan.refusal);
  scene = testPatch(scene, plan.patch);
  for (const frame of inkAt) {
    const ink = setInk(scene, { track, frame, inked: true }, countedIds(`i${frame}`));
    if (!isRefusal(ink)) scene = testPatch(scene, ink);
  }
  return scene;
}

it('keeps each mouth within half a frame of where it was, and the lane whole', () => {
  fc.assert(
    fc.property(fc.constantFrom(...rates), fc.array(fc.nat(47), { maxLength: 6 }), (rate, ink) => {
      const scene = keyed(ink);
      const change = changeFrameRate(scene, rate, TEST_CHARTS, countedIds('r'));
      if (isRefusal(change)) return;
      const after = testPatch(scene, change.patch);
      const { frameRate, lengthFrames } = sceneSettings(after);
      expect(frameRate).toEqual(rate);
      const lane = exposuresOfTrack(after, track);
      expect(lane[0]!.from).toBe(0);
      expect(lane.at(-1)!.to).toBe(lengthFrames);
      lane.forEach((exposure, index) => expect(exposure.from).toBe(lane[index - 1]?.to ?? 0));
      const seconds = (frame: number): number => (frame * rate.den) / rate.num;
      const before = new Map(exposuresOfTrack(scene, track).map((exposure) => [exposure.id, exposure]));
      // One that took a frame from its neighbour may be a frame off, no more.
      for (const exposure of lane)
        expect(Math.abs(seconds(exposure.from) - before.get(exposure.id)!.from / 24)).toBeLessThan(1.51 * seconds(1));
      for (const exposure of lane) expect(exposure.inked).toBe(before.get(exposure.id)!.inked);
    }),
  );
});

it('there and back again is the same scene', () => {
  const scene = keyed([10, 20]);
  const twice = testPatch(scene, changed(scene, { num: 48, den: 1 }).patch);
  expect(testPatch(twice, changed(twice, { num: 24, den: 1 }).patch)).toEqual(scene);
});

it('keeps lips that meet when frames fall together', () => {
  const newId = countedIds('x');
  let scene = emptyScene(48);
  for (const [frame, drawing] of [
    [10, 'drop'],
    [13, 'press'],
    [14, 'mid'],
    [20, 'bite'],
    [21, 'lift'],
  ] as const)
    scene = testPatch(scene, putDrawing(scene, { track, frame, drawing }, TEST_CHART, newId));
  const after = testPatch(scene, changed(scene, { num: 8, den: 1 }).patch);
  expect(exposuresOfTrack(after, track).map(({ drawing }) => drawing)).toEqual(expect.arrayContaining(['press', 'bite']));
});

it('puts a strict track on the grid of its hold', () => {
  const scene = keyed();
  const strict = testPatch(scene, setRules(scene, track, { leadFrames: 1, holdFrames: 2, strict: true }, countedIds()));
  const after = testPatch(strict, changed(strict, { num: 30, den: 1 }).patch);
  for (const { from } of exposuresOfTrack(after, track)) expect(from % 2).toBe(0);
});

it('refuses what is no rate, the same rate, and a scene too long', () => {
  const scene = emptyScene(48);
  expect(changeFrameRate(scene, { num: 0, den: 1 }, TEST_CHARTS, countedIds())).toHaveProperty('refusal');
  expect(changeFrameRate(scene, { num: 24, den: 1 }, TEST_CHARTS, countedIds())).toEqual({
    refusal: expect.stringMatching(/24 frames a second already/),
  });
  const long: SceneDocument = { ...scene, settings: [{ ...sceneSettings(scene), lengthFrames: 50_000 }] };
  expect(changeFrameRate(long, { num: 60, den: 1 }, TEST_CHARTS, countedIds())).toEqual({
    refusal: expect.stringMatching(/may have 54000/),
  });
});
