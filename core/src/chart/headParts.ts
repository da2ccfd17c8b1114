/**
 * The parts of a face beside its mouth: brows, lids, eyes, whatever is replaced. Each has a chart of its own, whose
 * drawings no sound plays, and a place on the head.
 */
import type { Boil } from '../draw/boil.js';
import type { Box, Look } from '../draw/art.js';
import { boxOfLook } from '../draw/artFigure.js';
import { MOUTH_FOCUS } from '../draw/mouthFigure.js';
import { isPartChart, maybeDrawing, restDrawing, seenOf, type ChartDocument } from './chart.js';
import type { ChartHead, HeadPart, MouthPlace } from './head.js';

export function partsOfHead(head: ChartHead | undefined): readonly HeadPart[] {
  return head?.parts ?? [];
}

/** How deep a part lies: behind everything on the head, behind the mouth, or before it. */
export type PartDepth = 'plate' | 'behind' | 'before';

const depthOf = ({ role, order }: HeadPart): PartDepth => (role === 'plate' ? 'plate' : role || order < 0 ? 'behind' : 'before');

/** Those of a depth, from back to front; what stands for the head comes first. */
export function partsInDepth(head: ChartHead | undefined, depth: PartDepth): HeadPart[] {
  return partsOfHead(head)
    .filter((part) => depthOf(part) === depth)
    .sort((a, b) => Number(b.role === 'head') - Number(a.role === 'head') || a.order - b.order);
}

/** Whether pictures are seen in the place of the head's own art. */
export function isHeadReplaced(shown: readonly ShownPart[]): boolean {
  return shown.some(({ part }) => part.role === 'head');
}

/** The places that lead from the head to a part, the one that it hangs on first. */
export function placesOfPart(head: ChartHead, part: HeadPart): MouthPlace[] {
  return carriersOf(head, part).map(({ at }) => at);
}

/** A part with those that carry it, the one on the head first. */
export function carriersOf(head: ChartHead, part: HeadPart): HeadPart[] {
  const chain: HeadPart[] = [];
  for (let next: HeadPart | undefined = part; next && !chain.includes(next);) {
    chain.unshift(next);
    const { follows }: HeadPart = next;
    next = partsOfHead(head).find(({ id }) => id === follows);
  }
  return chain;
}

/** A place on a head as an SVG transform. */
export function placeOnHead({ x, y, scale, angle }: MouthPlace): string {
  return `translate(${x} ${y}) rotate(${angle}) scale(${scale})`;
}

/** What a part of the face shows, by its id on the head. */
export interface PartLook {
  readonly part: string;
  readonly chartId: string;
  readonly drawing: string;
  readonly look: number;
  readonly boil?: Boil;
  /** Not drawn at all. */
  readonly hidden?: true;
  /** Where it is beside its place on the head, as an SVG transform about its cross. */
  readonly moved?: string;
}

/** A part of the face with what is seen of it. */
export interface ShownPart {
  readonly part: HeadPart;
  readonly chart: ChartDocument;
  readonly look: Look;
  /** Where it and those that carry it are, as one SVG transform. */
  readonly transform: string;
}

/**
 * What is seen of every part of a head: at rest where nothing is said of it. One whose chart is not there is not seen.
 *
 * @param charts by id
 */
export function shownParts(
  head: ChartHead | undefined,
  charts: ReadonlyMap<string, ChartDocument>,
  face: readonly PartLook[] = [],
): ShownPart[] {
  return partsOfHead(head).flatMap((part): ShownPart[] => {
    const said = face.find((one) => one.part === part.id);
    const chart = charts.get(said?.chartId ?? part.chartId);
    if (!chart || said?.hidden || (part.role && !said)) return [];
    const drawing = (said && maybeDrawing(chart, said.drawing)) ?? restDrawing(chart);
    const transform = carriersOf(head!, part)
      .map(({ id, at }) => [placeOnHead(at), face.find((one) => one.part === id)?.moved].filter(Boolean).join(' '))
      .join(' ');
    return [{ part, chart, look: seenOf(drawing, said?.look ?? 0, said?.boil), transform }];
  });
}

/** The charts of the parts of some heads, by id. */
export function partChartIds(charts: Iterable<ChartDocument>): Set<string> {
  return new Set([...charts].flatMap(({ head: [head] }) => partsOfHead(head).map(({ chartId }) => chartId)));
}

/** The part of a chart's square that its drawings fill, in the shape of a mouth's, for showing one as large as it goes. */
export function focusOfChart(chart: ChartDocument): Box {
  if (!isPartChart(chart)) return MOUTH_FOCUS;
  const boxes = chart.drawings.map(boxOfLook).filter(({ width, height }) => width > 0 && height > 0);
  if (boxes.length === 0) return MOUTH_FOCUS;
  const [left, top] = [Math.min(...boxes.map(({ x }) => x)), Math.min(...boxes.map(({ y }) => y))];
  const [right, foot] = [Math.max(...boxes.map(({ x, width }) => x + width)), Math.max(...boxes.map(({ y, height }) => y + height))];
  const scale = Math.max((right - left) / MOUTH_FOCUS.width, (foot - top) / MOUTH_FOCUS.height) * 1.08;
  const [width, height] = [MOUTH_FOCUS.width * scale, MOUTH_FOCUS.height * scale];
  return { x: (left + right - width) / 2, y: (top + foot - height) / 2, width, height };
}
