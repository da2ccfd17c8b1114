/** What is exported: frames that zest key made with a chart, or a scene of a bundle with all that is in it. */
import { extname, parse } from 'node:path';
import {
  isPartChart,
  nameOfLane,
  chartsWithOneOffs,
  chartSettings,
  isFrameRate,
  isRefusal,
  laneLevels,
  MAX_SCENE_FRAMES,
  PLAIN_ACCENT,
  picturesOfChart,
  sceneOfKeyed,
  sceneSettings,
  truthOfWave,
  type ChartDocument,
  type FrameRate,
  type SceneDocument,
} from '@zest-jaw/core';
import { readBundle, type Bundle } from '@zest-jaw/engine/hand-off';
import { chartOf } from './keyCommand.js';
import { CannotDo, readBytes, readJson, WrongUse } from './outcome.js';

export interface KeyedFile {
  readonly frameRate: FrameRate;
  readonly length: number;
  readonly exposures: readonly { from: number; to: number; drawing: string }[];
}

/** What zest key printed, checked. */
export function keyedOf(file: string, chart: ChartDocument): KeyedFile {
  const value = (readJson(file) ?? {}) as Partial<KeyedFile>;
  const { frameRate, length, exposures } = value;
  if (!frameRate || !isFrameRate(frameRate) || !Number.isInteger(length) || !Array.isArray(exposures)) {
    throw new CannotDo(`${file} is not what zest key prints: it needs frameRate, length and exposures.`);
  }
  if (length! < 1 || length! > MAX_SCENE_FRAMES)
    throw new CannotDo(`${file} is ${length} frames long. It may be 1 to ${MAX_SCENE_FRAMES}.`);
  const known = new Set(chart.drawings.map((drawing) => drawing.id));
  let end = 0;
  exposures.forEach((exposure, index) => {
    const { from, to, drawing } = exposure ?? {};
    if (!Number.isInteger(from) || !Number.isInteger(to) || from < end || to <= from || to > length!) {
      throw new CannotDo(`${file}: exposure ${index} must start after the one before it and end inside the ${length} frames.`);
    }
    if (!known.has(drawing))
      throw new CannotDo(
        `${file}: exposure ${index} shows the drawing “${drawing}”, which is not in the chart. Name its chart with --chart.`,
      );
    end = to;
  });
  return value as KeyedFile;
}

/** A scene with all that its files need. */
export interface ExportSource {
  readonly scene: SceneDocument;
  readonly trackId: string;
  /** By id, the lane's own first. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly production: string;
  /** Who speaks on a lane. */
  readonly nameOf: (characterId: string) => string;
  /** A picture as a data URI, by its hash. */
  readonly hrefOf: (hash: string) => string;
  /** The samples of a recording, by its hash. */
  readonly soundOf: (hash: string) => Int16Array | undefined;
  /** Decibels below full scale, a value a frame, of the lane. */
  readonly levels: () => Float32Array | undefined;
  readonly bundle: Bundle;
}

function bundleOf(file: string): Bundle {
  const bundle = readBundle(readBytes(file));
  if (isRefusal(bundle)) throw new CannotDo(`${file}: ${bundle.refusal}`);
  return bundle;
}

function sourceOf(bundle: Bundle, scene: SceneDocument, track: SceneDocument['tracks'][number]): ExportSource {
  const all = chartsWithOneOffs(scene, new Map(bundle.charts.map(({ id, document }) => [id, document])));
  const charts = new Map([...all].sort(([a], [b]) => Number(b === track.chartId) - Number(a === track.chartId)));
  const media = new Map(bundle.media.map((medium) => [medium.hash, medium]));
  const sounds = new Map<string, Int16Array | undefined>();
  const soundOf = (hash: string): Int16Array | undefined => {
    const medium = media.get(hash);
    if (medium && !sounds.has(hash)) {
      const truth = truthOfWave(medium.bytes);
      sounds.set(hash, isRefusal(truth) ? undefined : truth.samples);
    }
    return sounds.get(hash);
  };
  return {
    scene,
    trackId: track.id,
    charts,
    production: bundle.production.name,
    nameOf: (id) => bundle.characters.find((character) => character.id === id)?.name ?? 'Somebody',
    hrefOf: (hash) => {
      const medium = media.get(hash);
      return medium ? `data:${medium.mediaType};base64,${Buffer.from(medium.bytes).toString('base64')}` : '';
    },
    soundOf,
    levels: () => laneLevels(scene, track.characterId, soundOf),
    bundle,
  };
}

