/** Lips that must meet, or a lip that must be bitten, and no frame shows it. */
import { ipaOf } from '../../phonetics/ipa.js';
import { closuresOf, shows, takenMouths, type AskedClosure } from '../closures.js';
import { frameCount, heldIn, inFrames, inWord, sureOf, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found, Mend } from '../note.js';

/** A closure this near is the same one, too early or too late: in seconds. */
const NEAR = 0.25;

function mendsOf(lane: CheckedLane, { shape, must }: AskedClosure): Mend[] {
  const { first, last } = must;
  const track = lane.track.id;
  const lay = (from: number, to: number): Mend => ({ do: 'lay', track, from, to, pieces: [{ from, to, drawing: shape.drawing }] });
  const hold = Math.min(shape.rules.holdFrames, last - first + 1);
  const mends: Mend[] = [lay(first, first + hold)];
  if (hold > 1) mends.push(lay(first, first + 1));
  if (last > first) mends.push(lay(last, last + 1));
  mends.push({ do: 'plan', track, from: Math.max(0, first - 3), to: Math.min(lane.lengthFrames, last + 4) });
  return mends;
}

export const closureMissing: Kind = {
  id: 'closure-missing',
  name: 'Lips that never meet',
  about: 'A sound that is made by lips that meet, or by a lip on the teeth, and that no frame shows.',
  find: (lane) => {
    const taken = takenMouths(lane);
    return closuresOf(lane).flatMap((closure): Found[] => {
      const { shape, must, there, shown } = closure;
      if (shown) return [];
      const { symbol } = lane.sounds[must.sound]!;
      const reach = Math.round(NEAR * lane.fps);
      // One that comes at another time is told of as such.
      if (heldIn(lane, must.first - reach, must.last + 1 + reach).some((held) => shows(shape, held) && !taken.has(held.id))) return [];
      const labels = [...new Set(there.map(({ label }) => `“${label}”`))];
      const seen = labels.length === 0 ? 'nothing is' : `${labels.join(' and ')} ${labels.length === 1 ? 'is' : 'are'}`;
      const window = must.last + 1 - must.first;
      return [
        {
          from: must.first,
          to: must.last + 1,
          why: `/${ipaOf(symbol)}/${inWord(lane, must.sound)} can be seen in ${inFrames(lane, must.first, must.last + 1)} (${frameCount(window)}), and ${seen} there.`,
          sure: sureOf(lane, must.sound),
          weight: 3,
          mends: mendsOf(lane, closure),
          of: String(must.sound),
        },
      ];
    });
  },
};
