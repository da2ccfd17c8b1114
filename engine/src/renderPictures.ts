/** A drawn sequence as numbered PNGs: each distinct picture is rendered once. */
import { pictureName, pictureSvg, type ChartDocument, type Head, type PictureOptions } from '@zest-jaw/core';
import { svgToPng } from './rasterise.js';

export interface NumberedPicture {
  readonly name: string;
  readonly png: Uint8Array;
}

/**
 * @param frames the drawing of each frame
 * @param onPicture called for each frame in order, so that nothing need be kept
 */
export function renderPictures(
  frames: readonly (string | undefined)[],
  chart: ChartDocument,
  options: PictureOptions,
  head: Head | undefined,
  onPicture: (picture: NumberedPicture, index: number) => void,
): void {
  const rendered = new Map<string | undefined, Uint8Array>();
  frames.forEach((drawing, index) => {
    let png = rendered.get(drawing);
    if (!png) rendered.set(drawing, (png = svgToPng(pictureSvg(chart, drawing, options, head))));
    onPicture({ name: pictureName(options.baseName, options.firstNumber + index), png }, index);
  });
}
