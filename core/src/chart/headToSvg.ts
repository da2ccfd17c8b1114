/** A chart's head and a mouth on it, written as SVG elements. */
import { figureToSvg, placedFigureToSvg, type SvgOptions } from '../draw/figureToSvg.js';
import { artFigure } from '../draw/artFigure.js';
import { headFigure } from '../draw/headShape.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import { chartSettings, jawDropOf, type ChartDocument, type Drawing } from './chart.js';
import type { Look } from '../draw/art.js';
import type { ChartHead, MouthPlace } from './head.js';

const image = (href: string, x: number, y: number, width: number, height: number): string =>
  `<image href="${href}" x="${x}" y="${y}" width="${width}" height="${height}" preserveAspectRatio="none"/>`;

/** The mouth's place on a head as an SVG transform. */
export function mouthTransform({ x, y, scale, angle }: MouthPlace): string {
  return `translate(${x} ${y}) rotate(${angle}) scale(${scale})`;
}

/** A look in the style of its chart, registered. */
export function lookToSvg(style: MouthStyle, look: Look, options: SvgOptions): string {
  return placedFigureToSvg(artFigure(look.art, style), look.placement, options);
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

/** A whole face: head, jaw and mouth. Without a head, the mouth alone, on the chart's square. */
export function faceToSvg(
  chart: ChartDocument,
  drawing: Drawing | undefined,
  look: Look | undefined,
  options: SvgOptions & { readonly hrefOfHash: (hash: string) => string },
): string {
  const mouth = look ? lookToSvg(chartSettings(chart).style, look, options) : '';
  const [head] = chart.head;
  if (!head) return mouth;
  return `${headToSvg(head, jawDropOf(chart, drawing), options.hrefOfHash)}<g transform="${mouthTransform(head.mouth)}">${mouth}</g>`;
}
