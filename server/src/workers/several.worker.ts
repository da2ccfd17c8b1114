/** Makes every file that is wanted of a scene into a folder, and packs a folder as a zip; in a thread of its own. */
import {
  exposureSheetCsv,
  facesOfFrames,
  laneLevels,
  looksOfFrames,
  PLAIN_COUNTING,
  plannedPictures,
  pullListOf,
  sceneSettings,
  sceneWave,
  textOfHandOff,
  truthOfWave,
  type ChartDocument,
  type FileKindId,
  type PictureOptions,
  type SceneDocument,
  type SheetTrack,
  type TextRequest,
} from '@zest-jaw/core';
import { exposureSheetPdf, renderPictures, shootingListPdf } from '@zest-jaw/engine/hand-off';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { once } from 'node:events';
import { createWriteStream, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, extname, join, relative } from 'node:path';
import type { MessagePort } from 'node:worker_threads';

export interface WantedFile {
  readonly kind: FileKindId;
  /** The lane, for what is of one. */
  readonly trackId: string;
  /** In the folder, with its ending; of pictures, the folder they go into. */
  readonly path: string;
  /** Of pictures and the timeline of them. */
  readonly baseName: string;
}

export interface SceneFilesTask {
  readonly folder: string;
  readonly scene: SceneDocument;
  readonly tracks: readonly (SheetTrack & { readonly characterId: string })[];
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly wanted: readonly WantedFile[];
  readonly production: string;
  readonly date: string;
  readonly paper: 'A4' | 'Letter';
  /** Recordings by hash, as wave files. */
  readonly recordings: ReadonlyMap<string, Uint8Array>;
  /** The pictures of the charts as data URIs, by content hash. */
  readonly pictures: ReadonlyMap<string, string>;
  readonly pictureOptions: Pick<PictureOptions, 'width' | 'height'> & { readonly withHead: boolean };
  readonly progress?: MessagePort;
}

const BLOCKS = 4;
const counting = PLAIN_COUNTING;

/** What of a file is a text, by its kind. */
function textRequest({ kind, baseName }: WantedFile, scene: SceneDocument): TextRequest | undefined {
  const { firstFrame, title } = sceneSettings(scene);
  const files = { baseName, firstNumber: firstFrame, digits: 4, pictures: 'pictures/', sounds: 'sound/' };
  switch (kind) {
    case 'keys':
      return { kind, format: 'csv', counting, numbers: 'own', everyFrame: false, guards: false };
    case 'weights':
      return { kind, format: 'csv', counting, easeFrames: 1 };
    case 'curves':
      return { kind, format: 'csv', counting };
    case 'timeline':
      return { kind, files };
    case 'captions':
      return { kind: 'labels', format: 'vtt', name: title, sounds: 'arpabet' };
    case 'labels':
      return { kind: 'labels', format: 'TextGrid', name: title, sounds: 'arpabet' };
    case 'shots':
      return { kind, counting, cameraOn: 1 };
    default:
      return undefined;
  }
}

async function write(task: SceneFilesTask, file: WantedFile, soundOf: (hash: string) => Int16Array | undefined): Promise<void> {
  const { scene, tracks, charts, production, date, paper, pictures, pictureOptions } = task;
  const path = join(task.folder, file.path);
  mkdirSync(dirname(path), { recursive: true });
  const track = tracks.find(({ trackId }) => trackId === file.trackId);
  const looks = (): ReturnType<typeof looksOfFrames> => looksOfFrames(scene, file.trackId, charts);
  if (file.kind === 'sheet') writeFileSync(path, exposureSheetCsv(scene, tracks));
  else if (file.kind === 'sheet-pdf') {
    const wave = sceneWave(scene, soundOf, BLOCKS);
    const options = { paper, counting, production, date, ...(wave.loudest > 0 && { wave }) };
    writeFileSync(path, await exposureSheetPdf(scene, tracks, options));
  } else if (file.kind === 'shots-pdf') {
    const options = { paper, counting, date, production, character: track?.name ?? 'Somebody', cameraOn: 1 as const };
    writeFileSync(path, await shootingListPdf(scene, pullListOf(looks(), charts, 1), options));
  } else if (file.kind === 'pictures') {
    const options = { ...pictureOptions, baseName: file.baseName, firstNumber: sceneSettings(scene).firstFrame };
    const planned = plannedPictures(options.withHead ? facesOfFrames(scene, file.trackId, charts) : looks(), charts, options);
    mkdirSync(path, { recursive: true });
    await renderPictures(
      planned,
      charts,
      options,
      (hash) => pictures.get(hash) ?? '',
      ({ name, bytes }, index) => {
        writeFileSync(join(path, name), bytes);
        if (index % 20 === 0) task.progress?.postMessage([index / planned.length, `Picture ${index + 1} of ${planned.length}`]);
      },
    );
  } else {
    const levels = file.kind === 'curves' && track ? laneLevels(scene, track.characterId, soundOf) : undefined;
    writeFileSync(path, textOfHandOff(scene, file.trackId, charts, textRequest(file, scene)!, levels));
  }
}

/** @returns what could not be made, a sentence each */
export async function files(task: SceneFilesTask): Promise<string[]> {
  const known = new Map<string, Int16Array | undefined>();
  const soundOf = (hash: string): Int16Array | undefined => {
    if (!known.has(hash)) {
      const truth = task.recordings.has(hash) ? truthOfWave(task.recordings.get(hash)!) : undefined;
      known.set(hash, truth && !('refusal' in truth) ? truth.samples : undefined);
    }
    return known.get(hash);
  };
  const faults: string[] = [];
  for (const file of task.wanted) {
    try {
      await write(task, file, soundOf);
    } catch (error) {
      faults.push(`${file.path} could not be made: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
  return faults;
}

/** What is compressed already is only held together. */
const AS_IT_IS = new Set(['.png', '.webp', '.pdf', '.zip']);

function filesIn(folder: string): string[] {
  return readdirSync(folder)
    .sort()
    .flatMap((name) => {
      const path = join(folder, name);
      return statSync(path).isDirectory() ? filesIn(path) : [path];
    });
}

export async function zip({ folder, file, progress }: { folder: string; file: string; progress?: MessagePort }): Promise<void> {
  const output = createWriteStream(file);
  const packed = new Zip((error, chunk, final) => {
    if (error) output.destroy(error);
    else {
      output.write(chunk);
      if (final) output.end();
    }
  });
  const all = filesIn(folder);
  for (const [index, path] of all.entries()) {
    const name = relative(folder, path).replaceAll('\\', '/');
    const entry = AS_IT_IS.has(extname(path)) ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
    packed.add(entry);
    entry.push(readFileSync(path), true);
    if (output.writableNeedDrain) await once(output, 'drain');
    if (index % 50 === 0) progress?.postMessage([index / all.length, `Packing ${index + 1} of ${all.length}`]);
  }
  packed.end();
  await once(output, 'close');
}
