/** Where nobody speaks and the mouth should rest, with what is held there. */
import { heldIn, isApart, type AskedShape, type CheckedLane, type HeldMouth } from './checkedLane.js';

export interface RestPause {
  readonly shape: AskedShape;
  /** Whole frames in which it may rest, half-open: after the settle, before the mouth opens again. */
  readonly from: number;
  readonly to: number;
  readonly held: readonly HeldMouth[];
  /** Frames in it with a shut mouth. */
  readonly shut: number;
}

const known = new WeakMap<CheckedLane, readonly RestPause[]>();

export function restPauses(lane: CheckedLane): readonly RestPause[] {
  let pauses = known.get(lane);
  if (!pauses) {
    // Where a recording is not read nobody knows when somebody speaks; who has none does not.
    const { clips } = lane.scene;
    const isUnread = lane.sounds.length === 0 && (clips.length === 0 || clips.some((clip) => clip.characterId === lane.track.characterId));
    pauses = isUnread
      ? []
      : lane.shapes.flatMap((shape): RestPause[] => {
          // A relaxed mouth in a short pause is not a rest.
          if (!shape.isPause || !isRest(shape)) return [];
          const next = lane.shapes[shape.at + 1];
          const from = Math.max(0, Math.ceil(shape.target));
          const to = Math.min(lane.lengthFrames, next ? Math.floor(Math.min(shape.end, next.target)) : lane.lengthFrames);
          if (to <= from || isApart(lane, { from, to })) return [];
          const held = heldIn(lane, from, to);
          const shut = held.reduce((sum, one) => (one.isShut ? sum + Math.min(one.to, to) - Math.max(one.from, from) : sum), 0);
          return [{ shape, from, to, held, shut }];
        });
    known.set(lane, pauses);
  }
  return pauses;
}

/** Whether what a pause asks for is a rest. */
const isRest = ({ chart, drawing, group }: AskedShape): boolean =>
  chart.drawings.some(({ id, groups }) => id === drawing && groups.includes(group));
