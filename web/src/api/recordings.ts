/** Sending a recording in: decoded by the server as a job, with its progress; gone again when nobody waits for it. */
import { hasEnded, type JobView, type RecordingView } from '@zest-jaw/core';
import { useEffect, useState } from 'react';
import { api, sentenceOf } from './http.js';
import { cancelJob, watchJob } from './job.js';
import { maybeReadHere } from './readHere.js';

export interface Upload {
  /** Share done, 0 to 1. */
  readonly done: number;
  readonly message: string;
  /** What it became, once it is decoded. */
  readonly recording?: RecordingView;
  /** What to know of how it came about. */
  readonly notes?: readonly string[];
  /** Why it cannot be used. */
  readonly fault?: string;
}

const SENDING: Upload = { done: 0, message: 'Sending the recording' };

/** Sends a file, the same for as long as the component is there; gives it up when that goes before it is decoded. */
export function useUpload(file: File): Upload {
  const [upload, setUpload] = useState<Upload>(SENDING);
  useEffect(() => {
    const request = new AbortController();
    let running: string | undefined;
    let notes: readonly string[] = [];
    let stopWatching = (): void => undefined;
    const follow = (job: JobView): void => {
      if (!hasEnded(job)) {
        setUpload({ done: job.done, message: job.message });
        return;
      }
      running = undefined;
      if (job.state !== 'done') setUpload({ done: 0, message: job.message, fault: job.message });
      else
        api<RecordingView>(`/recordings/${job.id}`, { signal: request.signal })
          .then((recording) => setUpload({ done: 1, message: 'Ready', recording, notes: [...notes, ...job.warnings] }))
          .catch((error: unknown) => !request.signal.aborted && setUpload({ ...SENDING, fault: sentenceOf(error) }));
    };
    const send = async (): Promise<void> => {
      const here = await maybeReadHere(file);
      notes = here?.notes ?? [];
      if (request.signal.aborted) return;
      const form = new FormData();
      form.set('recording', here?.file ?? file);
      const job = await api<JobView>('/recordings', { method: 'POST', body: form, signal: request.signal });
      running = job.id;
      if (request.signal.aborted) void cancelJob(job.id);
      else stopWatching = watchJob(job.id, follow);
    };
    send().catch((error: unknown) => !request.signal.aborted && setUpload({ ...SENDING, fault: sentenceOf(error) }));
    return () => {
      request.abort();
      stopWatching();
      if (running) void cancelJob(running);
    };
  }, [file]);
  return upload;
}
