/** A mouth of one frame that is no closure. */
import { heldIn, isApart, type CheckedLane, type HeldMouth } from '../checkedLane.js';
import { takenMouths } from '../closures.js';
import { offsetsOf } from '../offsets.js';
import type { Kind } from '../kind.js';
import type { Found, Mend } from '../note.js';

/** Under this many frames a second one frame is long enough to be read (common practice, no source). */
const READ_BELOW = 15;

/** The mouth before or after held over it: which of them is lost less is tried first. */
export function mendsOfJoin(lane: CheckedLane, { from, to, id }: HeldMouth): Mend[] {
  const around = [...heldIn(lane, from - 1, from), ...heldIn(lane, to, to + 1)].filter((one) => one.id !== id);
  return around.map(({ drawing }) => ({ do: 'lay', track: lane.track.id, from, to, pieces: [{ from, to, drawing }] }));
}

export const oneFrame: Kind = {
  id: 'one-frame',
  name: 'Mouths of one frame',
  about: 'A mouth of a single frame, too short to be read, that is not lips that must meet.',
  find: (lane) => {
    if (lane.fps < READ_BELOW) return [];
    const closures = takenMouths(lane);
    const ruled = new Map(offsetsOf(lane).map(({ held, shape }) => [held.id, shape.rules]));
    return lane.held.flatMap((held): Found[] => {
      const rules = ruled.get(held.id) ?? lane.rules;
      if (held.to - held.from !== 1 || rules.holdFrames < 2 || rules.onesFor === 'quick' || closures.has(held.id)) return [];
      if (held.from === 0 || held.to >= lane.lengthFrames || isApart(lane, held)) return [];
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${held.label}” is there for one frame, and the feel holds a mouth for ${rules.holdFrames} at least.`,
          sure: 0.9,
          weight: 1,
          mends: mendsOfJoin(lane, held),
        },
      ];
    });
  },
};
