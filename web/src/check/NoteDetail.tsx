/** Below the note that is looked at: how sure it is, what would mend it, and what can be done with it. */
import { mendInWords, type Note } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import type { MendAtHand } from './useMend.js';

interface NoteDetailProps {
  readonly note: Note;
  readonly mend: MendAtHand;
  /** How many of its kind could be mended with it. */
  readonly alike: number;
  readonly firstFrame: number;
  readonly labelOf: (drawing: string) => string;
  readonly isAsiding: boolean;
  readonly isMending: boolean;
  readonly onMend: () => void;
  readonly onMendAll: () => void;
  readonly onListen: () => void;
  readonly onAside: (isAsiding: boolean) => void;
  readonly onSetAside: (reason: string) => void;
}

const sureInWords = (sure: number): string => (sure >= 0.85 ? 'sure' : sure >= 0.6 ? 'fairly sure' : 'a guess');

export function NoteDetail(props: NoteDetailProps): ReactElement {
  const { note, mend, alike, firstFrame, labelOf, isAsiding, isMending, onMend, onMendAll, onListen, onAside, onSetAside } = props;
  const { tried, refusal } = mend;
  const [reason, setReason] = useState('');
  const says =
    note.mends.length === 0
      ? 'Nothing mends this by itself.'
      : (refusal ?? (tried ? `Mends it: ${mendInWords(tried.mend, { labelOf, firstFrame })}.` : 'Trying what mends it…'));
  return (
    <div className="flex flex-col gap-2 px-2 pb-2 pl-[54px] text-[14px]">
      <p className="text-ink-soft" data-testid="mend">
        {`${says} ${note.isInk && note.mends.length > 0 ? 'There is ink here: it is changed only by this press. ' : ''}The check is ${sureInWords(note.sure)}.`}
      </p>
      {isAsiding ? (
        <form
          className="flex flex-col gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            onSetAside(reason);
          }}
        >
          <label className="text-ink-soft">
            Why it is meant
            <input
              autoFocus
              value={reason}
              maxLength={300}
              placeholder="meant"
              onChange={({ target }) => setReason(target.value)}
              onKeyDown={(event) => {
                if (event.code !== 'Escape') return;
                event.stopPropagation();
                onAside(false);
              }}
              className="mt-0.5 w-full rounded-lg border border-rule bg-lift px-2 py-1 text-ink"
            />
          </label>
          <div className="flex gap-1.5">
            <Button type="submit" weight="main" className="px-3! py-[3px]! text-[14px]!">
              Set it aside
            </Button>
            <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => onAside(false)}>
              Leave it
            </Button>
          </div>
        </form>
      ) : (
        <div className="flex flex-wrap gap-1.5">
          {note.mends.length > 0 && (
            <Button weight="main" className="px-3! py-[3px]! text-[14px]!" disabled={!tried || isMending} onClick={onMend}>
              Mend <kbd className="keycap">M</kbd>
            </Button>
          )}
          {alike > 1 && (
            <Button className="px-3! py-[3px]! text-[14px]!" disabled={isMending} onClick={onMendAll}>
              {isMending ? 'Mending…' : `Mend all ${alike}`}
            </Button>
          )}
          <Button className="px-3! py-[3px]! text-[14px]!" onClick={onListen}>
            Hear it
          </Button>
          <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => onAside(true)}>
            Set aside <kbd className="keycap">X</kbd>
          </Button>
        </div>
      )}
    </div>
  );
}
