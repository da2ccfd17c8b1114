/** Something of the state of several sessions; the same list until one of them changes. */
import { useCallback, useRef, useSyncExternalStore } from 'react';
import type { StoreApi } from 'zustand/vanilla';

/** As much of a session as it takes to follow a part of its state. */
export interface Followed<State> {
  readonly store: Pick<StoreApi<State>, 'getState' | 'subscribe'>;
}

export function useOfSessions<State, T>(sessions: readonly Followed<State>[], pick: (state: State) => T): readonly T[] {
  const kept = useRef<readonly T[]>([]);
  const read = (): readonly T[] => {
    const next = sessions.map(({ store }) => pick(store.getState()));
    const same = next.length === kept.current.length && next.every((value, index) => kept.current[index] === value);
    return same ? kept.current : (kept.current = next);
  };
  const subscribe = useCallback(
    (onChange: () => void) => {
      const ends = sessions.map(({ store }) => store.subscribe(onChange));
      return () => ends.forEach((end) => end());
    },
    [sessions],
  );
  return useSyncExternalStore(subscribe, read);
}
