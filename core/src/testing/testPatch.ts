/**
 * What every test of an edit proves beside its own point: the patch turned round gives the
 * scene back, it survives JSON, and the scene it makes keeps every invariant.
 */
import {
  applyPatch,
  checkScene,
  DEFAULT_RULES,
  invertPatch,
  isRefusal,
  newScene,
  SCENE_KIND,
  starterChart,
  takeReading,
  type ChartDocument,
  type IdSource,
  type Patch,
  type Reading,
  type Refusal,
  type SceneDocument,
} from '../index.js';

export const TEST_CHART: ChartDocument = starterChart('Test', 'brush');
export const TEST_CHARTS: ReadonlyMap<string, ChartDocument> = new Map([['chart', TEST_CHART]]);

/** Ids `t1`, `t2`, … */
export function countedIds(prefix = 't'): IdSource {
  let count = 0;
  return () => `${prefix}${++count}`;
}

/** A second of silence at 24 fps with one clip and one mouth track. */
export function emptyScene(lengthFrames = 24): SceneDocument {
  return newScene({
    title: 'Test',
    frameRate: { num: 24, den: 1 },
    firstFrame: 1,
    chartId: 'chart',
    chart: TEST_CHART,
    rules: DEFAULT_RULES,
    clip: { characterId: 'bramble', audio: 'hash', fileName: 'line.wav', lengthSamples: lengthFrames * 2000, script: '', language: 'en' },
  });
}

export function testPatch(
  scene: SceneDocument,
  patch: Patch | Refusal,
  charts: ReadonlyMap<string, ChartDocument> = TEST_CHARTS,
): SceneDocument {
  if (isRefusal(patch)) throw new Error(`refused: ${patch.refusal}`);
  const after = applyPatch(SCENE_KIND, scene, patch);
  expect(checkScene(after, charts)).toEqual([]);
  expect(applyPatch(SCENE_KIND, after, invertPatch(patch, 'inverse'))).toEqual(scene);
  expect(applyPatch(SCENE_KIND, scene, JSON.parse(JSON.stringify(patch)) as Patch)).toEqual(after);
  return after;
}

/** A reading of one word made of these sounds, each `samplesEach` long, after `lead` samples of silence. */
export function readingOf(symbols: readonly string[], samplesEach: number, durationSamples: number, lead = 0): Reading {
  const phonemes = symbols.map((symbol, index) => ({
    symbol,
    from: lead + index * samplesEach,
    to: lead + (index + 1) * samplesEach,
    confidence: 0.9,
    word: 0,
  }));
  return {
    sampleRate: 48_000,
    durationSamples,
    words: [{ text: 'word', from: lead, to: lead + symbols.length * samplesEach, confidence: 0.9 }],
    phonemes,
    warnings: [],
  };
}

export function sceneWithReading(symbols: readonly string[], samplesEach: number, lengthFrames = 48, lead = 8000): SceneDocument {
  const scene = emptyScene(lengthFrames);
  const patch = takeReading(scene, 'clip1', readingOf(symbols, samplesEach, lengthFrames * 2000, lead), countedIds('r'));
  return applyPatch(SCENE_KIND, scene, patch as Patch);
}
