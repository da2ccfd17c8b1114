/** Found mouths into a chart: where they lie on its square, and which drawings they take the place of. */
import { boxOfLook } from '../draw/artFigure.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { putsOf, type Patch } from '../document/patch.js';
import type { Look, PlacedArt, Placement } from '../draw/art.js';
import { PLAIN_DRAWING, type ChartDocument, type Drawing } from './chart.js';
import { addDrawings, checkedPatch, type NewDrawing } from './commands.js';

/** The widest mouth of an import is this wide on the chart's square. */
const WIDEST = 88;
/** And none is higher than this. */
const HIGHEST = 78;
/** Where the top of an upper lip lies: a little above the cross at its middle. */
const LIP_TOP = -4;

type Sized = Pick<PlacedArt, 'ink' | 'page' | 'measures'>;

/** One scale for mouths that belong together, so that a narrow one stays narrower than a wide one. */
function commonScale(arts: readonly Sized[]): number {
  const widest = Math.max(...arts.map((art) => art.ink.width));
  const highest = Math.max(...arts.map((art) => art.ink.height));
  return Math.min(WIDEST / widest, HIGHEST / highest);
}

/** Top edge and middle of the ink at the cross. */
function byTop({ ink }: Sized, scale: number): Placement {
  return { scale, x: -(ink.x + ink.width / 2) * scale, y: LIP_TOP - ink.y * scale };
}

/**
 * Where found mouths lie on the chart's square: those of one page as they lie on it, its most
 * closed mouth at the cross; the rest by their top edge and middle.
 */
export function placementsOfImport(mouths: readonly { readonly art: Sized; readonly pageKey: string }[]): Placement[] {
  if (mouths.length === 0) return [];
  const scale = commonScale(mouths.map((mouth) => mouth.art));
  const pages = new Map<string, Sized[]>();
  for (const { art, pageKey } of mouths) pages.set(pageKey, [...(pages.get(pageKey) ?? []), art]);
  return mouths.map(({ art, pageKey }) => {
    const page = pages.get(pageKey)!;
    const anchor = page.reduce((least, other) => (other.measures.opening < least.measures.opening ? other : least));
    if (page.length === 1 || !art.page || !anchor.page) return byTop(art, scale);
    const { x, y } = byTop(anchor, scale);
    return { scale, x: x + (art.page.x - anchor.page.x) * scale, y: y + (art.page.y - anchor.page.y) * scale };
  });
}

/** Where a single picture lies that takes a drawing's place: as wide as that was, its top where that had it. */
export function fittedPlacement(art: Sized, model: Look): Placement {
  const box = boxOfLook(model);
  const width = box.width > 1 ? box.width : WIDEST;
  const scale = width / Math.max(1, art.ink.width);
  const top = box.width > 1 ? box.y : LIP_TOP;
  const middle = box.width > 1 ? box.x + box.width / 2 : 0;
  return { scale, x: middle - (art.ink.x + art.ink.width / 2) * scale, y: top - art.ink.y * scale };
}

/** A found mouth with what was decided of it. */
export interface ImportRow extends NewDrawing {
  /** The drawing whose place it takes, by id: its number, keycap and exposures stay. */
  readonly inPlaceOf?: string;
}

/**
 * Takes found mouths into a chart. A mouth in the place of a drawing brings its art and its
 * label, and plays what it is said to play beside what the drawing played; the others come to the end of the tray.
 */
export function takeImported(chart: ChartDocument, rows: readonly ImportRow[], newId: IdSource): Patch | Refusal {
  const replacing = new Map(rows.flatMap((row) => (row.inPlaceOf === undefined ? [] : [[row.inPlaceOf, row] as const])));
  const taken = new Set([...replacing.values()].flatMap((row) => row.groups));
  const ops = chart.drawings.flatMap((drawing) => {
    const row = replacing.get(drawing.id);
    const groups = drawing.groups.filter((group) => !taken.has(group));
    if (!row) return groups.length === drawing.groups.length ? [] : [{ drawing, after: { ...drawing, groups } }];
    const { cross: _cross, ...rest } = drawing;
    const after: Drawing = {
      ...rest,
      ...PLAIN_DRAWING,
      tags: drawing.tags,
      art: row.art,
      placement: row.placement,
      label: row.label,
      // What the drawing played beside goes on being played, unless another of these plays it now.
      groups: [...new Set([...row.groups, ...groups])],
    };
    return [{ drawing, after }];
  });
  const puts = ops.map(({ drawing, after }) => putsOf<ChartDocument>()('drawings', drawing, after));
  const fresh = rows
    .filter((row) => row.inPlaceOf === undefined)
    .map(({ inPlaceOf: _none, ...row }) => ({ ...row, groups: row.groups.filter((group) => !taken.has(group)) }));
  if (fresh.length === 0) {
    if (puts.length === 0) return { refusal: 'No mouth is chosen. Choose at least one.' };
    return checkedPatch(chart, 'chart.import', puts, newId);
  }
  const replaced = {
    ...chart,
    drawings: chart.drawings.map((drawing) => ops.find((op) => op.drawing.id === drawing.id)?.after ?? drawing),
  };
  const added = addDrawings(replaced, fresh, newId);
  if ('refusal' in added) return added;
  // What both change of one drawing is one put, from what it was to what it becomes.
  const later = new Map(added.ops.flatMap((op) => (op.op === 'put' ? [[op.id, op] as const] : [])));
  const merged = puts.map((put) => (later.has(put.id) ? { ...put, after: later.get(put.id)!.after as Drawing } : put));
  const done = new Set(puts.map((put) => put.id));
  return { id: added.id, reason: 'chart.import', ops: [...merged, ...added.ops.filter((op) => op.op === 'put' && !done.has(op.id))] };
}
