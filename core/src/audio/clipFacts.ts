/**
 * What is in a recording, at a glance: level, clipping, what lies under the voice, how much
 * of it is speech, and what to do about it. Thresholds are ours, set on made signals.
 */
import { SAMPLE_RATE } from '../time/frameRate.js';
import { powerSpectrum } from './fourier.js';
import { decibels } from './loudness.js';
import type { Truth } from './truth.js';

/** What lies under the voice. */
export type Ground = 'quiet' | 'noise' | 'tones';

export interface ClipFacts {
  /** Loudest sample, in decibels below full scale (0 is full). */
  readonly peakDb: number;
  /** Level of the speech: the mean power of its windows, in the same. */
  readonly speechDb: number;
  /** Level of the quietest tenth of the windows, in the same. */
  readonly floorDb: number;
  /** Share of samples cut off at the top, 0 to 1. */
  readonly clipped: number;
  /** Share of the time in which somebody speaks, 0 to 1. */
  readonly speech: number;
  /** What is heard where nobody speaks: next to nothing, noise, or music and hum. */
  readonly ground: Ground;
  /** What to know and what to do about it, as sentences. */
  readonly advice: readonly string[];
}

/** A window, in samples: 21 ms. */
const WINDOW = 1024;
/** Quieter than this is digital silence. */
export const SILENT_DB = -66;
/** Speech stands this far above the floor. */
const ABOVE_FLOOR_DB = 9;
/** A floor lower than this, or this far under the speech, is quiet. */
const QUIET_DB = -56;
const QUIET_BELOW_SPEECH_DB = 34;
/** Flatness of a spectrum (geometric over arithmetic mean of its power) below which it is made of tones, not of noise. */
const TONES_BELOW = 0.22;
/** So many samples in a row at the very top are cut off, not just loud. */
const CLIPPED_RUN = 3;
const CLIPPED_AT = 0.985;

/** More cut off than this share of its samples makes a recording useless. */
export const CLIPPED_BEYOND_USE = 0.08;

function clippedShare(samples: Int16Array, peak: number): number {
  if (peak < CLIPPED_AT * 32_767) return 0;
  const top = peak * 0.999;
  let [clipped, run] = [0, 0];
  for (let index = 0; index <= samples.length; index++) {
    const value = index < samples.length ? samples[index]! : 0;
    if (value >= top || -value >= top) run += 1;
    else {
      if (run >= CLIPPED_RUN) clipped += run;
      run = 0;
    }
  }
  return clipped / samples.length;
}

/** Geometric over arithmetic mean of the power between 100 and 7 000 Hz, averaged over windows: 1 for white noise, near 0 for tones. */
function flatnessOf(samples: Int16Array, windows: readonly number[]): number {
  const mean = new Float64Array(WINDOW / 2 + 1);
  const shaped = new Float32Array(WINDOW);
  for (const window of windows) {
    for (let index = 0; index < WINDOW; index++)
      shaped[index] = (samples[window * WINDOW + index]! / 32_768) * (0.5 - 0.5 * Math.cos((2 * Math.PI * index) / WINDOW));
    powerSpectrum(shaped).forEach((power, bin) => (mean[bin]! += power / windows.length));
  }
  const perBin = SAMPLE_RATE / WINDOW;
  const band = mean.subarray(Math.ceil(100 / perBin), Math.floor(7000 / perBin));
  const logs = band.reduce((sum, power) => sum + Math.log(power + 1e-18), 0) / band.length;
  const arithmetic = band.reduce((sum, power) => sum + power, 0) / band.length;
  return arithmetic > 0 ? Math.exp(logs) / arithmetic : 1;
}

const percentileSorted = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;

function adviceOn({ peakDb, speechDb, floorDb, clipped, speech, ground }: Omit<ClipFacts, 'advice'>): string[] {
  const advice: string[] = [];
  const below = Math.round(speechDb - floorDb);
  if (clipped > 0.0005)
    advice.push(
      `${(clipped * 100).toFixed(clipped < 0.01 ? 2 : 1)} % of it is cut off at the top: hisses and bursts may be misheard. Record it again at a lower level.`,
    );
  if (speechDb < -38) advice.push(`The voice is very quiet (${Math.round(speechDb)} dB). It reads as well, but raise its gain to hear it.`);
  if (ground === 'noise') advice.push(`There is noise under the voice, ${below} dB below it. Doubtful words are marked: listen to them.`);
  if (ground === 'tones')
    advice.push(`There is music or a hum under the voice, ${below} dB below it. Use the dialogue without it if you have that.`);
  if (speech < 0.1) advice.push('Hardly anybody speaks in it. Check that this is the recording you meant.');
  if (advice.length === 0 && peakDb < -3) advice.push('Clean and loud enough.');
  return advice.length > 0 ? advice : ['Clean.'];
}

/** Measures a recording. */
export function factsOfClip({ samples }: Truth): ClipFacts {
  let peak = 0;
  for (let index = 0; index < samples.length; index++) {
    const value = samples[index]!;
    if (value > peak) peak = value;
    else if (-value > peak) peak = -value;
  }
  const count = Math.max(1, Math.floor(samples.length / WINDOW));
  const levels = Array.from({ length: count }, (_, window) => {
    let power = 0;
    const end = Math.min(samples.length, (window + 1) * WINDOW);
    for (let index = window * WINDOW; index < end; index++) power += samples[index]! * samples[index]!;
    return decibels(Math.sqrt(power / Math.max(1, end - window * WINDOW)) / 32_768);
  });
  const sorted = [...levels].sort((a, b) => a - b);
  const floorDb = Math.max(-96, percentileSorted(sorted, 0.1));
  const loud = percentileSorted(sorted, 0.95);
  const speaks = (level: number): boolean => level > floorDb + ABOVE_FLOOR_DB && level > loud - 30 && level > SILENT_DB;
  const speech = levels.filter(speaks);
  const meanPower = speech.reduce((sum, level) => sum + 10 ** (level / 10), 0) / Math.max(1, speech.length);
  const speechDb = speech.length > 0 ? 10 * Math.log10(meanPower) : loud;
  const isQuiet = floorDb < QUIET_DB || floorDb < speechDb - QUIET_BELOW_SPEECH_DB;
  const whole = Math.floor(samples.length / WINDOW);
  const quietest = levels
    .map((level, window) => ({ level, window }))
    .filter(({ level, window }) => window < whole && level <= percentileSorted(sorted, 0.2))
    .slice(0, 60)
    .map(({ window }) => window);
  const ground: Ground = isQuiet || quietest.length === 0 ? 'quiet' : flatnessOf(samples, quietest) < TONES_BELOW ? 'tones' : 'noise';
  const facts = {
    peakDb: Math.max(-96, decibels(peak / 32_768)),
    speechDb: Math.max(-96, speechDb),
    floorDb,
    clipped: clippedShare(samples, peak),
    speech: speech.length / count,
    ground,
  };
  return { ...facts, advice: adviceOn(facts) };
}
