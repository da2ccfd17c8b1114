/** The phrases of the open scene with their words, in frames. */
import { framesPerSecond, phrasesOfWords, placedWords, SAMPLE_RATE, sceneSettings } from '@zest-jaw/core';
import { useMemo } from 'react';
import { useSceneDocument } from '../scene/sceneContext.js';

export function usePhrases(): { from: number; to: number; text: string }[] {
  const settings = useSceneDocument((document) => document.settings);
  const clips = useSceneDocument((document) => document.clips);
  const words = useSceneDocument((document) => document.words);
  return useMemo(() => {
    const perSample = framesPerSecond(sceneSettings({ settings }).frameRate) / SAMPLE_RATE;
    return phrasesOfWords(placedWords({ settings, clips, words })).map((phrase) => ({
      from: Math.floor(phrase[0]!.from * perSample),
      to: Math.ceil(phrase.at(-1)!.to * perSample),
      text: phrase.map(({ text }) => text).join(' '),
    }));
  }, [settings, clips, words]);
}
