/** Finds the mouths of uploaded files, in a process of its own, and leaves their pictures in a folder. */
import type { FoundMouthView, ImportView } from '@zest-jaw/core';
import { importPictures, type FoundMouth, type ImportOptions } from '@zest-jaw/engine';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileOfMouth } from '../imports/foundFiles.js';
import type { Progress } from './progress.js';

export interface ImportTask {
  /** The files, by the name they came with and where they lie now. */
  readonly files: readonly { readonly name: string; readonly path: string }[];
  readonly options: ImportOptions;
  readonly folder: string;
  /** Files that took too much before, by their place in the report, each with what is said of it. */
  readonly spoiled: ReadonlyMap<number, string>;
  readonly progress: Progress;
}

function inWords({ as, index, of }: FoundMouth): string {
  return of > 1 ? `${as} ${index} of ${of}` : as;
}

export default async function findMouths({ files, options, folder, spoiled, progress }: ImportTask): Promise<ImportView> {
  mkdirSync(folder, { recursive: true });
  const named = files.map(({ name, path }) => ({ name, bytes: readFileSync(path) }));
  const mouths: FoundMouthView[] = [];
  const keep = (mouth: FoundMouth): void => {
    const { name, file, pageKey, art, within } = mouth;
    writeFileSync(fileOfMouth(folder, mouths.length, 'picture'), mouth.picture);
    writeFileSync(fileOfMouth(folder, mouths.length, 'preview'), mouth.preview);
    mouths.push({ index: mouths.length, name, file, as: inWords(mouth), pageKey, art, ...(within !== undefined && { within }) });
  };
  const report = await importPictures(named, { ...options, spoiled }, keep, (...told) => progress.postMessage(told));
  return { mouths, ...report };
}
