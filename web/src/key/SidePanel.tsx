/** A panel below the easel, in the place of the tray: its name, a way to close it, and what it holds. */
import { X } from 'lucide-react';
import type { ReactElement, ReactNode } from 'react';
import { Button } from '../ui/Button.js';

interface SidePanelProps {
  /** Names it for screen readers. */
  readonly label: string;
  readonly title: ReactNode;
  readonly closeLabel: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

export function SidePanel({ label, title, closeLabel, onClose, children }: SidePanelProps): ReactElement {
  return (
    <section
      aria-label={label}
      className="flex min-h-0 flex-1 flex-col rounded-[14px] border border-rule bg-sheet"
      onKeyDown={(event) => {
        if (event.code !== 'Escape') return;
        event.stopPropagation();
        onClose();
      }}
    >
      <header className="flex items-center gap-2 px-3 pt-2">
        {title}
        <span className="flex-1" />
        <Button weight="bare" aria-label={closeLabel} onClick={onClose}>
          <X size={17} aria-hidden />
        </Button>
      </header>
      {children}
    </section>
  );
}
