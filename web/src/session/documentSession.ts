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
  maybeRedo,
  maybeUndo,
  mergePatches,
  NO_HISTORY,
  PatchMismatch,
  reasonInWords,
  recordChange,
  stepOf,
  withoutStep,
  withOthers,
  type DocumentKind,
  type History,
  type Patch,
  type Refusal,
  type RevisionView,
} from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { door } from '../api/door.js';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { rememberStep } from './lineage.js';
import { newId } from './newId.js';
import { pastUpTo, withOlderPatches, withPage, type Past } from './pastSteps.js';
import { maybeRebase, withWhatFits } from './rebase.js';
import { answerOfBody, answerOfError, type ConflictCause, type SendAnswer } from './saving.js';
import { createSender, type Sent } from './sender.js';
import { keepUnsaved, loadUnsaved, type RefusedPatch } from './unsaved.js';

/** How long an answer may take before the request is given up and made again, in milliseconds. */
const ANSWER_WITHIN_MS = 30_000;
/** With fewer steps than this left, older ones are asked for. */
const ASK_FOR_OLDER_AT = 3;

export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict';

export interface SessionState<D> {
  readonly documentId: string;
  readonly revision: number;
  readonly confirmed: D;
  readonly document: D;
  readonly unconfirmed: readonly Patch[];
  readonly history: History;
  /** What was done before this session, as far as it has been asked for. */
  readonly past: Past;
  readonly saveState: SaveState;
  /** How many changes are still being worked out that will follow from those made: until they are in, not all is saved. */
  readonly toFollow: number;
  /** Why what is waiting is not saved yet. */
  readonly trouble: string | undefined;
  /** What the server's document is to ours, in a conflict. */
  readonly conflict: ConflictCause | undefined;
  /** What the server would not have, until it is put away. */
  readonly refused: readonly RefusedPatch[];
}

export interface DocumentSession<D> {
  readonly store: StoreApi<SessionState<D>>;
  /** Applies a command's patch; a refusal is told to `onRefusal` and changes nothing. */
  change(result: Patch | Refusal): boolean;
  /** Takes the last step back; false with none left. Steps from before the session are fetched when they are wanted. */
  undo(): boolean;
  redo(): boolean;
  /** Begins a gesture; what it does until its end is one step of undo, however long it takes. Answers with what `squash` wants. */
  mark(): number;
  /** Ends the gesture begun at a mark. */
  squash(mark: number): void;
  /** A change that follows from a step of undo and belongs to it, where that is still there. */
  follow(step: string | undefined, result: Patch): boolean;
  /** Something that will follow is being worked out: until it is done, not all is saved. */
  expect(work: Promise<void>): void;
  /** The last step of undo, to be followed. */
  lastStep(): string | undefined;
  /** Until it is called with nothing, changes of a hand are refused with this sentence; what follows from earlier ones is not. */
  hold(sentence: string | undefined): void;
  /**
   * Takes in what others did meanwhile, and the server, such as a reading that has arrived.
   *
   * @param revision what is known to have come about; nothing is asked where it is here already
   */
  refresh(revision?: number): Promise<void>;
  /** Resolves when everything is acknowledged, or rejects with why not. */
  flush(): Promise<void>;
  /** Tries again at once instead of waiting. */
  retry(): void;
  /** Puts away what was refused. */
  forgetRefused(): void;
  /** Keeps this side of a conflict as a document of its own, takes the server's side here; answers with the new document's id. */
  keepAsCopy(title: string): Promise<string>;
  /** The same, kept in a way of somebody else’s: what that answers is answered. */
  keepMine<Kept>(keep: (mine: D) => Promise<Kept>): Promise<Kept>;
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
  /** What is said of a change by a hand that may not be made now; what follows from earlier ones is not asked about. */
  readonly guard?: ((document: D, patch: Patch) => Refusal | undefined) | undefined;
  readonly check?: ((document: D) => readonly string[]) | undefined;
}

