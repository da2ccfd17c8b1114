/** The exposure sheet made by one sweep, against the sheet as one would define it: every frame asked of everything. */
import fc from 'fast-check';
import {
  applyPatch,
  chartStretchAt,
  exposureSheetRows,
  exposuresOfTrack,
  frameNumber,
  keyPencil,
  maybeDrawing,
  maybeExposureAt,
  placedSounds,
  placedWords,
  sampleAtFrame,
  SCENE_KIND,
  sceneSettings,
  type Patch,
  type SceneDocument,
} from '../index.js';
import { countedIds, sceneWithReading, TEST_CHARTS } from '../testing/testPatch.js';

const SYMBOLS = ['P', 'AA', 'M', 'IY', 'S', 'UW', 'F', 'AH'];

const anyScene = fc
  .record({
    sounds: fc.array(fc.constantFrom(...SYMBOLS), { minLength: 1, maxLength: 14 }),
    each: fc.integer({ min: 900, max: 9000 }),
    lead: fc.integer({ min: 0, max: 9000 }),
    rate: fc.constantFrom({ num: 24, den: 1 }, { num: 30_000, den: 1001 }, { num: 12, den: 1 }),
    firstFrame: fc.constantFrom(0, 1, 1001),
    gap: fc.option(fc.integer({ min: 0, max: 40 }), { nil: undefined }),
  })
  .map(({ sounds, each, lead, rate, firstFrame, gap }): SceneDocument => {
    const read = sceneWithReading(sounds, each, 80, lead);
    const scene = { ...read, settings: [{ ...sceneSettings(read), frameRate: rate, firstFrame }] };
    const keyed = keyPencil(scene, scene.tracks[0]!.id, TEST_CHARTS, countedIds('k')) as { patch: Patch };
    const full = applyPatch(SCENE_KIND, scene, keyed.patch);
    return gap === undefined ? full : { ...full, exposures: full.exposures.filter((_, index) => index !== gap) };
  });

it('is what each frame asked of everything would be, whole and in part', () => {
  fc.assert(
    fc.property(anyScene, fc.nat(79), fc.nat(30), (scene, from, length) => {
      const trackId = scene.tracks[0]!.id;
      const tracks = [{ trackId, name: 'Bramble', charts: TEST_CHARTS }];
      const rows = exposureSheetRows(scene, tracks);
      const { frameRate, lengthFrames } = sceneSettings(scene);
      expect(rows).toHaveLength(lengthFrames);
      for (const { frame, number, words, sounds, cells } of rows) {
        const [start, end] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
        expect(number).toBe(frameNumber(scene, frame));
        expect(words).toEqual(placedWords(scene).flatMap((word) => (word.from >= start && word.from < end ? [word.text] : [])));
        expect(sounds).toEqual(
          placedSounds(scene, 'bramble').flatMap((sound) => (sound.from < end && sound.to > start ? [sound.symbol] : [])),
        );
        const exposure = maybeExposureAt(exposuresOfTrack(scene, trackId), frame);
        const chart = TEST_CHARTS.get(chartStretchAt(scene, trackId, frame)!.chartId)!;
        expect(cells).toEqual([
          exposure ? { drawing: maybeDrawing(chart, exposure.drawing), isStart: exposure.from === frame, inked: exposure.inked } : null,
        ]);
      }
      const to = Math.min(lengthFrames, from + length);
      expect(exposureSheetRows(scene, tracks, { from, to })).toEqual(rows.slice(from, to));
    }),
    { numRuns: 40 },
  );
});
