/** The server's side of an open document: what is sent, what came of it, what others did meanwhile; kept for the next tab until it is acknowledged. */
import { applyPatch, NO_HISTORY, reasonInWords, stepOf, withOthers, withoutStep, type Patch, type RevisionView } from '@zest-jaw/core';
import type { StoreApi } from 'zustand/vanilla';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { pastUpTo } from './pastSteps.js';
import { maybeRebase, withWhatFits } from './rebase.js';
import { answerOfBody, answerOfError, type ConflictCause, type SendAnswer } from './saving.js';
import { createSender, type Sender, type Sent } from './sender.js';
import type { DocumentView, SessionOptions, SessionState } from './session.js';
import { keepUnsaved } from './unsaved.js';

/** How long an answer may take before the request is given up and made again, in milliseconds. */
const ANSWER_WITHIN_MS = 30_000;

export interface Saver {
  readonly sender: Sender;
  /** Keeps what is not acknowledged for the next tab. */
  remember(): void;
  /** The server may have it, though it has not said so: it must go out as it is. */
  isMaybeSent(patch: Patch): boolean;
  /** Takes in what others did; false when it does not go together with what is here. */
  takeIn(rows: readonly RevisionView[]): boolean;
}

/** A session as it begins, with nothing that the server has not. */
export function asTheServerHasIt<D>({ id, revision, document }: DocumentView<D>): Omit<SessionState<D>, 'refused'> {
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

export function createSaver<D>(
  store: StoreApi<SessionState<D>>,
  address: string,
  { kind, onRefusal }: Pick<SessionOptions<D>, 'kind' | 'onRefusal'>,
): Saver {
  const maybeSent = new Set(store.getState().unconfirmed.map((patch) => patch.id));

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

  return { sender, remember, isMaybeSent: ({ id }) => maybeSent.has(id), takeIn };
}
