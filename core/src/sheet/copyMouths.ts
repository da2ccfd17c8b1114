/** Mouths copied from some frames and laid elsewhere: over what is there, pushing it along, or on another chart. */
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import type { Patch } from '../document/patch.js';
import { drawingsIn, withDrawings } from '../draw/madeDrawings.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import type { Span } from '../time/span.js';
import { heldOver, laidOver, laneChange, movedBy, openLane, partOf, type Laid, type TrackSpan } from './lane.js';

/** Mouths to be laid elsewhere, from frame 0 on. */
export interface CopiedMouths {
  readonly frames: number;
  readonly chartId: string;
  readonly mouths: readonly (Span & { readonly drawing: string })[];
  /** The drawings of its chart that the mouths are made of, by id. */
  readonly drawings: ReadonlyMap<string, Pick<Drawing, 'groups' | 'label'>>;
}

export function copyFrames(
  scene: SceneDocument,
  span: TrackSpan,
  { chartId, chart }: { readonly chartId: string; readonly chart: ChartDocument },
): CopiedMouths | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const mouths = partOf(open.lane, span).map(({ from, to, drawing }) => ({ from: from - span.from, to: to - span.from, drawing }));
  if (mouths.length === 0) return { refusal: 'There is no mouth in these frames to copy.' };
  const used = mouths.flatMap(({ drawing }) => drawingsIn(drawing));
  const drawings = new Map(used.map((id) => [id, maybeDrawing(chart, id) ?? { groups: [], label: id }]));
  return { frames: span.to - span.from, chartId, mouths, drawings };
}

export interface Pasted {
  readonly patch: Patch | Refusal;
  /** Labels of drawings for which this chart has none that plays the same. */
  readonly missing: readonly string[];
}

/**
 * Lays copied mouths over what is there from a frame on, or pushes that along. Over a selection
 * they are repeated until it is full. On another chart each becomes the drawing that plays the
 * same sounds; where there is none, what was there stays.
 *
 * @param to the end of the selection to be filled; undefined lays them once
 */
export function pasteFrames(
  scene: SceneDocument,
  {
    track,
    from,
    to,
    pushing,
  }: { readonly track: string; readonly from: number; readonly to?: number | undefined; readonly pushing: boolean },
  copied: CopiedMouths,
  { chartId, chart }: { readonly chartId: string; readonly chart: ChartDocument },
  newId: IdSource,
): Pasted {
  const open = openLane(scene, { track, from, to: from + 1 });
  if (isRefusal(open)) return { patch: open, missing: [] };
  const { stretch } = open;
  const target: Span = { from, to: Math.min(stretch.to, to ?? from + copied.frames) };
  const missing = new Set<string>();
  const drawingFor = ({ drawing: made }: CopiedMouths['mouths'][number]): string | undefined =>
    withDrawings(made, (drawing) => {
      if (copied.chartId === chartId && maybeDrawing(chart, drawing)) return drawing;
      const { groups, label } = copied.drawings.get(drawing)!;
      const alike = chart.drawings.find((one) => one.groups.some((group) => groups.includes(group)));
      if (!alike) missing.add(label);
      return alike?.id;
    });
  const pieces: Laid[] = [];
  for (let at = from; at < target.to; at += copied.frames)
    for (const mouth of copied.mouths) {
      const drawing = drawingFor(mouth);
      if (drawing !== undefined) pieces.push({ from: at + mouth.from, to: at + mouth.to, drawing, inked: true, plays: [] });
    }
  const after = movedBy(partOf(open.lane, { from, to: stretch.to }), target.to - target.from);
  const base = pushing ? [...partOf(open.lane, { from: stretch.from, to: from }), ...after] : open.lane;
  // What is there already stays what it is, ink or pencil, with its sounds.
  const same = (laid: Laid): Laid =>
    base.find((one) => one.from === laid.from && one.to === laid.to && one.drawing === laid.drawing) ?? laid;
  const over = partOf(pieces, target).map(same);
  const next = over.reduce<Laid[]>((lane, laid) => laidOver(lane, laid, [laid]), pushing ? heldOver([...base], target) : [...base]);
  const patch = laneChange(scene, { track, reason: 'exposure.paste', refusal: 'The same mouths are here already.' }, open, next, newId);
  return { patch, missing: [...missing] };
}
