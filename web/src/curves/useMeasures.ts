/** The curves and counts of the lane that is worked on, from the worker. */
import type { LaneMeasures } from '@zest-jaw/core';
import { useNotes } from '../check/NotesRoom.js';
import { useSpeaker } from '../scene/sceneContext.js';
import { checker } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';

export function useMeasures(): LaneMeasures | undefined {
  const { job } = useNotes();
  const { track } = useSpeaker();
  return useAnswer('measures', [job, track.id], () => checker.measures(job, track.id));
}
