/** Saves a file that the server makes, shows how far it is, and gives it up. */
import { Download } from 'lucide-react';
import type { ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import type { HandOff } from './useHandOff.js';

interface SaveRowProps {
  readonly handOff: HandOff;
  readonly label: string;
  readonly request: object;
  /** What is said when it is saved. */
  readonly said?: string;
  readonly disabled?: boolean;
}

export function SaveRow({ handOff, label, request, said, disabled = false }: SaveRowProps): ReactElement {
  const { isBusy, isSaved, done, message, isFault, start, cancel } = handOff;
  return (
    <div className="flex min-h-[40px] items-center gap-3">
      <Button weight="main" disabled={isBusy || disabled} onClick={() => void start(request)}>
        <Download size={17} aria-hidden /> {label}
      </Button>
      {isBusy && (
        <>
          <progress className="h-2 flex-1 accent-[var(--zest)]" value={done} aria-label={label} />
          <Button weight="bare" onClick={cancel}>
            Cancel
          </Button>
        </>
      )}
      <span className={`text-[14px] ${isFault ? 'text-bad' : 'text-ink-soft'}`} role="status">
        {isSaved && said !== undefined ? said : message}
      </span>
    </div>
  );
}
