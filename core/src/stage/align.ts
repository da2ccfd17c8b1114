/**
 * Laying one picture of a stage over another: a camera that has crept, turned or come nearer by a little, and light that has
 * changed. After Lucas and Kanade, “An iterative image registration technique with an application to stereo vision” (1981),
 * with six unknowns (place, turn, size, gain and offset of the light) and the weights of Tukey's biweight, so that a mouth
 * that differs, or a hand, has no say. From memory.
 */
import { halved, softened, valueAt, type GreyPicture } from './picture.js';

/** Takes a point of the one picture, from its middle, to the other: x' = x + acrossBy + grow·x − turn·y, y' = y + downBy + turn·x + grow·y. */
interface Warp {
  acrossBy: number;
  downBy: number;
  grow: number;
  turn: number;
  gain: number;
  offset: number;
}

const STAYS: Warp = { acrossBy: 0, downBy: 0, grow: 0, turn: 0, gain: 1, offset: 0 };
const UNKNOWNS = 6;
const ROUNDS = 12;
/** Of the softest picture down to the whole one: how many times halved, and every so manieth pixel that is asked. */
const LEVELS = [
  { level: 2, stride: 1 },
  { level: 1, stride: 2 },
  { level: 0, stride: 3 },
] as const;
/** Tukey's biweight is nothing beyond so many scales; a scale is this times the median distance. Usual constants of robust statistics. */
const CUT = 4.685;
const SCALE_OF_MEDIAN = 1.4826;
/** Grey levels that a distance has at least: sensors are never quieter. */
const LEAST_SCALE = 1;

/** What is laid over is looked at once: its softened levels and how they slope. */
export interface Base {
  readonly levels: readonly { readonly picture: GreyPicture; readonly across: Float32Array; readonly down: Float32Array }[];
}

function levelsOf(picture: GreyPicture): GreyPicture[] {
  const levels = [softened(picture)];
  while (levels.length < LEVELS.length) levels.push(softened(halved(levels.at(-1)!)));
  return levels;
}

/** How a picture slopes across and down, by its neighbours. */
export function slopesOf({ width, height, values }: GreyPicture): { across: Float32Array; down: Float32Array } {
  const across = new Float32Array(values.length);
  const down = new Float32Array(values.length);
  for (let y = 1; y < height - 1; y++)
    for (let at = y * width + 1; at < (y + 1) * width - 1; at++) {
      across[at] = (values[at + 1]! - values[at - 1]!) / 2;
      down[at] = (values[at + width]! - values[at - width]!) / 2;
    }
  return { across, down };
}

export function baseOf(picture: GreyPicture): Base {
  return { levels: levelsOf(picture).map((level) => ({ picture: level, ...slopesOf(level) })) };
}

/** Solves a small system by elimination with pivots; undefined where it says nothing. */
function solve(matrix: Float64Array, right: Float64Array, size: number): Float64Array | undefined {
  for (let column = 0; column < size; column++) {
    let pivot = column;
    for (let row = column + 1; row < size; row++)
      if (Math.abs(matrix[row * size + column]!) > Math.abs(matrix[pivot * size + column]!)) pivot = row;
    const leading = matrix[pivot * size + column]!;
    if (Math.abs(leading) < 1e-9) return undefined;
    if (pivot !== column) {
      for (let at = 0; at < size; at++) {
        const kept = matrix[column * size + at]!;
        matrix[column * size + at] = matrix[pivot * size + at]!;
        matrix[pivot * size + at] = kept;
      }
      const kept = right[column]!;
      right[column] = right[pivot]!;
      right[pivot] = kept;
    }
    for (let row = 0; row < size; row++) {
      if (row === column) continue;
      const by = matrix[row * size + column]! / matrix[column * size + column]!;
      if (by === 0) continue;
      for (let at = column; at < size; at++) matrix[row * size + at]! -= by * matrix[column * size + at]!;
      right[row]! -= by * right[column]!;
    }
  }
  return right.map((value, index) => value / matrix[index * size + index]!);
}

/** The picture's value at a point of the base, in the light of the base; NaN where the picture has nothing. */
function seenAt(
  picture: GreyPicture,
  { acrossBy, downBy, grow, turn, gain, offset }: Warp,
  x: number,
  y: number,
  u: number,
  v: number,
): number {
  return gain * valueAt(picture, x + acrossBy + grow * u - turn * v, y + downBy + turn * u + grow * v) + offset;
}