/** A scene of a bundle, by its title where it has several, and a lane of it by who speaks. */
function ofBundle(file: string, title: string | undefined, speaker: string | undefined): ExportSource {
  const bundle = bundleOf(file);
  const titles = bundle.scenes.map((scene) => sceneSettings(scene).title);
  const at = title === undefined ? 0 : titles.indexOf(title);
  const scene = bundle.scenes[at];
  if (!scene || (title === undefined && titles.length > 1))
    throw new WrongUse(`Say which scene of ${file}: --scene ${titles.map((one) => `“${one}”`).join(', ')}.`);
  const named = scene.tracks.map((track) => ({
    track,
    name: nameOfLane(track, bundle.characters.find(({ id }) => id === track.characterId)?.name ?? ''),
  }));
  const found = speaker === undefined ? named[0] : named.find(({ name }) => name === speaker);
  if (!found) throw new WrongUse(`Nobody called ${speaker} speaks in it. It may be ${named.map(({ name }) => name).join(', ')}.`);
  return sourceOf(bundle, scene, found.track);
}

/** Frames that zest key made, on a chart by itself or the first of a bundle, with its pictures. */
function ofKeyed(file: string, chartFile: string | undefined, name: string, firstNumber: number): ExportSource {
  const packed = chartFile !== undefined && extname(chartFile).toLowerCase() === '.zip' ? bundleOf(chartFile) : undefined;
  if (packed && packed.charts.length === 0) throw new CannotDo(`${chartFile} has no chart in it.`);
  const chart = packed ? (packed.charts.find(({ document }) => !isPartChart(document)) ?? packed.charts[0]!).document : chartOf(chartFile);
  if (!packed && picturesOfChart({ ...chart, head: [] }).size > 0)
    throw new CannotDo(
      'This chart has placed pictures, which are not in its file. Name a scene bundle that has it instead: --chart FILE.zip.',
    );
  const scene = sceneOfKeyed(keyedOf(file, chart), firstNumber);
  const [track] = scene.tracks;
  const needed = picturesOfChart(chart);
  const bundle: Bundle = {
    made: new Date().toISOString(),
    production: { name: parse(file).name, pronunciations: [] },
    characters: [{ id: track!.characterId, name, accent: PLAIN_ACCENT }],
    charts: [{ id: track!.chartId, characterId: track!.characterId, name: chartSettings(chart).name, document: chart }],
    scenes: [scene],
    media: (packed?.media ?? []).filter(({ hash }) => needed.has(hash)),
  };
  return sourceOf(bundle, scene, track!);
}

interface Asked {
  readonly chart: string | undefined;
  readonly scene: string | undefined;
  readonly speaker: string | undefined;
  readonly name: string;
  /** undefined where it was not said. */
  readonly firstNumber: number | undefined;
}

export function openSource(file: string, { chart, scene, speaker, name, firstNumber }: Asked): ExportSource {
  if (extname(file).toLowerCase() !== '.zip') {
    if (scene !== undefined || speaker !== undefined) throw new WrongUse('--scene and --speaker choose out of a bundle: name a .zip.');
    return ofKeyed(file, chart, name, firstNumber ?? 1);
  }
  if (chart !== undefined) throw new WrongUse('A scene of a bundle has its own charts: leave out --chart.');
  return ofBundle(file, scene, speaker);
}
