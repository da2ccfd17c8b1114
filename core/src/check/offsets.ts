/** How far each mouth begins from where its sound asks for it. */
import { isApart, lostAs, type AskedShape, type CheckedLane, type HeldMouth } from './checkedLane.js';
import { indexAtSorted } from '../scene/exposures.js';

export interface MouthOffset {
  readonly held: HeldMouth;
  readonly shape: AskedShape;
  /** In frames; positive is late. What the feel asks for is 0: its lead is in it. */
  readonly offset: number;
}

/** A mouth that loses no more than this of a sound plays it. */
const PLAYS_BELOW = 0.06;
/** A sound further away than this is not the one a mouth is for, in seconds. */
const REACH = 0.4;

const known = new WeakMap<CheckedLane, readonly MouthOffset[]>();

/**
 * Each mouth that plays a sound, with the shape it is for: by what it says it plays, as far as that is still there and asks
 * for it; else the nearest sound that it shows. Rests and what goes by loudness are not counted.
 */
export function offsetsOf(lane: CheckedLane): readonly MouthOffset[] {
  let offsets = known.get(lane);
  if (!offsets) known.set(lane, (offsets = measure(lane)));
  return offsets;
}

function measure(lane: CheckedLane): MouthOffset[] {
  const { shapes, held, sounds, fps } = lane;
  const bySound = new Map<string, AskedShape[]>();
  for (const shape of shapes)
    for (const sound of shape.sounds) {
      const id = sounds[sound]!.id;
      const of = bySound.get(id);
      if (of) of.push(shape);
      else bySound.set(id, [shape]);
    }
  const reach = REACH * fps;
  return held.flatMap((one): MouthOffset[] => {
    if (one.from === 0 || !one.art || isApart(lane, one)) return [];
    const away = ({ target }: AskedShape): number => one.from - Math.max(0, target);
    const isOf = (shape: AskedShape): boolean => !shape.isPause && lostAs(shape, one) <= PLAYS_BELOW;
    let candidates = one.plays.flatMap((id) => bySound.get(id) ?? []).filter(isOf);
    if (candidates.length === 0 && one.plays.length === 0) {
      const first = Math.max(
        0,
        indexAtSorted(shapes, one.from - reach, ({ target }) => target),
      );
      for (let at = first; at < shapes.length && shapes[at]!.target <= one.from + reach; at++)
        if (isOf(shapes[at]!) && Math.abs(away(shapes[at]!)) <= reach) candidates = [...candidates, shapes[at]!];
    }
    const nearest = candidates.reduce<AskedShape | undefined>(
      (best, shape) => (!best || Math.abs(away(shape)) < Math.abs(away(best)) ? shape : best),
      undefined,
    );
    return nearest ? [{ held: one, shape: nearest, offset: away(nearest) }] : [];
  });
}

/** The middle of some numbers; 0 for none. */
export function medianOf(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** Fewer mouths than this say nothing of a lane. */
const ENOUGH = 10;

/** How late the whole lane is, in whole frames: 0 where its mouths do not agree. */
export function laneOffset(lane: CheckedLane): number {
  const offsets = offsetsOf(lane).map(({ offset }) => offset);
  if (offsets.length < ENOUGH) return 0;
  const median = medianOf(offsets);
  const spread = medianOf(offsets.map((offset) => Math.abs(offset - median)));
  const by = Math.round(median);
  return Math.abs(median) >= 1.5 && spread <= Math.abs(median) / 1.5 ? by : 0;
}
