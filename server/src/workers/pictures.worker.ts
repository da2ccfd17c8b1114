/** Renders numbered pictures into a zip file, in a thread of its own: of one lane, or a folder for each. */
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import {
  holdsCsv,
  placesCsv,
  plannedPictures,
  type ChartDocument,
  type FrameLook,
  type PictureOptions,
  type PicturePlace,
} from '@zest-jaw/core';
import { renderPictures } from '@zest-jaw/engine/hand-off';
import { strToU8, Zip, ZipPassThrough } from 'fflate';

export interface LaneOfPictures {
  /** Ended by a slash; empty for a lane by itself. */
  readonly folder: string;
  readonly frames: readonly (FrameLook | undefined)[];
  /** By id, the lane's own first. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly baseName: string;
  /** The other lanes, where all of them are on one picture: what each frame shows, and the chart it begins with. */
  readonly others?: readonly { readonly frames: LaneOfPictures['frames']; readonly chartId: string }[];
}

export interface PicturesTask {
  readonly file: string;
  readonly lanes: readonly LaneOfPictures[];
  readonly options: Omit<PictureOptions, 'baseName'> & { readonly withHead: boolean };
  /** The pictures of the chart as data URIs, by content hash. */
  readonly pictures: ReadonlyMap<string, string>;
  readonly progress?: MessagePort;
}

export default async function renderZip({ file, lanes, options: given, pictures, progress }: PicturesTask): Promise<void> {
  const output = createWriteStream(file);
  const zip = new Zip((error, chunk, final) => {
    if (error) output.destroy(error);
    else {
      output.write(chunk);
      if (final) output.end();
    }
  });
  const add = (name: string, bytes: Uint8Array): void => {
    // Pictures are compressed already: the zip only holds the files together.
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    entry.push(bytes, true);
  };
  const all = lanes.map((lane) => ({
    ...lane,
    planned: plannedPictures(
      lane.frames,
      lane.charts,
      given,
      lane.others?.map(({ frames }) => frames),
    ),
  }));
  const count = all.reduce((sum, { planned }) => sum + planned.length, 0);
  let done = 0;
  for (const { folder, charts, baseName, planned, others = [] } of all) {
    const options = { ...given, baseName };
    const places: [string, PicturePlace][] = [];
    await renderPictures(
      planned,
      charts,
      options,
      (hash) => pictures.get(hash) ?? '',
      ({ name, bytes, place }) => {
        add(folder + name, bytes);
        if (place) places.push([name, place]);
        done += 1;
        if (done % 20 === 1) progress?.postMessage([done / count, `Picture ${done} of ${count}`]);
      },
      [[...charts.keys()][0]!, ...others.map(({ chartId }) => chartId)],
    );
    if (options.which === 'changes') add(`${folder}holds.csv`, strToU8(holdsCsv(planned, options)));
    if (places.length > 0) add(`${folder}places.csv`, strToU8(placesCsv(places, options)));
  }
  zip.end();
  await once(output, 'close');
}
