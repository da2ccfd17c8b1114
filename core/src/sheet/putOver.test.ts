/** A keycap on what is selected. */
import fc from 'fast-check';
import { exposuresOfTrack, isRefusal, putDrawing, putOver, type SceneDocument } from '../index.js';
import { countedIds, emptyScene, TEST_CHART, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const drawings = TEST_CHART.drawings.map((drawing) => drawing.id);

function withMouths(frames: readonly number[]): SceneDocument {
  const newId = countedIds('m');
  return frames.reduce((scene, frame, index) => {
    const patch = putDrawing(scene, { track, frame, drawing: drawings[1 + (index % 9)]! }, TEST_CHART, newId);
    return isRefusal(patch) ? scene : testPatch(scene, patch);
  }, emptyScene(48));
}
const laneOf = (scene: SceneDocument): string[] =>
  exposuresOfTrack(scene, track).map(({ from, to, drawing }) => `${from}-${to} ${drawing}`);

it('fills the selection, and what reaches over its ends keeps what lies outside', () => {
  const scene = withMouths([10, 20, 30]);
  const [, first, , third] = exposuresOfTrack(scene, track);
  const after = testPatch(scene, putOver(scene, { track, from: 15, to: 35, drawing: 'lift' }, TEST_CHART, countedIds()));
  expect(laneOf(after)).toEqual([`0-10 rest`, `10-15 ${first!.drawing}`, '15-35 lift', `35-48 ${third!.drawing}`]);
  expect(exposuresOfTrack(after, track)[2]).toMatchObject({ inked: true });
});

it('splits a hold in two around it', () => {
  const scene = emptyScene(48);
  expect(laneOf(testPatch(scene, putOver(scene, { track, from: 10, to: 20, drawing: 'drop' }, TEST_CHART, countedIds())))).toEqual([
    '0-10 rest',
    '10-20 drop',
    '20-48 rest',
  ]);
});

it('says when it is there already, and where a chart ends', () => {
  const scene = emptyScene(48);
  const once = testPatch(scene, putOver(scene, { track, from: 10, to: 20, drawing: 'drop' }, TEST_CHART, countedIds()));
  expect(putOver(once, { track, from: 10, to: 20, drawing: 'drop' }, TEST_CHART, countedIds())).toEqual({
    refusal: expect.stringMatching(/already/),
  });
  expect(putOver(once, { track, from: 40, to: 60, drawing: 'drop' }, TEST_CHART, countedIds())).toHaveProperty('refusal');
  expect(putOver(once, { track, from: 1, to: 2, drawing: 'grin' }, TEST_CHART, countedIds())).toHaveProperty('refusal');
});

it('over any selection of any lane: the span is one inked mouth, the rest is as it was, and the lane has no hole', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 47 }), { maxLength: 12 }),
      fc.integer({ min: 0, max: 47 }),
      fc.integer({ min: 1, max: 20 }),
      fc.constantFrom(...drawings),
      (frames, from, length, drawing) => {
        const scene = withMouths(frames);
        const to = Math.min(48, from + length);
        const patch = putOver(scene, { track, from, to, drawing }, TEST_CHART, countedIds('n'));
        if (isRefusal(patch)) return;
        const after = testPatch(scene, patch);
        const at = (document: SceneDocument, frame: number): string | undefined =>
          exposuresOfTrack(document, track).find((exposure) => exposure.from <= frame && frame < exposure.to)?.drawing;
        for (let frame = 0; frame < 48; frame += 1) expect(at(after, frame)).toBe(frame >= from && frame < to ? drawing : at(scene, frame));
        expect(exposuresOfTrack(after, track).filter((exposure) => exposure.from >= from && exposure.to <= to)).toHaveLength(1);
      },
    ),
  );
});
