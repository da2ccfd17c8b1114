/** All mouths of a lane late, or early, by the same. */
import { frameCount, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import { laneOffset, offsetsOf } from '../offsets.js';

const seconds = (frames: number, { fps }: CheckedLane): string => `${(Math.abs(frames) / fps).toFixed(2)} s`;

export const laneOff: Kind = {
  id: 'lane-off',
  name: 'The whole lane late or early',
  about: 'The mouths of the lane begin later, or earlier, than their sounds, nearly all of them by the same.',
  find: (lane) => {
    const by = laneOffset(lane);
    if (by === 0) return [];
    return [
      {
        from: 0,
        to: lane.lengthFrames,
        why: `Half of the ${offsetsOf(lane).length} mouths that play a sound are ${frameCount(Math.abs(by))} (${seconds(by, lane)}) ${by > 0 ? 'late' : 'early'} or more.`,
        sure: 0.95,
        weight: 3,
        mends: [{ do: 'slide', track: lane.track.id, by: -by }],
      },
    ];
  },
};
