/** Something that is on or off, as a pill. */
import { clsx } from 'clsx';
import type { ReactElement, ReactNode } from 'react';

interface ToggleProps {
  readonly on: boolean;
  readonly onToggle: () => void;
  /** For screen readers, where the pill shows only a letter. */
  readonly label?: string;
  readonly title?: string;
  readonly disabled?: boolean;
  /** `soft` for what opens something beside the sheet and says more than its name. */
  readonly look?: 'plain' | 'soft';
  readonly className?: string;
  readonly children: ReactNode;
}

const ON = { plain: 'aria-pressed:bg-ink aria-pressed:text-on-ink', soft: 'aria-pressed:bg-word aria-pressed:text-ink' };

export function Toggle({ on, onToggle, label, title, disabled, look = 'plain', className, children }: ToggleProps): ReactElement {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      title={title ?? label}
      disabled={disabled}
      onClick={onToggle}
      className={clsx(
        'whitespace-nowrap rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] text-ink-soft hover:border-graphite aria-pressed:border-ink disabled:opacity-45',
        ON[look],
        className,
      )}
    >
      {children}
    </button>
  );
}
