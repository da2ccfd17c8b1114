/** A sheet of paper laid over the page: Radix's dialog in our clothes. */
import { Dialog } from 'radix-ui';
import { giveFocusBack } from './focusBack.js';
import type { ReactElement, ReactNode } from 'react';

interface ModalProps {
  readonly open: boolean;
  readonly title: string;
  readonly description?: string;
  readonly onClose: () => void;
  /** Escape closes it, unless this is in the way. */
  readonly onEscape?: (event: KeyboardEvent) => void;
  readonly children: ReactNode;
  /** For more than a few words: wider, or as wide as a page of keys. */
  readonly wide?: boolean | 'page';
}

export function Modal({ open, title, description, onClose, onEscape, children, wide = false }: ModalProps): ReactElement {
  return (
    <Dialog.Root open={open} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#14182480]" />
        <Dialog.Content
          onEscapeKeyDown={(event) => onEscape?.(event)}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveFocusBack();
          }}
          {...(description === undefined ? { 'aria-describedby': undefined } : {})}
          className={`fixed left-1/2 top-1/2 z-50 max-h-[92vh] w-[92vw] ${wide === 'page' ? 'max-w-[1160px]' : wide ? 'max-w-[820px]' : 'max-w-[560px]'} -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border border-rule bg-sheet p-6`}
        >
          <Dialog.Title className="name text-[22px] leading-tight">{title}</Dialog.Title>
          {description !== undefined && <Dialog.Description className="mt-1 text-ink-soft">{description}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
