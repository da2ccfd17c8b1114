/** What is shown of an open scene: as it is, or, while somebody looks back, as it was. */
import type { SceneDocument } from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { DocumentSession } from '../session/session.js';

export interface Shown {
  readonly document: SceneDocument;
  /** The revision that is looked back at; null shows the scene as it is. */
  readonly backAt: number | null;
}

export interface ShownScene {
  readonly store: StoreApi<Shown>;
  /** Shows the scene as it was; until `toNow` nothing of it can be changed. */
  lookBack(revision: number, document: SceneDocument): void;
  toNow(): void;
}

const LOOKING_BACK = 'You are looking at the scene as it was. Go back to this, or to now, then change it.';

export function openShownScene(session: DocumentSession<SceneDocument>): ShownScene {
  const now = (): SceneDocument => session.store.getState().document;
  const store = createStore<Shown>(() => ({ document: now(), backAt: null }));
  session.store.subscribe(({ document }) => {
    if (store.getState().backAt === null && store.getState().document !== document) store.setState({ document });
  });
  return {
    store,
    lookBack: (backAt, document) => {
      session.hold(LOOKING_BACK);
      store.setState({ backAt, document });
    },
    toNow: () => {
      session.hold(undefined);
      store.setState({ backAt: null, document: now() });
    },
  };
}
