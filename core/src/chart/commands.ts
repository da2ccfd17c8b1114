/** What can be done to a chart. Like a scene's commands: a patch, or a refusal that says why not. */
import type { Patch, PutOp } from '../document/patch.js';
import type { MouthShape } from '../draw/mouthShape.js';
import type { IdSource, Refusal } from '../scene/commands.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { checkChart, KEYCAPS, maybeDrawing, type ChartDocument, type Drawing } from './chart.js';

/** A chart has at most this many drawings. */
export const MAX_DRAWINGS = 200;

const NOT_THERE = 'That drawing is no longer in the chart.';

const put = (before: Drawing | null, after: Drawing | null): PutOp => ({
  op: 'put',
  table: 'drawings',
  id: (after ?? before)!.id,
  before,
  after,
});

/** The drawings of a chart that a scene shows. */
export function drawingsUsed(scene: SceneDocument, chartId: string): Set<string> {
  const tracks = new Set(scene.tracks.filter((track) => track.chartId === chartId).map((track) => track.id));
  return new Set(scene.exposures.filter((exposure) => tracks.has(exposure.track)).map((exposure) => exposure.drawing));
}

/** Changes a drawing's shape; changes that follow one another quickly join into one step of undo. */
export function setShape(chart: ChartDocument, id: string, changes: Partial<MouthShape>, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  return { id: newId(), reason: 'drawing.shape', ops: [put(drawing, { ...drawing, shape: { ...drawing.shape, ...changes } })] };
}

/** Changes what a drawing is called, its keycap, or the groups it plays. A keycap or a group that another drawing has is taken over from it. */
export function setDrawing(
  chart: ChartDocument,
  id: string,
  changes: Partial<Pick<Drawing, 'label' | 'keycap' | 'groups'>>,
  newId: IdSource,
): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const after = { ...drawing, ...changes };
  const others = chart.drawings.filter((other) => other.id !== id);
  const giving = others.flatMap((other) => {
    const keycap = changes.keycap && other.keycap === changes.keycap ? '' : other.keycap;
    const groups = changes.groups ? other.groups.filter((group) => !changes.groups!.includes(group)) : other.groups;
    return keycap === other.keycap && groups.length === other.groups.length ? [] : [put(other, { ...other, keycap, groups })];
  });
  const changed = {
    ...chart,
    drawings: chart.drawings.map((other) =>
      other.id === id ? after : ((giving.find((op) => op.id === other.id)?.after as Drawing | undefined) ?? other),
    ),
  };
  const [fault] = checkChart(changed);
  if (fault) return { refusal: fault };
  const [what] = Object.keys(changes);
  return { id: newId(), reason: `drawing.${what ?? 'change'}`, ops: [...giving, put(drawing, after)] };
}

/** A copy of a drawing behind it, to change into another mouth; it plays nothing yet. */
export function duplicateDrawing(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  if (chart.drawings.length >= MAX_DRAWINGS)
    return { refusal: `This chart has ${chart.drawings.length} drawings. It may have ${MAX_DRAWINGS}: remove one first.` };
  const taken = new Set(chart.drawings.map((other) => other.keycap));
  const keycap = KEYCAPS.find((key) => !taken.has(key)) ?? '';
  const label = `${drawing.label.slice(0, 34)} copy`;
  const copy: Drawing = { ...drawing, id: newId(), number: drawing.number + 1, label, keycap, groups: [] };
  const shifted = chart.drawings
    .filter((other) => other.number > drawing.number)
    .map((other) => put(other, { ...other, number: other.number + 1 }));
  return { id: newId(), reason: 'drawing.duplicate', ops: [...shifted, put(null, copy)] };
}

/** Moves a drawing one place towards the front (−1) or the back (1) of the tray. */
export function moveDrawing(chart: ChartDocument, id: string, by: -1 | 1, newId: IdSource): Patch | Refusal {
  const index = chart.drawings.findIndex((drawing) => drawing.id === id);
  const drawing = chart.drawings[index];
  const other = chart.drawings[index + by];
  if (!drawing) return { refusal: NOT_THERE };
  if (!other) return { refusal: by < 0 ? 'This drawing is the first already.' : 'This drawing is the last already.' };
  return {
    id: newId(),
    reason: 'drawing.move',
    ops: [put(drawing, { ...drawing, number: other.number }), put(other, { ...other, number: drawing.number })],
  };
}

/** Takes a drawing out of the chart; the numbers behind it close up. */
export function removeDrawing(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  if (chart.drawings.length === 1) return { refusal: 'This is the only drawing. A chart needs at least one.' };
  const closing = chart.drawings
    .filter((other) => other.number > drawing.number)
    .map((other) => put(other, { ...other, number: other.number - 1 }));
  return { id: newId(), reason: 'drawing.remove', ops: [put(drawing, null), ...closing] };
}
