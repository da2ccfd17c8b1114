/** The three weights of button: one main action a view, quiet ones, and bare ones for icons. */
import { clsx } from 'clsx';
import type { ButtonHTMLAttributes, ReactElement } from 'react';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly weight?: 'main' | 'quiet' | 'bare' | 'grave';
}

export function Button({ weight = 'quiet', className, type = 'button', ...rest }: ButtonProps): ReactElement {
  return (
    <button
      type={type}
      className={clsx(
        'inline-flex items-center justify-center gap-2 rounded-full px-4 py-[7px] text-[15px] font-semibold transition-colors disabled:opacity-45',
        weight === 'main' && 'bg-zest text-on-zest enabled:hover:brightness-105',
        weight === 'quiet' && 'border border-rule bg-lift text-ink enabled:hover:border-graphite',
        weight === 'bare' && 'px-2 text-ink-soft enabled:hover:text-ink',
        weight === 'grave' && 'bg-bad text-sheet',
        className,
      )}
      {...rest}
    />
  );
}
