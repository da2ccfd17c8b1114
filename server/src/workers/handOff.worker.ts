/** Makes a file of a scene for somebody else, in a thread of its own. */
import {
  looksOfFrames,
  pullListOf,
  sceneWave,
  truthOfWave,
  type ChartDocument,
  type Refusal,
  type SceneDocument,
  type SheetTrack,
} from '@zest-jaw/core';
import {
  exposureSheetPdf,
  shootingListPdf,
  spriteSheet,
  writeBundle,
  type Bundle,
  type SheetPdfOptions,
  type ShootingListOptions,
  type SpriteOptions,
} from '@zest-jaw/engine/hand-off';
import { strToU8, zipSync } from 'fflate';
import { writeFileSync } from 'node:fs';

/** Blocks of the printed wave in a frame. */
const BLOCKS = 4;

export interface SheetTask {
  readonly file: string;
  readonly scene: SceneDocument;
  readonly tracks: readonly SheetTrack[];
  readonly options: Omit<SheetPdfOptions, 'wave'>;
  /** Recordings by hash, as wave files. */
  readonly recordings: ReadonlyMap<string, Uint8Array>;
}

export async function sheet({ file, scene, tracks, options, recordings }: SheetTask): Promise<void> {
  const sounds = new Map(
    [...recordings].flatMap(([hash, bytes]) => {
      const truth = truthOfWave(bytes);
      return 'refusal' in truth ? [] : [[hash, truth.samples] as const];
    }),
  );
  const wave = sceneWave(scene, (hash) => sounds.get(hash), BLOCKS);
  writeFileSync(file, await exposureSheetPdf(scene, tracks, { ...options, ...(wave.loudest > 0 && { wave }) }));
}

export interface ShotsTask {
  readonly file: string;
  readonly scene: SceneDocument;
  readonly trackId: string;
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly options: ShootingListOptions;
}

export async function shots({ file, scene, trackId, charts, options }: ShotsTask): Promise<void> {
  const pull = pullListOf(looksOfFrames(scene, trackId, charts, 'keyed'), charts, options.cameraOn);
  writeFileSync(file, await shootingListPdf(scene, pull, options));
}

export interface SpritesTask {
  readonly file: string;
  readonly chart: ChartDocument;
  readonly options: SpriteOptions;
  /** The pictures of the chart as data URIs, by content hash. */
  readonly pictures: ReadonlyMap<string, string>;
}

/** Answers with a refusal where the sheet would be too large. */
export async function sprites({ file, chart, options, pictures }: SpritesTask): Promise<Refusal | undefined> {
  const made = await spriteSheet(chart, options, (hash) => pictures.get(hash) ?? '');
  if ('refusal' in made) return made;
  const { png, svg, table } = made;
  const json = strToU8(`${JSON.stringify(table, null, 1)}\n`);
  writeFileSync(file, zipSync({ 'sprites.png': [png, { level: 0 }], 'sprites.svg': strToU8(svg), 'sprites.json': json }));
  return undefined;
}

export function bundle({ file, bundle: made }: { readonly file: string; readonly bundle: Bundle }): void {
  writeFileSync(file, writeBundle(made));
}
