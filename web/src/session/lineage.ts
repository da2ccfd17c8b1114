/** By which patch a document came out of another: what is known need not be found out by comparing. */
import type { Patch } from '@zest-jaw/core';

interface Origin {
  readonly before: WeakRef<object>;
  readonly patch: Patch;
}

const origins = new WeakMap<object, Origin>();

/** Further back is not looked. */
const FARTHEST = 64;

export function rememberStep(before: object, patch: Patch, after: object): void {
  if (before !== after) origins.set(after, { before: new WeakRef(before), patch });
}

/** The patches that lead from one document to another, oldest first; undefined where that is not known. */
export function maybeStepsBetween(before: object, after: object): Patch[] | undefined {
  const patches: Patch[] = [];
  let now: object | undefined = after;
  while (now && now !== before && patches.length < FARTHEST) {
    const origin: Origin | undefined = origins.get(now);
    if (!origin) return undefined;
    patches.push(origin.patch);
    now = origin.before.deref();
  }
  return now === before ? patches.reverse() : undefined;
}
