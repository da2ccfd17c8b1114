/** A drawn sequence as numbered PNGs: each distinct picture is rendered once. */
import { pictureName, pictureSvg, type ChartDocument, type FrameLook, type PictureOptions } from '@zest-jaw/core';
import { svgToPng } from './rasterise.js';

export interface NumberedPicture {
  readonly name: string;
  readonly png: Uint8Array;
}

/**
 * @param frames what each frame shows
 * @param hrefOf the bytes of a picture as a data URI, by its content hash
 * @param onPicture called for each frame in order, so that nothing need be kept
 */
export function renderPictures(
  frames: readonly (FrameLook | undefined)[],
  chart: ChartDocument,
  options: PictureOptions & { readonly withHead: boolean },
  hrefOf: (hash: string) => string,
  onPicture: (picture: NumberedPicture, index: number) => void,
): void {
  const rendered = new Map<string, Uint8Array>();
  frames.forEach((shown, index) => {
    const key = shown ? `${shown.drawing} ${shown.look}` : '';
    let png = rendered.get(key);
    if (!png) rendered.set(key, (png = svgToPng(pictureSvg(chart, shown, options, hrefOf))));
    onPicture({ name: pictureName(options.baseName, options.firstNumber + index), png }, index);
  });
}
