/**
 * A line being shot, picture by picture: which mouth goes on now, how many pictures it stays for, what has been shot and
 * what is to be shot again. What stands is small and whole, so that the shoot goes on where it was left.
 */
import type { PullList, Shot } from './pullList.js';

/** What stands of a shoot: positions count the pictures of the line from 0. */
export interface ShootingState {
  /** The picture that is shot next; the number of pictures when none is left. */
  readonly at: number;
  /** Pictures that are shot, as half-open spans in order, disjoint and apart. */
  readonly shot: readonly (readonly [from: number, to: number])[];
  /** Pictures to be shot again, in order. */
  readonly again: readonly number[];
}

export const NOT_BEGUN: ShootingState = { at: 0, shot: [], again: [] };

/** One picture of the camera. */
export interface ShotPicture {
  readonly shot: Shot;
  /** Which of its mouth's pictures it is, from 1. */
  readonly nth: number;
  /** The scene frame it is of, from 0. */
  readonly frame: number;
}

/** Every picture of a line, in the order they are shot. */
export function picturesOfPull({ shots }: PullList): ShotPicture[] {
  return shots.flatMap((shot) => {
    const each = Math.ceil(shot.frames / shot.pictures);
    return Array.from({ length: shot.pictures }, (_, index) => ({ shot, nth: index + 1, frame: shot.frame + index * each }));
  });
}

export function isShot({ shot }: ShootingState, picture: number): boolean {
  return shot.some(([from, to]) => from <= picture && picture < to);
}

/** How many are shot, those to be shot again not counted. */
export function countShot({ shot, again }: ShootingState): number {
  return shot.reduce((sum, [from, to]) => sum + to - from, 0) - again.length;
}

function withSpan(shot: ShootingState['shot'], from: number, to: number): ShootingState['shot'] {
  const merged: [number, number][] = [];
  for (const [a, b] of [...shot, [from, to] as const].sort((x, y) => x[0] - y[0])) {
    const last = merged.at(-1);
    if (last && a <= last[1]) last[1] = Math.max(last[1], b);
    else merged.push([a, b]);
  }
  return merged;
}

/** The first picture from one on that is not shot, or is to be shot again; then from the beginning; the count when there is none. */
function nextToShoot(state: ShootingState, from: number, count: number): number {
  const isWanted = (picture: number): boolean => !isShot(state, picture) || state.again.includes(picture);
  for (let picture = from; picture < count; picture++) if (isWanted(picture)) return picture;
  for (let picture = 0; picture < Math.min(from, count); picture++) if (isWanted(picture)) return picture;
  return count;
}

/**
 * The picture at hand is shot, and the next is at hand.
 *
 * @param inOneGo the rest of this mouth's pictures are shot with it, as by a camera that takes several
 */
export function shootNow(state: ShootingState, pictures: readonly ShotPicture[], inOneGo: boolean): ShootingState {
  const own = pictures[state.at];
  if (!own) return state;
  let to = state.at + 1;
  while (inOneGo && pictures[to]?.shot === own.shot) to += 1;
  const taken = {
    ...state,
    shot: withSpan(state.shot, state.at, to),
    again: state.again.filter((picture) => picture < state.at || picture >= to),
  };
  return { ...taken, at: nextToShoot(taken, to, pictures.length) };
}

/** Goes to the picture before, or after; what is shot stays shot until it is shot again. */
export function stepShoot(state: ShootingState, by: -1 | 1, count: number): ShootingState {
  return { ...state, at: Math.max(0, Math.min(count, state.at + by)) };
}

/** Marks the picture at hand to be shot again, where it is shot; else the one before it, which is seen to be wrong right after. */
export function markAgain(state: ShootingState): ShootingState {
  const picture = isShot(state, state.at) ? state.at : state.at - 1;
  if (picture < 0 || !isShot(state, picture)) return state;
  const again = state.again.includes(picture)
    ? state.again.filter((one) => one !== picture)
    : [...state.again, picture].sort((a, b) => a - b);
  return { ...state, again };
}

/** Marks pictures to be shot again, those of them that are shot. */
export function markAllAgain(state: ShootingState, pictures: readonly number[]): ShootingState {
  const again = new Set([...state.again, ...pictures.filter((picture) => isShot(state, picture))]);
  return { ...state, again: [...again].sort((a, b) => a - b) };
}

/** Whether something is the state of a shoot of so many pictures; anything may be passed. */
export function isShootingState(candidate: unknown, mostPictures: number): candidate is ShootingState {
  const { at, shot, again } = (candidate ?? {}) as Partial<ShootingState>;
  const isPlace = (value: unknown): value is number =>
    Number.isInteger(value) && (value as number) >= 0 && (value as number) <= mostPictures;
  return (
    isPlace(at) &&
    Array.isArray(shot) &&
    shot.every(
      (span: unknown, index) =>
        Array.isArray(span) &&
        span.length === 2 &&
        isPlace(span[0]) &&
        isPlace(span[1]) &&
        span[0] < span[1] &&
        (index === 0 || span[0] > shot[index - 1]![1]),
    ) &&
    Array.isArray(again) &&
    again.every((one: unknown, index) => isPlace(one) && (index === 0 || one > again[index - 1]!))
  );
}
