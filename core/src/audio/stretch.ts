/**
 * Slow sound at its own pitch: waveform-similarity overlap-add (Verhelst and Roelands, "An
 * overlap-add technique based on waveform similarity (WSOLA) for high quality time-scale
 * modification of speech", ICASSP 1993). Windows are laid out evenly and taken from where
 * the wave goes on most like the one before.
 */

/** Samples of a window at 48 000 Hz: 43 ms, two or three periods of a low voice. */
const WINDOW = 2048;
const HOP = WINDOW / 2;
/** How far from its even place a window may be taken, in samples: 10 ms. */
const REACH = 480;
/** Likeness is measured on every so many-th sample, then again on each around the best. */
const COARSE = 8;

/** How alike two stretches of a wave are: their normalised cross-correlation. */
function likeness(samples: Float32Array, a: number, b: number, step: number): number {
  let [product, powerA, powerB] = [0, 1e-9, 1e-9];
  for (let index = 0; index < HOP; index += step) {
    const [x, y] = [samples[a + index] ?? 0, samples[b + index] ?? 0];
    product += x * y;
    powerA += x * x;
    powerB += y * y;
  }
  return product / Math.sqrt(powerA * powerB);
}

/** The start near `around` from which the wave goes on most like it does from `wanted`. */
function mostAlike(samples: Float32Array, wanted: number, around: number): number {
  let [best, found] = [-Infinity, around];
  const look = (from: number, to: number, by: number, step: number): void => {
    for (let start = from; start <= to; start += by) {
      if (start < 0 || start + WINDOW > samples.length) continue;
      const like = likeness(samples, wanted, start, step);
      if (like > best) [best, found] = [like, start];
    }
  };
  look(around - REACH, around + REACH, COARSE, COARSE);
  const coarse = found;
  best = -Infinity;
  look(coarse - COARSE, coarse + COARSE, 1, COARSE / 2);
  return found;
}

/**
 * Sound made `factor` times as long (2 for half speed), its pitch kept.
 *
 * @param samples mono, 48 000 Hz
 * @returns `samples.length · factor` samples, rounded
 * @example stretched(new Float32Array(48_000), 2).length // 96000
 */
export function stretched(samples: Float32Array, factor: number): Float32Array<ArrayBuffer> {
  const length = Math.round(samples.length * factor);
  const out = new Float32Array(length + WINDOW);
  const weights = new Float32Array(length + WINDOW);
  const shape = new Float32Array(WINDOW);
  for (let index = 0; index < WINDOW; index++) shape[index] = 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 0.5)) / WINDOW);
  let taken = 0;
  for (let at = 0; at < length; at += HOP) {
    const even = Math.round(at / factor);
    // Where the wave would go on by itself after the window before.
    const start = at === 0 ? 0 : mostAlike(samples, taken + HOP, Math.min(even, Math.max(0, samples.length - WINDOW)));
    for (let index = 0; index < WINDOW; index++) {
      // The first window begins at once: nothing lies before it to fade from.
      const weight = at === 0 && index < HOP ? 1 : shape[index]!;
      out[at + index]! += (samples[start + index] ?? 0) * weight;
      weights[at + index]! += weight;
    }
    taken = start;
  }
  for (let index = 0; index < length; index++) out[index]! /= Math.max(weights[index]!, 1e-3);
  return out.slice(0, length);
}
