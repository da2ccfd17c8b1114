/** What can be done to a chart. Like a scene's commands: a patch, or a refusal that says why not. */
import { putsOf, type Patch, type PutOp } from '../document/patch.js';
import { sameJson } from '../document/documentKind.js';
import type { Reason } from '../document/reasons.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import type { MouthShape } from '../draw/mouthShape.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { PLACEMENT_LIMITS, type BuiltArt, type Look, type Placement } from '../draw/art.js';
import {
  chartSettings,
  checkChart,
  DRAWING_LIMITS,
  KEYCAPS,
  lookOf,
  maybeDrawing,
  PLAIN_DRAWING,
  type ChartDocument,
  type ChartSettings,
  type Drawing,
} from './chart.js';
import type { ChartHead } from './head.js';
import { measureLook } from './measureLook.js';

/** A chart has at most this many drawings. */
export const MAX_DRAWINGS = 200;

const NOT_THERE = 'That drawing is no longer in the chart.';

const put = putsOf<ChartDocument>();

const putDrawing = (before: Drawing | null, after: Drawing | null): PutOp => put('drawings', before, after);

/** Puts that give the drawings the places 0, 1, 2 … in the order passed, with whatever else is to change. Their numbers stay. */
function placed(drawings: readonly Drawing[], changesOf: (index: number) => Partial<Drawing> = () => ({})): PutOp[] {
  return drawings.flatMap((drawing, place) => {
    const after = { ...drawing, ...changesOf(place), place };
    return sameJson(drawing, after) ? [] : [putDrawing(drawing, after)];
  });
}

/** The number a new drawing gets: the next after the largest. */
const nextNumber = (chart: ChartDocument): number => Math.max(0, ...chart.drawings.map((drawing) => drawing.number)) + 1;

/** A patch of puts on drawings, refused when the chart would break an invariant. */
export function checkedPatch(chart: ChartDocument, reason: Reason, ops: readonly PutOp[], newId: IdSource): Patch | Refusal {
  const after = new Map(ops.map((op) => [op.id, op.after as Drawing | null]));
  const known = chart.drawings.map((drawing) => (after.has(drawing.id) ? after.get(drawing.id)! : drawing)).filter(Boolean);
  const added = ops.filter((op) => op.before === null).map((op) => op.after as unknown as Drawing);
  const [fault] = checkChart({ ...chart, drawings: [...known, ...added] });
  return fault ? { refusal: fault } : { id: newId(), reason, ops: [...ops] };
}

/** Changes one look of a drawing: 0 is the drawing itself. */
export function setLook(
  chart: ChartDocument,
  id: string,
  lookIndex: number,
  changes: Partial<Look>,
  reason: Reason,
  newId: IdSource,
): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing || lookIndex > drawing.variants.length) return { refusal: NOT_THERE };
  const after =
    lookIndex === 0
      ? { ...drawing, ...changes }
      : { ...drawing, variants: drawing.variants.map((look, index) => (index === lookIndex - 1 ? { ...look, ...changes } : look)) };
  return checkedPatch(chart, reason, [putDrawing(drawing, after)], newId);
}

/** Changes a built mouth's shape; changes that follow one another quickly join into one step of undo. */
export function setShape(chart: ChartDocument, id: string, changes: Partial<MouthShape>, newId: IdSource, lookIndex = 0): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const { art } = lookOf(drawing, lookIndex);
  if (art.kind !== 'built') return { refusal: `“${drawing.label}” is not built from parameters, so it has no shape to set.` };
  return setLook(chart, id, lookIndex, { art: { ...art, shape: { ...art.shape, ...changes } } }, 'drawing.shape', newId);
}

/** Finishes one built mouth otherwise than its chart; null gives it the chart's finish again. */
export function setOwnStyle(
  chart: ChartDocument,
  id: string,
  changes: Partial<MouthStyle> | null,
  newId: IdSource,
  lookIndex = 0,
): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const { art } = lookOf(drawing, lookIndex);
  if (art.kind !== 'built') return { refusal: `“${drawing.label}” is not built from parameters, so it has colours of its own already.` };
  const { kind, shape } = art;
  const after: BuiltArt = changes === null ? { kind, shape } : { kind, shape, style: { ...art.style, ...changes } };
  return setLook(chart, id, lookIndex, { art: after }, 'drawing.finish', newId);
}

/** Moves or scales a drawing: registration. */
export function setPlacement(chart: ChartDocument, id: string, placement: Placement, newId: IdSource, lookIndex = 0): Patch | Refusal {
  const { offset, leastScale, mostScale } = PLACEMENT_LIMITS;
  const kept = {
    x: Math.max(-offset, Math.min(offset, placement.x)),
    y: Math.max(-offset, Math.min(offset, placement.y)),
    scale: Math.max(leastScale, Math.min(mostScale, placement.scale)),
  };
  return setLook(chart, id, lookIndex, { placement: kept }, 'drawing.register', newId);
}

