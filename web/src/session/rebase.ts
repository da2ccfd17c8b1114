/**
 * Putting unconfirmed patches on a scene that has moved on meanwhile. Patches the server
 * already has are dropped by their id; the others go on top when every `before` still
 * matches.
 */
import { applyPatch, PatchMismatch, SCENE_KIND, type Patch, type SceneDocument } from '@zest-jaw/core';

export interface Rebased {
  readonly confirmed: SceneDocument;
  readonly document: SceneDocument;
  readonly unconfirmed: readonly Patch[];
}

/** undefined when the patches no longer fit. */
export function maybeRebase(confirmed: SceneDocument, since: readonly Patch[], unconfirmed: readonly Patch[]): Rebased | undefined {
  const known = new Set(since.map((patch) => patch.id));
  const moved = since.reduce((document, patch) => applyPatch(SCENE_KIND, document, patch), confirmed);
  const own = unconfirmed.filter((patch) => !known.has(patch.id));
  try {
    const document = own.reduce((scene, patch) => applyPatch(SCENE_KIND, scene, patch), moved);
    return { confirmed: moved, document, unconfirmed: own };
  } catch (error) {
    if (error instanceof PatchMismatch) return undefined;
    throw error;
  }
}