/** How the base differs from the picture under a warp, on a grid. Shape: one a grid point inside the edges, row by row. */
function distances(base: GreyPicture, picture: GreyPicture, warp: Warp, stride: number): Float32Array {
  const { width, height, values } = base;
  const out = new Float32Array(Math.ceil((width - 2) / stride) * Math.ceil((height - 2) / stride));
  let next = 0;
  for (let y = 1; y < height - 1; y += stride)
    for (let x = 1; x < width - 1; x += stride)
      out[next++] = values[y * width + x]! - seenAt(picture, warp, x, y, x - (width - 1) / 2, y - (height - 1) / 2);
  return out;
}

function scaleOf(values: Float32Array): number {
  const known = values.filter((value) => !Number.isNaN(value)).map(Math.abs);
  known.sort();
  return Math.max(LEAST_SCALE, SCALE_OF_MEDIAN * (known[known.length >> 1] ?? 0));
}

/** One round: the change of the warp that brings the picture nearest to the base; undefined when nothing says which. */
function nextStep(
  { picture: base, across, down }: Base['levels'][number],
  picture: GreyPicture,
  warp: Warp,
  stride: number,
): Float64Array | undefined {
  const left = distances(base, picture, warp, stride);
  const reach = CUT * scaleOf(left);
  const { width, height, values } = base;
  const matrix = new Float64Array(UNKNOWNS * UNKNOWNS);
  const right = new Float64Array(UNKNOWNS);
  const row = new Float64Array(UNKNOWNS);
  let next = 0;
  for (let y = 1; y < height - 1; y += stride)
    for (let x = 1; x < width - 1; x += stride) {
      const miss = left[next++]!;
      if (!(Math.abs(miss) < reach)) continue;
      const at = y * width + x;
      const inside = 1 - (miss / reach) ** 2;
      const weight = inside * inside;
      const u = x - (width - 1) / 2;
      const v = y - (height - 1) / 2;
      row[0] = across[at]!;
      row[1] = down[at]!;
      row[2] = row[0] * u + row[1] * v;
      row[3] = row[1] * u - row[0] * v;
      row[4] = values[at]! - miss;
      row[5] = 1;
      for (let a = 0; a < UNKNOWNS; a++) {
        right[a]! += weight * row[a]! * miss;
        for (let b = a; b < UNKNOWNS; b++) matrix[a * UNKNOWNS + b]! += weight * row[a]! * row[b]!;
      }
    }
  for (let a = 0; a < UNKNOWNS; a++) for (let b = 0; b < a; b++) matrix[a * UNKNOWNS + b] = matrix[b * UNKNOWNS + a]!;
  return solve(matrix, right, UNKNOWNS);
}

/**
 * The picture laid over the base, in the light of the base.
 *
 * @returns shape as the base; NaN where the picture has nothing
 */
export function laidOver(base: Base, picture: GreyPicture): GreyPicture {
  const levels = levelsOf(picture);
  let warp: Warp = { ...STAYS };
  for (const { level, stride } of LEVELS) {
    const size = 2 ** level;
    // Places count pixels, and a level has half as many.
    warp = { ...warp, acrossBy: warp.acrossBy / size, downBy: warp.downBy / size };
    for (let round = 0; round < ROUNDS; round++) {
      const step = nextStep(base.levels[level]!, levels[level]!, warp, stride);
      if (!step) break;
      warp = {
        acrossBy: warp.acrossBy + step[0]!,
        downBy: warp.downBy + step[1]!,
        grow: warp.grow + step[2]!,
        turn: warp.turn + step[3]!,
        gain: warp.gain * (1 + step[4]!),
        offset: warp.offset * (1 + step[4]!) + step[5]!,
      };
      if (Math.hypot(step[0]!, step[1]!) < 0.01) break;
    }
    warp = { ...warp, acrossBy: warp.acrossBy * size, downBy: warp.downBy * size };
  }
  const { width, height } = base.levels[0]!.picture;
  const values = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) values[y * width + x] = seenAt(levels[0]!, warp, x, y, x - (width - 1) / 2, y - (height - 1) / 2);
  return { width, height, values };
}
