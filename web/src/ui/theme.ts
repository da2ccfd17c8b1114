/** Day and night: as the system has it until the user chooses. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { keep, maybeKept } from './browserStore.js';

export type Theme = 'day' | 'night';
const KEY = 'zest-theme';

function initial(): Theme {
  const chosen = maybeKept(KEY);
  if (chosen === 'day' || chosen === 'night') return chosen;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
}

export const theme: StoreApi<{ readonly theme: Theme }> = createStore(() => ({ theme: initial() }));

function show({ theme: current }: { theme: Theme }): void {
  document.documentElement.dataset['theme'] = current;
}

show(theme.getState());
theme.subscribe(show);

export function toggleTheme(): void {
  const next = theme.getState().theme === 'day' ? 'night' : 'day';
  keep(KEY, next);
  theme.setState({ theme: next });
}
