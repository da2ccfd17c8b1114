/** A file that the server makes of the scene: asked for, followed, saved when it is there, or given up. */
import { hasEnded, type JobView } from '@zest-jaw/core';
import { useEffect, useEffectEvent, useState } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { cancelJob, useJob } from '../api/job.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { saveUrl } from '../ui/saveText.js';

export interface HandOff {
  readonly isBusy: boolean;
  /** 0 to 1. */
  readonly done: number;
  /** What became of the last one, as a sentence. */
  readonly message: string;
  readonly isFault: boolean;
  readonly isSaved: boolean;
  start(request: object): Promise<void>;
  cancel(): void;
}

/** @param kind of file: pictures have a way of their own */
export function useHandOff(kind: 'hand-offs' | 'pictures' = 'hand-offs'): HandOff {
  const { session, sceneId } = useOpenScene();
  const [jobId, setJobId] = useState<string>();
  const job = useJob(jobId);
  const isBusy = jobId !== undefined && (job === undefined || !hasEnded(job));
  // The server names the file.
  const onDone = useEffectEvent((id: string) => saveUrl(`/api/jobs/${id}/result`, ''));
  const doneId = job?.state === 'done' ? job.id : undefined;
  useEffect(() => {
    if (doneId !== undefined) onDone(doneId);
  }, [doneId]);
  return {
    isBusy,
    done: job?.done ?? 0,
    message: job?.state === 'done' ? 'Saved.' : job?.state === 'failed' || job?.state === 'cancelled' ? job.message : '',
    isFault: job?.state === 'failed',
    isSaved: job?.state === 'done',
    start: async (request) => {
      try {
        await session.flush();
        setJobId((await sendJson<JobView>('POST', `/scenes/${sceneId}/${kind}`, request)).id);
      } catch (error) {
        toast.error(sentenceOf(error));
      }
    },
    cancel: () => jobId !== undefined && void cancelJob(jobId),
  };
}
