/** The plan as though nothing were inked, to key by hand against. It keys nothing. */
import { applyPatch, isRefusal, SCENE_KIND, type HeardFrames, type KeyingRules, type SceneDocument } from '@zest-jaw/core';
import { useEffect, useState } from 'react';
import { sheetExposures, type SheetExposure } from '../barSheet/sheetData.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { keyInWorker } from '../workers/heavy.js';

export function useCrib(isWanted: boolean, rules: KeyingRules, heard: HeardFrames | undefined): readonly SheetExposure[] | undefined {
  const { document, track, charts } = useOpenScene();
  const [crib, setCrib] = useState<readonly SheetExposure[]>();
  const { words, phonemes, clips, settings, views } = document;
  useEffect(() => {
    if (!isWanted) return;
    let current = true;
    // A scene without a mouth in it, so that nothing the hand has done moves the plan.
    const bare: SceneDocument = {
      ...document,
      exposures: document.exposures.filter((exposure) => exposure.track !== track.id),
      tracks: document.tracks.map((one) => (one.id === track.id ? { ...one, rules } : one)),
    };
    void keyInWorker(bare, track.id, charts, { heard }).then((keyed) => {
      if (current && !isRefusal(keyed)) setCrib(sheetExposures(applyPatch(SCENE_KIND, bare, keyed.patch), track.id, charts));
    });
    return () => void (current = false);
    // What the hand keys does not change the crib.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isWanted, rules, heard, words, phonemes, clips, settings, views, track.id, charts]);
  return isWanted ? crib : undefined;
}