/** Scales a placement about a point of the chart, which stays where it is. */
export function scaledAbout({ x, y, scale }: Placement, by: number, about: { readonly x: number; readonly y: number }): Placement {
  return { scale: scale * by, x: about.x + (x - about.x) * by, y: about.y + (y - about.y) * by };
}

/** Takes the placements of a line-up. */
export function setPlacements(
  chart: ChartDocument,
  changes: readonly { readonly drawing: Pick<Drawing, 'id'>; readonly after: Placement }[],
  newId: IdSource,
): Patch | Refusal {
  const ops = changes.flatMap(({ drawing: { id }, after }) => {
    const drawing = maybeDrawing(chart, id);
    return drawing ? [putDrawing(drawing, { ...drawing, placement: after })] : [];
  });
  return checkedPatch(chart, 'chart.lineup', ops, newId);
}

export type DrawingChanges = Partial<Pick<Drawing, 'label' | 'number' | 'keycap' | 'groups' | 'tags' | 'motion' | 'every'>>;

/**
 * Changes what a drawing is called, its keycap, its tags, or the groups it plays. A keycap or
 * a group that another drawing has is taken over from it.
 */
export function setDrawing(chart: ChartDocument, id: string, changes: DrawingChanges, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const others = chart.drawings.filter((other) => other.id !== id);
  const giving = others.flatMap((other) => {
    const keycap = changes.keycap && other.keycap === changes.keycap ? '' : other.keycap;
    const groups = changes.groups ? other.groups.filter((group) => !changes.groups!.includes(group)) : other.groups;
    return keycap === other.keycap && groups.length === other.groups.length ? [] : [putDrawing(other, { ...other, keycap, groups })];
  });
  const [what = 'label'] = Object.keys(changes) as (keyof DrawingChanges)[];
  return checkedPatch(chart, `drawing.${what}`, [...giving, putDrawing(drawing, { ...drawing, ...changes })], newId);
}

/** A drawing that is to come into a chart. */
export interface NewDrawing extends Look {
  readonly label: string;
  readonly groups: readonly string[];
  readonly tags?: readonly string[];
}

function tooMany(chart: ChartDocument, more: number): Refusal | undefined {
  const count = chart.drawings.length + more;
  return count > MAX_DRAWINGS
    ? { refusal: `The chart would have ${count} drawings. It may have ${MAX_DRAWINGS}: take fewer, or remove some first.` }
    : undefined;
}

/**
 * Adds drawings at the end of the tray, with the keycaps that are free. A group that they
 * play is taken over from the drawing that had it; a group named twice goes to the first.
 */
export function addDrawings(chart: ChartDocument, fresh: readonly NewDrawing[], newId: IdSource): Patch | Refusal {
  const refusal = tooMany(chart, fresh.length);
  if (refusal) return refusal;
  if (fresh.length === 0) return { refusal: 'No drawing is chosen. Choose at least one.' };
  const taken = new Set(chart.drawings.map((drawing) => drawing.keycap));
  const free = KEYCAPS.filter((key) => !taken.has(key));
  const played = new Set<string>();
  const [first, places] = [nextNumber(chart), chart.drawings.length];
  const added = fresh.map((entry, index): Drawing => {
    const groups = entry.groups.filter((group) => !played.has(group));
    groups.forEach((group) => played.add(group));
    return { ...PLAIN_DRAWING, ...entry, id: newId(), number: first + index, place: places + index, keycap: free[index] ?? '', groups };
  });
  const giving = chart.drawings.flatMap((drawing) => {
    const groups = drawing.groups.filter((group) => !played.has(group));
    return groups.length === drawing.groups.length ? [] : [putDrawing(drawing, { ...drawing, groups })];
  });
  return checkedPatch(chart, 'drawing.add', [...giving, ...added.map((drawing) => putDrawing(null, drawing))], newId);
}

/** A copy of a drawing behind it, to change into another mouth; it plays nothing yet. */
export function duplicateDrawing(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const refusal = tooMany(chart, 1);
  if (refusal) return refusal;
  const taken = new Set(chart.drawings.map((other) => other.keycap));
  const keycap = KEYCAPS.find((key) => !taken.has(key)) ?? '';
  const label = `${drawing.label.slice(0, 34)} copy`;
  const place = drawing.place + 1;
  const copy: Drawing = { ...drawing, id: newId(), number: nextNumber(chart), place, label, keycap, groups: [] };
  const shifted = chart.drawings
    .filter((other) => other.place >= place)
    .map((other) => putDrawing(other, { ...other, place: other.place + 1 }));
  return { id: newId(), reason: 'drawing.duplicate', ops: [...shifted, putDrawing(null, copy)] };
}

