/** A drawn sequence as numbered pictures: each distinct one is rendered once. */
import { pictureName, pictureSvg, type ChartDocument, type PictureOptions, type PlannedPicture } from '@zest-jaw/core';
import sharp from 'sharp';
import { svgToPng } from './rasterise.js';

export interface NumberedPicture {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/**
 * @param charts by id; at least one
 * @param hrefOf the bytes of a picture as a data URI, by its content hash
 * @param onPicture called for each picture in order, so that nothing need be kept
 */
export async function renderPictures(
  planned: readonly PlannedPicture[],
  charts: ReadonlyMap<string, ChartDocument>,
  options: PictureOptions & { readonly withHead: boolean },
  hrefOf: (hash: string) => string,
  onPicture: (picture: NumberedPicture, index: number) => void,
): Promise<void> {
  // A frame without a mouth shows the head of the first chart.
  const [first] = charts.values();
  const rendered = new Map<string, Uint8Array>();
  for (const [index, { number, shown }] of planned.entries()) {
    const key = shown ? `${shown.chartId} ${shown.drawing} ${shown.look}` : '';
    let bytes = rendered.get(key);
    if (!bytes) {
      const png = svgToPng(pictureSvg(shown ? charts.get(shown.chartId)! : first!, shown, options, hrefOf));
      bytes = options.format === 'webp' ? new Uint8Array(await sharp(png).webp({ lossless: true }).toBuffer()) : png;
      rendered.set(key, bytes);
    }
    onPicture({ name: pictureName(options.baseName, number, options), bytes }, index);
  }
}
