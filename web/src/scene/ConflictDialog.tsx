/** Two sides changed the same record: neither is thrown away. */
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import type { ConflictCause } from '../session/saving.js';
import type { DocumentSession } from '../session/session.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

const TITLES: Readonly<Record<ConflictCause, (noun: string) => string>> = {
  changed: (noun) => `This ${noun} was changed elsewhere`,
  older: (noun) => `The server has an older version of this ${noun}`,
  gone: (noun) => `This ${noun} is no longer on the server`,
};

const REASONS: Readonly<Record<ConflictCause, (changes: string) => string>> = {
  changed: (changes) => `${changes} not fit what is there now.`,
  older: () => 'What the server has is from before your last changes, as if a backup had been put back.',
  gone: () => 'It was removed while you had it open, in another window or by somebody else.',
};

export interface ConflictDialogProps<D> {
  readonly session: DocumentSession<D>;
  /** What the user calls the document. */
  readonly noun: string;
  readonly title: string;
  /** Keeps a version as a pass, where there are passes. */
  readonly onPass?: (document: D) => Promise<void>;
  /** Opens the version that was kept beside; without it one stays here. */
  readonly onGoOn?: (id: string) => void;
}

export function ConflictDialog<D>({ session, noun, title, onPass, onGoOn }: ConflictDialogProps<D>): ReactElement {
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
  const cause = state.conflict ?? 'changed';
  // A scene that is gone keeps no pass.
  const asPass = onPass && cause !== 'gone' ? onPass : undefined;
  const keepPass = async (): Promise<void> => {
    setBusy(true);
    try {
      await session.keepMine(asPass!);
      toast.success('Your version is kept as a pass: on Check it stands beside what is here now, and you can take from it.');
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
      title={TITLES[cause](noun)}
      description={`${REASONS[cause](changes)} Nothing is thrown away: your version becomes ${asPass ? `a pass of this ${noun}, or ` : ''}a ${noun} of its own.`}
      onClose={() => undefined}
    >
      <div className="mt-5 flex flex-wrap justify-end gap-2">
        {asPass && (
          <Button weight="main" disabled={busy} onClick={() => void keepPass()}>
            Keep mine as a pass
          </Button>
        )}
        <Button weight={onGoOn ? 'quiet' : 'main'} disabled={busy} onClick={() => void keep(false)}>
          {cause === 'gone' ? 'Keep mine, stay here' : 'Keep mine beside it, stay here'}
        </Button>
        {onGoOn && (
          <Button weight={asPass ? 'quiet' : 'main'} disabled={busy} onClick={() => void keep(true)}>
            Go on with mine
          </Button>
        )}
      </div>
    </Modal>
  );
}
