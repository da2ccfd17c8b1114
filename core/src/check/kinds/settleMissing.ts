/** A mouth that snaps shut before the last sound of its phrase has ended. */
import { frameCount, heldIn, inWord, seenDrawing } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** A rest may come so much before its time, in seconds. */
const SNAPS_AT = 0.09;

export const settleMissing: Kind = {
  id: 'settle-missing',
  name: 'No settle',
  about: 'A phrase whose last mouth is cut off: it shuts while its last sound is still heard.',
  find: (lane) =>
    lane.shapes.flatMap((shape): Found[] => {
      const last = lane.shapes[shape.at - 1];
      if (!shape.isPause || !last || last.isPause || last.musts.length > 0) return [];
      if (!seenDrawing(shape.chart, shape.drawing).isShut || seenDrawing(last.chart, last.drawing).isShut) return [];
      const from = Math.ceil(shape.target);
      const [at] = heldIn(lane, Math.floor(last.end - 1e-6) - 1, Math.floor(last.end - 1e-6));
      const rest = heldIn(lane, Math.max(0, from - 6), from).find((held) => held.isShut && held.to >= from);
      if (!rest || !at || from >= lane.lengthFrames) return [];
      const early = from - rest.from;
      // What is missing of the settle is missed only where the sound itself is cut.
      const cut = early - last.rules.settleFrames;
      if (cut <= SNAPS_AT * lane.fps - 1 || early < 2 || rest.plays.length > 0) return [];
      const [before] = heldIn(lane, rest.from - 1, rest.from);
      const sound = last.sounds.at(-1);
      if (!before || before.isShut || sound === undefined) return [];
      return [
        {
          from: rest.from,
          to: from,
          why: `The mouth shuts ${frameCount(early)} before the feel lets it, while the end${inWord(lane, sound)} is still heard.`,
          sure: 0.75,
          weight: 2,
          mends: [
            {
              do: 'lay',
              track: lane.track.id,
              from: rest.from,
              to: from,
              pieces: [{ from: rest.from, to: from, drawing: before.drawing }],
            },
          ],
        },
      ];
    }),
};
