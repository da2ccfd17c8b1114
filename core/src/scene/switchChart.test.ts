/** A track that goes over to another chart inside a scene. */
import fc from 'fast-check';
import {
  applyPatch,
  chartStretches,
  checkScene,
  counterpart,
  drawingsUsed,
  invertPatch,
  isRefusal,
  keyPencil,
  maybeDrawing,
  putDrawing,
  replaceDrawing,
  SCENE_KIND,
  starterChart,
  switchChart,
  type ChartDocument,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, sceneWithReading, TEST_CHART } from '../testing/testPatch.js';

const six = starterChart('Six', 'clay', 6);
const three = starterChart('Three', 'pen', 3);
const charts: ReadonlyMap<string, ChartDocument> = new Map([
  ['chart', TEST_CHART],
  ['six', six],
  ['three', three],
]);
const track = 'mouth1';

/** Applies a patch and proves its inverse, its JSON round trip and the invariants. */
function applied(scene: SceneDocument, patch: Patch | Refusal): SceneDocument {
  if (isRefusal(patch)) throw new Error(patch.refusal);
  const after = applyPatch(SCENE_KIND, scene, patch);
  expect(checkScene(after, charts)).toEqual([]);
  expect(applyPatch(SCENE_KIND, after, invertPatch(patch, 'i'))).toEqual(scene);
  expect(applyPatch(SCENE_KIND, scene, JSON.parse(JSON.stringify(patch)) as Patch)).toEqual(after);
  return after;
}

const over = (scene: SceneDocument, frame: number, chartId: string, prefix = 's'): SceneDocument =>
  applied(scene, switchChart(scene, { track, frame, chartId }, charts, countedIds(prefix)));

function keyed(scene: SceneDocument): SceneDocument {
  const result = keyPencil(scene, track, charts, countedIds('k'));
  return applied(scene, isRefusal(result) ? result : result.patch);
}

const spoken = keyed(sceneWithReading(['M', 'AA', 'P', 'IY', 'B', 'UW'], 12_000));

