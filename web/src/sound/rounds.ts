/**
 * What is heard when: a stretch of the scene played once or round after round, in samples of
 * the sound device's clock. Both directions of the mapping are here, so that the frame shown
 * is the frame heard by construction, in the hundredth round as in the first.
 *
 * Round k sounds from `startOf(k)` for `lengthSamples`; then comes the gap. The first round
 * may begin inside, at `firstSample`, when playing goes on from where it was.
 */

export interface Rounds {
  /** Scene samples, half-open. */
  readonly from: number;
  readonly to: number;
  readonly loop: boolean;
  /** How many times as long it takes as at full speed. */
  readonly slowness: number;
  /** Silence between two rounds, in samples of the device. */
  readonly gap: number;
  /** The device's sample at which `from` of round 0 sounds, or would have. */
  readonly startsAt: number;
  /** The scene sample with which round 0 begins. */
  readonly firstSample: number;
}

export type Heard =
  | { readonly kind: 'before' }
  | { readonly kind: 'sound'; readonly round: number; readonly sample: number }
  | { readonly kind: 'gap'; readonly round: number }
  | { readonly kind: 'over' };

/** Samples of the device that a round sounds. */
export const lengthOfRound = ({ from, to, slowness }: Rounds): number => Math.round((to - from) * slowness);

/** From the start of a round to the start of the next. */
export const period = (rounds: Rounds): number => Math.max(1, lengthOfRound(rounds) + rounds.gap);

export const startOf = (rounds: Rounds, round: number): number => rounds.startsAt + round * period(rounds);

/** The device's sample at which a round begins to sound. */
export const soundsFrom = (rounds: Rounds, round: number): number =>
  startOf(rounds, round) + (round === 0 ? Math.round((rounds.firstSample - rounds.from) * rounds.slowness) : 0);

/** What sounds at a sample of the device. */
export function heardAt(rounds: Rounds, at: number): Heard {
  if (at < soundsFrom(rounds, 0)) return { kind: 'before' };
  const since = at - rounds.startsAt;
  const round = Math.floor(since / period(rounds));
  if (round > 0 && !rounds.loop) return { kind: 'over' };
  const within = since - round * period(rounds);
  if (within >= lengthOfRound(rounds)) return rounds.loop ? { kind: 'gap', round } : { kind: 'over' };
  return { kind: 'sound', round, sample: Math.min(rounds.to - 1, rounds.from + Math.floor(within / rounds.slowness)) };
}

/**
 * The same sound going on with other ends or at another speed from the device's sample `at`:
 * what sounds then goes on if it lies inside, else the first round begins with its start.
 */
export function goingOn(rounds: Rounds, at: number, change: Partial<Pick<Rounds, 'from' | 'to' | 'slowness' | 'gap'>>): Rounds {
  const next = { ...rounds, ...change };
  const heard = heardAt(rounds, at);
  const sample = heard.kind === 'sound' ? heard.sample : heard.kind === 'before' ? rounds.firstSample : next.from;
  const firstSample = sample >= next.from && sample < next.to ? sample : next.from;
  return { ...next, firstSample, startsAt: at - Math.round((firstSample - next.from) * next.slowness) };
}
