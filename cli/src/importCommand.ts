/** `zest import`: what was keyed elsewhere, as `zest key` prints it: a scene out of a bundle, or numbers out of a sheet or a key list. */
import {
  exposuresOfTrack,
  FRAME_RATE_LIMITS,
  guessNumbers,
  isRefusal,
  MAX_SCENE_FRAMES,
  maybeFrameRate,
  mouthsOfNumbers,
  readNumbers,
  sceneSettings,
} from '@zest-jaw/core';
import { readBundle } from '@zest-jaw/engine/hand-off';
import { writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { chartOf } from './keyCommand.js';
import { CannotDo, parseCommandLine, readBytes, readText, wholeNumber, WrongUse } from './outcome.js';

interface Keyed {
  readonly frameRate: { readonly num: number; readonly den: number };
  readonly length: number;
  readonly exposures: readonly { readonly from: number; readonly to: number; readonly drawing: string }[];
}

/** The first lane of the first scene of a bundle, and the chart it is on. */
function ofBundle(file: string, chartFile: string | undefined): Keyed {
  const bundle = readBundle(readBytes(file));
  if (isRefusal(bundle)) throw new CannotDo(`${file}: ${bundle.refusal}`);
  const [scene] = bundle.scenes;
  const [track] = scene?.tracks ?? [];
  if (!scene || !track) throw new CannotDo(`${file} has no scene with a lane in it.`);
  const chart = bundle.charts.find(({ id }) => id === track.chartId);
  if (!chart) throw new CannotDo(`${file} lacks the chart of its scene. Pack it again.`);
  if (chartFile !== undefined) writeFileSync(chartFile, `${JSON.stringify(chart.document)}\n`);
  const { frameRate, lengthFrames } = sceneSettings(scene);
  return {
    frameRate,
    length: lengthFrames,
    exposures: exposuresOfTrack(scene, track.id).map(({ from, to, drawing }) => ({ from, to, drawing })),
  };
}

interface NumbersOptions {
  readonly chart: string | undefined;
  readonly fps: string;
  readonly length: string | undefined;
}

function ofNumbers(file: string, { chart: chartFile, fps, length }: NumbersOptions): Keyed {
  const frameRate = maybeFrameRate(fps);
  if (!frameRate) throw new WrongUse(`--fps is “${fps}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest}.`);
  const chart = chartOf(chartFile);
  const table = readNumbers(readText(file), chart);
  if (isRefusal(table)) throw new CannotDo(`${file}: ${table.refusal}`);
  const lengthFrames = length === undefined ? MAX_SCENE_FRAMES : wholeNumber('length', length, 1, MAX_SCENE_FRAMES);
  const found = mouthsOfNumbers(table, guessNumbers(table, chart), { chart, chartId: 'chart', frameRate, lengthFrames });
  if (isRefusal(found)) throw new CannotDo(`${file}: ${found.refusal}`);
  const { copied, from, unknown } = found;
  const end = from + copied.frames;
  if (length === undefined && end === MAX_SCENE_FRAMES)
    throw new WrongUse(`${file} lists where mouths change, and not how long the last is held. Say how long the scene is: --length FRAMES.`);
  if (unknown.length > 0)
    process.stderr.write(`zest: no drawing of the chart: ${unknown.slice(0, 20).join(', ')}. Nothing is shown there.\n`);
  return {
    frameRate,
    length: length === undefined ? end : lengthFrames,
    exposures: copied.mouths.map((mouth) => ({ from: mouth.from + from, to: mouth.to + from, drawing: mouth.drawing })),
  };
}

export function importCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseCommandLine(args, {
    chart: { type: 'string' },
    'chart-to': { type: 'string' },
    fps: { type: 'string', default: '24' },
    length: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new WrongUse('Name one bundle, sheet or key list: zest import FILE.zip or FILE.csv.');
  const keyed = extname(file).toLowerCase() === '.zip' ? ofBundle(file, values['chart-to']) : ofNumbers(file, values);
  process.stdout.write(`${JSON.stringify(keyed)}\n`);
  return Promise.resolve();
}
