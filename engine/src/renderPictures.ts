/** A drawn sequence as numbered PNGs: each distinct picture is rendered once. */
import { pictureName, pictureSvg, type ChartDocument, type FrameLook, type PictureOptions } from '@zest-jaw/core';
import { svgToPng } from './rasterise.js';

export interface NumberedPicture {
  readonly name: string;
  readonly png: Uint8Array;
}

/**
 * @param frames what each frame shows
 * @param charts by id; at least one
 * @param hrefOf the bytes of a picture as a data URI, by its content hash
 * @param onPicture called for each frame in order, so that nothing need be kept
 */
export function renderPictures(
  frames: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  options: PictureOptions & { readonly withHead: boolean },
  hrefOf: (hash: string) => string,
  onPicture: (picture: NumberedPicture, index: number) => void,
): void {
  // A frame without a mouth shows the head of the first chart.
  const [first] = charts.values();
  const rendered = new Map<string, Uint8Array>();
  frames.forEach((shown, index) => {
    const key = shown ? `${shown.chartId} ${shown.drawing} ${shown.look}` : '';
    let png = rendered.get(key);
    if (!png) rendered.set(key, (png = svgToPng(pictureSvg(shown ? charts.get(shown.chartId)! : first!, shown, options, hrefOf))));
    onPicture({ name: pictureName(options.baseName, options.firstNumber + index), png }, index);
  });
}
