/** A chart's head and a mouth on it, written as SVG elements. */
import { figureToSvg, placedFigureToSvg, type SvgOptions } from '../draw/figureToSvg.js';
import { artFigure } from '../draw/artFigure.js';
import { headFigure } from '../draw/headShape.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import { chartSettings, jawDropOf, type ChartDocument, type Drawing } from './chart.js';
import type { Look } from '../draw/art.js';
import type { ChartHead, MouthPlace } from './head.js';
import { isHeadReplaced, partsInDepth, placeOnHead, type PartDepth, type ShownPart } from './headParts.js';

const image = (href: string, x: number, y: number, width: number, height: number): string =>
  `<image href="${href}" x="${x}" y="${y}" width="${width}" height="${height}" preserveAspectRatio="none"/>`;

/** The mouth's place on a head as an SVG transform. */
export function mouthTransform(place: MouthPlace, moved = ''): string {
  return moved === '' ? placeOnHead(place) : `${placeOnHead(place)} ${moved}`;
}

/** A whole head moved about its middle. */
export function headTransform({ width, height }: Pick<ChartHead, 'width' | 'height'>, moved: string): string {
  return `translate(${width / 2} ${height / 2}) ${moved} translate(${-width / 2} ${-height / 2})`;
}

/** A look in the style of its chart, registered. */
export function lookToSvg(style: MouthStyle, look: Look, options: SvgOptions): string {
  return placedFigureToSvg(artFigure(look.art, style), look.placement, options, look.push);
}

/**
 * The head without its mouth, with its jaw where it is for an opening.
 *
 * @param jawDrop 0 to 1, see `jawDropOf`
 * @param hrefOfHash the address of a picture by its content hash
 */
export function headToSvg(head: ChartHead, jawDrop: number, hrefOfHash: (hash: string) => string): string {
  const { art, width, height, jaw } = head;
  const skull =
    art.kind === 'built'
      ? figureToSvg(headFigure(art.shape, jawDrop), { idPrefix: 'head' })
      : image(hrefOfHash(art.picture), 0, 0, width, height);
  if (!jaw) return skull;
  const { x, y, width: across, height: down } = jaw.box;
  return skull + image(hrefOfHash(jaw.picture), x, y + jaw.travel * jawDrop, across, down);
}

/** A part of the face where it sits. */
export function partToSvg({ part, chart, look, transform }: ShownPart, options: SvgOptions): string {
  const inner = lookToSvg(chartSettings(chart).style, look, { ...options, idPrefix: `${options.idPrefix}-${part.id}` });
  return `<g transform="${transform}">${inner}</g>`;
}

/** The parts of a depth, from back to front. */
export function partsToSvg(head: ChartHead, shown: readonly ShownPart[], depth: PartDepth, options: SvgOptions): string {
  return partsInDepth(head, depth)
    .flatMap(({ id }) => shown.filter(({ part }) => part.id === id))
    .map((one) => partToSvg(one, options))
    .join('');
}

/** Where a face is in a frame, and how far its jaw is down. */
export interface Moved {
  /** The mouth beside its place on the head, as an SVG transform about its cross. */
  readonly moved?: string;
  /** The whole head, about its middle. */
  readonly headMoved?: string;
  /** 0 to 1; left out it is as the mouth has it. */
  readonly jaw?: number;
}

/** A whole face: head, jaw, mouth and parts. Without a head, the mouth alone, on the chart's square. */
export function faceToSvg(
  chart: ChartDocument,
  drawing: Drawing | undefined,
  look: Look | undefined,
  options: SvgOptions & { readonly hrefOfHash: (hash: string) => string; readonly parts?: readonly ShownPart[] } & Moved,
): string {
  const mouth = look ? lookToSvg(chartSettings(chart).style, look, options) : '';
  const [head] = chart.head;
  if (!head) return mouth;
  const { parts = [], hrefOfHash, moved = '', headMoved = '', jaw = jawDropOf(chart, drawing) } = options;
  const inner = [
    isHeadReplaced(parts) ? '' : headToSvg(head, jaw, hrefOfHash),
    partsToSvg(head, parts, 'behind', options),
    `<g transform="${mouthTransform(head.mouth, moved)}">${mouth}</g>`,
    partsToSvg(head, parts, 'before', options),
  ].join('');
  const whole = headMoved === '' ? inner : `<g transform="${headTransform(head, headMoved)}">${inner}</g>`;
  return partsToSvg(head, parts, 'plate', options) + whole;
}
