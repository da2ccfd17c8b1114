/** Mouths of one scene alone: seen as drawings of their chart, and never by a key or a sound. */
import {
  addOneOff,
  applyPatch,
  changeOneOff,
  chartsWithOneOffs,
  CHART_KIND,
  chartWithOneOffs,
  checkScene,
  isRefusal,
  keyPencil,
  maybeDrawing,
  moveIntoChart,
  putDrawing,
  removeOneOff,
  SCENE_KIND,
  setDrawing,
  setLook,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { countedIds, sceneWithReading, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const ids = countedIds('n');
const look = TEST_CHART.drawings[3]!;
const must = <P extends object>(result: P | Refusal): P => {
  if (isRefusal(result)) throw new Error(result.refusal);
  return result;
};
const seen = (scene: SceneDocument) => chartWithOneOffs(scene, 'chart', TEST_CHART);
function withBite(scene: SceneDocument): { scene: SceneDocument; id: string } {
  const { patch, made } = must(addOneOff(scene, { chartId: 'chart', label: 'Big bite', look }, seen(scene), ids));
  return { scene: testPatch(scene, patch), id: made };
}

it('is seen behind the drawings of its chart, with a number of its own, no keycap and no sound', () => {
  const { scene, id } = withBite(sceneWithReading(['P', 'AA'], 6000));
  const chart = seen(scene);
  expect(chart.drawings).toHaveLength(TEST_CHART.drawings.length + 1);
  const drawing = maybeDrawing(chart, id)!;
  expect(drawing.number).toBe(Math.max(...TEST_CHART.drawings.map(({ number }) => number)) + 1);
  expect(drawing).toMatchObject({ label: 'Big bite', keycap: '', groups: [] });
  // Asked again it is the same chart, and a scene without any has the chart itself.
  expect(seen(scene)).toBe(chart);
  expect(chartsWithOneOffs({ oneOffs: [] }, TEST_CHARTS)).toBe(TEST_CHARTS);
});

it('is put like any drawing, and no pencil is ever keyed with one', () => {
  const { scene, id } = withBite(sceneWithReading(['P', 'AA', 'M'], 6000));
  const put = testPatch(scene, putDrawing(scene, { track: 'mouth1', frame: 30, drawing: id }, seen(scene), ids));
  expect(put.exposures.some(({ drawing }) => drawing === id)).toBe(true);
  const keyed = must(keyPencil(put, 'mouth1', chartsWithOneOffs(put, TEST_CHARTS), ids));
  const after = applyPatch(SCENE_KIND, put, keyed.patch);
  expect(after.exposures.filter(({ inked }) => !inked).map(({ drawing }) => drawing)).not.toContain(id);
  expect(checkScene(after, TEST_CHARTS)).toEqual([]);
});

it('is drawn and named with the commands of its chart, as changes of the scene', () => {
  const { scene, id } = withBite(sceneWithReading(['P'], 6000));
  const named = testPatch(scene, changeOneOff(scene, setDrawing(seen(scene), id, { label: 'Shout' }, ids)));
  expect(maybeDrawing(seen(named), id)!.label).toBe('Shout');
  const drawn = testPatch(
    named,
    changeOneOff(named, setLook(seen(named), id, 0, { art: { kind: 'drawn', marks: [] } }, 'drawing.draw', ids)),
  );
  expect(maybeDrawing(seen(drawn), id)!.art.kind).toBe('drawn');
  // What would change the chart's own drawings changes nothing.
  const other = changeOneOff(scene, setDrawing(seen(scene), TEST_CHART.drawings[0]!.id, { label: 'No' }, ids));
  expect(must(other).ops).toEqual([]);
});

it('gives way when the chart takes its number', () => {
  const { scene, id } = withBite(sceneWithReading(['P'], 6000));
  const { number } = scene.oneOffs[0]!.drawing;
  const chart = applyPatch(CHART_KIND, TEST_CHART, must(setDrawing(TEST_CHART, TEST_CHART.drawings[0]!.id, { number }, ids)));
  expect(maybeDrawing(chartWithOneOffs(scene, 'chart', chart), id)!.number).toBe(number + 1);
  expect(checkScene(scene, new Map([['chart', chart]]))).toEqual([]);
});

it('goes when it is not shown, and says where it is', () => {
  const { scene, id } = withBite(sceneWithReading(['P'], 6000));
  const put = testPatch(scene, putDrawing(scene, { track: 'mouth1', frame: 30, drawing: id }, seen(scene), ids));
  const refused = removeOneOff(put, id, ids);
  expect(isRefusal(refused) && refused.refusal).toContain('“Big bite” is shown at frame 31');
  expect(testPatch(scene, removeOneOff(scene, id, ids)).oneOffs).toEqual([]);
});

it('is moved into its chart, and what shows it goes on showing it', () => {
  const { scene, id } = withBite(sceneWithReading(['P'], 6000));
  const put = testPatch(scene, putDrawing(scene, { track: 'mouth1', frame: 30, drawing: id }, seen(scene), ids));
  const moved = moveIntoChart(put, id, TEST_CHART, ids);
  if (isRefusal(moved)) throw new Error(moved.refusal);
  const chart = applyPatch(CHART_KIND, TEST_CHART, moved.chart);
  const charts = new Map([['chart', chart]]);
  // Between the two changes, as after both, nothing is amiss.
  expect(checkScene(put, charts)).toEqual([]);
  const after = applyPatch(SCENE_KIND, put, moved.scene);
  expect(checkScene(after, charts)).toEqual([]);
  expect(after.exposures).toEqual(put.exposures);
  expect(maybeDrawing(chart, id)!.label).toBe('Big bite');
});

it('is told when it is not what a one-off is', () => {
  const { scene } = withBite(sceneWithReading(['P'], 6000));
  const [one] = scene.oneOffs;
  const wrong = { ...scene, oneOffs: [{ ...one!, drawing: { ...one!.drawing, groups: ['rest'] } }] };
  expect(checkScene(wrong, TEST_CHARTS)[0]).toContain('plays no sound');
  expect(checkScene({ ...scene, oneOffs: [{ ...one!, chartId: 'gone' }] }, TEST_CHARTS)[0]).toContain('not there');
});
