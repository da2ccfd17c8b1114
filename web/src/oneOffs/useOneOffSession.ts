/** One-offs as the desk knows drawings: a chart that is the scene's view of it, whose changes are changes of the scene. */
import { changeOneOff, chartWithOneOffs, type ChartDocument, type SceneDocument } from '@zest-jaw/core';
import { useEffect, useMemo } from 'react';
import { createStore } from 'zustand/vanilla';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import type { DocumentSession, SessionState } from '../session/session.js';

export function sessionOfOneOffs(
  scene: DocumentSession<SceneDocument>,
  chart: DocumentSession<ChartDocument>,
  chartId: string,
): { readonly session: DocumentSession<ChartDocument>; readonly follow: () => () => void } {
  const seen = (): SessionState<ChartDocument> => {
    const state = chart.store.getState();
    return { ...state, document: chartWithOneOffs(scene.store.getState().document, chartId, state.document) };
  };
  const store = createStore(seen);
  const update = (): void => {
    if (store.getState().document !== seen().document) store.setState(seen());
  };
  const { mark, squash, undo, redo } = scene;
  return {
    session: {
      ...chart,
      store,
      mark,
      squash,
      undo,
      redo,
      change: (result) => {
        const isMade = scene.change(changeOneOff(scene.store.getState().document, result));
        update();
        return isMade;
      },
    },
    follow: () => {
      const ends = [scene.store.subscribe(update), chart.store.subscribe(update)];
      return () => ends.forEach((end) => end());
    },
  };
}

/** The one-offs of the chart in force at the playhead. */
export function useOneOffSession(): DocumentSession<ChartDocument> {
  const { session: scene } = useOpenScene();
  const { chartSession, chartId } = useSpeaker();
  const { session, follow } = useMemo(() => sessionOfOneOffs(scene, chartSession, chartId), [scene, chartSession, chartId]);
  useEffect(follow, [follow]);
  return session;
}
