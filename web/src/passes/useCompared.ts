/** The scene held against another state of it, on the lane that is worked on. */
import { compareLanes, isRefusal, type LaneComparison, type SceneDocument } from '@zest-jaw/core';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { sheetExposures, type SheetExposure } from '../barSheet/sheetData.js';
import { useHeard } from '../trying/useProposal.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';
import { compared } from './compared.js';

export interface Held {
  readonly title: string;
  readonly passId: string | null;
  readonly document: SceneDocument;
  readonly exposures: readonly SheetExposure[];
  readonly comparison: LaneComparison;
}

/** Undefined where nothing is held against it, and before the crib is planned. */
export function useCompared(isWanted: boolean): Held | undefined {
  const { sceneId } = useOpenScene();
  const scene = useSceneDocument();
  const { track, charts } = useSpeaker();
  const heard = useHeard();
  const other = useStore(compared, (state) => (isWanted && state.other?.sceneId === sceneId ? state.other : null));
  const isCrib = other?.document === 'crib';
  const { words, phonemes, clips, settings, views } = scene;
  const plan = useAnswer(
    'crib held',
    [track.rules, heard, words, phonemes, clips, settings, views, track.id, charts],
    isCrib ? ask : undefined,
  );
  async function ask() {
    const exposures = await keyer.crib({ scene, trackId: track.id, charts, heard }, track.rules);
    return exposures && !isRefusal(exposures) ? exposures : undefined;
  }
  const document = useMemo(() => {
    if (!other) return undefined;
    if (other.document !== 'crib') return other.document;
    return plan && { ...scene, exposures: [...scene.exposures.filter((one) => one.track !== track.id), ...plan] };
  }, [other, plan, scene, track.id]);
  return useMemo(() => {
    if (!other || !document) return undefined;
    return {
      title: other.title,
      passId: other.passId,
      document,
      exposures: sheetExposures(document, track.id, charts),
      comparison: compareLanes(scene, document, track.id, charts),
    };
  }, [other, document, scene, track.id, charts]);
}
