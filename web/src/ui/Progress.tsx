/** How far something is, as a bar with what is being done beside it. */
import type { ReactElement } from 'react';

export function Progress({ label, done, message }: { label: string; done: number; message: string }): ReactElement {
  return (
    <div className="flex items-center gap-3" role="status">
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
      <span className="w-[190px] truncate text-[14px] text-ink-soft">{message}</span>
    </div>
  );
}
