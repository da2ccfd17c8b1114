/** The grid that mouths start on: that of the hold where they are to snap, else every frame. */
import { fullRules } from '@zest-jaw/core';
import { useStore } from 'zustand';
import { looking } from '../looking/looking.js';
import { useSpeaker } from '../scene/sceneContext.js';

export function useGrid(): number {
  const { track } = useSpeaker();
  const snap = useStore(looking, (state) => state.snap);
  return snap ? fullRules(track.rules).holdFrames : 1;
}
