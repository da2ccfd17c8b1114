import {
  applyPatch,
  CHART_KIND,
  checkChart,
  drawingsUsed,
  duplicateDrawing,
  invertPatch,
  isRefusal,
  moveDrawing,
  removeDrawing,
  setDrawing,
  setShape,
  starterChart,
  type BuiltArt,
  type ChartDocument,
  type MouthShape,
  type Patch,
  type Refusal,
} from '../index.js';
import { countedIds, emptyScene } from '../testing/testPatch.js';

const chart = starterChart('Test', 'brush');

/** Like `testPatch` for scenes: the inverse, the JSON round trip, the invariants. */
function testChartPatch(before: ChartDocument, patch: Patch | Refusal): ChartDocument {
  if (isRefusal(patch)) throw new Error(`refused: ${patch.refusal}`);
  const after = applyPatch(CHART_KIND, before, patch);
  expect(checkChart(after)).toEqual([]);
  expect(applyPatch(CHART_KIND, after, invertPatch(patch, 'i'))).toEqual(before);
  expect(applyPatch(CHART_KIND, before, JSON.parse(JSON.stringify(patch)) as Patch)).toEqual(after);
  return after;
}

const labels = (document: ChartDocument): string[] => document.drawings.map((drawing) => drawing.label);
const shapeOf = (document: ChartDocument, id: string): MouthShape => (drawing(document, id).art as BuiltArt).shape;
const drawing = (document: ChartDocument, id: string) => document.drawings.find((candidate) => candidate.id === id)!;

describe('changing a chart', () => {
  it('reshapes one drawing and no other', () => {
    const after = testChartPatch(chart, setShape(chart, 'drop', { jaw: 0.7, smile: -0.2 }, countedIds()));
    expect(shapeOf(after, 'drop')).toMatchObject({ jaw: 0.7, smile: -0.2, width: shapeOf(chart, 'drop').width });
    expect(after.drawings.filter((candidate) => candidate.id !== 'drop')).toEqual(
      chart.drawings.filter((candidate) => candidate.id !== 'drop'),
    );
  });

  it('takes a keycap and a group over from the drawing that had it', () => {
    const keyed = testChartPatch(chart, setDrawing(chart, 'drop', { keycap: 'Q' }, countedIds()));
    expect([drawing(keyed, 'drop').keycap, drawing(keyed, 'rest').keycap]).toEqual(['Q', '']);
    const grouped = testChartPatch(chart, setDrawing(chart, 'drop', { groups: ['drop', 'mid'] }, countedIds()));
    expect([drawing(grouped, 'drop').groups, drawing(grouped, 'mid').groups]).toEqual([['drop', 'mid'], []]);
  });

  it('refuses a label or a keycap that is none, in a sentence', () => {
    expect(setDrawing(chart, 'drop', { label: '  ' }, countedIds())).toEqual({ refusal: expect.stringMatching(/1 to 40 letters/) });
    expect(setDrawing(chart, 'drop', { keycap: 'ab' }, countedIds())).toEqual({ refusal: expect.stringMatching(/one letter/) });
    expect(setDrawing(chart, 'drop', { groups: ['grin'] }, countedIds())).toEqual({ refusal: expect.stringMatching(/“grin”/) });
  });

  it('puts a copy behind its drawing, with a keycap that is free and the next number', () => {
    const after = testChartPatch(chart, duplicateDrawing(chart, 'press', countedIds()));
    expect(labels(after).slice(0, 4)).toEqual(['Rest', 'Press', 'Press copy', 'Bite']);
    expect(after.drawings.map((candidate) => candidate.place)).toEqual(Array.from({ length: 14 }, (_, index) => index));
    expect(after.drawings.map((candidate) => candidate.number).slice(0, 4)).toEqual([1, 2, 14, 3]);
    expect(after.drawings[2]).toMatchObject({ keycap: 'V', groups: [] });
  });

  it('moves a drawing along the tray, not past its ends', () => {
    expect(labels(testChartPatch(chart, moveDrawing(chart, 'bite', -1, countedIds()))).slice(0, 3)).toEqual(['Rest', 'Bite', 'Press']);
    expect(moveDrawing(chart, 'rest', -1, countedIds())).toHaveProperty('refusal');
    expect(moveDrawing(chart, 'pucker', 1, countedIds())).toHaveProperty('refusal');
  });

  it('removes a drawing and closes the places up, but never the last one; numbers stay', () => {
    const after = testChartPatch(chart, removeDrawing(chart, 'tip', countedIds()));
    expect(after.drawings.map((candidate) => candidate.place)).toEqual(Array.from({ length: 12 }, (_, index) => index));
    expect(after.drawings.map((candidate) => candidate.number).slice(2, 5)).toEqual([3, 5, 6]);
    expect(setDrawing(after, 'rest', { number: 4 }, countedIds())).not.toHaveProperty('refusal');
    expect(setDrawing(after, 'rest', { number: 5 }, countedIds())).toEqual({
      refusal: expect.stringMatching(/Two drawings have the number 5/),
    });
    expect(setDrawing(after, 'rest', { number: 1.5 }, countedIds())).toEqual({
      refusal: expect.stringMatching(/may be a whole number from 0/),
    });
    const single = { ...chart, drawings: chart.drawings.slice(0, 1) };
    expect(removeDrawing(single, 'rest', countedIds())).toHaveProperty('refusal');
    for (const command of [
      setShape(chart, 'none', {}, countedIds()),
      duplicateDrawing(chart, 'none', countedIds()),
      moveDrawing(chart, 'none', 1, countedIds()),
      removeDrawing(chart, 'none', countedIds()),
    ])
      expect(command).toHaveProperty('refusal');
  });

  it('knows which drawings a scene shows', () => {
    expect(drawingsUsed(emptyScene(), 'chart')).toEqual(new Set(['rest']));
    expect(drawingsUsed(emptyScene(), 'another')).toEqual(new Set());
  });
});
