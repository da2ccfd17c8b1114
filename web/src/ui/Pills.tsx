/** One of a few, side by side. */
import type { ReactElement, ReactNode } from 'react';
import { moveByArrows, tabStop } from './radioKeys.js';

interface PillsProps<T> {
  /** Names the group for screen readers. */
  readonly label: string;
  readonly options: readonly (readonly [value: T, text: ReactNode])[];
  readonly value: T;
  readonly onChange: (value: T) => void;
  /** Beside the pills. */
  readonly children?: ReactNode;
}

export function Pills<T extends string | number>({ label, options, value, onChange, children }: PillsProps<T>): ReactElement {
  return (
    <div className="flex flex-wrap items-center gap-1.5" role="radiogroup" aria-label={label} onKeyDown={moveByArrows}>
      {options.map(([option, text]) => (
        <button
          key={option}
          type="button"
          role="radio"
          aria-checked={value === option}
          tabIndex={tabStop(value === option)}
          onClick={() => onChange(option)}
          className="rounded-full border border-rule bg-lift px-3.5 py-1 font-semibold aria-checked:border-ink aria-checked:bg-ink aria-checked:text-on-ink"
        >
          {text}
        </button>
      ))}
      {children}
    </div>
  );
}
