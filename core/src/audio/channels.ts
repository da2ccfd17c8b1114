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

function product(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let index = 0; index < a.length; index++) sum += a[index]! * b[index]!;
  return sum;
}

const listed = (numbers: readonly number[]): string => numbers.map((number) => number + 1).join(' and ');

/** @param channels at least one, all of the same length, −1 to 1 */
export function mixChannels(channels: readonly Float32Array[]): Mixed {
  const [first, ...others] = channels;
  if (others.length === 0) return { samples: first!, notes: [] };
  const powers = channels.map((channel) => product(channel, channel));
  const loudest = Math.max(...powers);
  if (loudest === 0) return { samples: new Float32Array(first!.length), notes: [] };
  const indexes = channels.map((_, index) => index);
  const full = indexes.filter((index) => powers[index]! >= loudest * EMPTY_BELOW);
  const empty = indexes.filter((index) => !full.includes(index));
  const lead = powers.indexOf(loudest);
  const turned = full.filter((index) => {
    if (index === lead) return false;
    return product(channels[lead]!, channels[index]!) / Math.sqrt(powers[lead]! * powers[index]!) < MIRRORED_BELOW;
  });
  const samples = new Float32Array(first!.length);
  for (const index of full) {
    const share = (turned.includes(index) ? -1 : 1) / full.length;
    const channel = channels[index]!;
    for (let at = 0; at < samples.length; at++) samples[at]! += channel[at]! * share;
  }
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
  return { samples, notes };
}
