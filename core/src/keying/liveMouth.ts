/**
 * A mouth that moves with a voice as it is heard, by loudness and hiss, to try a chart before there is any recording.
 * What is the voice's own floor and peak is learned while it speaks: the floor sinks at once and rises slowly, the peak
 * rises at once and sinks slowly.
 */
import { decibels } from '../audio/loudness.js';
import { waveBlocks } from '../audio/peaks.js';
import type { ChartDocument } from '../chart/chart.js';
import { openMouth, RELEASE_SECONDS } from './keyLoudness.js';

/** What a voice is taken for before it is heard, in decibels below full scale; ours. */
const FIRST_FLOOR_DB = -55;
const FIRST_PEAK_DB = -22;
/** The floor comes up, and the peak down, by so many decibels a second. */
const FORGETS_DB = 1.5;
/** A voice is at least so far above the quiet of its room, in decibels. */
const LEAST_RANGE_DB = 18;
/** The quiet of a room goes up and down by so much without being a voice, in decibels. */
const ROOM_DB = 8;
/** What is heard at once: short enough not to be seen as late, long enough to be told, in seconds. */
const PIECE_SECONDS = 0.01;

export interface LiveMouth {
  /** The drawing after some samples more. @param samples −1 to 1, at the rate the mouth was opened with */
  hear(samples: Float32Array): string;
  /** How loud it is to the mouth, 0 to 1. */
  level(): number;
}

/** @param sampleRate samples a second of what it will hear */
export function openLiveMouth(chart: ChartDocument, sampleRate: number): LiveMouth {
  const mouth = openMouth(chart);
  const piece = Math.max(1, Math.round(PIECE_SECONDS * sampleRate));
  const [forgets, falls] = [FORGETS_DB * PIECE_SECONDS, 0.5 ** (PIECE_SECONDS / RELEASE_SECONDS)];
  let [floor, peak, level] = [FIRST_FLOOR_DB, FIRST_PEAK_DB, 0];
  let { drawing } = mouth(0, 0);
  return {
    hear: (samples) => {
      const { power, hiss } = waveBlocks(samples, Math.min(piece, Math.max(1, samples.length)));
      for (let block = 0; block < power.length; block++) {
        const heard = Math.max(-96, decibels(Math.sqrt(power[block]!)));
        floor = Math.min(heard, floor + forgets);
        peak = Math.max(heard, peak - forgets, floor + LEAST_RANGE_DB);
        const now = Math.min(1, Math.max(0, (heard - floor - ROOM_DB) / (peak - floor - ROOM_DB)));
        level = Math.max(now, level * falls);
        ({ drawing } = mouth(level, hiss[block]!));
      }
      return drawing;
    },
    level: () => level,
  };
}
