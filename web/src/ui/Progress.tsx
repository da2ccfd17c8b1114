/** How far something is, as a bar with what is being done beside it. */
import { clsx } from 'clsx';
import type { ReactElement } from 'react';

interface ProgressProps {
  /** For screen readers. */
  readonly label: string;
  /** Share done, 0 to 1. */
  readonly done: number;
  readonly message: string;
  readonly className?: string;
}

export function Progress({ label, done, message, className }: ProgressProps): ReactElement {
  return (
    <div className={clsx('flex items-center gap-3', className)} role="status">
      <div
        className="h-2 flex-1 overflow-hidden rounded-full bg-rule-soft"
        role="progressbar"
        aria-label={label}
        aria-valuenow={Math.round(done * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-full rounded-full bg-zest transition-[width] duration-300" style={{ width: `${Math.max(3, done * 100)}%` }} />
      </div>
      <span className="w-[220px] truncate text-[14px] text-ink-soft">{message}</span>
    </div>
  );
}
