/**
 * An open document, a scene or a chart: as the server has it, the patches on top that it has not
 * acknowledged yet, undo and redo, and an honest word on whether all is saved. One request
 * is in flight at a time; a patch is kept until it is acknowledged.
 */
import {
  applyPatch,
  areOfOneGesture,
  isRefusal,
  maybeRedo,
  maybeUndo,
  mergePatches,
  NO_HISTORY,
  recordChange,
  type DocumentKind,
  type History,
  type Patch,
  type Refusal,
  type RevisionView,
} from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { api, ApiProblem, sendJson, sentenceOf, Unreachable } from '../api/http.js';
import { maybeRebase } from './rebase.js';
import { keepUnsaved, loadUnsaved } from './unsaved.js';

/** How long changes are gathered before they are sent, in milliseconds. */
const SEND_AFTER_MS = 300;
/** How long until an unreachable server is tried again. */
const RETRY_AFTER_MS = 3000;

export type SaveState = 'saved' | 'saving' | 'unreachable' | 'conflict';

export interface SessionState<D> {
  readonly documentId: string;
  readonly revision: number;
  readonly confirmed: D;
  readonly document: D;
  readonly unconfirmed: readonly Patch[];
  readonly history: History;
  readonly saveState: SaveState;
}

export interface DocumentSession<D> {
  readonly store: StoreApi<SessionState<D>>;
  /** Applies a command's patch; a refusal is told to `onRefusal` and changes nothing. */
  change(result: Patch | Refusal): boolean;
  undo(): boolean;
  redo(): boolean;
  /** Begins a gesture; what it does until its end is one step of undo, however long it takes. Answers with what `squash` wants. */
  mark(): number;
  /** Ends the gesture begun at a mark. */
  squash(mark: number): void;
  /** Takes in what the server did meanwhile, such as a reading that has arrived. */
  refresh(): Promise<void>;
  /** Resolves when everything is acknowledged, or rejects with why not. */
  flush(): Promise<void>;
  /** Keeps this side of a conflict as a document of its own, takes the server's side here; answers with the new document's id. */
  keepAsCopy(title: string): Promise<string>;
  close(): void;
}

/** What the server has of a document. */
export interface DocumentView<D> {
  readonly id: string;
  readonly revision: number;
  readonly document: D;
}

export interface SessionOptions<D> {
  readonly kind: DocumentKind<D>;
  /** Where the server keeps documents of this kind: `/scenes`, `/charts`. */
  readonly path: string;
  readonly onRefusal: (sentence: string) => void;
  /**
   * What is wrong with a document, as sentences. In development and tests every change is held against its
   * invariants; what is shipped leaves that to the server, which does it always.
   */
  readonly check?: ((document: D) => readonly string[]) | undefined;
}

export const newId = (): string => crypto.randomUUID();

/** Opens a document, with whatever a closed tab left unsaved on top. */
export async function openSession<D>(view: DocumentView<D>, options: SessionOptions<D>): Promise<DocumentSession<D>> {
  const { kind, path } = options;
  const start = { documentId: view.id, revision: view.revision, confirmed: view.document, document: view.document, history: NO_HISTORY };
  const kept = await loadUnsaved(`${path}/${view.id}`);
  if (!kept)
    return sessionOn(
      createStore<SessionState<D>>(() => ({ ...start, unconfirmed: [], saveState: 'saved' })),
      options,
    );
  // The tab that left these may have got them through after the view was fetched: what came since the view goes in first.
  const since = await api<RevisionView[]>(`${path}/${view.id}/patches?since=${Math.min(kept.baseRevision, view.revision)}`);
  const known = new Set(since.map(({ patch }) => patch.id));
  const own = kept.patches.filter((patch) => !known.has(patch.id));
  const newer = since.filter(({ revision }) => revision > view.revision);
  const rebased = maybeRebase(
    kind,
    view.document,
    newer.map(({ patch }) => patch),
    own,
  );
  const revision = newer.at(-1)?.revision ?? view.revision;
  const state: SessionState<D> = rebased
    ? { ...start, ...rebased, revision, saveState: own.length > 0 ? 'saving' : 'saved' }
    : { ...start, unconfirmed: own, saveState: 'conflict' };
  return sessionOn(
    createStore<SessionState<D>>(() => state),
    options,
  );
}

