/**
 * What the wave is drawn from: for each block of samples its lowest and highest value and
 * how much of it is hiss. Hiss is told from voice by how fast the signal turns: the share
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
}

/** Difference energy over signal energy at which a block counts as all hiss, at 48 kHz. */
const ALL_HISS = 0.35;

/** @param samples −1 to 1 */
export function waveBlocks(samples: Float32Array, samplesPerBlock: number): WaveBlocks {
  const count = Math.ceil(samples.length / samplesPerBlock);
  let loudest = 0;
  const blocks = { samplesPerBlock, lowest: new Float32Array(count), highest: new Float32Array(count), hiss: new Float32Array(count) };
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
  }
  return { ...blocks, loudest };
}
