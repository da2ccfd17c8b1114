/** Mouths chosen one by one, and what is said of a drag under way: of one open scene, as long as it is open. */
import { createStore, type StoreApi } from 'zustand/vanilla';

export interface Chosen {
  /** Of exposures. */
  readonly ids: ReadonlySet<string>;
  /** What a drag of the selection comes to, shown beside it; undefined when nothing is dragged. */
  readonly said: string | undefined;
}

export type ChosenStore = StoreApi<Chosen>;

export const NONE_CHOSEN: ReadonlySet<string> = new Set();

export const openChosen = (): ChosenStore => createStore<Chosen>(() => ({ ids: NONE_CHOSEN, said: undefined }));

/** Chooses one more, or no longer. */
export function toggleChosen(store: ChosenStore, id: string): void {
  store.setState(({ ids }) => {
    const next = new Set(ids);
    if (!next.delete(id)) next.add(id);
    return { ids: next };
  });
}

export function chooseNone(store: ChosenStore): void {
  if (store.getState().ids.size > 0) store.setState({ ids: NONE_CHOSEN });
}
