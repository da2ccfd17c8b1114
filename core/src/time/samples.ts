/**
 * Frames and samples. Frame f covers the samples from `sampleAtFrame(f)` up to, not
 * including, `sampleAtFrame(f + 1)`; where a frame is not a whole number of samples
 * (NTSC rates) its first sample is the first one at or after its exact start.
 *
 * Law: `frameAtSample(rate, sampleAtFrame(rate, f)) = f`, and the sample before
 * belongs to f − 1.
 */
import { SAMPLE_RATE, type FrameRate } from './frameRate.js';

/**
 * The first sample (48 000 Hz) of a frame.
 *
 * @example sampleAtFrame({ num: 24, den: 1 }, 1) // 2000
 */
export function sampleAtFrame(rate: FrameRate, frame: number): number {
  return Math.ceil((frame * SAMPLE_RATE * rate.den) / rate.num);
}

/**
 * The frame that a sample (48 000 Hz) falls in.
 *
 * @example frameAtSample({ num: 24, den: 1 }, 1999) // 0
 */
export function frameAtSample(rate: FrameRate, sample: number): number {
  return Math.floor((sample * rate.num) / (SAMPLE_RATE * rate.den));
}

/** Where a sample lies among the frames, with its fraction: for aiming, never for keeping. */
export function framePositionOfSample(rate: FrameRate, sample: number): number {
  return (sample * rate.num) / (SAMPLE_RATE * rate.den);
}

/** How many frames it takes to hold this many samples, the last one perhaps partly. */
export function framesToHold(rate: FrameRate, samples: number): number {
  return Math.ceil((samples * rate.num) / (SAMPLE_RATE * rate.den));
}

export function secondsToSamples(seconds: number): number {
  return Math.round(seconds * SAMPLE_RATE);
}

export function samplesToSeconds(samples: number): number {
  return samples / SAMPLE_RATE;
}
