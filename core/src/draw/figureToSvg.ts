/** Figures written as SVG, for pictures and for the page. */
import type { Placement } from './art.js';
import type { Push } from './madeDrawings.js';
import type { Figure, FigurePath, FigurePicture } from './mouthFigure.js';

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);
}

export interface SvgOptions {
  /** Makes the clip paths' ids unique in the page or file they land in. */
  readonly idPrefix: string;
  /** Multiplies every stroke, so that a small mouth keeps its line. */
  readonly lineWeight?: number;
  /** The address of a picture: where it is served, or its bytes as a data URI. */
  readonly hrefOf?: (picture: FigurePicture) => string;
}

const isPath = (part: Figure[number]): part is FigurePath => 'path' in part;

/** The figure as SVG elements, without an `<svg>` around them. */
export function figureToSvg(figure: Figure, { idPrefix, lineWeight = 1, hrefOf }: SvgOptions): string {
  const clips = [...new Set(figure.flatMap((part) => (isPath(part) && part.clip ? [part.clip] : [])))];
  const definitions = clips.map((clip, index) => `<clipPath id="${escaped(idPrefix)}${index}"><path d="${clip}"/></clipPath>`).join('');
  const parts = figure.map((part) => {
    if (!isPath(part)) return `<image href="${escaped(hrefOf?.(part) ?? '')}" width="${part.width}" height="${part.height}"/>`;
    const attributes = [
      `d="${part.path}"`,
      `fill="${escaped(part.fill ?? 'none')}"`,
      part.evenOdd ? 'fill-rule="evenodd"' : '',
      part.stroke
        ? `stroke="${escaped(part.stroke)}" stroke-width="${(part.strokeWidth ?? 1) * lineWeight}" stroke-linejoin="round" stroke-linecap="round"`
        : '',
      part.opacity === undefined ? '' : `opacity="${part.opacity}"`,
      part.clip ? `clip-path="url(#${escaped(idPrefix)}${clips.indexOf(part.clip)})"` : '',
    ];
    return `<path ${attributes.filter(Boolean).join(' ')}/>`;
  });
  return definitions + parts.join('');
}

/** A figure where registration puts it, and pushed where it is. */
export function placedFigureToSvg(figure: Figure, { x, y, scale }: Placement, options: SvgOptions, push?: Push): string {
  const inner = figureToSvg(figure, options);
  const placed = x === 0 && y === 0 && scale === 1 ? inner : `<g transform="translate(${x} ${y}) scale(${scale})">${inner}</g>`;
  return push ? `<g transform="rotate(${push.angle}) scale(${push.width} ${push.height})">${placed}</g>` : placed;
}