function sessionOn<D>(store: StoreApi<SessionState<D>>, { kind, path, check, onRefusal }: SessionOptions<D>): DocumentSession<D> {
  const address = `${path}/${store.getState().documentId}`;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let inFlight: Promise<void> | undefined;
  let closed = false;
  /** Patches the server may have, though it has not said so: they must go out as they are. */
  const maybeSent = new Set(store.getState().unconfirmed.map((patch) => patch.id));

  const remember = (): void => {
    const { revision, unconfirmed } = store.getState();
    void keepUnsaved(address, { baseRevision: revision, patches: unconfirmed });
  };

  const takeIn = (since: readonly RevisionView[]): boolean => {
    const { confirmed, unconfirmed, revision } = store.getState();
    const rebased = maybeRebase(
      kind,
      confirmed,
      since.map(({ patch }) => patch),
      unconfirmed,
    );
    if (!rebased) {
      store.setState({ saveState: 'conflict' });
      return false;
    }
    // What was undoable before may not fit what is there now; the server's history still has it.
    store.setState({
      ...rebased,
      revision: since.at(-1)?.revision ?? revision,
      history: since.length > 0 ? NO_HISTORY : store.getState().history,
    });
    remember();
    return true;
  };

  const sendFirst = async (): Promise<void> => {
    const { unconfirmed, revision } = store.getState();
    const [patch] = unconfirmed;
    if (!patch) return;
    maybeSent.add(patch.id);
    try {
      const answer = await sendJson<{ revision: number }>('PATCH', address, {
        baseRevision: revision,
        patchId: patch.id,
        reason: patch.reason,
        ops: patch.ops,
      });
      const { confirmed, unconfirmed: waiting } = store.getState();
      store.setState({ revision: answer.revision, confirmed: applyPatch(kind, confirmed, patch), unconfirmed: waiting.slice(1) });
      remember();
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      if (error.status === 409) {
        takeIn((error.body['patchesSince'] ?? []) as RevisionView[]);
        return;
      }
      // The server will not have it: go back to what it has rather than pretend.
      const { confirmed } = store.getState();
      store.setState({ document: confirmed, unconfirmed: [], history: NO_HISTORY, saveState: 'saved' });
      remember();
      onRefusal(error.message);
    }
  };

  const sendAll = async (): Promise<void> => {
    store.setState({ saveState: 'saving' });
    try {
      while (!closed && store.getState().unconfirmed.length > 0 && store.getState().saveState !== 'conflict') await sendFirst();
      if (store.getState().saveState !== 'conflict') store.setState({ saveState: 'saved' });
    } catch (error) {
      if (!(error instanceof Unreachable)) throw error;
      store.setState({ saveState: 'unreachable' });
      schedule(RETRY_AFTER_MS);
    }
  };

  const send = (): Promise<void> => {
    inFlight ??= sendAll().finally(() => {
      inFlight = undefined;
      const { unconfirmed, saveState } = store.getState();
      if (!closed && unconfirmed.length > 0 && saveState === 'saved') schedule(SEND_AFTER_MS);
    });
    return inFlight;
  };

  const schedule = (afterMs: number): void => {
    clearTimeout(timer);
    if (!closed) timer = setTimeout(() => void send(), afterMs);
  };

  const applyLocally = (patch: Patch, history: History): void => {
    const { document, unconfirmed, saveState } = store.getState();
    const next = applyPatch(kind, document, patch);
    const [fault] = check?.(next) ?? [];
    if (fault) throw new Error(fault);
    const last = unconfirmed.at(-1);
    // A drag makes a patch a step; those still waiting go out as one.
    const joined =
      areOfOneGesture(last, patch) && !maybeSent.has(last.id)
        ? [...unconfirmed.slice(0, -1), mergePatches(last, patch)]
        : [...unconfirmed, patch];
    store.setState({
      document: next,
      unconfirmed: joined,
      history,
      saveState: saveState === 'saved' ? 'saving' : saveState,
    });
    remember();
    if (saveState !== 'conflict') schedule(SEND_AFTER_MS);
  };

  const step = (taken: ReturnType<typeof maybeUndo>): boolean => {
    if (!taken) return false;
    applyLocally(taken.patch, taken.history);
    return true;
  };

  const session: DocumentSession<D> = {
    store,
    change: (result) => {
      if (isRefusal(result)) {
        onRefusal(result.refusal);
        return false;
      }
      if (result.ops.length > 0) applyLocally(result, recordChange(store.getState().history, result, Date.now()));
      return true;
    },
    undo: () => step(maybeUndo(store.getState().history, newId())),
    redo: () => step(maybeRedo(store.getState().history, newId())),
    mark: () => {
      const { history } = store.getState();
      // The first step of the gesture must not join the step before it.
      store.setState({ history: { ...history, lastAtMs: Number.NEGATIVE_INFINITY } });
      return history.done.length;
    },
    squash: (mark) => {
      const { history } = store.getState();
      const [first, ...others] = history.done.slice(mark);
      if (!first || others.length === 0) return;
      const whole = others.reduce((earlier, later) => mergePatches(earlier, later), first);
      store.setState({ history: { ...history, done: [...history.done.slice(0, mark), whole], lastAtMs: Number.NEGATIVE_INFINITY } });
    },
    refresh: async () => {
      await inFlight;
      takeIn(await api<RevisionView[]>(`${address}/patches?since=${store.getState().revision}`));
    },
    flush: async () => {
      clearTimeout(timer);
      await inFlight;
      await send();
      if (store.getState().saveState !== 'saved')
        throw new Error('Not everything is saved yet. Wait until the server answers, then try again.');
    },
    keepAsCopy: async (title) => {
      const { document, unconfirmed, confirmed } = store.getState();
      const mine = document === confirmed ? ownVersion(kind, confirmed, unconfirmed) : document;
      const { id: copy } = await sendJson<{ id: string }>('POST', `${path}/copies`, { title, document: mine });
      const view = await api<DocumentView<D>>(address);
      store.setState({
        revision: view.revision,
        confirmed: view.document,
        document: view.document,
        unconfirmed: [],
        history: NO_HISTORY,
        saveState: 'saved',
      });
      remember();
      return copy;
    },
    close: () => {
      closed = true;
      clearTimeout(timer);
      const { unconfirmed, saveState } = store.getState();
      // What is still waiting goes out now; IndexedDB has it in case this does not arrive.
      if (unconfirmed.length > 0 && saveState !== 'conflict') {
        closed = false;
        void send()
          .catch((error: unknown) => onRefusal(sentenceOf(error)))
          .finally(() => (closed = true));
      }
    },
  };
  if (store.getState().unconfirmed.length > 0 && store.getState().saveState !== 'conflict') schedule(0);
  return session;
}

/** As much of the unsaved work as still goes on top of the server's document, one patch at a time. */
function ownVersion<D>(kind: DocumentKind<D>, confirmed: D, unconfirmed: readonly Patch[]): D {
  return unconfirmed.reduce((document, patch) => maybeRebase(kind, document, [], [patch])?.document ?? document, confirmed);
}
