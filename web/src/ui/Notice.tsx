/** A word to the user in the middle of an empty place: busy, empty or gone wrong. */
import type { ReactElement, ReactNode } from 'react';

export function Notice({ title, busy = false, children }: { title: string; busy?: boolean; children?: ReactNode }): ReactElement {
  return (
    <div className="max-w-[460px] text-center" role={busy ? 'status' : undefined}>
      <p className="name text-[22px]">{title}</p>
      {children && <div className="mt-2 text-ink-soft">{children}</div>}
    </div>
  );
}
