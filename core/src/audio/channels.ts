/**
 * Several channels as one, by what is in them: an empty channel costs no level, and two that
 * are each other's mirror (a plug wired the wrong way round) do not cancel each other out.
 */

/** A channel this far below the loudest one, in power, has nothing in it: 40 dB. */
const EMPTY_BELOW = 1e-4;
/** Channels more unlike than this, as a correlation from −1 to 1, are one sound turned over. */
const MIRRORED_BELOW = -0.6;

export interface Mixed {
  readonly samples: Float32Array;
  /** What was done, for the user; empty when nothing but mixing was. */
  readonly notes: readonly string[];
}

const listed = (numbers: readonly number[]): string => numbers.map((number) => number + 1).join(' and ');

/** What is taken of each channel. */
export interface ChannelPlan {
  /** By what each is multiplied before they are added up; −1 turns one over. */
  readonly shares: readonly number[];
  /** What was done, for the user; empty when nothing but mixing was. */
  readonly notes: readonly string[];
}

/** Channels measured piece by piece, so that a long sound need not be held. */
export interface ChannelMeasure {
  /** @param channels as many as were told, all of one length, −1 to 1 */
  push(channels: readonly Float32Array[]): void;
  plan(): ChannelPlan;
}

function planOf(products: readonly Float64Array[]): ChannelPlan {
  const count = products.length;
  if (count === 1) return { shares: [1], notes: [] };
  const powers = products.map((row, index) => row[index]!);
  const loudest = Math.max(...powers);
  if (loudest === 0) return { shares: powers.map(() => 0), notes: [] };
  const indexes = powers.map((_, index) => index);
  const full = indexes.filter((index) => powers[index]! >= loudest * EMPTY_BELOW);
  const empty = indexes.filter((index) => !full.includes(index));
  const lead = powers.indexOf(loudest);
  const turned = full.filter((index) => {
    if (index === lead) return false;
    const likeness = products[Math.min(lead, index)]![Math.max(lead, index)]! / Math.sqrt(powers[lead]! * powers[index]!);
    return likeness < MIRRORED_BELOW;
  });
  const shares = indexes.map((index) => (full.includes(index) ? (turned.includes(index) ? -1 : 1) / full.length : 0));
  const notes: string[] = [];
  if (empty.length > 0)
    notes.push(
      empty.length === 1
        ? `Channel ${listed(empty)} is empty: only the other${full.length === 1 ? ' is' : 's are'} heard.`
        : `Channels ${listed(empty)} are empty: only the other${full.length === 1 ? ' is' : 's are'} heard.`,
    );
  if (turned.length > 0)
    notes.push(
      `Channel ${listed(turned)} is channel ${lead + 1} turned over, as by a plug wired the wrong way round: it was turned back, or both would have cancelled out.`,
    );
  return { shares, notes };
}

export function measureChannels(count: number): ChannelMeasure {
  // The inner product of each channel with itself and with those after it.
  const products = Array.from({ length: count }, () => new Float64Array(count));
  return {
    push(channels) {
      if (count === 1) return;
      for (let left = 0; left < count; left++)
        for (let right = left; right < count; right++) {
          const [a, b] = [channels[left]!, channels[right]!];
          let sum = products[left]![right]!;
          for (let index = 0; index < a.length; index++) sum += a[index]! * b[index]!;
          products[left]![right] = sum;
        }
    },
    plan: () => planOf(products),
  };
}

/** Some of a sound by the plan of all of it. */
export function mixByPlan(channels: readonly Float32Array[], { shares }: ChannelPlan): Float32Array {
  if (channels.length === 1) return channels[0]!;
  const samples = new Float32Array(channels[0]!.length);
  for (const [index, share] of shares.entries()) {
    if (share === 0) continue;
    const channel = channels[index]!;
    for (let at = 0; at < samples.length; at++) samples[at]! += channel[at]! * share;
  }
  return samples;
}

/** @param channels at least one, all of the same length, −1 to 1 */
export function mixChannels(channels: readonly Float32Array[]): Mixed {
  const measure = measureChannels(channels.length);
  measure.push(channels);
  const plan = measure.plan();
  return { samples: mixByPlan(channels, plan), notes: plan.notes };
}
