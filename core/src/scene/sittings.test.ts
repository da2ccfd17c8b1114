/** Revisions told as a person would, and one state of a scene made into another. */
import { applyPatch, invertPatch, patchBetween, putDrawing, SCENE_KIND, sittingsOf, type Patch, type RevisionView } from '../index.js';
import { countedIds, emptyScene, TEST_CHART, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const put = (id: string, from: number, extra: Partial<Patch> = {}): Patch => ({
  id,
  reason: 'exposure.put',
  ops: [
    {
      op: 'put',
      table: 'exposures',
      id: `e-${id}`,
      before: null,
      after: { id: `e-${id}`, track, from, to: from + 2, drawing: 'rest', inked: true, plays: [] } as never,
    },
  ],
  ...extra,
});
const at = (minutes: number): string => new Date(Date.UTC(2026, 0, 5, 9, 0) + minutes * 60_000).toISOString();
const row = (revision: number, patch: Patch, minutes: number): RevisionView => ({ revision, patch, at: at(minutes) });

it('tells a step of several patches once, with all its frames, and what was taken back', () => {
  const rows = [
    row(4, { ...put('d', 30), undoes: 'c' }, 4),
    row(3, put('c', 30), 3),
    row(2, put('b', 8, { step: 'a', reason: 'pencil.key' }), 1),
    row(1, put('a', 2, { reason: 'clip.slide' }), 1),
  ];
  const [sitting, ...others] = sittingsOf(rows);
  expect(others).toEqual([]);
  expect(sitting!.steps.map(({ revision, reason, how, frames }) => [revision, reason, how, frames])).toEqual([
    [4, 'exposure.put', 'taken back', { from: 30, to: 32 }],
    [3, 'exposure.put', 'done', { from: 30, to: 32 }],
    [2, 'clip.slide', 'done', { from: 2, to: 10 }],
  ]);
});

it('begins a sitting after half an hour of nothing', () => {
  const sittings = sittingsOf([row(3, put('c', 3), 80), row(2, put('b', 2), 49), row(1, put('a', 1), 20)]);
  expect(sittings.map(({ steps }) => steps.map(({ revision }) => revision))).toEqual([[3], [2, 1]]);
  expect(sittingsOf([])).toEqual([]);
});

it('goes back to an earlier state in one patch that can be taken back', () => {
  const ids = countedIds('n');
  const first = emptyScene(24);
  const second = applyPatch(SCENE_KIND, first, putDrawing(first, { track, frame: 4, drawing: 'drop' }, TEST_CHART, ids) as Patch);
  const third = applyPatch(SCENE_KIND, second, putDrawing(second, { track, frame: 9, drawing: 'ring' }, TEST_CHART, ids) as Patch);
  const back = patchBetween(SCENE_KIND, third, first, { id: 'back', reason: 'scene.back' });
  expect(testPatch(third, back)).toEqual(first);
  expect(applyPatch(SCENE_KIND, first, invertPatch(back, 'forth'))).toEqual(third);
  expect(patchBetween(SCENE_KIND, third, third, { id: 'x', reason: 'scene.back' }).ops).toEqual([]);
});