/** Gives other drawings this one's art and place, to start from; their names, keys and groups stay. */
export function copyIntoOthers(chart: ChartDocument, id: string, others: readonly string[], newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  const { art, placement, cross } = drawing;
  const ops = chart.drawings
    .filter((other) => other.id !== id && others.includes(other.id))
    .map((other) => {
      const { cross: _old, ...rest } = other;
      return putDrawing(other, { ...rest, art, placement, ...(cross ? { cross } : {}) });
    });
  if (ops.length === 0) return { refusal: 'No drawing is chosen to copy it into. Choose at least one.' };
  return checkedPatch(chart, 'drawing.copyinto', ops, newId);
}

/** Moves a drawing to a place in the tray, counted from 0. */
export function moveDrawingTo(chart: ChartDocument, id: string, place: number, newId: IdSource): Patch | Refusal {
  const from = chart.drawings.findIndex((drawing) => drawing.id === id);
  if (from < 0) return { refusal: NOT_THERE };
  const order = [...chart.drawings];
  const [drawing] = order.splice(from, 1);
  order.splice(Math.max(0, Math.min(order.length, place)), 0, drawing!);
  return { id: newId(), reason: 'drawing.move', ops: placed(order) };
}

/** Moves a drawing one place towards the front (−1) or the back (1) of the tray. */
export function moveDrawing(chart: ChartDocument, id: string, by: -1 | 1, newId: IdSource): Patch | Refusal {
  const index = chart.drawings.findIndex((drawing) => drawing.id === id);
  if (index < 0) return { refusal: NOT_THERE };
  if (!chart.drawings[index + by]) return { refusal: by < 0 ? 'This drawing is the first already.' : 'This drawing is the last already.' };
  return moveDrawingTo(chart, id, index + by, newId);
}

/** Puts the tray in the order of openness, the most closed first; with new keycaps they are given out anew in that order. */
export function orderByOpenness(chart: ChartDocument, newId: IdSource, givesKeycaps = false): Patch {
  const opening = new Map(chart.drawings.map((drawing) => [drawing.id, measureLook(drawing).opening]));
  const order = [...chart.drawings].sort((a, b) => opening.get(a.id)! - opening.get(b.id)!);
  return {
    id: newId(),
    reason: givesKeycaps ? 'chart.keycaps' : 'chart.order',
    ops: placed(order, (place) => (givesKeycaps ? { keycap: KEYCAPS[place] ?? '' } : {})),
  };
}

/** Takes a drawing out of the chart; the places behind it close up, the numbers stay. */
export function removeDrawing(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  if (chart.drawings.length === 1) return { refusal: 'This is the only drawing. A chart needs at least one.' };
  const closing = placed(chart.drawings.filter((other) => other.id !== id));
  return { id: newId(), reason: 'drawing.remove', ops: [putDrawing(drawing, null), ...closing] };
}

/** Adds a look behind the others: a redrawn variant, or the next frame of a cycle. */
export function addVariant(chart: ChartDocument, id: string, look: Look, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing) return { refusal: NOT_THERE };
  if (drawing.variants.length >= DRAWING_LIMITS.variants)
    return {
      refusal: `“${drawing.label}” has ${drawing.variants.length} variants. It may have ${DRAWING_LIMITS.variants}: remove one first.`,
    };
  const { art, placement, cross } = look;
  const variant: Look = { art, placement, ...(cross ? { cross } : {}) };
  return checkedPatch(chart, 'variant.add', [putDrawing(drawing, { ...drawing, variants: [...drawing.variants, variant] })], newId);
}

/** Takes out one of a drawing's variants, counted from 1. */
export function removeVariant(chart: ChartDocument, id: string, lookIndex: number, newId: IdSource): Patch | Refusal {
  const drawing = maybeDrawing(chart, id);
  if (!drawing?.variants[lookIndex - 1]) return { refusal: 'That variant is no longer there.' };
  const variants = drawing.variants.filter((_, index) => index !== lookIndex - 1);
  return { id: newId(), reason: 'variant.remove', ops: [putDrawing(drawing, { ...drawing, variants })] };
}

/** Changes the chart's name, or the finish of all its built mouths. */
export function setChart(
  chart: ChartDocument,
  changes: { readonly name?: string; readonly style?: Partial<MouthStyle> },
  newId: IdSource,
): Patch | Refusal {
  const before = chartSettings(chart);
  const after: ChartSettings = { ...before, name: changes.name ?? before.name, style: { ...before.style, ...changes.style } };
  const [fault] = checkChart({ ...chart, settings: [after] });
  if (fault) return { refusal: fault };
  return { id: newId(), reason: changes.name === undefined ? 'chart.finish' : 'chart.name', ops: [put('settings', before, after)] };
}

/** Puts a head behind the mouths, changes it, or takes it away (null). */
export function setHead(chart: ChartDocument, after: ChartHead | null, newId: IdSource): Patch | Refusal {
  const before = chart.head[0] ?? null;
  if (!before && !after) return { refusal: 'This chart has no head.' };
  const [fault] = checkChart({ ...chart, head: after ? [after] : [] });
  if (fault) return { refusal: fault };
  return { id: newId(), reason: 'head.change', ops: [put('head', before, after)] };
}
