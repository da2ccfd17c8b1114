/** The scene around the Chart step, when it was opened from one. */
import type { SceneDocument } from '@zest-jaw/core';
import { useContext } from 'react';
import { useStore } from 'zustand';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { SceneContext, type OpenScene } from '../scene/sceneContext.js';

export function useSceneOfChart(): OpenScene | null {
  return useContext(SceneContext);
}

const NOTHING_OPEN: StoreApi<{ readonly document: SceneDocument | undefined }> = createStore(() => ({ document: undefined }));

/** Its document. */
export function useDocumentOfScene(): SceneDocument | undefined {
  const session = useSceneOfChart()?.session;
  return useStore<StoreApi<{ readonly document: SceneDocument | undefined }>, SceneDocument | undefined>(
    session?.store ?? NOTHING_OPEN,
    ({ document }) => document,
  );
}
