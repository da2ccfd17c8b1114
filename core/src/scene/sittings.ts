/** A scene's revisions as somebody would tell them: one line a step, in sittings, newest first. */
import type { RevisionView } from '../document/revision.js';
import { stepOf, type Patch } from '../document/patch.js';
import type { Span } from '../time/span.js';
import type { Exposure } from './sceneDocument.js';

/** A pause between two steps that ends a sitting, in milliseconds: half an hour. */
const SITTING_ENDS_AFTER_MS = 30 * 60 * 1000;

export interface ToldStep {
  /** The revision with all of it done. */
  readonly revision: number;
  readonly step: string;
  /** When its last part was done, in milliseconds since 1970. */
  readonly atMs: number;
  readonly reason: string;
  readonly how: 'done' | 'taken back' | 'done again';
  /** The frames of mouths it changed; undefined where it changed none. */
  readonly frames: Span | undefined;
  /** A reading that arrived, or whatever else the server did by itself. */
  readonly isByItself: boolean;
  /** Who did it, where people sign in. */
  readonly by?: string;
}

/** Steps of one sitting, newest first. */
export interface Sitting {
  readonly atMs: number;
  readonly steps: readonly ToldStep[];
}

/** The frames of the mouths that a patch touches; of a shift, from where time moves. */
function framesOfPatch({ ops }: Patch): Span | undefined {
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const op of ops) {
    if (op.table !== 'exposures') continue;
    if (op.op === 'shift') {
      [from, to] = [Math.min(from, op.at), Math.max(to, op.at + 1)];
      continue;
    }
    for (const record of [op.before, op.after] as (Exposure | null)[])
      if (record) [from, to] = [Math.min(from, record.from), Math.max(to, record.to)];
  }
  return from < to ? { from, to } : undefined;
}

const both = (a: Span | undefined, b: Span | undefined): Span | undefined =>
  a && b ? { from: Math.min(a.from, b.from), to: Math.max(a.to, b.to) } : (a ?? b);

/**
 * Revisions told in sittings.
 *
 * @param rows newest first, as the server answers them
 */
export function sittingsOf(rows: readonly RevisionView[]): Sitting[] {
  const steps: ToldStep[] = [];
  for (const { revision, patch, at, by } of rows) {
    const how = patch.undoes !== undefined ? 'taken back' : patch.redoes !== undefined ? 'done again' : 'done';
    const step = patch.undoes ?? patch.redoes ?? stepOf(patch);
    const last = steps.at(-1);
    const frames = framesOfPatch(patch);
    // The parts of one step follow one another; its first says what it was.
    if (last && last.step === step && last.how === how)
      steps[steps.length - 1] = { ...last, reason: patch.reason, frames: both(last.frames, frames) };
    else {
      const isByItself = patch.forAll === true;
      steps.push({ revision, step, atMs: Date.parse(at), reason: patch.reason, how, frames, isByItself, ...(by !== undefined && { by }) });
    }
  }
  const sittings: { atMs: number; steps: ToldStep[] }[] = [];
  for (const step of steps) {
    const open = sittings.at(-1);
    if (open && open.steps.at(-1)!.atMs - step.atMs < SITTING_ENDS_AFTER_MS) open.steps.push(step);
    else sittings.push({ atMs: step.atMs, steps: [step] });
  }
  return sittings;
}
