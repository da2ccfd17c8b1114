/** Finds the mouths of uploaded files, in a thread of its own, and leaves their pictures in a folder. */
import type { FoundMouthView, ImportView } from '@zest-jaw/core';
import { importPictures, type FoundMouth, type ImportOptions } from '@zest-jaw/engine';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { MessagePort } from 'node:worker_threads';
import { fileOfMouth } from '../imports/foundFiles.js';

export interface ImportTask {
  /** The files, by the name they came with and where they lie now. */
  readonly files: readonly { readonly name: string; readonly path: string }[];
  readonly options: ImportOptions;
  readonly folder: string;
  readonly progress?: MessagePort;
}

function inWords({ as, index, of }: FoundMouth): string {
  return of > 1 ? `${as} ${index} of ${of}` : as;
}

export default async function findMouths({ files, options, folder, progress }: ImportTask): Promise<ImportView> {
  mkdirSync(folder, { recursive: true });
  const named = files.map(({ name, path }) => ({ name, bytes: readFileSync(path) }));
  const mouths: FoundMouthView[] = [];
  const keep = (mouth: FoundMouth): void => {
    const { name, file, pageKey, art, within } = mouth;
    writeFileSync(fileOfMouth(folder, mouths.length, 'picture'), mouth.picture);
    writeFileSync(fileOfMouth(folder, mouths.length, 'preview'), mouth.preview);
    mouths.push({ index: mouths.length, name, file, as: inWords(mouth), pageKey, art, ...(within !== undefined && { within }) });
  };
  const report = await importPictures(named, options, keep, (done, doing) => progress?.postMessage([done, doing]));
  return { mouths, ...report };
}
