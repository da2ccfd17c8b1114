/**
 * What the acoustic model hears: mel-frequency cepstra a hundred times a second (S. Davis and P. Mermelstein, 1980), the
 * noise of the ground taken off first (C. Kim and R. Stern, "Power-normalized cepstral coefficients", 2010, in the simple
 * form that the model was trained with), with their mean over the recording taken off and their differences beside them.
 */
import { powerSpectrum } from '../audio/fourier.js';
import { RECOGNISER_RATE } from '../audio/truth.js';
import { STREAM_LENGTH, STREAMS } from './acousticModel.js';

/** Frames of features a second. */
export const FEATURE_RATE = 100;
const SHIFT = RECOGNISER_RATE / FEATURE_RATE;
/** 25.6 ms. */
const WINDOW = 410;
const TRANSFORM = 512;
const PRE_EMPHASIS = 0.97;
/** Samples as 16-bit numbers. */
const FULL_SCALE = 32_768;

/** The model's filters: their number, and from where to where they lie, Hz. */
const FILTERS = 20;
const LOWEST = 130;
const HIGHEST = 3700;
const LIFTER = 22;
/** Added to a power before its logarithm is taken. */
const LOG_FLOOR = 1e-4;

const mel = (hertz: number): number => 2595 * Math.log10(1 + hertz / 700);
const hertz = (mels: number): number => 700 * (10 ** (mels / 2595) - 1);

interface Filter {
  readonly from: number;
  readonly heights: Float64Array;
}

/** Triangles of the same area, spaced evenly in mels, their corners on frequencies of the transform. */
function melFilters(): Filter[] {
  const step = RECOGNISER_RATE / TRANSFORM;
  const width = (mel(HIGHEST) - mel(LOWEST)) / (FILTERS + 1);
  const corner = (index: number): number => Math.floor(hertz(mel(LOWEST) + index * width) / step + 0.5) * step;
  return Array.from({ length: FILTERS }, (_, index) => {
    const [low, middle, high] = [corner(index), corner(index + 1), corner(index + 2)];
    const [from, to] = [Math.ceil(low / step), Math.floor(high / step) + 1];
    const heights = Float64Array.from({ length: to - from }, (_, at) => {
      const frequency = (from + at) * step;
      return (2 / (high - low)) * Math.min((frequency - low) / (middle - low), (high - frequency) / (high - middle));
    });
    return { from, heights };
  });
}

const MEL_FILTERS = melFilters();
const HAMMING = Float64Array.from({ length: WINDOW }, (_, at) => 0.54 - 0.46 * Math.cos((2 * Math.PI * at) / (WINDOW - 1)));
/** The discrete cosine transform, orthonormal, with each cepstrum lifted. Shape: `STREAM_LENGTH` × `FILTERS`. */
const COSINES = Array.from({ length: STREAM_LENGTH }, (_, row) =>
  Float64Array.from({ length: FILTERS }, (_, column) => {
    const norm = Math.sqrt((row === 0 ? 1 : 2) / FILTERS);
    return norm * Math.cos((row * (column + 0.5) * Math.PI) / FILTERS) * (1 + (LIFTER / 2) * Math.sin((row * Math.PI) / LIFTER));
  }),
);

/** Constants of the noise’s tracking, as the model’s front end has them. */
const NOISE = { power: 0.7, up: 0.995, down: 0.5, peak: 0.85, masked: 0.2, gain: 20, smooth: 4 } as const;

/** Follows the lower envelope: down at once, up slowly. */
function followLower(values: Float64Array, envelope: Float64Array): void {
  for (let filter = 0; filter < FILTERS; filter++) {
    const share = values[filter]! >= envelope[filter]! ? NOISE.up : NOISE.down;
    envelope[filter] = share * envelope[filter]! + (1 - share) * values[filter]!;
  }
}

