/**
 * Boundaries moved to where the sound changes. The recogniser looks every 10 ms and is a
 * little early on the whole; within 20 ms of where it put a boundary the spectrum is
 * compared before and after, and the boundary goes to the greatest change, the nearer the
 * better. Weights were found on 48 labelled lines of two voices, the same for both, and do
 * not depend on which sounds meet: offsets learned by pairs of sounds on one voice made the
 * other worse.
 */
import { powerSpectrum } from '../audio/fourier.js';

/** Seconds. */
export interface TimedSound {
  readonly symbol: string;
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** Between two spectra, and the length of the sound each is of, in samples at 16 kHz: 4 ms and 12.5 ms. */
const HOP = 64;
const WINDOW = 200;
const SIZE = 256;
const RATE = 16_000;
/** Bands of equal width on the mel scale (S. S. Stevens, J. Volkmann, E. B. Newman, 1937, in O'Shaughnessy's formula) from 100 to 7500 Hz. */
const BANDS = 20;
/** Spectra compared on each side. */
const SIDE = 8;
/** How far a boundary goes at most, in hops, and what a way of 20 ms costs against a change of one neper in every band. */
const REACH = 5;
const WAY_COST = 1.5;
/** The recogniser is early by this much, in seconds. */
const EARLY = 0.004;
/** What is so far below the loudest band of the recording is silence, in nepers of power. */
const FLOOR = 9;

const mel = (hertz: number): number => 2595 * Math.log10(1 + hertz / 700);
const hertz = (mels: number): number => 700 * (10 ** (mels / 2595) - 1);
const EDGES = Array.from(
  { length: BANDS + 2 },
  (_, index) => (hertz(mel(100) + ((mel(7500) - mel(100)) * index) / (BANDS + 1)) / RATE) * SIZE,
);
const SHAPE = Float32Array.from({ length: WINDOW }, (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * index) / WINDOW));

/** The logarithm of the power in each band around a hop. */
function bandsAt(samples: Float32Array, hop: number): Float64Array {
  const frame = new Float32Array(SIZE);
  const start = hop * HOP - WINDOW / 2;
  for (let index = 0; index < WINDOW; index++) frame[index] = (samples[start + index] ?? 0) * SHAPE[index]!;
  const power = powerSpectrum(frame);
  const bands = new Float64Array(BANDS);
  for (let band = 0; band < BANDS; band++) {
    const [low, middle, high] = [EDGES[band]!, EDGES[band + 1]!, EDGES[band + 2]!];
    let sum = 0;
    for (let bin = Math.ceil(low); bin <= high; bin++)
      sum += (bin < middle ? (bin - low) / (middle - low) : (high - bin) / (high - middle)) * power[bin]!;
    bands[band] = Math.log(sum + 1e-12);
  }
  return bands;
}

/** How much the spectrum changes at a hop: the root mean square over bands of what is before less what is after. */
function changeAt(spectrum: (hop: number) => Float64Array, hop: number): number {
  let sum = 0;
  const before = new Float64Array(BANDS);
  for (let side = 1; side <= SIDE; side++) {
    const [left, right] = [spectrum(hop - side), spectrum(hop + side - 1)];
    for (let band = 0; band < BANDS; band++) before[band]! += left[band]! - right[band]!;
  }
  for (const difference of before) sum += (difference / SIDE) ** 2;
  return Math.sqrt(sum / BANDS);
}

/** The logarithms of the power in each band by hop, each computed once; nothing is below the floor that the loudest gives. */
function openSpectrum(samples: Float32Array, loudestAmong: Iterable<number>): (hop: number) => Float64Array {
  const kept = new Map<number, Float64Array>();
  const raw = (hop: number): Float64Array => {
    let bands = kept.get(hop);
    if (!bands) kept.set(hop, (bands = bandsAt(samples, hop)));
    return bands;
  };
  let loudest = Number.NEGATIVE_INFINITY;
  for (const hop of loudestAmong) loudest = Math.max(loudest, ...raw(hop));
  const floored = new Map<number, Float64Array>();
  return (hop) => {
    let bands = floored.get(hop);
    if (!bands) floored.set(hop, (bands = raw(hop).map((value) => Math.max(value, loudest - FLOOR))));
    return bands;
  };
}

export interface SoundChange {
  readonly atSeconds: number;
  /** How much the spectrum changes there: the root mean square over bands, in nepers of power. */
  readonly by: number;
}

/** Less than this is no change that is seen or heard, in nepers. */
const LEAST_CHANGE = 0.5;

/**
 * Where the sound changes most, each greater than any within 20 ms of it: what boundaries are moved to.
 *
 * @param samples at 16 kHz, −1 to 1
 */
export function soundChanges(samples: Float32Array): SoundChange[] {
  const hops = Math.floor(samples.length / HOP);
  const spectrum = openSpectrum(
    samples,
    Array.from({ length: Math.ceil(hops / SIDE) }, (_, index) => index * SIDE),
  );
  const changes = Array.from({ length: hops }, (_, hop) => (hop < SIDE || hop >= hops - SIDE ? 0 : changeAt(spectrum, hop)));
  return changes.flatMap((by, hop): SoundChange[] => {
    if (by < LEAST_CHANGE) return [];
    for (let beside = Math.max(0, hop - REACH); beside <= Math.min(hops - 1, hop + REACH); beside++)
      if (changes[beside]! > by || (changes[beside] === by && beside < hop)) return [];
    return [{ atSeconds: (hop * HOP) / RATE, by }];
  });
}

/**
 * The same sounds with their starts moved by at most 24 ms; each still lasts, and one that
 * ended where the next began still does.
 *
 * @param samples the recording at 16 kHz, −1 to 1
 * @param sounds in order of time
 */
export function refineBoundaries<T extends TimedSound>(samples: Float32Array, sounds: readonly T[]): T[] {
  if (sounds.length === 0) return [];
  // The loudest band in the middle of any sound: what is far below it is as good as silent.
  const spectrum = openSpectrum(
    samples,
    sounds.map(({ fromSeconds, toSeconds }) => Math.round(((fromSeconds + toSeconds) / 2) * (RATE / HOP))),
  );
  const starts = sounds.map(({ fromSeconds }) => {
    const middle = Math.round((fromSeconds + EARLY) * (RATE / HOP));
    let [best, at] = [Number.NEGATIVE_INFINITY, middle];
    for (let hop = middle - REACH; hop <= middle + REACH; hop++) {
      const value = changeAt(spectrum, hop) - WAY_COST * (((hop - middle) * HOP) / RATE / 0.02) ** 2;
      if (value > best) [best, at] = [value, hop];
    }
    return Math.max(0, (at * HOP) / RATE);
  });
  let end = 0;
  return sounds.map((sound, index) => {
    const next = sounds[index + 1];
    const touches = next !== undefined && next.fromSeconds - sound.toSeconds < 1e-6;
    // Never past the middle of what was heard of either neighbour.
    const from = Math.max(end, Math.min(starts[index]!, (sound.fromSeconds + sound.toSeconds) / 2));
    const limit =
      next && touches ? Math.max(from + 0.005, Math.min(starts[index + 1]!, (next.fromSeconds + next.toSeconds) / 2)) : sound.toSeconds;
    const to = Math.max(from + 0.005, limit);
    end = to;
    return { ...sound, fromSeconds: from, toSeconds: to };
  });
}
