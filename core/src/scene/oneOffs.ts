/**
 * One-offs: mouths drawn for some frames of a scene, a bite, a whistle, a shout. They are kept in
 * the scene and are seen as drawings of the chart they were made on, behind its own; no sound
 * plays them, so no pencil is ever keyed with one.
 */
import { checkChart, MOST_NUMBER, PLAIN_DRAWING, type ChartDocument, type Drawing } from '../chart/chart.js';
import { checkedPatch } from '../chart/commands.js';
import type { Look } from '../draw/art.js';
import { drawingsIn } from '../draw/madeDrawings.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { frameNumber, type OneOff, type SceneDocument } from './sceneDocument.js';

const put = putsOf<SceneDocument>();
const putInChart = putsOf<ChartDocument>();

/** The most one-offs of a scene. */
export const MOST_ONE_OFFS = 200;

type OneOffsOf = Pick<SceneDocument, 'oneOffs'>;

const merged = new WeakMap<ChartDocument, WeakMap<readonly OneOff[], ChartDocument>>();

/** A chart as a scene sees it: with the one-offs made on it, numbered on from its own where theirs are taken. */
export function chartWithOneOffs({ oneOffs }: OneOffsOf, chartId: string, chart: ChartDocument): ChartDocument {
  if (!oneOffs.some((one) => one.chartId === chartId)) return chart;
  let known = merged.get(chart);
  if (!known) merged.set(chart, (known = new WeakMap()));
  const before = known.get(oneOffs);
  if (before) return before;
  const there = new Set(chart.drawings.map(({ id }) => id));
  const numbers = new Set(chart.drawings.map(({ number }) => number));
  const places = Math.max(-1, ...chart.drawings.map(({ place }) => place)) + 1;
  const own = oneOffs
    // One that has been moved into the chart is the chart's.
    .filter((one) => one.chartId === chartId && !there.has(one.id))
    .map(({ drawing }, index): Drawing => {
      let { number } = drawing;
      while (numbers.has(number)) number += 1;
      numbers.add(number);
      return { ...drawing, number, place: places + index };
    });
  const made: ChartDocument = { ...chart, drawings: [...chart.drawings, ...own] };
  known.set(oneOffs, made);
  return made;
}

/** Charts by id, each as a scene sees it; the same map where the scene has no one-offs. */
export function chartsWithOneOffs(scene: OneOffsOf, charts: ReadonlyMap<string, ChartDocument>): ReadonlyMap<string, ChartDocument> {
  if (scene.oneOffs.length === 0) return charts;
  return new Map([...charts].map(([id, chart]) => [id, chartWithOneOffs(scene, id, chart)]));
}

/** What is wrong with the one-offs of a scene, as sentences. */
export function checkOneOffs(scene: SceneDocument, charts: ReadonlyMap<string, ChartDocument>): string[] {
  if (scene.oneOffs.length > MOST_ONE_OFFS) return [`A scene may have ${MOST_ONE_OFFS} one-offs.`];
  const faults = scene.oneOffs.flatMap(({ id, chartId, drawing }) => {
    if (drawing.id !== id) return [`The one-off ${id} must have the id of its drawing.`];
    if (drawing.groups.length > 0 || drawing.keycap !== '') return [`The one-off “${drawing.label}” plays no sound and has no keycap.`];
    return charts.has(chartId) ? [] : [`The one-off “${drawing.label}” was made on the chart ${chartId}, which is not there.`];
  });
  if (faults.length > 0) return faults;
  const used = new Set(scene.oneOffs.map(({ chartId }) => chartId));
  return [...used].flatMap((id) => checkChart(chartWithOneOffs(scene, id, charts.get(id)!)));
}

export interface NewOneOff {
  readonly chartId: string;
  readonly label: string;
  readonly look: Look;
}

/**
 * Makes a one-off with the next number, in no frame yet.
 *
 * @param chart as the scene sees it
 */
