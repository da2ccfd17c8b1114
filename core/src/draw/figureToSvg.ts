/** Figures written as SVG, for pictures and for the page. */
import type { Figure } from './mouthFigure.js';

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);
}

/**
 * The figure as SVG elements, without an `<svg>` around them.
 *
 * @param idPrefix makes the clip paths' ids unique in the page or file they land in
 * @param lineWeight multiplies every stroke, so that a small mouth keeps its line
 */
export function figureToSvg(figure: Figure, idPrefix: string, lineWeight = 1): string {
  const clips = [...new Set(figure.flatMap((path) => (path.clip ? [path.clip] : [])))];
  const definitions = clips.map((clip, index) => `<clipPath id="${escaped(idPrefix)}${index}"><path d="${clip}"/></clipPath>`).join('');
  const paths = figure.map((path) => {
    const attributes = [
      `d="${path.path}"`,
      `fill="${escaped(path.fill ?? 'none')}"`,
      path.stroke
        ? `stroke="${escaped(path.stroke)}" stroke-width="${(path.strokeWidth ?? 1) * lineWeight}" stroke-linejoin="round" stroke-linecap="round"`
        : '',
      path.opacity === undefined ? '' : `opacity="${path.opacity}"`,
      path.clip ? `clip-path="url(#${escaped(idPrefix)}${clips.indexOf(path.clip)})"` : '',
    ];
    return `<path ${attributes.filter(Boolean).join(' ')}/>`;
  });
  return definitions + paths.join('');
}
