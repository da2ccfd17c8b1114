/** The plan as though nothing were inked, to key by hand against. It keys nothing. */
import { isRefusal, type HeardFrames, type KeyingRules } from '@zest-jaw/core';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { sheetExposures, type SheetExposure } from '../barSheet/sheetData.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';

export function useCrib(isWanted: boolean, rules: KeyingRules, heard: HeardFrames | undefined): readonly SheetExposure[] | undefined {
  const { document, track, charts } = useOpenScene();
  const [crib, setCrib] = useState<readonly SheetExposure[]>();
  const { words, phonemes, clips, settings, views } = document;
  useEffect(() => {
    if (!isWanted) return;
    let current = true;
    keyer
      .crib({ scene: document, trackId: track.id, charts, heard }, rules)
      .then((exposures) => {
        if (current && exposures && !isRefusal(exposures)) setCrib(sheetExposures({ ...document, exposures }, track.id, charts));
      })
      .catch((error: unknown) => toast.error(sentenceOf(error)));
    return () => void (current = false);
    // What the hand keys does not change the crib.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isWanted, rules, heard, words, phonemes, clips, settings, views, track.id, charts]);
  return isWanted ? crib : undefined;
}
