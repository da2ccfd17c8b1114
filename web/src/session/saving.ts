/**
 * What an answer to a sent patch means. A patch is kept until the server says that it has it:
 * only a plain refusal (the patch itself cannot be used) drops it, and nothing else does.
 */
import type { RevisionView } from '@zest-jaw/core';
import { ApiProblem, sentenceOf, Unreachable } from '../api/http.js';

export type SendAnswer =
  /** The server has it, as this revision. */
  | { readonly kind: 'accepted'; readonly revision: number }
  /** Others were quicker: take these in, and send it again. */
  | { readonly kind: 'behind'; readonly since: readonly RevisionView[] }
  /** The server's document is not the one this one began from. */
  | { readonly kind: 'apart'; readonly why: ConflictCause }
  /** The server will not have this patch. */
  | { readonly kind: 'refused'; readonly sentence: string }
  /** Nothing is known of it; it is sent again. */
  | { readonly kind: 'trouble'; readonly why: string };

/** Changed where our changes are; put back to what it was before; or removed. */
export type ConflictCause = 'changed' | 'older' | 'gone';

/** Statuses that speak of the patch itself. Everything else may be better next time. */
const REFUSALS = new Set([400, 422]);

const isWhole = (value: unknown): value is number => Number.isInteger(value);

/** @param base the revision the patch was sent on */
export function answerOfBody(base: number, body: unknown): SendAnswer {
  const revision = (body as { revision?: unknown } | null)?.revision;
  return isWhole(revision) && revision > base
    ? { kind: 'accepted', revision }
    : { kind: 'trouble', why: 'The server did not say whether it has your last change.' };
}

/** @param base the revision the patch was sent on */
export function answerOfError(base: number, error: unknown): SendAnswer {
  if (!(error instanceof ApiProblem)) return { kind: 'trouble', why: error instanceof Unreachable ? error.message : sentenceOf(error) };
  if (error.status === 404) return { kind: 'apart', why: 'gone' };
  if (error.status === 409) {
    const { patchesSince, revision } = error.body;
    const since = (Array.isArray(patchesSince) ? (patchesSince as RevisionView[]) : []).filter((one) => one.revision > base);
    if (since.length > 0) return { kind: 'behind', since };
    // Nothing newer, and yet another revision: an older database stands behind the page.
    if (isWhole(revision) && revision < base) return { kind: 'apart', why: 'older' };
    return { kind: 'trouble', why: 'The server says that this has changed, but not how.' };
  }
  // Or of who makes it: a guest's change will never be taken.
  if (REFUSALS.has(error.status) || error.body['isFinal'] === true) return { kind: 'refused', sentence: error.message };
  if (error.status === 413) return { kind: 'trouble', why: 'This change is too large for the server to take in one piece.' };
  return { kind: 'trouble', why: error.message };
}

const WAITS_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];

/** How long to wait before the next try, in milliseconds, after so many that failed in a row. */
export const waitAfter = (failures: number): number => WAITS_MS[Math.min(failures, WAITS_MS.length) - 1] ?? 0;
