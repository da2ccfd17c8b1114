/**
 * Blinks in pencil: as many a minute as is asked for, where an eye expects them and no mouth is disturbed. The same scene
 * and seed give the same blinks.
 *
 * How often, and how many frames a blink takes (closing in 1, shut 1 or 2, opening in 2): common practice, no source.
 */
import { seededNumbers } from '../draw/seeded.js';
import type { Span } from '../time/span.js';

export interface BlinkRules {
  readonly perMinute: number;
  readonly seed: number;
}

export const BLINK_LIMITS = { least: 1, most: 40, seeds: 9999 } as const;
export const USUAL_BLINKS: BlinkRules = { perMinute: 12, seed: 1 };

/** Frames of a blink. */
const CLOSING = 1;
const OPENING = 2;

export interface BlinkJob {
  readonly rules: BlinkRules;
  readonly lengthFrames: number;
  readonly framesPerSecond: number;
  /** Frames at which a blink is expected: a phrase begins, the head turns, a long hold ends. */
  readonly expected: readonly number[];
  /** Frames in which none may lie: closures, the middles of stressed words, ink, turns to another chart. Sorted by where they begin. */
  readonly barred: readonly Span[];
}

export interface Blink {
  readonly from: number;
  /** First frame in which the eyes are shut. */
  readonly shutFrom: number;
  readonly shutTo: number;
  readonly to: number;
}

/** Which frames are barred. Shape: lengthFrames. */
function barredFrames({ barred, lengthFrames }: BlinkJob): Uint8Array {
  const frames = new Uint8Array(lengthFrames);
  for (const { from, to } of barred) frames.fill(1, Math.max(0, from), Math.max(0, Math.min(lengthFrames, to)));
  return frames;
}

/** @returns in order, none over another, none over what is barred */
export function planBlinks(job: BlinkJob): Blink[] {
  const { rules, lengthFrames, framesPerSecond, expected } = job;
  const next = seededNumbers(rules.seed);
  const barred = barredFrames(job);
  const every = (60 / rules.perMinute) * framesPerSecond;
  const isFree = (from: number, to: number): boolean => {
    if (from < 0 || to > lengthFrames) return false;
    for (let frame = from; frame < to; frame++) if (barred[frame]) return false;
    return true;
  };
  const blinks: Blink[] = [];
  // The first comes somewhere in the first stretch, as though the scene had begun before.
  let due = every * (0.25 + 0.75 * next());
  while (due < lengthFrames) {
    const shut = next() < 0.5 ? 1 : 2;
    const long = CLOSING + shut + OPENING;
    const reach = Math.max(1, Math.round(every * 0.35));
    const first = Math.max((blinks.at(-1)?.to ?? 0) + 1, Math.round(due) - reach);
    let best: { readonly from: number; readonly cost: number } | undefined;
    for (let from = first; from <= Math.round(due) + reach; from++) {
      if (!isFree(from, from + long)) continue;
      // Where one is expected the eyes are shut as it begins.
      const isExpected = expected.some((frame) => frame >= from && frame <= from + CLOSING + shut);
      const cost = Math.abs(from - due) / reach - (isExpected ? 1.2 : 0);
      if (!best || cost < best.cost) best = { from, cost };
    }
    if (best) {
      const { from } = best;
      blinks.push({ from, shutFrom: from + CLOSING, shutTo: from + CLOSING + shut, to: from + long });
    }
    // Where none fits it is tried again a little later.
    due = best ? best.from + every * (0.6 + 0.8 * next()) : due + reach;
  }
  return blinks;
}
