/**
 * What the wave is drawn from: for each block of samples its lowest and highest value, its
 * power, and how much of it is hiss; and the same for ever larger blocks, so that a wave is
 * as quick to draw from afar as from near. Hiss is told from voice by how fast the signal turns: the share
 * of energy in the difference between neighbouring samples, which is small for a voice
 * below ~1 kHz and large for s and f.
 */

export interface WaveBlocks {
  readonly samplesPerBlock: number;
  /** −1 to 1. */
  readonly lowest: Float32Array;
  readonly highest: Float32Array;
  /** Largest distance from 0 in the whole wave. */
  readonly loudest: number;
  /** 0 (voice) to 1 (hiss). */
  readonly hiss: Float32Array;
  /** Mean of the squared samples. */
  readonly power: Float32Array;
}

/** A wave at several scales, the finest first; each block of a coarser one stands for `PYRAMID_STEP` of the finer. */
export interface WavePyramid {
  readonly levels: readonly [WaveBlocks, ...WaveBlocks[]];
}

export const PYRAMID_STEP = 4;

/** Difference energy over signal energy at which a block counts as all hiss, at 48 kHz. */
const ALL_HISS = 0.35;

function emptyBlocks(samplesPerBlock: number, count: number): Omit<WaveBlocks, 'loudest'> {
  const row = (): Float32Array => new Float32Array(count);
  return { samplesPerBlock, lowest: row(), highest: row(), hiss: row(), power: row() };
}

/** @param samples −1 to 1 */
export function waveBlocks(samples: Float32Array, samplesPerBlock: number): WaveBlocks {
  const count = Math.ceil(samples.length / samplesPerBlock);
  let loudest = 0;
  const blocks = emptyBlocks(samplesPerBlock, count);
  for (let block = 0; block < count; block++) {
    const start = block * samplesPerBlock;
    const end = Math.min(samples.length, start + samplesPerBlock);
    let [low, high, energy, turning] = [0, 0, 1e-9, 0];
    for (let index = start; index < end; index++) {
      const value = samples[index]!;
      const step = value - (samples[index - 1] ?? value);
      if (value < low) low = value;
      if (value > high) high = value;
      energy += value * value;
      turning += step * step;
    }
    loudest = Math.max(loudest, high, -low);
    blocks.lowest[block] = low;
    blocks.highest[block] = high;
    blocks.hiss[block] = Math.min(1, turning / energy / ALL_HISS);
    blocks.power[block] = energy / Math.max(1, end - start);
  }
  return { ...blocks, loudest };
}

/** What is in a stretch of blocks, taken together. */
export interface WaveExtremes {
  readonly lowest: number;
  readonly highest: number;
  readonly hiss: number;
  readonly power: number;
}

function coarser(fine: WaveBlocks): WaveBlocks {
  const count = Math.ceil(fine.lowest.length / PYRAMID_STEP);
  const blocks = emptyBlocks(fine.samplesPerBlock * PYRAMID_STEP, count);
  for (let block = 0; block < count; block++) {
    const { lowest, highest, hiss, power } = extremesAt(
      fine,
      block * PYRAMID_STEP,
      Math.min(fine.lowest.length, (block + 1) * PYRAMID_STEP),
    );
    [blocks.lowest[block], blocks.highest[block], blocks.hiss[block], blocks.power[block]] = [lowest, highest, hiss, power];
  }
  return { ...blocks, loudest: fine.loudest };
}

/** A pyramid over blocks. */
export function wavePyramid(blocks: WaveBlocks): WavePyramid {
  const levels: [WaveBlocks, ...WaveBlocks[]] = [blocks];
  while (levels.at(-1)!.lowest.length > PYRAMID_STEP) levels.push(coarser(levels.at(-1)!));
  return { levels };
}

/** Block by block, on one level. */
function extremesAt({ lowest, highest, hiss, power }: WaveBlocks, first: number, last: number): WaveExtremes {
  const found = { lowest: 0, highest: 0, hiss: 0, power: 0 };
  for (let block = first; block < last; block++) {
    if (lowest[block]! < found.lowest) found.lowest = lowest[block]!;
    if (highest[block]! > found.highest) found.highest = highest[block]!;
    if (hiss[block]! > found.hiss) found.hiss = hiss[block]!;
    found.power += power[block]!;
  }
  return { ...found, power: last > first ? found.power / (last - first) : 0 };
}

/** The mean of some blocks' values, `first` up to, not including, `last`; 0 where there are none. A frame is only a few of them. */
export function meanOfBlocks(values: Float32Array, first: number, last: number): number {
  const [from, to] = [Math.max(0, first), Math.min(values.length, last)];
  let sum = 0;
  for (let block = from; block < to; block++) sum += values[block]!;
  return to > from ? sum / (to - from) : 0;
}

/**
 * The extremes of the finest blocks from `first` up to, not including, `last`. However many
 * they are, only a few are looked at on each level; no peak is lost. The mean power is of
 * the blocks, the last of a level counting as a whole one.
 */
export function extremesOf({ levels }: WavePyramid, first: number, last: number): WaveExtremes {
  let [from, to] = [Math.max(0, first), Math.min(levels[0].lowest.length, last)];
  let [lowest, highest, hiss, power, weight] = [0, 0, 0, 0, 0];
  const take = (level: number, start: number, end: number): void => {
    if (start >= end) return;
    const part = extremesAt(levels[level]!, start, end);
    lowest = Math.min(lowest, part.lowest);
    highest = Math.max(highest, part.highest);
    hiss = Math.max(hiss, part.hiss);
    const blocks = (end - start) * PYRAMID_STEP ** level;
    power += part.power * blocks;
    weight += blocks;
  };
  for (let level = 0; from < to; level++) {
    const [up, down] = [Math.ceil(from / PYRAMID_STEP), Math.floor(to / PYRAMID_STEP)];
    if (level === levels.length - 1 || up >= down) {
      take(level, from, to);
      break;
    }
    take(level, from, up * PYRAMID_STEP);
    take(level, down * PYRAMID_STEP, to);
    [from, to] = [up, down];
  }
  return { lowest, highest, hiss, power: weight > 0 ? power / weight : 0 };
}
