/** Patches the server has not acknowledged, kept in IndexedDB so that a closed tab loses nothing. */
import type { Patch } from '@zest-jaw/core';
import { del, get, set } from 'idb-keyval';

export interface Unsaved {
  readonly baseRevision: number;
  readonly patches: readonly Patch[];
}

const keyOf = (address: string): string => `unsaved:${address}`;

export async function loadUnsaved(address: string): Promise<Unsaved | undefined> {
  return get<Unsaved>(keyOf(address)).catch(() => undefined);
}

export async function keepUnsaved(address: string, unsaved: Unsaved): Promise<void> {
  const write = unsaved.patches.length === 0 ? del(keyOf(address)) : set(keyOf(address), unsaved);
  // Private windows may refuse IndexedDB; the patches are still in memory and on their way.
  await write.catch(() => undefined);
}
