/** A mouth on the sheet that is not in its chart any more. */
import { heldIn, inFrames } from '../checkedLane.js';
import type { Kind } from '../kind.js';

export const drawingGone: Kind = {
  id: 'drawing-gone',
  name: 'A drawing that is gone',
  about: 'Frames that show a drawing which its chart no longer has: nothing is seen there.',
  find: (lane) =>
    lane.held
      .filter(({ art }) => !art)
      .map((held) => {
        const { from, to, drawing } = held;
        const asked = lane.shapes.find((shape) => shape.end > from && shape.target < to);
        const [before] = heldIn(lane, from - 1, from);
        const instead = asked?.drawing ?? before?.drawing;
        return {
          from,
          to,
          why: `The drawing “${drawing}” is not in its chart any more, and ${inFrames(lane, from, to)} show it.`,
          sure: 1,
          weight: 3 as const,
          mends: [
            { do: 'plan' as const, track: lane.track.id, from, to },
            ...(instead === undefined
              ? []
              : [{ do: 'lay' as const, track: lane.track.id, from, to, pieces: [{ from, to, drawing: instead }] }]),
          ],
        };
      }),
};