/** A session as it begins, with nothing that the server has not. */
function asTheServerHasIt<D>({ id, revision, document }: DocumentView<D>): Omit<SessionState<D>, 'refused'> {
  return {
    documentId: id,
    revision,
    confirmed: document,
    document,
    unconfirmed: [],
    history: NO_HISTORY,
    past: pastUpTo(revision),
    saveState: 'saved',
    toFollow: 0,
    trouble: undefined,
    conflict: undefined,
  };
}

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

/** Sends a patch and says what came of it. */
async function send(address: string, base: number, { id: patchId, reason, ops, step, undoes, redoes }: Patch): Promise<SendAnswer> {
  const patience = new AbortController();
  const timer = setTimeout(() => patience.abort(), ANSWER_WITHIN_MS);
  try {
    const body = { baseRevision: base, patchId, reason, ops, step, undoes, redoes };
    return answerOfBody(base, await sendJson('PATCH', address, body, patience.signal));
  } catch (error) {
    return answerOfError(base, error);
  } finally {
    clearTimeout(timer);
  }
}

const cannotUndo = (patch: Patch, verb: string): string =>
  `This step, ${reasonInWords(patch.reason)}, cannot be ${verb}: the same has been changed since, elsewhere. The one before it can.`;

function sessionOn<D>(store: StoreApi<SessionState<D>>, { kind, path, check, guard, onRefusal }: SessionOptions<D>): DocumentSession<D> {
  const address = `${path}/${store.getState().documentId}`;
  let closed = false;
  /** The step that changes belong to while a gesture lasts. */
  let gesture: string | undefined;
  /** Patches the server may have, though it has not said so: they must go out as they are. */
  const maybeSent = new Set(store.getState().unconfirmed.map((patch) => patch.id));
  /** What is being worked out and will follow. */
  const expected = new Set<Promise<void>>();

  const remember = (): void => {
    const { revision, unconfirmed, refused } = store.getState();
    void keepUnsaved(address, { baseRevision: revision, patches: unconfirmed, refused });
  };

  const conflict = (cause: ConflictCause): 'stopped' => {
    store.setState({ saveState: 'conflict', conflict: cause, trouble: undefined });
    return 'stopped';
  };

  /** Takes in what others did; false when it does not go together with what is here. */
  const takeIn = (rows: readonly RevisionView[]): boolean => {
    const { confirmed, unconfirmed, revision, history } = store.getState();
    const newer = rows.filter((row) => row.revision > revision);
    if (newer.length === 0) return true;
    const since = newer.map(({ patch }) => patch);
    const rebased = maybeRebase(kind, confirmed, since, unconfirmed);
    if (!rebased) {
      conflict('changed');
      return false;
    }
    const own = new Set(unconfirmed.map((patch) => patch.id));
    const others = since.filter((patch) => !own.has(patch.id));
    store.setState({ ...rebased, revision: newer.at(-1)!.revision, history: withOthers(history, others) });
    remember();
    return true;
  };

  /** The server will not have it: it goes, and with it what was built on it. Everything else stays, undo too. */
  const drop = (refusedPatch: Patch, sentence: string): void => {
    const { confirmed, unconfirmed, history, refused } = store.getState();
    const { document, fitting, others } = withWhatFits(
      kind,
      confirmed,
      unconfirmed.filter((patch) => patch.id !== refusedPatch.id),
    );
    const gone = [
      { patch: refusedPatch, sentence },
      ...others.map((patch) => ({ patch, sentence: 'It was made on top of a change that was refused.' })),
    ];
    store.setState({
      document,
      unconfirmed: fitting,
      history: gone.reduce((now, { patch }) => withoutStep(now, patch.undoes ?? patch.redoes ?? stepOf(patch)), history),
      refused: [...refused, ...gone],
    });
    remember();
    onRefusal(`Not taken: ${reasonInWords(refusedPatch.reason)}. ${sentence}`);
  };

  const sendFirst = async (): Promise<Sent> => {
    const { unconfirmed, revision, saveState } = store.getState();
    if (saveState === 'conflict') return 'stopped';
    const [patch] = unconfirmed;
    if (!patch) return 'done';
    maybeSent.add(patch.id);
    const answer = await send(address, revision, patch);
    const now = store.getState();
    if (now.saveState === 'conflict') return 'stopped';
    // What came in meanwhile may have brought it along, or moved the ground under it.
    if (now.revision !== revision) return 'again';
    switch (answer.kind) {
      case 'trouble':
        return { trouble: answer.why };
      case 'apart':
        return conflict(answer.why);
      case 'refused':
        drop(patch, answer.sentence);
        return 'more';
      case 'behind':
        return takeIn(answer.since) ? 'again' : 'stopped';
      case 'accepted':
    }
    if (answer.revision !== revision + 1)
      return takeIn(await api<RevisionView[]>(`${address}/patches?since=${revision}`)) ? 'again' : 'stopped';
    try {
      const confirmed = applyPatch(kind, now.confirmed, patch);
      store.setState({ revision: answer.revision, confirmed, unconfirmed: now.unconfirmed.slice(1) });
    } catch {
      return conflict('changed');
    }
    remember();
    return 'more';
  };

  const sender = createSender(
    // Whatever goes wrong in here must not end the saving.
    () => sendFirst().catch((error: unknown): Sent => ({ trouble: sentenceOf(error) })),
    (state) => {
      if (typeof state === 'object') store.setState({ saveState: 'waiting', trouble: state.trouble });
      else store.setState({ saveState: state, trouble: undefined });
    },
  );

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
      unconfirmed: joins && !maybeSent.has(last.id) ? [...unconfirmed.slice(0, -1), mergePatches(last, patch)] : [...unconfirmed, patch],
      history,
      saveState: saveState === 'saved' ? 'saving' : saveState,
    });
    remember();
    if (saveState !== 'conflict') sender.soon();
  };

  const stepTo = (taken: ReturnType<typeof maybeUndo>, verb: string): boolean => {
    if (!taken) return false;
    try {
      applyLocally(taken.patch, taken.history);
    } catch (error) {
      if (!(error instanceof PatchMismatch)) throw error;
      const { history } = store.getState();
      store.setState({ history: withoutStep(history, (taken.patch.undoes ?? taken.patch.redoes)!) });
      onRefusal(cannotUndo(taken.patch, verb));
    }
    return true;
  };
  const undoNow = (): boolean => stepTo(maybeUndo(store.getState().history, newId()), 'taken back');

  let asking: Promise<void> | undefined;
  /** Asks for the steps before those that are known. */
  const askForOlder = (): Promise<void> => {
    asking ??= (async () => {
      for (let found = false; !found && store.getState().past.upTo > 0;) {
        const { upTo } = store.getState().past;
        const page = await api<RevisionView[]>(`${address}/past?upTo=${upTo}`);
        const { history, past } = store.getState();
        if (past.upTo !== upTo) return;
        const next = withPage(history, past, page);
        found = next.history.done.length > history.done.length;
        store.setState(next);
      }
    })().finally(() => (asking = undefined));
    return asking;
  };
  const tellFault = (error: unknown): void => onRefusal(sentenceOf(error));

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
    undo: () => {
      if (isHeld()) return false;
      const { history, past } = store.getState();
      if (past.upTo > 0 && history.done.length <= ASK_FOR_OLDER_AT) {
        const asked = askForOlder();
        if (history.done.length === 0) {
          asked.then(() => void undoNow()).catch(tellFault);
          return true;
        }
        asked.catch(() => undefined);
      }
      return undoNow();
    },
    redo: () => {
      if (isHeld()) return false;
      const { history, past } = store.getState();
      if (history.undone.length > 0 || history.done.length > 0 || past.upTo === 0 || !past.isRedoable)
        return stepTo(maybeRedo(history, newId()), 'done again');
      askForOlder()
        .then(() => void stepTo(maybeRedo(store.getState().history, newId()), 'done again'))
        .catch(tellFault);
      return true;
    },
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
