/** The reading of an open scene. */
import { type ClipPart, hasEnded, type JobView, type SceneDocument, type SceneView } from '@zest-jaw/core';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import type { Given } from '../api/besideRecording.js';
import { useJob } from '../api/job.js';
import type { DocumentSession } from '../session/session.js';
import type { OpenScene } from './sceneContext.js';

/** Follows the reading of the scene; when it arrives, the session takes it in. */
export function useReading(
  view: SceneView,
  session: DocumentSession<SceneDocument>,
): { reading: JobView | undefined; readAgain: OpenScene['readAgain'] } {
  const [jobId, setJobId] = useState(view.reading && !hasEnded(view.reading) ? view.reading.id : undefined);
  const followed = useJob(jobId);
  const ended = followed !== undefined && hasEnded(followed);
  const takeIn = (): Promise<boolean> =>
    session
      .refresh()
      .catch((error: unknown) => void toast.error(sentenceOf(error)))
      .then(() => true);
  const { data: isTakenIn = false } = useQuery({
    queryKey: ['reading taken in', jobId],
    queryFn: ended ? takeIn : skipToken,
    networkMode: 'always',
    staleTime: Infinity,
  });
  // It is under way until it is here: undo would take back something else before.
  const reading: JobView | undefined = ended && !isTakenIn ? { ...followed, state: 'running' } : (followed ?? view.reading ?? undefined);
  const readAgain = useCallback(
    async (clipId: string, parts?: readonly ClipPart[], given: Given['request'] = {}) => {
      await session.flush();
      const job = await sendJson<JobView>('POST', `/scenes/${view.id}/readings`, {
        clipId,
        offer: true,
        ...(parts && { parts }),
        ...given,
      });
      setJobId(job.id);
    },
    [session, view.id],
  );
  return { reading, readAgain };
}
