/**
 * Undo and redo as two stacks of steps, each step one patch. Changes with the same reason to
 * the same records within half a second are one step, and so is whatever was given one step
 * by name, so that a drag is undone at once.
 *
 * Each patch says which step it is of, takes back or does again. The stacks can therefore be
 * built from a document's revisions alone, newest first and a page at a time: undo reaches
 * over a reload to the document's first state.
 */
import { invertPatch, mergePatches, recordsOfPatch, stepOf, type Patch } from './patch.js';

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

/** The patch, as a part of the last step when it is of one gesture with it. */
export function joinedToLast(history: History, patch: Patch, atMs: number): Patch {
  const last = history.done.at(-1);
  if (patch.step !== undefined || history.undone.length > 0 || atMs - history.lastAtMs > JOIN_WITHIN_MS) return patch;
  return areOfOneGesture(last, patch) ? { ...patch, step: stepOf(last) } : patch;
}

/** A step with a further patch of it, under its first patch's name. */
const withPart = (step: Patch, part: Patch): Patch => ({ ...mergePatches(step, part), step: stepOf(step) });

/** The steps with one more patch: a part of its step where that is there, else a step on top. */
function withPatch(done: readonly Patch[], patch: Patch): readonly Patch[] {
  const at = done.findLastIndex((step) => stepOf(step) === stepOf(patch));
  return at < 0 ? [...done, patch] : done.with(at, withPart(done[at]!, patch));
}

/** Steps with newer ones on top. What is newer of an older step is a part of it, and stands where the step began. */
export function withNewer(older: readonly Patch[], newer: readonly Patch[]): readonly Patch[] {
  const late = new Map(newer.map((step) => [stepOf(step), step]));
  const own = older.map((step) => {
    const part = late.get(stepOf(step));
    late.delete(stepOf(step));
    return part ? withPart(step, part) : step;
  });
  return [...own, ...newer.filter((step) => late.has(stepOf(step)))];
}

/** History after a new change; what was undone can no longer be redone. */
export function recordChange(history: History, patch: Patch, atMs: number): History {
  return { done: withPatch(history.done, patch), undone: [], lastAtMs: atMs };
}

/** The patch that undoes the last step, and the history after it; undefined with nothing to undo. */
export function maybeUndo(history: History, id: string): { patch: Patch; history: History } | undefined {
  const last = history.done.at(-1);
  if (!last) return undefined;
  return {
    patch: { ...invertPatch(last, id), undoes: stepOf(last) },
    history: { done: history.done.slice(0, -1), undone: [...history.undone, last], lastAtMs: Number.NEGATIVE_INFINITY },
  };
}

/** The patch that does the last undone step again, and the history after it. */
export function maybeRedo(history: History, id: string): { patch: Patch; history: History } | undefined {
  const last = history.undone.at(-1);
  if (!last) return undefined;
  const { reason, ops } = last;
  return {
    patch: { id, reason, ops, redoes: stepOf(last) },
    history: { done: [...history.done, last], undone: history.undone.slice(0, -1), lastAtMs: Number.NEGATIVE_INFINITY },
  };
}

/** Without a step, wherever it stands. */
export function withoutStep(history: History, step: string): History {
  const others = (patches: readonly Patch[]): readonly Patch[] => patches.filter((patch) => stepOf(patch) !== step);
  return { ...history, done: others(history.done), undone: others(history.undone) };
}

/**
 * History after patches of others have come in. What they did stays theirs, but for what is
 * a step for all: that goes on the stack here too, and off it when somebody takes it back.
 */
export function withOthers(history: History, patches: readonly Patch[]): History {
  return patches.reduce((now, patch) => {
    if (patch.undoes !== undefined) return withoutStep(now, patch.undoes);
    if (!patch.forAll || patch.ops.length === 0) return now;
    return recordChange(now, patch, Number.NEGATIVE_INFINITY);
  }, history);
}

/** What has been made of a document's revisions so far, from the newest back. */
export interface PastSteps {
  /** Oldest first. The first one may have parts among revisions that are older still. */
  readonly done: readonly Patch[];
  readonly undone: readonly Patch[];
  /** How each step named so far ended: what is older of it is settled by that. */
  readonly ended: ReadonlyMap<string, 'done' | 'undone' | 'redone'>;
  /** No new change has been found so far: what was taken back before can be done again. */
  readonly isRedoable: boolean;
}

export const NO_PAST: PastSteps = { done: [], undone: [], ended: new Map(), isRedoable: true };

/**
 * The stacks with older revisions put below.
 *
 * @param patches newest first, each older than all that came before
 */
export function withOlder(past: PastSteps, patches: readonly Patch[]): PastSteps {
  const ended = new Map(past.ended);
  // Newest first while it is built.
  const done = [...past.done].reverse();
  const undone = [...past.undone].reverse();
  let { isRedoable } = past;
  for (const patch of patches) {
    if (patch.undoes !== undefined) {
      if (ended.has(patch.undoes)) continue;
      ended.set(patch.undoes, 'undone');
      if (isRedoable) undone.push({ ...invertPatch(patch, patch.id), step: patch.undoes });
      continue;
    }
    if (patch.redoes === undefined) isRedoable = false;
    const step = patch.redoes ?? stepOf(patch);
    const end = ended.get(step);
    if (end === 'undone' || end === 'redone') continue;
    if (patch.ops.length === 0) continue;
    ended.set(step, patch.redoes === undefined ? 'done' : 'redone');
    const { redoes: _, ...whole } = patch;
    const part = { ...whole, step };
    const at = end === 'done' ? done.findIndex((newer) => stepOf(newer) === step) : -1;
    // A step stands where it began, though a part of it came after steps that were begun later.
    if (at < 0) done.push(part);
    else done.push(withPart(part, done.splice(at, 1)[0]!));
  }
  return { done: done.reverse(), undone: undone.reverse(), ended, isRedoable };
}
