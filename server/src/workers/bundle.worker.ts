/** Unpacks a bundle in a process of its own: its documents are answered, its files left in a folder, by their hashes. */
import { checkChart, type Refusal } from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { readBundle, type Bundle, type BundleMedium } from '@zest-jaw/engine/hand-off';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Progress } from './progress.js';

export interface UnpackTask {
  /** Of the bundle. */
  readonly path: string;
  /** Where its files go; without it they are left out. */
  readonly mediaFolder?: string;
  readonly progress: Progress;
}

/** A file of a bundle, which lies in the folder by its hash. */
export type UnpackedMedium = Omit<BundleMedium, 'bytes'>;

export interface UnpackedBundle extends Omit<Bundle, 'media'> {
  readonly media: readonly UnpackedMedium[];
}

function maybeFault({ charts, scenes }: Bundle): string | undefined {
  for (const { name, document } of charts) {
    const [fault] = [...faultsOfShape('chart', document), ...checkChart(document)];
    if (fault) return `The chart “${name}” of the bundle: ${fault}`;
  }
  for (const scene of scenes) {
    const [fault] = faultsOfShape('scene', scene);
    if (fault) return `A scene of the bundle: ${fault}`;
  }
  return undefined;
}

export default function unpack({ path, mediaFolder, progress }: UnpackTask): UnpackedBundle | Refusal {
  progress.postMessage([0.05, 'Unpacking it']);
  const read = readBundle(readFileSync(path));
  if ('refusal' in read) return read;
  progress.postMessage([0.3, 'Checking what is in it']);
  const fault = maybeFault(read);
  if (fault !== undefined) return { refusal: fault };
  const { media, ...rest } = read;
  if (mediaFolder !== undefined) {
    mkdirSync(mediaFolder, { recursive: true });
    for (const { hash, bytes } of media) writeFileSync(join(mediaFolder, hash), bytes);
  }
  return { ...rest, media: media.map(({ hash, mediaType, fileName }) => ({ hash, mediaType, fileName })) };
}
