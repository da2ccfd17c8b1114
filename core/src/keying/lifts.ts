/**
 * Brows that go up on stressed words: on those whose stressed vowel is held longest, a moment before it, until the word ends.
 * That they lead the sound by two frames: common practice, no source.
 */
import { joined, type Span } from '../time/span.js';

export interface LiftRules {
  /** Of all stressed words, 0 to 1. */
  readonly share: number;
}

export const LIFT_LIMITS = { least: 0.05, most: 1 } as const;
export const USUAL_LIFTS: LiftRules = { share: 0.3 };

/** Frames by which brows are up before the vowel. */
const LEAD = 2;
/** Brows that would be down for fewer frames stay up. */
const SHORTEST_REST = 6;

/** A stressed word, in frames from its stressed vowel to its end. */
export interface StressedWord extends Span {
  /** How long the vowel is held, in any unit. */
  readonly held: number;
}

/** @returns when brows are up, in order, none over another */
export function planLifts({ share }: LiftRules, words: readonly StressedWord[], lengthFrames: number): Span[] {
  const wanted = Math.round(share * words.length);
  const chosen = [...words].sort((a, b) => b.held - a.held || a.from - b.from).slice(0, wanted);
  const lifts = chosen
    .map(({ from, to }) => ({ from: Math.max(0, from - LEAD), to: Math.min(lengthFrames, to + SHORTEST_REST) }))
    .sort((a, b) => a.from - b.from);
  // They were made longer so that near ones touch.
  return joined(lifts).map(({ from, to }) => ({ from, to: Math.max(from + 1, to === lengthFrames ? to : to - SHORTEST_REST) }));
}
