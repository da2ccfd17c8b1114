import fc from 'fast-check';
import { exposuresOfTrack, isRefusal, keyPencil, startExposure, type Exposure, type Patch, type SceneDocument } from '../index.js';
import { countedIds, sceneWithReading, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const ids = countedIds('s');
const track = 'mouth1';
const read = sceneWithReading(['M', 'AA', 'P', 'IY', 'S', 'T', 'AA', 'M', 'OW', 'L'], 5000, 48);
const scene = testPatch(read, (keyPencil(read, track, TEST_CHARTS, ids) as { patch: Patch }).patch);
const lane = (of: SceneDocument): readonly Exposure[] => exposuresOfTrack(of, track);
const move = (of: SceneDocument, from: number, to: number): SceneDocument => testPatch(of, startExposure(of, { track, from, to }, ids));

describe('an exposure dragged by its start', () => {
  it('is ink from then on, starts where it was put, and the one before it gives way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: lane(scene).length - 1 }), fc.integer({ min: -5, max: 60 }), (index, to) => {
        const [before, moved] = [lane(scene)[index - 1]!, lane(scene)[index]!];
        const start = Math.min(moved.to - 1, Math.max(before.from + 1, to));
        const after = lane(move(scene, moved.from, to));
        expect(after).toHaveLength(lane(scene).length);
        if (start === moved.from) expect(after).toEqual(lane(scene));
        else {
          expect(after[index]).toEqual({ ...moved, from: start, inked: true });
          expect(after[index - 1]).toEqual({ ...before, to: start });
        }
        expect(after.filter((_, at) => at !== index && at !== index - 1)).toEqual(
          lane(scene).filter((_, at) => at !== index && at !== index - 1),
        );
      }),
    );
  });

  it('stays where it was put when the pencil is keyed again', () => {
    const [, , third] = lane(scene);
    const dragged = move(scene, third!.from, third!.from + 1);
    const again = testPatch(dragged, (keyPencil(dragged, track, TEST_CHARTS, ids) as { patch: Patch }).patch);
    expect(lane(again).find((exposure) => exposure.inked)).toEqual({ ...third!, from: third!.from + 1, inked: true });
  });

  it('is refused where none starts, and where the chart changes', () => {
    const refusal = (of: SceneDocument, from: number): unknown => {
      const result = startExposure(of, { track, from, to: 20 }, ids);
      return isRefusal(result) && result.refusal;
    };
    const long = lane(scene).find(({ from, to }) => to - from > 1 && from > 0)!;
    expect(refusal(scene, long.from + 1)).toMatch(/No mouth starts at frame/);
    expect(refusal(scene, 0)).toMatch(/starts with the scene/);
    const turned = { ...scene, views: [{ id: 'v', track, from: long.from, chartId: 'chart' }] };
    expect(refusal(turned, long.from)).toMatch(/The chart changes here/);
  });
});
