/** Undo and redo of an open document; the steps before those of this session are fetched when they are wanted. */
import {
  maybeRedo,
  maybeUndo,
  PatchMismatch,
  reasonInWords,
  withoutStep,
  type History,
  type Patch,
  type RevisionView,
} from '@zest-jaw/core';
import type { StoreApi } from 'zustand/vanilla';
import { api, sentenceOf } from '../api/http.js';
import { newId } from './newId.js';
import { withPage } from './pastSteps.js';
import type { DocumentSession, SessionState } from './session.js';

/** With fewer steps than this left, older ones are asked for. */
const ASK_FOR_OLDER_AT = 3;

const cannotUndo = (patch: Patch, verb: string): string =>
  `This step, ${reasonInWords(patch.reason)}, cannot be ${verb}: the same has been changed since, elsewhere. The one before it can.`;

/** @param applyLocally throws a {@link PatchMismatch} where the same has been changed since */
export function createUndoing<D>(
  store: StoreApi<SessionState<D>>,
  address: string,
  onRefusal: (sentence: string) => void,
  applyLocally: (patch: Patch, history: History) => void,
): Pick<DocumentSession<D>, 'undo' | 'redo'> {
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

  return {
    undo: () => {
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
      const { history, past } = store.getState();
      if (history.undone.length > 0 || history.done.length > 0 || past.upTo === 0 || !past.isRedoable)
        return stepTo(maybeRedo(history, newId()), 'done again');
      askForOlder()
        .then(() => void stepTo(maybeRedo(store.getState().history, newId()), 'done again'))
        .catch(tellFault);
      return true;
    },
  };
}
