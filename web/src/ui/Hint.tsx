/** Keys, and what they do. */
import type { ReactElement, ReactNode } from 'react';

export const Hint = ({ keys, children }: { keys: readonly string[]; children: ReactNode }): ReactElement => (
  <span className="flex items-center gap-1.5 whitespace-nowrap">
    {keys.map((key) => (
      <kbd key={key} className="keycap">
        {key}
      </kbd>
    ))}
    {children}
  </span>
);
