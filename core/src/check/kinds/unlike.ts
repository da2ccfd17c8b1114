/** A mouth that goes from shut to wide open, or back, at once, where there is room for one between. */
import { canBeMadeOf, mixId } from '../../draw/madeDrawings.js';
import { canMix } from '../../draw/mixLooks.js';
import { isApart, type CheckedLane, type HeldMouth } from '../checkedLane.js';
import { takenMouths } from '../closures.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** Under this rate a jump is the style (common practice, no source). */
const SEEN_ABOVE = 20;

/** The drawing half way between two, by how open and how wide they are. */
function between({ held: all }: CheckedLane, a: HeldMouth, b: HeldMouth): string | undefined {
  const [opening, width] = [(a.opening + b.opening) / 2, (a.width + b.width) / 2];
  const away = (one: HeldMouth): number => Math.abs(one.opening - opening) + Math.abs(one.width - width) / 2;
  const found = all.filter(({ isShut, chart }) => !isShut && chart === a.chart).sort((one, other) => away(one) - away(other))[0];
  if (found && Math.abs(found.opening - opening) < 0.3) return found.drawing;
  // Where the chart has none, one that is made of the two.
  return a.art && b.art && canBeMadeOf(a.drawing) && canBeMadeOf(b.drawing) && canMix(a.art, b.art)
    ? mixId(a.drawing, b.drawing, 0.5)
    : undefined;
}

export const unlike: Kind = {
  id: 'unlike',
  name: 'A jump',
  about: 'From shut to wide open, or back, at once, where a mouth between the two has room.',
  find: (lane) => {
    if (lane.fps < SEEN_ABOVE || lane.rules.strict || lane.rules.mostChanges > 0) return [];
    const musts = takenMouths(lane);
    return lane.held.flatMap((held, index): Found[] => {
      const before = lane.held[index - 1];
      if (!before || before.to !== held.from || before.chart !== held.chart || !before.art || !held.art) return [];
      const jump = Math.abs(held.opening - before.opening);
      const hold = lane.rules.holdFrames;
      // Lips that burst open are meant to jump.
      if (jump <= lane.limits.unlike || musts.has(before.id) || musts.has(held.id) || isApart(lane, held)) return [];
      if (before.to - before.from < 3 * hold) return [];
      const middle = between(lane, before, held);
      if (middle === undefined) return [];
      const from = held.from - hold;
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${before.label}” to “${held.label}” is a jump of ${Math.round(jump * 100)} % of the widest, and there is room for a mouth between.`,
          sure: 0.5,
          weight: 1,
          mends: [{ do: 'lay', track: lane.track.id, from, to: held.from, pieces: [{ from, to: held.from, drawing: middle }] }],
        },
      ];
    });
  },
};
