/** A button that removes something for good, after asking. */
import { useQueryClient } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { AlertDialog } from 'radix-ui';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { giveFocusBack } from '../ui/focusBack.js';

interface AskProps {
  readonly title: string;
  /** What goes with it. */
  readonly text: string;
  /** Where the server has it. */
  readonly path: string;
  readonly open: boolean;
  readonly onClose: () => void;
}

/** Asks, removes, and has everything that Home shows fetched again. */
export function AskToRemove({ title, text, path, open, onClose }: AskProps): ReactElement {
  const client = useQueryClient();
  const remove = async (): Promise<void> => {
    try {
      await api<null>(path, { method: 'DELETE' });
      await Promise.all(['scenes', 'productions', 'charts'].map((key) => client.invalidateQueries({ queryKey: [key] })));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <AlertDialog.Root open={open} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-[#14182480]" />
        <AlertDialog.Content
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveFocusBack();
          }}
          className="fixed left-1/2 top-1/2 z-50 w-[440px] -translate-x-1/2 -translate-y-1/2 rounded-2xl border border-rule bg-sheet p-6"
        >
          <AlertDialog.Title className="name text-[21px]">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-ink-soft">{text}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button weight="grave" onClick={() => void remove()}>
                Remove
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

export function RemoveThing({ label, ...asking }: Omit<AskProps, 'open' | 'onClose'> & { readonly label: string }): ReactElement {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-label={label}
        title={label}
        onClick={() => setOpen(true)}
        className="grid size-7 place-items-center rounded-full text-graphite hover:bg-rule-soft hover:text-bad"
      >
        <Trash2 size={14} />
      </button>
      <AskToRemove {...asking} open={open} onClose={() => setOpen(false)} />
    </>
  );
}
