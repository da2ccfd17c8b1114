/** The top of every page: the mark, where one is, and day or night. */
import { Moon, Sun } from 'lucide-react';
import type { ReactElement, ReactNode } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { theme, toggleTheme } from './theme.js';

export function Mark(): ReactElement {
  return (
    <Link to="/" className="name flex items-center gap-2.5 rounded-lg text-[20px]" aria-label="Zest Jaw, all scenes">
      <img src="/mark.svg" alt="" width={28} height={28} />
      <span className="whitespace-nowrap max-[1120px]:hidden">Zest Jaw</span>
    </Link>
  );
}

export function ThemeButton(): ReactElement {
  const current = useStore(theme, (state) => state.theme);
  const label = current === 'day' ? 'Night' : 'Day';
  return (
    <button
      type="button"
      onClick={toggleTheme}
      title={label}
      aria-label={label}
      className="grid size-8 place-items-center rounded-full text-ink-soft hover:text-ink"
    >
      {current === 'day' ? <Moon size={17} /> : <Sun size={17} />}
    </button>
  );
}

export function TopBar({ children }: { children?: ReactNode }): ReactElement {
  return (
    <header className="flex h-[54px] shrink-0 items-center gap-5 border-b border-rule px-[18px]">
      <Mark />
      {children}
      <ThemeButton />
    </header>
  );
}
