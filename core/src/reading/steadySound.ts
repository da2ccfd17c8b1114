/**
 * What cannot be speech because it never lets up: hum, a held chord, a motor, rain. Speech
 * rises and falls with its syllables, four or so a second; in every three seconds of it there
 * are closures and gaps far below its vowels (T. Houtgast and H. Steeneken, 1985, found the
 * loudness of speech to change most at 4 Hz; the figure from memory).
 */
import { decibels, loudnessOfWindows } from '../audio/loudness.js';
import type { Span } from '../time/span.js';

/** Loudness is taken over so long, in seconds: beats of a chord even out, a syllable does not. */
const WINDOW = 0.06;
/** Louder and softer by less than this is steady, in decibels. */
const RANGE_DB = 6;
/** A held shout ends sooner, in seconds. */
const LEAST_SECONDS = 3;
/** Softer than this below the loudest twentieth is a pause with its noise, in decibels. */
const HEARD_DB = 25;

/**
 * @returns where the sound is steady and loud enough to be taken for speech, sorted; samples
 */
export function steadySound(samples: Float32Array, sampleRate: number): Span[] {
  const window = Math.round(WINDOW * sampleRate);
  const levels = Float32Array.from(loudnessOfWindows(samples, window), decibels);
  const loud = [...levels].sort((a, b) => b - a)[Math.floor(levels.length / 20)] ?? -120;
  const least = Math.ceil((LEAST_SECONDS * sampleRate) / window);
  const spans: Span[] = [];
  let start = 0;
  while (start + least <= levels.length) {
    let [end, low, high] = [start, Infinity, -Infinity];
    for (; end < levels.length; end++) {
      low = Math.min(low, levels[end]!);
      high = Math.max(high, levels[end]!);
      if (high - low > RANGE_DB || low < loud - HEARD_DB) break;
    }
    if (end - start >= least) {
      spans.push({ from: start * window, to: Math.min(samples.length, end * window) });
      start = end;
    } else start += 1;
  }
  return spans;
}

/** What is left of a recording when spans are taken out; what is shorter than a word is left out too. */
export function outsideOf(spans: readonly Span[], length: number, shortest: number): Span[] {
  const starts = [0, ...spans.map((span) => span.to)];
  const ends = [...spans.map((span) => span.from), length];
  return starts.map((from, index) => ({ from, to: ends[index]! })).filter(({ from, to }) => to - from >= shortest);
}
