/** A drawn sequence as numbered pictures: each distinct one is rendered once. */
import {
  keyOfLook,
  pictureName,
  pictureOfLanesSvg,
  pictureSvg,
  type ChartDocument,
  type PictureOptions,
  type PicturePlace,
  type PlannedPicture,
} from '@zest-jaw/core';
import sharp from 'sharp';
import { inkOf } from './inkOf.js';
import { svgToPng } from './rasterise.js';

export interface NumberedPicture {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** Of one that is cut to its ink: where it lies in the whole picture. */
  readonly place?: PicturePlace;
}

/**
 * @param charts by id; at least one
 * @param hrefOf the bytes of a picture as a data URI, by its content hash
 * @param onPicture called for each picture in order, so that nothing need be kept
 * @param lanes where all lanes are on one picture, the chart each of them begins with, by id
 */
export async function renderPictures(
  planned: readonly PlannedPicture[],
  charts: ReadonlyMap<string, ChartDocument>,
  options: PictureOptions & { readonly withHead: boolean },
  hrefOf: (hash: string) => string,
  onPicture: (picture: NumberedPicture, index: number) => void,
  lanes: readonly string[] = [],
): Promise<void> {
  // A frame without a mouth shows the head of the first chart.
  const [first] = charts.values();
  const rendered = new Map<string, Omit<NumberedPicture, 'name'>>();
  const drawn = { ...options, charts };
  for (const [index, { number, shown, others = [] }] of planned.entries()) {
    const all = [shown, ...others];
    const key = all.map(keyOfLook).join('|');
    let picture = rendered.get(key);
    if (!picture) {
      const chartOf = (look: PlannedPicture['shown'], lane: number): ChartDocument =>
        charts.get(look?.chartId ?? lanes[lane] ?? '') ?? first!;
      const svg =
        others.length > 0
          ? pictureOfLanesSvg(
              all.map((look, lane) => ({ chart: chartOf(look, lane), shown: look })),
              drawn,
              hrefOf,
            )
          : pictureSvg(chartOf(shown, 0), shown, drawn, hrefOf);
      const png = svgToPng(svg);
      const place = options.cut ? await inkOf(png) : undefined;
      const cut = place ? sharp(png).extract({ left: place.x, top: place.y, width: place.width, height: place.height }) : sharp(png);
      const isAsDrawn = !place && options.format !== 'webp';
      const bytes = isAsDrawn ? png : await (options.format === 'webp' ? cut.webp({ lossless: true }) : cut.png()).toBuffer();
      picture = { bytes: new Uint8Array(bytes), ...(place && { place }) };
      rendered.set(key, picture);
    }
    onPicture({ name: pictureName(options.baseName, number, options), ...picture }, index);
  }
}
