/**
 * An open document, a scene or a chart: as the server has it, the patches on top that it has not
 * acknowledged yet, undo and redo, and an honest word on whether all is saved. One request
 * is in flight at a time; a patch is kept until it is acknowledged or plainly refused.
 */
import {
  applyPatch,
  areOfOneGesture,
  isRefusal,
  joinedToLast,
  mergePatches,
  NO_HISTORY,
  recordChange,
  stepOf,
  type History,
  type Patch,
  type RevisionView,
} from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { door } from '../api/door.js';
import { api, sendJson } from '../api/http.js';
import { rememberStep } from './lineage.js';
import { newId } from './newId.js';
import { pastUpTo, withOlderPatches } from './pastSteps.js';
import { maybeRebase, withWhatFits } from './rebase.js';
import { asTheServerHasIt, createSaver } from './saver.js';
import type { DocumentSession, DocumentView, SessionOptions, SessionState } from './session.js';
import { createUndoing } from './undoing.js';
import { loadUnsaved } from './unsaved.js';

/** Opens a document, with whatever a closed tab left unsaved on top. */
export async function openSession<D>(view: DocumentView<D>, options: SessionOptions<D>): Promise<DocumentSession<D>> {
  const { kind, path } = options;
  const address = `${path}/${view.id}`;
  const kept = await loadUnsaved(address);
  const opened = (state: Partial<SessionState<D>>): DocumentSession<D> =>
    sessionOn(
      createStore<SessionState<D>>(() => ({ ...asTheServerHasIt(view), refused: kept?.refused ?? [], ...state })),
      options,
    );
  if (!kept || kept.patches.length === 0) return opened({});
  // The tab that left these may have got them through after the view was fetched: what came since the view goes in first.
  const since = await api<RevisionView[]>(`${address}/patches?since=${Math.min(kept.baseRevision, view.revision)}`);
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
  if (!rebased) {
    const conflict = kept.baseRevision > view.revision ? 'older' : 'changed';
    return opened({ unconfirmed: own, saveState: 'conflict', conflict });
  }
  const { history, past } = withOlderPatches(NO_HISTORY, pastUpTo(revision), [...own].reverse(), false);
  return opened({ ...rebased, revision, history, past, saveState: own.length > 0 ? 'saving' : 'saved' });
}

