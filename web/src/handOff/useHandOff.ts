/** A file that the server makes of the scene: asked for, followed, saved when it is there, or given up. */
import { hasEnded, type JobView } from '@zest-jaw/core';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { cancelJob, useJob } from '../api/job.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { saveUrl } from '../ui/saveText.js';
import { unpackInto } from './unpackInto.js';

export interface HandOff {
  readonly isBusy: boolean;
  /** 0 to 1. */
  readonly done: number;
  /** What became of the last one, as a sentence. */
  readonly message: string;
  readonly isFault: boolean;
  readonly isSaved: boolean;
  /** @param folder where the files go, taken out of their zip; saved as the zip without it */
  start(request: object, folder?: FileSystemDirectoryHandle): Promise<void>;
  cancel(): void;
}

/** @param kind of file: pictures have a way of their own */
export function useHandOff(kind: 'hand-offs' | 'pictures' = 'hand-offs'): HandOff {
  const { session, sceneId } = useOpenScene();
  const [jobId, setJobId] = useState<string>();
  const job = useJob(jobId);
  const isBusy = jobId !== undefined && (job === undefined || !hasEnded(job));
  const into = useRef<FileSystemDirectoryHandle>(undefined);
  const [unpacking, setUnpacking] = useState<'busy' | 'done' | { readonly fault: string }>();
  const onDone = useEffectEvent((id: string) => {
    // The server names the file.
    if (!into.current) return saveUrl(`/api/jobs/${id}/result`, '');
    setUnpacking('busy');
    unpackInto(into.current, `/api/jobs/${id}/result`).then(
      () => setUnpacking('done'),
      (error: unknown) => setUnpacking({ fault: sentenceOf(error) }),
    );
  });
  const doneId = job?.state === 'done' ? job.id : undefined;
  useEffect(() => {
    if (doneId !== undefined) onDone(doneId);
  }, [doneId]);
  const fault = typeof unpacking === 'object' ? unpacking.fault : undefined;
  return {
    isBusy: isBusy || unpacking === 'busy',
    done: job?.done ?? 0,
    message: (fault ?? job?.state === 'done') ? 'Saved.' : job?.state === 'failed' || job?.state === 'cancelled' ? job.message : '',
    isFault: job?.state === 'failed' || fault !== undefined,
    isSaved: job?.state === 'done' && (unpacking === undefined || unpacking === 'done'),
    start: async (request, folder) => {
      into.current = folder;
      // What became of the last one is no longer said.
      setUnpacking(undefined);
      setJobId(undefined);
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
