/** A document as it was at an earlier revision: what came after it taken back, newest first. */
import { applyPatch, invertPatch, type DocumentKind, type RevisionView } from '@zest-jaw/core';

/** The page answers its eye and hand between two patches at least this often, in milliseconds. */
const AT_A_TIME_MS = 8;

const breath = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/**
 * @param document as it is after the newest of the rows
 * @param rows newest first, without a gap
 */
export async function documentAt<D>(kind: DocumentKind<D>, document: D, rows: readonly RevisionView[], revision: number): Promise<D> {
  let at = document;
  let since = performance.now();
  for (const row of rows) {
    if (row.revision <= revision) break;
    at = applyPatch(kind, at, invertPatch(row.patch, ''));
    if (performance.now() - since < AT_A_TIME_MS) continue;
    await breath();
    since = performance.now();
  }
  return at;
}
