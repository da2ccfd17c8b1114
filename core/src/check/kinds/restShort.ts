/** A rest between two phrases that is over before it is seen. */
import { frameCount, inFrames, seenDrawing } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import { restPauses } from '../pauses.js';
import { openInPause } from './openInPause.js';

/** A rest shorter than this is a blink, in seconds. */
const SEEN_AFTER = 0.12;

export const restShort: Kind = {
  id: 'rest-short',
  name: 'A rest cut short',
  about: 'A pause that is long enough to rest in, and the mouth rests for a blink only.',
  find: (lane) => {
    const open = openInPause.find(lane);
    return restPauses(lane).flatMap((pause): Found[] => {
      const { from, to, shut, shape } = pause;
      const wanted = Math.min(to - from, Math.max(2, Math.round(SEEN_AFTER * lane.fps)));
      if (from === 0 || to >= lane.lengthFrames || to - from < 2 * wanted || shut >= wanted) return [];
      if (!seenDrawing(shape.chart, shape.drawing).isShut || open.some((one) => one.from < to && one.to > from)) return [];
      return [
        {
          from,
          to,
          why: `In ${inFrames(lane, from, to)} nobody speaks for ${frameCount(to - from)}, and the mouth rests for ${shut === 0 ? 'none of them' : `${shut} of them`}.`,
          sure: 0.8,
          weight: 2,
          mends: [
            { do: 'lay', track: lane.track.id, from, to, pieces: [{ from, to, drawing: shape.drawing }] },
            { do: 'plan', track: lane.track.id, from: Math.max(0, from - 4), to: Math.min(lane.lengthFrames, to + 4) },
          ],
        },
      ];
    });
  },
};
