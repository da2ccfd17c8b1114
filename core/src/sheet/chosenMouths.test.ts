/** Mouths chosen one by one: all of them in one step, wherever they are. */
import { deleteChosen, exchangeChosen, exposuresOfTrack, inkChosen, isRefusal, type Exposure, type SceneDocument } from '../index.js';
import { countedIds, emptyScene, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const drawings = TEST_CHART.drawings.map(({ id }) => id);
const scene = (): SceneDocument => ({
  ...emptyScene(40),
  exposures: [0, 8, 12, 20, 26, 30].map((from, index, starts): Exposure => ({
    id: `e${index}`,
    track,
    from,
    to: starts[index + 1] ?? 40,
    drawing: drawings[index % 3]!,
    inked: index === 1,
    plays: [],
  })),
  views: [{ id: 'v', track, from: 20, chartId: 'chart' }],
});
const ids = new Set(['e1', 'e3', 'e4']);
const lane = (document: SceneDocument): string =>
  exposuresOfTrack(document, track)
    .map(({ from, drawing, inked }) => `${from}${inked ? '!' : ''} ${drawings.indexOf(drawing)}`)
    .join(', ');

it('inks them and takes them back, on both charts, and says when there is nothing to do', () => {
  const before = scene();
  const inked = testPatch(before, inkChosen(before, { track, ids, inked: true }, countedIds('n')));
  expect(lane(inked)).toBe('0 0, 8! 1, 12 2, 20! 0, 26! 1, 30 2');
  const again = inkChosen(inked, { track, ids, inked: true }, countedIds('n'));
  expect(isRefusal(again) && again.refusal).toBe('They are all inked already.');
  expect(lane(testPatch(inked, inkChosen(inked, { track, ids, inked: false }, countedIds('n'))))).toBe('0 0, 8 1, 12 2, 20 0, 26 1, 30 2');
});

it('exchanges their drawing, in ink', () => {
  const before = scene();
  const after = testPatch(before, exchangeChosen(before, { track, ids, drawing: drawings[5]! }, TEST_CHARTS, countedIds('n')));
  expect(lane(after)).toBe('0 0, 8! 5, 12 2, 20! 5, 26! 5, 30 2');
});

it('deletes them, the one before holding on, the first of a chart beginning earlier; or to rest', () => {
  const before = scene();
  const held = testPatch(before, deleteChosen(before, { track, ids, toRest: false }, TEST_CHARTS, countedIds('n')));
  expect(lane(held)).toBe('0 0, 12 2, 20 2');
  const rested = testPatch(before, deleteChosen(before, { track, ids: new Set(['e2']), toRest: true }, TEST_CHARTS, countedIds('n')));
  const rest = drawings.indexOf(TEST_CHART.drawings.find(({ id }) => id === 'rest')!.id);
  expect(lane(rested)).toBe(`0 0, 8! 1, 12! ${rest}, 20 0, 26 1, 30 2`);
});

it('refuses when all of them are gone', () => {
  const result = inkChosen(scene(), { track, ids: new Set(['gone']), inked: true }, countedIds());
  expect(isRefusal(result) && result.refusal).toContain('Choose some again');
});
