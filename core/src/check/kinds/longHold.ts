/** One mouth that stands still through much speech. */
import { isApart, lostAs } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** Sounds that lose this much by a mouth are said by another. */
const LOST_ABOVE = 0.25;

export const longHold: Kind = {
  id: 'long-hold',
  name: 'Stuck in speech',
  about: 'One mouth that is held so long, while sounds go by that look different.',
  find: (lane) => {
    let at = 0;
    return lane.held.flatMap((held): Found[] => {
      while (at < lane.shapes.length - 1 && lane.shapes[at]!.end <= held.from) at += 1;
      let [spoken, others] = [0, 0];
      for (let index = at; index < lane.shapes.length && lane.shapes[index]!.target < held.to; index++) {
        const shape = lane.shapes[index]!;
        if (shape.isPause) continue;
        const frames = Math.min(held.to, shape.end) - Math.max(held.from, shape.target);
        if (frames <= 0) continue;
        spoken += frames;
        if (lostAs(shape, held) > LOST_ABOVE) others += 1;
      }
      if (spoken / lane.fps <= lane.limits.longHold || others < 2 || !held.art || isApart(lane, held)) return [];
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${held.label}” is held through ${(spoken / lane.fps).toFixed(2)} s of speech, and ${others} sounds in it look otherwise.`,
          sure: 0.85,
          weight: 2,
          mends: [{ do: 'plan', track: lane.track.id, from: held.from, to: held.to }],
        },
      ];
    });
  },
};
