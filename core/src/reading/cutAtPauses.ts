/**
 * A recording cut into stretches short enough for the recogniser, whose memory grows with
 * frames and states: at pauses where there are any, the longest first to come, else where
 * it is quietest.
 */
import { findPauses, loudnessOfWindows } from '../audio/loudness.js';
import type { Span } from '../time/span.js';

/** A gap this long may part two stretches, in seconds. */
const LEAST_PAUSE = 0.16;
/** A stretch is cut no sooner than this share of its greatest length. */
const EARLIEST = 0.4;

/**
 * Stretches that follow one another and cover the whole recording.
 *
 * @param mostSeconds the longest stretch
 */
export function cutAtPauses(samples: Float32Array, sampleRate: number, mostSeconds: number): Span[] {
  const most = Math.round(mostSeconds * sampleRate);
  const pauses = findPauses(samples, sampleRate, LEAST_PAUSE);
  const stretches: Span[] = [];
  let from = 0;
  while (samples.length - from > most) {
    const [earliest, latest] = [from + most * EARLIEST, from + most];
    const inside = pauses
      .map((pause) => ({ middle: Math.round((pause.from + pause.to) / 2), length: pause.to - pause.from }))
      .filter(({ middle }) => middle > earliest && middle <= latest);
    // The longest pause; of two alike the later one, for fewer stretches.
    const best = inside.reduce<(typeof inside)[number] | undefined>((a, b) => (a && a.length > b.length ? a : b), undefined);
    const to = best?.middle ?? quietest(samples, sampleRate, Math.round(earliest), latest);
    stretches.push({ from, to });
    from = to;
  }
  return [...stretches, { from, to: samples.length }];
}

/** The middle of the quietest twentieth of a second between two samples. */
function quietest(samples: Float32Array, sampleRate: number, from: number, to: number): number {
  const window = Math.round(sampleRate / 20);
  const loudness = loudnessOfWindows(samples.subarray(from, to), window);
  let best = loudness.length - 1;
  for (let index = loudness.length - 1; index >= 0; index--) if (loudness[index]! < loudness[best]!) best = index;
  return Math.min(to, from + Math.round((best + 0.5) * window));
}
