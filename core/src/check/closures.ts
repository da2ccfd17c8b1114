/** Lips that must be seen, each with the mouths that are held about it. */
import { heldIn, type AskedShape, type CheckedLane, type HeldMouth } from './checkedLane.js';
import type { MustBeSeen } from '../keying/shapes.js';

export interface AskedClosure {
  readonly shape: AskedShape;
  readonly must: MustBeSeen;
  /** The mouths in the frames it must be seen in. */
  readonly there: readonly HeldMouth[];
  /** Of those the first that shows it. */
  readonly shown: HeldMouth | undefined;
}

/** Whether a mouth shows what a shape must show: any drawing of its group does. */
export const shows = ({ group, drawing }: AskedShape, held: HeldMouth): boolean =>
  held.drawing === drawing || (held.art?.groups.includes(group) ?? false);

const known = new WeakMap<CheckedLane, readonly AskedClosure[]>();

/** Every closure of the lane that lies in its frames. */
export function closuresOf(lane: CheckedLane): readonly AskedClosure[] {
  let closures = known.get(lane);
  if (!closures) {
    closures = lane.shapes.flatMap((shape) =>
      shape.musts
        .filter(({ first, last }) => first <= last && first < lane.lengthFrames)
        .map((must): AskedClosure => {
          const there = heldIn(lane, must.first, must.last + 1);
          return { shape, must, there, shown: there.find((held) => shows(shape, held)) };
        }),
    );
    known.set(lane, closures);
  }
  return closures;
}

/** The mouths that show a closure of their own: of another sound they are not the one that comes at the wrong time. */
export const takenMouths = (lane: CheckedLane): ReadonlySet<string> => new Set(closuresOf(lane).flatMap(({ shown }) => shown?.id ?? []));
