/**
 * Changing the sampling rate by a windowed sinc, and back to 16 bits with dither.
 * The window is Kaiser's with β = 8 (about 80 dB of stop band; J. F. Kaiser, "Nonrecursive
 * digital filter design using the I0-sinh window function", 1974).
 */

import { FILTER_KERNEL } from '../kernels/compiled.js';
import { layOut, openKernel } from '../kernels/kernel.js';

/** Zero crossings of the sinc kept on each side. */
const HALF_WIDTH = 20;
const KAISER_BETA = 8;
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

/** Output samples that are made at once, and products. */
const AT_ONCE = 4096;
const PRODUCTS = 8;

interface Change {
  readonly halfWidth: number;
  /**
   * Output samples from `out` on, no more than `AT_ONCE`.
   *
   * @param held of which the first is that under the first tap of the first output
   */
  filter(held: Float32Array, out: number, count: number): Float32Array;
}

type Filter = (...pointersAndCounts: number[]) => void;

/** @param up and `down`: the two rates without what divides both */
function openChange(up: number, down: number): Change {
  const narrowing = Math.min(1, up / down);
  const halfWidth = Math.ceil(HALF_WIDTH / narrowing);
  const width = Math.ceil((2 * halfWidth) / PRODUCTS) * PRODUCTS;
  const most = Math.ceil((AT_ONCE * down) / up) + width + 1;
  const { memory, places } = layOut({ taps: up * width * 4, samples: most * 4, result: AT_ONCE * 4 });
  const taps = new Float32Array(memory.buffer, places.taps, up * width);
  const samples = new Float32Array(memory.buffer, places.samples, most);
  const result = new Float32Array(memory.buffer, places.result, AT_ONCE);
  const { filter } = openKernel<{ readonly filter: Filter }>(FILTER_KERNEL, memory);
  const isMade = new Uint8Array(up);
  return {
    halfWidth,
    filter: (held, out, count) => {
      // A sound shorter than there are phases needs only some of them.
      for (let index = 0; index < Math.min(count, up); index++) {
        const phase = ((out + index) * down) % up;
        if (isMade[phase]) continue;
        isMade[phase] = 1;
        taps.set(tapsOfPhase(phase / up, PASS * narrowing, halfWidth), phase * width);
      }
      samples.set(held);
      // What the taps that fill up the width are multiplied by: nothing of what was here before.
      samples.fill(0, held.length);
      filter(places.taps, width, places.samples, places.result, count, up, down, (out * down) % up);
      return result.subarray(0, count);
    },
  };
}

/** Changes of rate, by `up:down`: a voice is heard at the same few speeds over and over. */
const changes = new Map<string, Change>();
const MOST_CHANGES = 32;

function changeOf(up: number, down: number): Change {
  const name = `${up}:${down}`;
  const change = changes.get(name) ?? openChange(up, down);
  // The one used last is kept longest.
  changes.delete(name);
  changes.set(name, change);
  const [oldest] = changes.keys();
  if (changes.size > MOST_CHANGES) changes.delete(oldest!);
  return change;
}

/** A sound at another rate, piece by piece: what comes out in all is what one call of `resample` gives. */
export interface Resampler {
  push(samples: Float32Array): Float32Array;
  /** The last of it. */
  end(): Float32Array;
}

/** Both rates in whole samples a second. */
export function openResampler(fromRate: number, toRate: number): Resampler {
  if (fromRate === toRate) return { push: (samples) => samples, end: () => new Float32Array(0) };
  const divisor = greatestCommonDivisor(fromRate, toRate);
  const [up, down] = [toRate / divisor, fromRate / divisor];
  const change = changeOf(up, down);
  const { halfWidth } = change;
  // Silence before the first sample; `heldFrom` is where the held samples begin in a sound with that before it.
  let [held, heldFrom, given, out] = [new Float32Array(halfWidth), 0, 0, 0];

  /** Every output sample up to `last` whose taps lie in what is held. */
  const reach = (last: number): Float32Array => {
    const end = heldFrom + held.length;
    // The taps of an output sample lie from `centre + 1` to before `centre + 1 + 2 · halfWidth`.
    const furthest = end - 2 * halfWidth - 1;
    const until = Math.max(out, Math.min(last, Math.floor(((furthest + 1) * up - 1) / down) + 1));
    const result = new Float32Array(until - out);
    for (let done = 0; done < result.length; done += AT_ONCE) {
      const [from, count] = [out + done, Math.min(AT_ONCE, result.length - done)];
      const underFirst = (place: number): number => Math.floor((place * down) / up) + 1 - heldFrom;
      const under = held.subarray(underFirst(from), underFirst(from + count - 1) + 2 * halfWidth);
      result.set(change.filter(under, from, count), done);
    }
    out = until;
    const needed = Math.min(end, Math.max(heldFrom, Math.floor((out * down) / up) + 1));
    held = held.slice(needed - heldFrom);
    heldFrom = needed;
    return result;
  };
  const hold = (samples: Float32Array): void => {
    const both = new Float32Array(held.length + samples.length);
    both.set(held);
    both.set(samples, held.length);
    held = both;
  };

  return {
    push(samples) {
      if (samples.length === 0) return samples;
      hold(samples);
      given += samples.length;
      return reach(Number.POSITIVE_INFINITY);
    },
    end() {
      hold(new Float32Array(2 * halfWidth + 1));
      return reach(Math.ceil((given * up) / down));
    },
  };
}

