/** Patches the server has not acknowledged, kept in IndexedDB so that a closed tab loses nothing. */
import type { Patch } from '@zest-jaw/core';
import { del, get, set } from 'idb-keyval';

export interface Unsaved {
  readonly baseRevision: number;
  readonly patches: readonly Patch[];
}

const keyOf = (sceneId: string): string => `unsaved:${sceneId}`;

export async function loadUnsaved(sceneId: string): Promise<Unsaved | undefined> {
  return get<Unsaved>(keyOf(sceneId)).catch(() => undefined);
}

export async function keepUnsaved(sceneId: string, unsaved: Unsaved): Promise<void> {
  const write = unsaved.patches.length === 0 ? del(keyOf(sceneId)) : set(keyOf(sceneId), unsaved);
  // Private windows may refuse IndexedDB; the patches are still in memory and on their way.
  await write.catch(() => undefined);
}
