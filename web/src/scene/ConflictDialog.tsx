/** Two sides changed the same frames: neither is thrown away. */
import { useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { titleOf, type SceneSession } from '../session/sceneSession.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

export function ConflictDialog({ session }: { session: SceneSession }): ReactElement {
  const state = useStore(session.store);
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const keep = async (open: boolean): Promise<void> => {
    setBusy(true);
    try {
      const copy = await session.keepAsCopy(`${titleOf(state)} (my version)`);
      toast.success('Your version is kept as a scene of its own.');
      if (open) await navigate(`/scenes/${copy}/key`);
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const changes = state.unconfirmed.length === 1 ? 'Your last change does' : `Your last ${state.unconfirmed.length} changes do`;
  return (
    <Modal
      open={state.saveState === 'conflict'}
      title="This scene was changed elsewhere"
      description={`${changes} not fit what is there now. Both versions are kept: yours becomes a scene of its own beside this one.`}
      onClose={() => undefined}
    >
      <div className="mt-5 flex justify-end gap-2">
        <Button disabled={busy} onClick={() => void keep(false)}>
          Keep mine beside it, stay here
        </Button>
        <Button weight="main" disabled={busy} onClick={() => void keep(true)}>
          Go on with mine
        </Button>
      </div>
    </Modal>
  );
}
