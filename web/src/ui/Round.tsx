/** A round button with an icon: its label is said and shown on hovering. */
import type { ReactElement, ReactNode } from 'react';

export function Round({
  label,
  onClick,
  children,
  pressed,
  disabled = false,
}: {
  label: string;
  onClick: () => void;
  children: ReactNode;
  pressed?: boolean;
  disabled?: boolean;
}): ReactElement {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      className="grid size-9 place-items-center rounded-full border border-transparent text-ink enabled:hover:border-rule enabled:hover:bg-lift disabled:opacity-35 aria-pressed:bg-zest-soft"
    >
      {children}
    </button>
  );
}