/**
 * The same sound at another rate, both in whole samples a second. An output sample falls
 * in one of `toRate / gcd` places between two input samples; the taps of each place are
 * computed once.
 *
 * @returns `ceil(samples.length · toRate / fromRate)` samples, with no delay
 */
export function resample(samples: Float32Array, fromRate: number, toRate: number): Float32Array {
  if (fromRate === toRate) return samples;
  const resampler = openResampler(fromRate, toRate);
  const [most, last] = [resampler.push(samples), resampler.end()];
  const whole = new Float32Array(most.length + last.length);
  whole.set(most);
  whole.set(last, most.length);
  return whole;
}

/** Steps of 16 bits in a full scale of 1: the same for what is read and what is written. */
const STEPS = 32_768;

/** Floats to 16 bits, piece by piece: what is there at the end is what one call of `ditherTo16Bit` gives. */
export interface Ditherer {
  push(samples: Float32Array): void;
  end(): Int16Array;
}

/** Numbers from 0 to 1, the same each time. */
function seededNumbers(): () => number {
  let seed = 0x2f6b_1d35;
  return () => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    return seed / 4_294_967_296;
  };
}

const within16Bits = (value: number): number => Math.min(STEPS - 1, Math.max(-STEPS, value));

/** @param expected how many samples will come, where that is known: then they are held once */
export function openDitherer(expected = 0): Ditherer {
  const random = seededNumbers();
  const dithered = (value: number): number => within16Bits(value === 0 ? 0 : Math.round(value + random() - random()));
  let [whole, length, isExact] = [new Int16Array(expected), 0, true];
  const makeRoom = (samples: number): void => {
    if (length + samples <= whole.length) return;
    const larger = new Int16Array(Math.max(length + samples, Math.ceil(whole.length * 1.5)));
    larger.set(whole.subarray(0, length));
    whole = larger;
  };
  /** How many of a piece have nothing to round, from its first on; these are taken. */
  const takeExact = (samples: Float32Array): number => {
    for (let index = 0; index < samples.length; index++) {
      const value = samples[index]! * STEPS;
      if (!Number.isInteger(value)) return index;
      whole[length + index] = within16Bits(value);
    }
    return samples.length;
  };
  return {
    push(samples) {
      makeRoom(samples.length);
      if (!isExact || takeExact(samples) < samples.length) {
        // What came before was of 16 bits, so that its dither can still be added.
        if (isExact) for (let index = 0; index < length; index++) whole[index] = dithered(whole[index]!);
        isExact = false;
        for (let index = 0; index < samples.length; index++) whole[length + index] = dithered(samples[index]! * STEPS);
      }
      length += samples.length;
    },
    end: () => (length === whole.length ? whole : whole.slice(0, length)),
  };
}

/**
 * Floats to 16 bits with triangular dither of one step either way, from a small seeded
 * generator, so that the same recording always becomes the same file. What is of 16 bits
 * already has nothing to round: it stays as it is, sample for sample.
 *
 * @param samples −1 to 1; what lies beyond is cut off
 */
export function ditherTo16Bit(samples: Float32Array): Int16Array {
  const ditherer = openDitherer(samples.length);
  ditherer.push(samples);
  return ditherer.end();
}

export function floatsOf16Bit(samples: Int16Array): Float32Array {
  // A plain loop: `Float32Array.from` with a function goes through an iterator and takes ten times as long.
  const result = new Float32Array(samples.length);
  for (let index = 0; index < samples.length; index++) result[index] = samples[index]! / STEPS;
  return result;
}
