/** Saves a file that the server makes, shows how far it is, and gives it up. */
import { Download, FolderDown } from 'lucide-react';
import type { ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { canChooseFolder, maybeChosenFolder } from './unpackInto.js';
import type { HandOff } from './useHandOff.js';

interface SaveRowProps {
  readonly handOff: HandOff;
  readonly label: string;
  readonly request: object;
  /** What is said when it is saved. */
  readonly said?: string;
  readonly disabled?: boolean;
  /** It is a zip of files that may go straight into a folder. */
  readonly intoFolder?: boolean;
}

export function SaveRow({ handOff, label, request, said, disabled = false, intoFolder = false }: SaveRowProps): ReactElement {
  const { isBusy, isSaved, done, message, isFault, start, cancel } = handOff;
  const saveInto = async (): Promise<void> => {
    try {
      const folder = await maybeChosenFolder();
      if (folder) await start(request, folder);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <div className="flex min-h-[40px] items-center gap-3">
      <Button weight="main" disabled={isBusy || disabled} onClick={() => void start(request)}>
        <Download size={17} aria-hidden /> {label}
      </Button>
      {intoFolder && canChooseFolder() && (
        <Button disabled={isBusy || disabled} onClick={() => void saveInto()}>
          <FolderDown size={17} aria-hidden /> Save into a folder
        </Button>
      )}
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
