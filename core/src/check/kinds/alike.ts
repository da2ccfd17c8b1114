/** Two mouths in turn that look too alike to be read as a change. */
import { isApart, type HeldMouth } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import { mendsOfJoin } from './oneFrame.js';

/** How different two mouths are to the eye: the greatest of how open, how wide, how much teeth and how dark, as shares. */
export const differenceOf = (a: HeldMouth, b: HeldMouth): number =>
  Math.max(Math.abs(a.opening - b.opening), Math.abs(a.width - b.width), Math.abs(a.teeth - b.teeth), Math.abs(a.darkness - b.darkness));

export const alike: Kind = {
  id: 'alike',
  name: 'A change that is not seen',
  about: 'Two mouths one after the other that look so alike that the change is a twitch.',
  find: (lane) =>
    lane.held.flatMap((held, index): Found[] => {
      const before = lane.held[index - 1];
      if (!before || before.to !== held.from || before.drawing === held.drawing || before.chart !== held.chart) return [];
      if (!before.art || !held.art || isApart(lane, held)) return [];
      // Drawings of one group are meant to be alike.
      if (before.art.groups.some((group) => held.art!.groups.includes(group))) return [];
      const difference = differenceOf(before, held);
      if (difference >= lane.limits.alike) return [];
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${before.label}” and “${held.label}” differ by ${(difference * 100).toFixed(1)} % of the chart’s widest: nobody sees a change.`,
          sure: 0.7,
          weight: 1,
          mends: mendsOfJoin(lane, held).slice(0, 1),
        },
      ];
    }),
};
