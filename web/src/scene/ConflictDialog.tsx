/** Two sides changed the same record: neither is thrown away. */
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import type { DocumentSession } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

export interface ConflictDialogProps<D> {
  readonly session: DocumentSession<D>;
  /** What the user calls the document. */
  readonly noun: string;
  readonly title: string;
  /** Opens the version that was kept beside; without it one stays here. */
  readonly onGoOn?: (id: string) => void;
}

export function ConflictDialog<D>({ session, noun, title, onGoOn }: ConflictDialogProps<D>): ReactElement {
  const state = useStore(session.store);
  const [busy, setBusy] = useState(false);
  const keep = async (goOn: boolean): Promise<void> => {
    setBusy(true);
    try {
      const copy = await session.keepAsCopy(`${title} (my version)`);
      toast.success(`Your version is kept as a ${noun} of its own.`);
      if (goOn) onGoOn?.(copy);
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const changes = state.unconfirmed.length === 1 ? 'Your last change does' : `Your last ${state.unconfirmed.length} changes do`;
  return (
    <Modal
      open
      title={`This ${noun} was changed elsewhere`}
      description={`${changes} not fit what is there now. Both versions are kept: yours becomes a ${noun} of its own beside this one.`}
      onClose={() => undefined}
    >
      <div className="mt-5 flex justify-end gap-2">
        <Button weight={onGoOn ? 'quiet' : 'main'} disabled={busy} onClick={() => void keep(false)}>
          Keep mine beside it, stay here
        </Button>
        {onGoOn && (
          <Button weight="main" disabled={busy} onClick={() => void keep(true)}>
            Go on with mine
          </Button>
        )}
      </div>
    </Modal>
  );
}
