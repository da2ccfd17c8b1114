/** The same two or three mouths in turn, again and again. */
import { frameCount, inFrames } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** So many mouths in a round, gone through so many times, are seen as a machine. */
const ROUNDS = { 2: 4, 3: 3 } as const;

export const sameTurn: Kind = {
  id: 'same-turn',
  name: 'The same mouths in turn',
  about: 'Two or three mouths that follow each other again and again, as a machine would do it.',
  find: (lane) => {
    const { held } = lane;
    const found: Found[] = [];
    let free = 0;
    for (let first = 0; first < held.length; first++) {
      if (first < free) continue;
      for (const round of [2, 3] as const) {
        let length = round;
        while (first + length < held.length && held[first + length]!.drawing === held[first + length - round]!.drawing) length += 1;
        const labels = held.slice(first, first + round).map(({ label }) => `“${label}”`);
        if (length < round * ROUNDS[round] || new Set(labels).size < round) continue;
        const [from, to] = [held[first]!.from, held[first + length - 1]!.to];
        found.push({
          from,
          to,
          why: `${labels.join(', ')} follow each other ${Math.floor(length / round)} times in ${inFrames(lane, from, to)} (${frameCount(to - from)}).`,
          sure: 0.7,
          weight: 1,
          mends: [{ do: 'plan', track: lane.track.id, from, to }],
        });
        free = first + length;
        break;
      }
    }
    return found;
  },
};
