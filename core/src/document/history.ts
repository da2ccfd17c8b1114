/**
 * Undo and redo as two stacks of patches. Changes with the same reason to the same
 * records within half a second are one step, so that a drag is undone at once.
 */
import { invertPatch, mergePatches, recordsOfPatch, type Patch } from './patch.js';

/** Steps closer together than this may join, in milliseconds. */
export const JOIN_WITHIN_MS = 500;

export interface History {
  readonly done: readonly Patch[];
  readonly undone: readonly Patch[];
  /** When the last step was recorded, in milliseconds of whatever clock the caller keeps. */
  readonly lastAtMs: number;
}

export const NO_HISTORY: History = { done: [], undone: [], lastAtMs: Number.NEGATIVE_INFINITY };

/** True when two patches change the same records for the same reason: parts of one gesture. */
export function areOfOneGesture(earlier: Patch | undefined, later: Patch): earlier is Patch {
  if (!earlier || earlier.reason !== later.reason) return false;
  const [a, b] = [recordsOfPatch(earlier), recordsOfPatch(later)];
  return a.length === b.length && a.every((record, index) => record === b[index]);
}

/** History after a new change; what was undone can no longer be redone. */
export function recordChange(history: History, patch: Patch, atMs: number): History {
  const last = history.done.at(-1);
  if (history.undone.length === 0 && atMs - history.lastAtMs <= JOIN_WITHIN_MS && areOfOneGesture(last, patch)) {
    return { done: [...history.done.slice(0, -1), mergePatches(last, patch)], undone: [], lastAtMs: atMs };
  }
  return { done: [...history.done, patch], undone: [], lastAtMs: atMs };
}

/** The patch that undoes the last step, and the history after it; undefined with nothing to undo. */
export function maybeUndo(history: History, id: string): { patch: Patch; history: History } | undefined {
  const last = history.done.at(-1);
  if (!last) return undefined;
  return {
    patch: invertPatch(last, id),
    history: { done: history.done.slice(0, -1), undone: [...history.undone, last], lastAtMs: Number.NEGATIVE_INFINITY },
  };
}

/** The patch that does the last undone step again, and the history after it. */
export function maybeRedo(history: History, id: string): { patch: Patch; history: History } | undefined {
  const last = history.undone.at(-1);
  if (!last) return undefined;
  return {
    patch: { ...last, id },
    history: { done: [...history.done, last], undone: history.undone.slice(0, -1), lastAtMs: Number.NEGATIVE_INFINITY },
  };
}
