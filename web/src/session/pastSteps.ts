/** The steps of undo from before a session: a document's revisions, asked for a page at a time and only when they are wanted. */
import { NO_PAST, stepOf, withNewer, withOlder, type History, type Patch, type RevisionView } from '@zest-jaw/core';

export interface Past {
  /** Everything up to this revision may still be asked for; 0 when all of it is known. */
  readonly upTo: number;
  /** The revisions of the oldest step known, newest first: what is older may belong to it. */
  readonly pending: readonly Patch[];
  readonly ended: (typeof NO_PAST)['ended'];
  /** No new change has been found or made so far: what was taken back before can be done again. */
  readonly isRedoable: boolean;
}

export const pastUpTo = (revision: number): Past => ({ upTo: revision, pending: [], ended: NO_PAST.ended, isRedoable: true });

/** History with older patches put below, newest first. With `isAll`, none is older than these. */
export function withOlderPatches(
  history: History,
  past: Past,
  patches: readonly Patch[],
  isAll: boolean,
): { readonly history: History; readonly past: Past } {
  const rows = [...past.pending, ...patches];
  const last = rows.at(-1);
  const oldest = last && (last.undoes ?? last.redoes ?? stepOf(last));
  let whole = rows.length;
  if (!isAll && last && last.undoes === undefined && last.redoes === undefined)
    while (whole > 0 && stepOf(rows[whole - 1]!) === oldest && rows[whole - 1]!.undoes === undefined) whole -= 1;
  const { ended, isRedoable } = past;
  const steps = withOlder({ ...NO_PAST, ended, isRedoable }, rows.slice(0, whole));
  return {
    history: {
      done: withNewer(steps.done, history.done),
      undone: [...steps.undone, ...history.undone],
      lastAtMs: history.lastAtMs,
    },
    past: { ...past, pending: rows.slice(whole), ended: steps.ended, isRedoable: steps.isRedoable },
  };
}

/** The same with a page of revisions as the server answers it. */
export function withPage(history: History, past: Past, page: readonly RevisionView[]): { readonly history: History; readonly past: Past } {
  const oldest = page.at(-1)?.revision ?? 1;
  const isAll = oldest <= 1;
  const next = withOlderPatches(
    history,
    past,
    page.map(({ patch }) => patch),
    isAll,
  );
  return { history: next.history, past: { ...next.past, upTo: isAll ? 0 : oldest - 1 } };
}
