/**
 * Putting unconfirmed patches on a document that has moved on meanwhile. Patches the server
 * already has are dropped by their id; the others go on top when every `before` still
 * matches.
 */
import { applyPatch, PatchMismatch, type DocumentKind, type Patch } from '@zest-jaw/core';

export interface Rebased<D> {
  readonly confirmed: D;
  readonly document: D;
  readonly unconfirmed: readonly Patch[];
}

/** undefined when the patches no longer fit. */
export function maybeRebase<D>(
  kind: DocumentKind<D>,
  confirmed: D,
  since: readonly Patch[],
  unconfirmed: readonly Patch[],
): Rebased<D> | undefined {
  const known = new Set(since.map((patch) => patch.id));
  const moved = since.reduce((document, patch) => applyPatch(kind, document, patch), confirmed);
  const own = unconfirmed.filter((patch) => !known.has(patch.id));
  try {
    const document = own.reduce((document, patch) => applyPatch(kind, document, patch), moved);
    return { confirmed: moved, document, unconfirmed: own };
  } catch (error) {
    if (error instanceof PatchMismatch) return undefined;
    throw error;
  }
}