export function addOneOff(
  scene: SceneDocument,
  { chartId, label, look: { art, placement, cross } }: NewOneOff,
  chart: ChartDocument,
  newId: IdSource,
): { readonly patch: Patch; readonly made: string } | Refusal {
  if (scene.oneOffs.length >= MOST_ONE_OFFS)
    return { refusal: `The scene has ${MOST_ONE_OFFS} one-offs, as many as it may have. Remove one that is not shown.` };
  const number = Math.max(0, ...chart.drawings.map((drawing) => drawing.number)) + 1;
  if (number > MOST_NUMBER)
    return { refusal: `Drawings are numbered to ${MOST_NUMBER}, and there is one with that number. Give it a lower one.` };
  const id = newId();
  const drawing: Drawing = {
    ...PLAIN_DRAWING,
    id,
    number,
    place: 0,
    label,
    keycap: '',
    groups: [],
    art,
    placement,
    ...(cross && { cross }),
  };
  const after: OneOff = { id, chartId, drawing };
  const [fault] = checkChart({ ...chart, drawings: [...chart.drawings, drawing] });
  return fault ? { refusal: fault } : { patch: { id: newId(), reason: 'oneoff.add', ops: [put('oneOffs', null, after)] }, made: id };
}

/** What was done to a one-off as a drawing of its chart, done to the scene: what else of the chart it changes is left out. */
export function changeOneOff(scene: SceneDocument, change: Patch | Refusal): Patch | Refusal {
  if (isRefusal(change)) return change;
  const ops = change.ops.flatMap((op): PatchOp[] => {
    const before = scene.oneOffs.find(({ id }) => op.op === 'put' && op.table === 'drawings' && id === op.id);
    if (!before || op.op !== 'put' || !op.after) return [];
    const { number, place } = before.drawing;
    const drawing = { ...(op.after as unknown as Drawing), place, keycap: '', groups: [] };
    // The number it is seen with is its own unless the chart has taken that.
    return [put('oneOffs', before, { ...before, drawing: change.reason === 'drawing.number' ? drawing : { ...drawing, number } })];
  });
  return { ...change, ops };
}

/** Takes a one-off out of the scene; refused while it is shown. */
export function removeOneOff(scene: SceneDocument, id: string, newId: IdSource): Patch | Refusal {
  const one = scene.oneOffs.find((candidate) => candidate.id === id);
  if (!one) return { refusal: 'That one-off is no longer in the scene.' };
  const shown = scene.exposures.find((exposure) => drawingsIn(exposure.drawing).includes(id));
  if (shown)
    return {
      refusal: `“${one.drawing.label}” is shown at frame ${frameNumber(scene, shown.from)}. Put another mouth there, then remove it.`,
    };
  return { id: newId(), reason: 'oneoff.remove', ops: [put('oneOffs', one, null)] };
}

/**
 * Moves a one-off into its chart, where it keeps its id: what shows it goes on showing it. The
 * chart is to be changed first, then the scene.
 */
export function moveIntoChart(
  scene: SceneDocument,
  id: string,
  chart: ChartDocument,
  newId: IdSource,
): { readonly chart: Patch; readonly scene: Patch } | Refusal {
  const one = scene.oneOffs.find((candidate) => candidate.id === id);
  if (!one) return { refusal: 'That one-off is no longer in the scene.' };
  const numbers = new Set(chart.drawings.map(({ number }) => number));
  let { number } = one.drawing;
  while (numbers.has(number)) number += 1;
  const drawing: Drawing = { ...one.drawing, number, place: Math.max(-1, ...chart.drawings.map(({ place }) => place)) + 1 };
  const into = checkedPatch(chart, 'drawing.add', [putInChart('drawings', null, drawing)], newId);
  if (isRefusal(into)) return into;
  return { chart: into, scene: { id: newId(), reason: 'oneoff.move', ops: [put('oneOffs', one, null)] } };
}