function sessionOn<D>(store: StoreApi<SessionState<D>>, { kind, path, check, guard, onRefusal }: SessionOptions<D>): DocumentSession<D> {
  const address = `${path}/${store.getState().documentId}`;
  let closed = false;
  /** The step that changes belong to while a gesture lasts. */
  let gesture: string | undefined;
  /** What is being worked out and will follow. */
  const expected = new Set<Promise<void>>();
  const { sender, remember, isMaybeSent, takeIn } = createSaver(store, address, { kind, onRefusal });

  const applyLocally = (patch: Patch, history: History): void => {
    const { document, unconfirmed, saveState } = store.getState();
    const next = applyPatch(kind, document, patch);
    const [fault] = check?.(next) ?? [];
    if (fault) throw new Error(fault);
    rememberStep(document as object, patch, next as object);
    const last = unconfirmed.at(-1);
    const isPlain = ({ undoes, redoes }: Patch): boolean => undoes === undefined && redoes === undefined;
    // A drag makes a patch a step; those still waiting go out as one.
    const joins = last && isPlain(last) && isPlain(patch) && stepOf(last) === stepOf(patch) && areOfOneGesture(last, patch);
    store.setState({
      document: next,
      unconfirmed: joins && !isMaybeSent(last) ? [...unconfirmed.slice(0, -1), mergePatches(last, patch)] : [...unconfirmed, patch],
      history,
      saveState: saveState === 'saved' ? 'saving' : saveState,
    });
    remember();
    if (saveState !== 'conflict') sender.soon();
  };

  const undoing = createUndoing(store, address, onRefusal, applyLocally);

  const startOver = (view: DocumentView<D>): void => {
    store.setState({ ...asTheServerHasIt(view), toFollow: expected.size });
    remember();
  };

  const onBack = (): void => {
    if (store.getState().saveState === 'waiting') void sender.now();
  };
  globalThis.addEventListener?.('online', onBack);
  const stopAtDoor = door.subscribe(({ isShut }) => void (isShut || onBack()));

  let held: string | undefined;
  /** Says why, where nothing may be changed now. */
  const isHeld = (): boolean => {
    if (held !== undefined) onRefusal(held);
    return held !== undefined;
  };
  const make = (result: Patch): boolean => {
    if (result.ops.length === 0) return true;
    const { history, past } = store.getState();
    const atMs = Date.now();
    const patch = gesture === undefined ? joinedToLast(history, result, atMs) : { ...result, step: gesture };
    applyLocally(patch, recordChange(history, patch, atMs));
    if (past.isRedoable) store.setState({ past: { ...past, isRedoable: false } });
    return true;
  };

  const keepMine = async <Kept>(keep: (mine: D) => Promise<Kept>): Promise<Kept> => {
    const { document, unconfirmed, confirmed, conflict: cause } = store.getState();
    const mine = document === confirmed ? withWhatFits(kind, confirmed, unconfirmed).document : document;
    const kept = await keep(mine);
    if (cause === 'gone') startOver({ id: store.getState().documentId, revision: 0, document: mine });
    else startOver(await api<DocumentView<D>>(address));
    return kept;
  };
  const session: DocumentSession<D> = {
    store,
    hold: (sentence) => void (held = sentence),
    change: (result) => {
      if (isRefusal(result)) {
        onRefusal(result.refusal);
        return false;
      }
      const kept = guard?.(store.getState().document, result);
      if (kept) {
        onRefusal(kept.refusal);
        return false;
      }
      return !isHeld() && make(result);
    },
    lastStep: () => {
      const last = store.getState().history.done.at(-1);
      return last && stepOf(last);
    },
    follow: (step, result) => {
      const isThere = store.getState().history.done.some((one) => stepOf(one) === step);
      return make(step !== undefined && isThere ? { ...result, step } : result);
    },
    expect: (work) => {
      const isOver = (): void => {
        expected.delete(over);
        store.setState({ toFollow: expected.size });
      };
      const over = work.then(isOver, isOver);
      expected.add(over);
      store.setState({ toFollow: expected.size });
    },
    undo: () => !isHeld() && undoing.undo(),
    redo: () => !isHeld() && undoing.redo(),
    mark: () => {
      const { history } = store.getState();
      // The first step of the gesture must not join the step before it.
      store.setState({ history: { ...history, lastAtMs: Number.NEGATIVE_INFINITY } });
      gesture = newId();
      return history.done.length;
    },
    squash: (mark) => {
      gesture = undefined;
      const { history } = store.getState();
      // What comes next must not join the gesture.
      if (history.done.length > mark) store.setState({ history: { ...history, lastAtMs: Number.NEGATIVE_INFINITY } });
    },
    refresh: async (revision = Infinity) => {
      await sender.idle();
      if (closed || store.getState().revision >= revision) return;
      takeIn(await api<RevisionView[]>(`${address}/patches?since=${store.getState().revision}`));
    },
    flush: async () => {
      while (expected.size > 0) await Promise.all(expected);
      await sender.idle();
      await sender.now();
      const { saveState, trouble } = store.getState();
      if (saveState !== 'saved')
        throw new Error(`Not everything is saved yet. ${trouble ?? 'Wait until the server answers, then try again.'}`);
    },
    retry: () => void sender.now(),
    forgetRefused: () => {
      store.setState({ refused: [] });
      remember();
    },
    keepAsCopy: (title) => keepMine(async (document) => (await sendJson<{ id: string }>('POST', `${path}/copies`, { title, document })).id),
    keepMine,
    close: () => {
      globalThis.removeEventListener?.('online', onBack);
      stopAtDoor();
      if (closed) return;
      closed = true;
      const { unconfirmed, saveState } = store.getState();
      // What is still waiting goes out now; IndexedDB has it in case this does not arrive.
      if (unconfirmed.length > 0 && saveState !== 'conflict') void sender.now().finally(sender.close);
      else sender.close();
    },
  };
  if (store.getState().unconfirmed.length > 0 && store.getState().saveState !== 'conflict') void sender.now();
  return session;
}
