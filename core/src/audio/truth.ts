/**
 * One decoded truth: whatever came in becomes 48 kHz mono 16 bit once, and that is what
 * is read, drawn, scrubbed, played and handed on.
 */
import { SAMPLE_RATE } from '../time/frameRate.js';
import { measureChannels, mixByPlan, type ChannelPlan } from './channels.js';
import { floatsOf16Bit, openDitherer, openResampler, resample } from './resample.js';
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

/** Samples of a sound that are brought to the truth at a time. */
const PIECE = 1 << 18;

const tooLong = (seconds: number): Refusal => ({
  refusal: `This recording is ${Math.ceil(seconds / 60)} minutes long. A dialogue clip may be ${CLIP_LIMITS.maxMinutes}: cut it and drop the part you need.`,
});

/** Why a sound of this make cannot become a truth, before any of it is decoded; undefined when it can. */
export function maybeUnfit(sampleRate: number, channels: number, samples: number | undefined): Refusal | undefined {
  if (channels < 1 || channels > WAVE_LIMITS.channels)
    return {
      refusal: `This recording has ${channels} channels. It may have 1 to ${WAVE_LIMITS.channels}: mix it down and drop it again.`,
    };
  if (!(sampleRate >= WAVE_LIMITS.slowest && sampleRate <= WAVE_LIMITS.fastest))
    return {
      refusal: `This recording says that it has ${sampleRate} samples a second. It may have ${WAVE_LIMITS.slowest} to ${WAVE_LIMITS.fastest}: save it again at 48 000.`,
    };
  if (samples !== undefined && samples / sampleRate > CLIP_LIMITS.maxMinutes * 60) return tooLong(samples / sampleRate);
  return undefined;
}

/** A truth made piece by piece, so that the sound it comes from is never held as a whole. */
export interface TruthMaker {
  /** @param channels a piece of each, −1 to 1 */
  push(channels: readonly Float32Array[]): void;
  /** More came than a clip may have: what follows need not be decoded. */
  readonly isFull: boolean;
  end(): Truth | Refusal;
}

/**
 * @param plan of all channels of the sound; see `measureChannels`
 * @param expected samples of a channel that will come, where that is known
 */
export function openTruth(sampleRate: number, plan: ChannelPlan, expected = 0): TruthMaker {
  const resampler = openResampler(sampleRate, SAMPLE_RATE);
  const ditherer = openDitherer(Math.ceil((expected * SAMPLE_RATE) / sampleRate));
  let given = 0;
  const isFull = (): boolean => given / sampleRate > CLIP_LIMITS.maxMinutes * 60;
  return {
    push(channels) {
      given += channels[0]?.length ?? 0;
      if (channels[0]?.length && !isFull()) ditherer.push(resampler.push(mixByPlan(channels, plan)));
    },
    get isFull() {
      return isFull();
    },
    end() {
      const seconds = given / sampleRate;
      if (isFull()) return tooLong(seconds);
      if (seconds < CLIP_LIMITS.minSeconds)
        return {
          refusal: `This recording is ${seconds === 0 ? '0 seconds' : `${Math.round(seconds * 1000)} milliseconds`} long. It must last at least ${CLIP_LIMITS.minSeconds * 1000} milliseconds: record it again.`,
        };
      ditherer.push(resampler.end());
      return { samples: ditherer.end(), ...(plan.notes.length > 0 && { notes: plan.notes }) };
    },
  };
}

/** Decoded sound to the truth, or why it cannot be used. */
export function truthOfSound({ channels, sampleRate, notes = [] }: Sound): Truth | Refusal {
  const length = channels[0]?.length;
  const unfit = maybeUnfit(sampleRate, channels.length, length);
  if (unfit) return unfit;
  const measure = measureChannels(channels.length);
  measure.push(channels);
  const plan = measure.plan();
  const maker = openTruth(sampleRate, { ...plan, notes: [...notes, ...plan.notes] }, length);
  for (let from = 0; from < length!; from += PIECE) maker.push(channels.map((channel) => channel.subarray(from, from + PIECE)));
  return maker.end();
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
