/**
 * Putting unconfirmed patches on a document that has moved on meanwhile. Patches the server
 * already has are dropped by their id; the others go on top when every `before` still
 * matches.
 */
import { applyPatch, type DocumentKind, type Patch } from '@zest-jaw/core';

export interface Rebased<D> {
  readonly confirmed: D;
  readonly document: D;
  readonly unconfirmed: readonly Patch[];
}

/** undefined when the patches no longer fit, neither the server's on what was confirmed nor the own ones on those. */
export function maybeRebase<D>(
  kind: DocumentKind<D>,
  confirmed: D,
  since: readonly Patch[],
  unconfirmed: readonly Patch[],
): Rebased<D> | undefined {
  const known = new Set(since.map((patch) => patch.id));
  const own = unconfirmed.filter((patch) => !known.has(patch.id));
  try {
    const moved = since.reduce((document, patch) => applyPatch(kind, document, patch), confirmed);
    const document = own.reduce((document, patch) => applyPatch(kind, document, patch), moved);
    return { confirmed: moved, document, unconfirmed: own };
  } catch {
    // A mismatch, or what the server sent is no patch at all: nothing is known of its document then, and ours is kept.
    return undefined;
  }
}

/** A document with as many of the patches as go on top of it, one at a time; what did not fit is told. */
export function withWhatFits<D>(
  kind: DocumentKind<D>,
  confirmed: D,
  patches: readonly Patch[],
): { readonly document: D; readonly fitting: readonly Patch[]; readonly others: readonly Patch[] } {
  const fitting: Patch[] = [];
  const others: Patch[] = [];
  let document = confirmed;
  for (const patch of patches) {
    const rebased = maybeRebase(kind, document, [], [patch]);
    (rebased ? fitting : others).push(patch);
    document = rebased?.document ?? document;
  }
  return { document, fitting, others };
}
