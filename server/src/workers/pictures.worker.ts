/** Renders numbered pictures into a zip file, in a thread of its own. */
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import { holdsCsv, plannedPictures, type ChartDocument, type FrameLook, type PictureOptions } from '@zest-jaw/core';
import { renderPictures } from '@zest-jaw/engine/hand-off';
import { strToU8, Zip, ZipPassThrough } from 'fflate';

export interface PicturesTask {
  readonly file: string;
  readonly frames: readonly (FrameLook | undefined)[];
  /** By id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly options: PictureOptions & { readonly withHead: boolean };
  /** The pictures of the chart as data URIs, by content hash. */
  readonly pictures: ReadonlyMap<string, string>;
  readonly progress?: MessagePort;
}

export default async function renderZip({ file, frames, charts, options, pictures, progress }: PicturesTask): Promise<void> {
  const output = createWriteStream(file);
  const zip = new Zip((error, chunk, final) => {
    if (error) output.destroy(error);
    else {
      output.write(chunk);
      if (final) output.end();
    }
  });
  const planned = plannedPictures(frames, charts, options);
  await renderPictures(
    planned,
    charts,
    options,
    (hash) => pictures.get(hash) ?? '',
    ({ name, bytes }, index) => {
      // Pictures are compressed already: the zip only holds the files together.
      const entry = new ZipPassThrough(name);
      zip.add(entry);
      entry.push(bytes, true);
      if (index % 20 === 0) progress?.postMessage([index / planned.length, `Picture ${index + 1} of ${planned.length}`]);
    },
  );
  if (options.which === 'changes') {
    const holds = new ZipPassThrough('holds.csv');
    zip.add(holds);
    holds.push(strToU8(holdsCsv(planned, options)), true);
  }
  zip.end();
  await once(output, 'close');
}