/** Takes the noise of the ground off a row of powers, in place, frame after frame. */
function noiseRemover(): (powers: Float64Array) => void {
  const [power, noise, floor, peak] = [0, 1, 2, 3].map(() => new Float64Array(FILTERS)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const [signal, gain] = [new Float64Array(FILTERS), new Float64Array(FILTERS)];
  let isFirst = true;
  return (powers) => {
    if (isFirst)
      for (let filter = 0; filter < FILTERS; filter++) {
        power[filter] = powers[filter]!;
        noise[filter] = powers[filter]! / NOISE.gain;
        floor[filter] = powers[filter]! / NOISE.gain;
      }
    isFirst = false;
    for (let filter = 0; filter < FILTERS; filter++) power[filter] = NOISE.power * power[filter]! + (1 - NOISE.power) * powers[filter]!;
    followLower(power, noise);
    for (let filter = 0; filter < FILTERS; filter++) signal[filter] = Math.max(1, power[filter]! - noise[filter]!);
    followLower(signal, floor);
    for (let filter = 0; filter < FILTERS; filter++) {
      const now = signal[filter]!;
      peak[filter]! *= NOISE.peak;
      if (now < NOISE.peak * peak[filter]!) signal[filter] = peak[filter]! * NOISE.masked;
      if (now > peak[filter]!) peak[filter] = now;
      if (signal[filter]! < floor[filter]!) signal[filter] = floor[filter]!;
      gain[filter] = Math.max(
        1 / NOISE.gain,
        signal[filter]! < NOISE.gain * power[filter]! ? signal[filter]! / power[filter]! : NOISE.gain,
      );
    }
    for (let filter = 0; filter < FILTERS; filter++) {
      const [from, to] = [Math.max(0, filter - NOISE.smooth), Math.min(FILTERS - 1, filter + NOISE.smooth)];
      let sum = 0;
      for (let at = from; at <= to; at++) sum += gain[at]!;
      powers[filter]! *= sum / (to - from + 1);
    }
  };
}

/** Logarithms of the powers of each filter, frame by frame. Shape: frames × 20. */
export function melSpectra(samples16k: Float32Array): Float64Array[] {
  const count = samples16k.length;
  const frames = count < WINDOW ? 1 : 2 + Math.floor((count - WINDOW) / SHIFT);
  const window = new Float32Array(TRANSFORM);
  const removeNoise = noiseRemover();
  return Array.from({ length: frames }, (_, frame) => {
    const from = frame * SHIFT;
    for (let at = 0; at < WINDOW; at++) {
      const index = from + at;
      const before = index === 0 || index > count ? 0 : samples16k[index - 1]!;
      window[at] = FULL_SCALE * ((index < count ? samples16k[index]! : 0) - PRE_EMPHASIS * before) * HAMMING[at]!;
    }
    const spectrum = powerSpectrum(window);
    const powers = Float64Array.from(MEL_FILTERS, ({ from: first, heights }) => {
      let sum = 0;
      for (let at = 0; at < heights.length; at++) sum += spectrum[first + at]! * heights[at]!;
      return sum;
    });
    removeNoise(powers);
    return powers.map((power) => Math.log(power + LOG_FLOOR));
  });
}

/** A frame is quiet when its first cepstrum is this far below the loudest: 40 dB, as the transform scales them. */
const QUIET = Math.sqrt(FILTERS) * 4 * Math.LN10;
/** Quiet frames count for at most so many for each of the others: a long silence must not make the voice look louder than any. */
const QUIET_SHARE = 1 / 3;

/** Takes the mean off each cepstrum, in place. */
function takeMeanOff(cepstra: readonly Float64Array[]): void {
  const loudest = cepstra.reduce((most, cepstrum) => Math.max(most, cepstrum[0]!), -Infinity);
  const isQuiet = cepstra.map((cepstrum) => cepstrum[0]! < loudest - QUIET);
  const quiet = isQuiet.filter(Boolean).length;
  const loud = cepstra.length - quiet;
  const share = Math.min(1, (QUIET_SHARE * loud) / Math.max(1, quiet));
  for (let value = 0; value < STREAM_LENGTH; value++) {
    let sum = 0;
    cepstra.forEach((cepstrum, frame) => (sum += cepstrum[value]! * (isQuiet[frame] ? share : 1)));
    for (const cepstrum of cepstra) cepstrum[value]! -= sum / (loud + share * quiet);
  }
}

export interface Features {
  readonly frames: number;
  /** Shape: frames × `STREAMS` × `STREAM_LENGTH`. */
  readonly values: Float32Array;
}

/** The features of a recording at 16 000 Hz. */
export function featuresOf(samples16k: Float32Array): Features {
  const spectra = melSpectra(samples16k);
  const frames = spectra.length;
  const cepstra = spectra.map((spectrum) =>
    Float64Array.from(COSINES, (cosines) => {
      let sum = 0;
      for (let filter = 0; filter < FILTERS; filter++) sum += cosines[filter]! * spectrum[filter]!;
      return sum;
    }),
  );
  takeMeanOff(cepstra);
  const at = (frame: number): Float64Array => cepstra[Math.min(frames - 1, Math.max(0, frame))]!;
  const values = new Float32Array(frames * STREAMS * STREAM_LENGTH);
  for (let frame = 0; frame < frames; frame++) {
    const to = frame * STREAMS * STREAM_LENGTH;
    const [before, after] = [at(frame - 2), at(frame + 2)];
    const [first, second, third, fourth] = [at(frame - 3), at(frame - 1), at(frame + 1), at(frame + 3)];
    for (let value = 0; value < STREAM_LENGTH; value++) {
      values[to + value] = cepstra[frame]![value]!;
      values[to + STREAM_LENGTH + value] = after[value]! - before[value]!;
      values[to + 2 * STREAM_LENGTH + value] = fourth[value]! - second[value]! - (third[value]! - first[value]!);
    }
  }
  return { frames, values };
}

/** Features of the frames `[from, to)`. */
export function featuresWithin({ values }: Features, from: number, to: number): Features {
  const width = STREAMS * STREAM_LENGTH;
  return { frames: to - from, values: values.subarray(from * width, to * width) };
}
