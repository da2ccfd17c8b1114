/**
 * One decoded truth: whatever came in becomes 48 kHz mono 16 bit once, and that is what
 * is read, drawn, scrubbed, played and handed on.
 */
import { SAMPLE_RATE } from '../time/frameRate.js';
import { mixChannels } from './channels.js';
import { ditherTo16Bit, floatsOf16Bit, resample } from './resample.js';
import type { Refusal } from '../document/refusal.js';
import { readWave, WAVE_LIMITS, writeWave, type Sound } from './wave.js';

/** Longest dialogue clip, in minutes, and the shortest, in seconds. */
export const CLIP_LIMITS = { maxMinutes: 30, minSeconds: 0.05 } as const;

export interface Truth {
  /** 48 000 Hz mono. */
  readonly samples: Int16Array;
  /** What to know of how it came about, for the user. */
  readonly notes?: readonly string[];
}

/** Decoded sound to the truth, or why it cannot be used. */
export function truthOfSound({ channels, sampleRate, notes = [] }: Sound, report?: (done: number) => void): Truth | Refusal {
  if (channels.length < 1 || channels.length > WAVE_LIMITS.channels)
    return {
      refusal: `This recording has ${channels.length} channels. It may have 1 to ${WAVE_LIMITS.channels}: mix it down and drop it again.`,
    };
  const seconds = channels[0]!.length / sampleRate;
  if (seconds < CLIP_LIMITS.minSeconds) {
    return {
      refusal: `This recording is ${seconds === 0 ? '0 seconds' : `${Math.round(seconds * 1000)} milliseconds`} long. It must last at least ${CLIP_LIMITS.minSeconds * 1000} milliseconds: record it again.`,
    };
  }
  if (seconds > CLIP_LIMITS.maxMinutes * 60) {
    return {
      refusal: `This recording is ${Math.ceil(seconds / 60)} minutes long. A dialogue clip may be ${CLIP_LIMITS.maxMinutes}: cut it and drop the part you need.`,
    };
  }
  const mixed = mixChannels(channels);
  const said = [...notes, ...mixed.notes];
  return { samples: ditherTo16Bit(resample(mixed.samples, sampleRate, SAMPLE_RATE, report)), ...(said.length > 0 && { notes: said }) };
}

/** Decodes a wave file to the truth, or says why not. */
export function truthOfWave(bytes: Uint8Array): Truth | Refusal {
  const sound = readWave(bytes);
  return 'refusal' in sound ? sound : truthOfSound(sound);
}

export function truthToWave(truth: Truth): Uint8Array {
  return writeWave(truth.samples, SAMPLE_RATE);
}

/** The truth as the recogniser hears it: 16 kHz floats. */
export const RECOGNISER_RATE = 16_000;

export function truthForRecogniser(truth: Truth): Float32Array {
  return resample(floatsOf16Bit(truth.samples), SAMPLE_RATE, RECOGNISER_RATE);
}