describe('going over to another chart', () => {
  it('cuts the exposure across the frame, and shows counterparts from there on', () => {
    const scene = over(emptyScene(), 10, 'six');
    expect(scene.exposures.map(({ from, to, drawing }) => [from, to, drawing])).toEqual([
      [0, 10, 'rest'],
      [10, 24, 'rest'],
    ]);
    expect(chartStretches(scene, track)).toEqual([
      { from: 0, to: 10, chartId: 'chart' },
      { from: 10, to: 24, chartId: 'six' },
    ]);
    expect(drawingsUsed(scene, 'six')).toEqual(new Set(['rest']));
  });

  it('keeps ink as ink, in the drawing that plays the same', () => {
    const inked = applied(emptyScene(), putDrawing(emptyScene(), { track, frame: 12, drawing: 'ring' }, TEST_CHART, countedIds('p')));
    const scene = over(inked, 6, 'three');
    const last = scene.exposures.at(-1)!;
    expect(last).toMatchObject({ from: 12, inked: true });
    expect(maybeDrawing(three, last.drawing)!.groups).toContain('ring');
  });

  it('ends where the next change begins, and goes back when it is taken back', () => {
    const twice = over(over(spoken, 30, 'six', 'a'), 12, 'three', 'b');
    expect(chartStretches(twice, track).map((stretch) => [stretch.from, stretch.chartId])).toEqual([
      [0, 'chart'],
      [12, 'three'],
      [30, 'six'],
    ]);
    const back = over(twice, 12, 'chart', 'c');
    expect(chartStretches(back, track).map((stretch) => [stretch.from, stretch.chartId])).toEqual([
      [0, 'chart'],
      [30, 'six'],
    ]);
    // Going over to what follows anyway leaves no needless change behind.
    expect(chartStretches(over(twice, 12, 'six', 'd'), track)).toHaveLength(2);
    expect(over(emptyScene(), 0, 'six').tracks[0]!.chartId).toBe('six');
  });

  it('is keyed on each chart for its own stretch, never across the change, and every closure still shows', () => {
    const scene = keyed(over(spoken, 20, 'six'));
    for (const exposure of scene.exposures) {
      expect(exposure.from < 20 && exposure.to > 20).toBe(false);
      expect(maybeDrawing(exposure.from < 20 ? TEST_CHART : six, exposure.drawing)).toBeDefined();
    }
    const shown = new Set(scene.exposures.filter((exposure) => exposure.drawing === 'press').flatMap((exposure) => exposure.plays));
    for (const phoneme of scene.phonemes.filter(({ symbol }) => 'MPB'.includes(symbol))) expect(shown.has(phoneme.id)).toBe(true);
  });

  it('holds wherever it is put: the invariants, whatever frames and charts', () => {
    const change = fc.tuple(fc.integer({ min: 0, max: 47 }), fc.constantFrom('chart', 'six', 'three'));
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
        let scene = spoken;
        changes.forEach(([frame, chartId], index) => {
          const patch = switchChart(scene, { track, frame, chartId }, charts, countedIds(`x${index}.`));
          if (!isRefusal(patch)) scene = applied(scene, patch);
        });
        scene = keyed(scene);
        expect(
          chartStretches(scene, track).every((stretch, index, all) => index === 0 || stretch.chartId !== all[index - 1]!.chartId),
        ).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  it.each<[string, { track: string; frame: number; chartId: string }, RegExp]>([
    ['a chart that is gone', { track, frame: 3, chartId: 'none' }, /no longer there/],
    ['the chart that is in use', { track, frame: 3, chartId: 'chart' }, /in use here already/],
    ['a frame outside', { track, frame: 99, chartId: 'six' }, /outside the scene/],
    ['half a frame', { track, frame: 1.5, chartId: 'six' }, /outside the scene/],
    ['a track that is gone', { track: 'eyes', frame: 3, chartId: 'six' }, /no longer in the scene/],
  ])('refuses %s', (_, request, message) =>
    expect(switchChart(emptyScene(), request, charts, countedIds())).toEqual({ refusal: expect.stringMatching(message) }),
  );

  it('has invariants of its own', () => {
    const scene = over(emptyScene(), 10, 'six');
    const faulty = (changes: Partial<SceneDocument>): string => checkScene({ ...scene, ...changes }, charts).join(' ');
    expect(faulty({ views: [{ ...scene.views[0]!, from: 0 }] })).toMatch(/after the first/);
    expect(faulty({ views: [{ ...scene.views[0]!, chartId: 'none' }] })).toMatch(/which is not there/);
    expect(faulty({ exposures: [{ ...scene.exposures[0]!, to: 24 }] })).toMatch(/runs past frame 10, where the chart changes/);
    expect(faulty({ exposures: [scene.exposures[0]!, { ...scene.exposures[1]!, drawing: 'teeth-only' }] })).toMatch(/not in its chart/);
  });

  it('replaces a drawing on its own chart only', () => {
    const scene = over(emptyScene(), 10, 'six');
    const patch = replaceDrawing(scene, 'six', 'rest', 'press', countedIds('r'));
    expect(applied(scene, patch).exposures.map((exposure) => exposure.drawing)).toEqual(['rest', 'press']);
  });
});

describe('counterparts', () => {
  it('are found by what they play, by name, by how far they are open', () => {
    const wide = maybeDrawing(six, 'drop')!;
    expect(counterpart(maybeDrawing(TEST_CHART, 'mid'), six)).toBe(wide);
    const silent = { ...maybeDrawing(TEST_CHART, 'drop')!, groups: [], label: 'Rest' };
    expect(counterpart(silent, six).id).toBe('rest');
    expect(counterpart({ ...silent, label: 'Nobody' }, six)).toBe(wide);
    expect(counterpart(undefined, three).groups).toContain('rest');
  });
});
