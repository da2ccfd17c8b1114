/** `zest export`: exposures to numbered pictures and an exposure sheet. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join, parse } from 'node:path';
import {
  checkPictureOptions,
  checkReading,
  exposureSheetCsv,
  isFrameRate,
  LABEL_KINDS,
  looksOfFrames,
  MAX_SCENE_FRAMES,
  maybeLabelKind,
  picturesOfChart,
  sceneOfKeyed,
  writeLabels,
  type ChartDocument,
  type FrameRate,
  type Reading,
} from '@zest-jaw/core';
import { renderPictures } from '@zest-jaw/engine';
import { chartOf } from './keyCommand.js';
import { CannotDo, parseCommandLine, readJson, wholeNumber, WrongUse } from './outcome.js';

interface KeyedFile {
  readonly frameRate: FrameRate;
  readonly length: number;
  readonly exposures: readonly { from: number; to: number; drawing: string }[];
}

function keyedOf(file: string, chart: ChartDocument): KeyedFile {
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

/** The labels of a reading, in the format of the file's name. */
function writeLabelFile(readingFile: string, file: string): void {
  const reading = readJson(readingFile);
  const [fault] = checkReading(reading);
  if (fault) throw new CannotDo(`${readingFile}: ${fault}`);
  const kind = maybeLabelKind(file);
  if (!kind) throw new CannotDo(`${file} is no file of labels by its name. It may end in ${LABEL_KINDS.join(', ')}.`);
  try {
    writeFileSync(file, writeLabels(kind, reading as Reading, { name: parse(file).name }));
  } catch (error) {
    throw new CannotDo(`${file} could not be written (${String((error as NodeJS.ErrnoException).code)}). Check its folder.`);
  }
}

export async function exportCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseCommandLine(args, {
    pictures: { type: 'string' },
    sheet: { type: 'string' },
    chart: { type: 'string' },
    name: { type: 'string', default: 'mouth' },
    'first-number': { type: 'string', default: '1' },
    width: { type: 'string', default: '1920' },
    height: { type: 'string', default: '1080' },
    labels: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new WrongUse('Name one file that zest key made.');
  if (values.labels !== undefined) {
    if (values.pictures !== undefined || values.sheet !== undefined)
      throw new WrongUse('Labels are made of a reading, pictures and sheets of what zest key made: export them one at a time.');
    writeLabelFile(file, values.labels);
    return;
  }
  if (values.pictures === undefined && values.sheet === undefined)
    throw new WrongUse('Say where to: --pictures DIR, --sheet FILE.csv, or both.');
  const chart = chartOf(values.chart);
  const keyed = keyedOf(file, chart);
  const options = {
    baseName: values.name,
    firstNumber: wholeNumber('first-number', values['first-number'], 0, 9999),
    width: wholeNumber('width', values.width, 1, 100_000),
    height: wholeNumber('height', values.height, 1, 100_000),
  };
  if (values.pictures !== undefined && picturesOfChart({ ...chart, head: [] }).size > 0)
    throw new CannotDo('This chart has placed pictures, which are kept in the application. Hand the frames on from there.');
  const [fault] = values.pictures === undefined ? [] : checkPictureOptions(options, keyed.length);
  if (fault) throw new WrongUse(fault);
  const scene = sceneOfKeyed(keyed, options.firstNumber);
  const charts = new Map([[scene.tracks[0]!.chartId, chart]]);
  try {
    if (values.sheet !== undefined) {
      writeFileSync(values.sheet, exposureSheetCsv(scene, [{ trackId: scene.tracks[0]!.id, name: 'Character', charts }]));
    }
    if (values.pictures !== undefined) {
      const folder = values.pictures;
      mkdirSync(folder, { recursive: true });
      const frames = looksOfFrames(scene, scene.tracks[0]!.id, charts);
      renderPictures(
        frames,
        charts,
        { ...options, withHead: false },
        () => '',
        ({ name, png }) => writeFileSync(join(folder, name), png),
      );
    }
  } catch (error) {
    if (error instanceof Error && 'code' in error)
      throw new CannotDo(`The files could not be written (${String(error.code)}). Check that the folder is there and may be written to.`);
    throw error;
  }
}
