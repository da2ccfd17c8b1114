/**
 * Changing the sampling rate by a windowed sinc, and back to 16 bits with dither.
 * The window is Kaiser's with β = 8 (about 80 dB of stop band; J. F. Kaiser, "Nonrecursive
 * digital filter design using the I0-sinh window function", 1974).
 */

import { sumOfProducts } from './sumOfProducts.js';

/** Zero crossings of the sinc kept on each side. */
const HALF_WIDTH = 20;
const KAISER_BETA = 8;
/** Samples between two reports of progress. */
const REPORT_EVERY = 1 << 20;
/** Where the pass band ends, as a share of the lower rate's half. */
const PASS = 0.95;

/** Modified Bessel function of the first kind, order 0, by its power series. */
function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

/** The taps for output samples that fall `phase` of an input sample after one, `2 · halfWidth` of them. */
function tapsOfPhase(phase: number, cutoff: number, halfWidth: number): Float32Array {
  const taps = new Float32Array(2 * halfWidth);
  const scale = besselI0(KAISER_BETA);
  for (let tap = 0; tap < taps.length; tap++) {
    const x = tap - halfWidth + 1 - phase;
    const edge = Math.min(1, Math.abs(x) / halfWidth);
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * cutoff * x) / (Math.PI * cutoff * x);
    taps[tap] = cutoff * sinc * (besselI0(KAISER_BETA * Math.sqrt(1 - edge * edge)) / scale);
  }
  return taps;
}

/** Taps of a change of rate, by `from:to`: a voice is heard at the same few speeds over and over. */
const tapsOfChange = new Map<string, (Float32Array | undefined)[]>();

/**
 * The same sound at another rate, both in whole samples a second. An output sample falls
 * in one of `toRate / gcd` places between two input samples; the taps of each place are
 * computed once.
 *
 * @param report told the share done, now and then
 * @returns `ceil(samples.length · toRate / fromRate)` samples, with no delay
 */
export function resample(samples: Float32Array, fromRate: number, toRate: number, report?: (done: number) => void): Float32Array {
  if (fromRate === toRate) return samples;
  const divisor = greatestCommonDivisor(fromRate, toRate);
  const [up, down] = [toRate / divisor, fromRate / divisor];
  const narrowing = Math.min(1, up / down);
  const halfWidth = Math.ceil(HALF_WIDTH / narrowing);
  const change = `${up}:${down}`;
  let phases = tapsOfChange.get(change);
  if (!phases) tapsOfChange.set(change, (phases = new Array<Float32Array | undefined>(up)));
  const padded = new Float32Array(samples.length + 2 * halfWidth);
  padded.set(samples, halfWidth);
  const result = new Float32Array(Math.ceil((samples.length * up) / down));
  for (let out = 0; out < result.length; out++) {
    if (report && out % REPORT_EVERY === 0) report(out / result.length);
    const place = out * down;
    const centre = Math.floor(place / up);
    const phase = place - centre * up;
    const taps = (phases[phase] ??= tapsOfPhase(phase / up, PASS * narrowing, halfWidth));
    result[out] = sumOfProducts(padded, centre + 1, taps, 0, taps.length);
  }
  return result;
}

/** Steps of 16 bits in a full scale of 1: the same for what is read and what is written. */
const STEPS = 32_768;

/**
 * Floats to 16 bits with triangular dither of one step either way, from a small seeded
 * generator, so that the same recording always becomes the same file. What is of 16 bits
 * already has nothing to round: it stays as it is, sample for sample.
 *
 * @param samples −1 to 1; what lies beyond is cut off
 */
export function ditherTo16Bit(samples: Float32Array): Int16Array {
  const result = new Int16Array(samples.length);
  let isExact = true;
  for (let index = 0; index < samples.length && isExact; index++) {
    const value = samples[index]! * STEPS;
    isExact = Number.isInteger(value);
    result[index] = Math.min(STEPS - 1, Math.max(-STEPS, value));
  }
  if (isExact) return result;
  let seed = 0x2f6b_1d35;
  const random = (): number => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    return seed / 4_294_967_296;
  };
  for (let index = 0; index < samples.length; index++) {
    const value = samples[index]! * STEPS;
    const dithered = value === 0 ? 0 : Math.round(value + random() - random());
    result[index] = Math.min(STEPS - 1, Math.max(-STEPS, dithered));
  }
  return result;
}

export function floatsOf16Bit(samples: Int16Array): Float32Array {
  // A plain loop: `Float32Array.from` with a function goes through an iterator and takes ten times as long.
  const result = new Float32Array(samples.length);
  for (let index = 0; index < samples.length; index++) result[index] = samples[index]! / STEPS;
  return result;
}
