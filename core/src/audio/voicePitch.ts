/**
 * How high a voice is: the fundamental frequency of its loud windows, by autocorrelation
 * divided by the window's own (P. Boersma, "Accurate short-term analysis of the fundamental
 * frequency", 1993).
 */
import { autocorrelation } from './fourier.js';

/** Samples at 16 kHz: 64 ms, six periods of the lowest voice. */
const WINDOW = 1024;
export const PITCH_WINDOW = WINDOW;
/** Between two windows. */
const HOP = 512;
const RATE = 16_000;
/** Periods looked for, in samples: 60 to 500 Hz. */
const SHORTEST = 32;
const LONGEST = 267;
/** A window more like itself a period later than this is voiced. */
const VOICED = 0.75;
/** What an octave lower must be likelier by: a period also fits twice. */
const OCTAVE_COST = 0.01;
/** Windows quieter than this share of the loudest one's power are left out. */
const LOUD = 0.02;
/** More windows than this tell no more. */
const MOST_WINDOWS = 60;
/** A voice is told by at least so many. */
const LEAST_VOICED = 4;

const HANN = Float32Array.from({ length: WINDOW }, (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * index) / WINDOW));
let windowAtLag: Float64Array | undefined;

/** The period of a window of `PITCH_WINDOW` samples at 16 kHz, in samples; undefined when it is not voiced. */
export function periodOf(samples: Float32Array, start: number): number | undefined {
  const own = (windowAtLag ??= autocorrelation(HANN).map((value, _, all) => value / all[0]!));
  let mean = 0;
  for (let index = 0; index < WINDOW; index++) mean += samples[start + index]! / WINDOW;
  const shaped = new Float32Array(WINDOW);
  for (let index = 0; index < WINDOW; index++) shaped[index] = (samples[start + index]! - mean) * HANN[index]!;
  const likenesses = autocorrelation(shaped);
  const whole = likenesses[0]!;
  let [best, period] = [0, 0];
  for (let lag = SHORTEST; lag <= LONGEST; lag++) {
    const likeness = likenesses[lag]! / whole / own[lag]! - OCTAVE_COST * Math.log2(lag / SHORTEST);
    if (likeness > best) [best, period] = [likeness, lag];
  }
  return best > VOICED ? period : undefined;
}

/**
 * The median pitch of a voice.
 *
 * @param samples16k at 16 000 Hz
 * @returns in Hz; undefined when hardly anything is voiced
 */
export function voicePitch(samples16k: Float32Array): number | undefined {
  const count = Math.max(0, Math.floor((samples16k.length - WINDOW) / HOP) + 1);
  const powers = Array.from({ length: count }, (_, window) => {
    let sum = 0;
    for (let index = window * HOP; index < window * HOP + WINDOW; index++) sum += samples16k[index]! * samples16k[index]!;
    return sum;
  });
  const least = LOUD * powers.reduce((most, power) => Math.max(most, power), 0);
  const loud = powers.flatMap((power, window) => (power > least ? [window] : []));
  const step = Math.max(1, Math.ceil(loud.length / MOST_WINDOWS));
  const periods = loud
    .filter((_, index) => index % step === 0)
    .flatMap((window) => periodOf(samples16k, window * HOP) ?? [])
    .sort((a, b) => a - b);
  return periods.length < LEAST_VOICED ? undefined : RATE / periods[periods.length >> 1]!;
}
