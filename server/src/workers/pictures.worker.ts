/** Renders numbered pictures into a zip file, in a thread of its own. */
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import type { ChartDocument, FrameLook, PictureOptions } from '@zest-jaw/core';
import { renderPictures } from '@zest-jaw/engine';
import { Zip, ZipPassThrough } from 'fflate';

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
  renderPictures(
    frames,
    charts,
    options,
    (hash) => pictures.get(hash) ?? '',
    ({ name, png }, index) => {
      // PNG is compressed already: the zip only holds the files together.
      const entry = new ZipPassThrough(name);
      zip.add(entry);
      entry.push(png, true);
      if (index % 20 === 0) progress?.postMessage([index / frames.length, `Picture ${index + 1} of ${frames.length}`]);
    },
  );
  zip.end();
  await once(output, 'close');
}
