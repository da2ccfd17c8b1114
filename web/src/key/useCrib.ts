/** The plan as though nothing were inked, to key by hand against. It keys nothing. */
import { isRefusal, type HeardFrames, type KeyingRules } from '@zest-jaw/core';
import { sheetExposures, type SheetExposure } from '../barSheet/sheetData.js';
import { useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';

export function useCrib(isWanted: boolean, rules: KeyingRules, heard: HeardFrames | undefined): readonly SheetExposure[] | undefined {
  const document = useSceneDocument();
  const { track, charts } = useSpeaker();
  // What the hand keys does not change the crib.
  const { words, phonemes, clips, settings, views } = document;
  const ask = async (): Promise<readonly SheetExposure[] | undefined> => {
    const exposures = await keyer.crib({ scene: document, trackId: track.id, charts, heard }, rules);
    return exposures && !isRefusal(exposures) ? sheetExposures({ ...document, exposures }, track.id, charts) : undefined;
  };
  return useAnswer('crib', [rules, heard, words, phonemes, clips, settings, views, track.id, charts], isWanted ? ask : undefined);
}
