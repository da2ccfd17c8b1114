/** Changes after which the pencil is keyed again, in one step of undo. */
import { withPencilKeyed, type ChartDocument, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import { useCallback } from 'react';
import { newId } from '../session/documentSession.js';
import { useOpenScene } from './sceneContext.js';

/** Answers whether the change was made. */
export function useChangeAndKey(): (make: (scene: SceneDocument) => Patch | Refusal) => boolean {
  const { session, allCharts, heardOf } = useOpenScene();
  return useCallback(
    (make) => {
      const scene = session.store.getState().document;
      return session.change(withPencilKeyed(scene, make(scene), allCharts, newId, heardOf));
    },
    [session, allCharts, heardOf],
  );
}

/** The chart a character begins with, for one that has not spoken yet; undefined when it has none. */
export function useSpeaker(): (characterId: string) => { chartId: string; chart: ChartDocument } | undefined {
  const { characters, allCharts } = useOpenScene();
  return (characterId) => {
    const chartId = characters.find((character) => character.id === characterId)?.chartId ?? '';
    const chart = allCharts.get(chartId);
    return chart && { chartId, chart };
  };
}
