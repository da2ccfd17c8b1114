/** Patches the server has not acknowledged, kept in IndexedDB so that a closed tab loses nothing. */
import type { Patch } from '@zest-jaw/core';
import { del, get, set } from 'idb-keyval';

/** A patch that the server would not have, and what it said. */
export interface RefusedPatch {
  readonly patch: Patch;
  readonly sentence: string;
}

export interface Unsaved {
  readonly baseRevision: number;
  readonly patches: readonly Patch[];
  readonly refused?: readonly RefusedPatch[];
}

/** How long the browser may take to look, in milliseconds; some never answer in a private window. */
const PATIENCE_MS = 3000;

const keyOf = (address: string): string => `unsaved:${address}`;

let tellsNothingIsKept: (() => void) | undefined;

/** Calls back, once, when the browser turns out to keep nothing. */
export function onNothingKept(tell: () => void): void {
  tellsNothingIsKept = tell;
}

/** What the store answers, or undefined where there is none. */
async function maybeFromStore<T>(ask: () => Promise<T>): Promise<T | undefined> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tooLate = new Promise<never>((_, reject) => (timer = setTimeout(() => reject(new Error('no answer')), PATIENCE_MS)));
  try {
    return await Promise.race([ask(), tooLate]);
  } catch {
    // Private windows may refuse IndexedDB, and a full disk too; the patches are still in memory and on their way.
    tellsNothingIsKept?.();
    tellsNothingIsKept = undefined;
    return undefined;
  } finally {
    clearTimeout(timer);
  }
}

export function loadUnsaved(address: string): Promise<Unsaved | undefined> {
  return maybeFromStore(() => get<Unsaved>(keyOf(address)));
}

export async function keepUnsaved(address: string, unsaved: Unsaved): Promise<void> {
  const isEmpty = unsaved.patches.length === 0 && (unsaved.refused ?? []).length === 0;
  await maybeFromStore(() => (isEmpty ? del(keyOf(address)) : set(keyOf(address), unsaved)));
}
