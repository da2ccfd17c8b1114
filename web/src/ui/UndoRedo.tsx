/** Undo and redo of an open document. */
import { Redo2, Undo2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { DocumentSession } from '../session/session.js';
import { Round } from './Round.js';

export function UndoRedo<D>({ session }: { session: DocumentSession<D> }): ReactElement {
  const { done, undone } = useStore(session.store, (state) => state.history);
  const isMoreKnown = useStore(session.store, (state) => state.past.upTo > 0 || state.past.pending.length > 0);
  return (
    <>
      <Round label="Undo (Ctrl+Z)" disabled={done.length === 0 && !isMoreKnown} onClick={session.undo}>
        <Undo2 size={17} />
      </Round>
      <Round label="Redo (Ctrl+Shift+Z)" disabled={undone.length === 0} onClick={session.redo}>
        <Redo2 size={17} />
      </Round>
    </>
  );
}
