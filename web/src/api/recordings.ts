/** Sending a recording in: decoded by the server as a job, with its progress; gone again when nobody waits for it. */
import { hasEnded, type JobView, type RecordingView } from '@zest-jaw/core';
import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useId } from 'react';
import { api, sentenceOf } from './http.js';
import { cancelJob, useJob } from './job.js';
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

/** Asked once, whatever the browser says of its network: the server may be this computer. Forgotten with who asked. */
const ONCE = { networkMode: 'always', staleTime: Infinity, gcTime: 0, retry: false } as const;

/** A number for each file that was chosen: the same file chosen again is sent again. */
const numbers = new WeakMap<File, number>();
let chosen = 0;
function numberOf(file: File): number {
  if (!numbers.has(file)) numbers.set(file, (chosen += 1));
  return numbers.get(file)!;
}

interface Sent {
  readonly job: JobView;
  readonly notes: readonly string[];
}

async function send(file: File, signal: AbortSignal): Promise<Sent> {
  const here = await maybeReadHere(file);
  signal.throwIfAborted();
  const form = new FormData();
  form.set('recording', here?.file ?? file);
  const job = await api<JobView>('/recordings', { method: 'POST', body: form, signal });
  if (signal.aborted) void cancelJob(job.id);
  return { job, notes: here?.notes ?? [] };
}

/** Sends a file, the same for as long as the component is there; gives it up when that goes before it is decoded. */
export function useUpload(file: File): Upload {
  const client = useQueryClient();
  const asked = [useId(), numberOf(file)];
  const sent = useQuery({ queryKey: ['sent', ...asked], queryFn: ({ signal }) => send(file, signal), ...ONCE });
  const jobId = sent.data?.job.id;
  const job = useJob(jobId);
  useEffect(() => {
    if (jobId === undefined) return undefined;
    return () => {
      const last = client.getQueryData<JobView>(['job', jobId]);
      if (!last || !hasEnded(last)) void cancelJob(jobId);
    };
  }, [client, jobId]);
  const decoded = useQuery({
    queryKey: ['recording', ...asked, jobId],
    queryFn: job?.state === 'done' ? ({ signal }) => api<RecordingView>(`/recordings/${job.id}`, { signal }) : skipToken,
    ...ONCE,
  });

  const error = sent.error ?? decoded.error;
  if (error) return { ...SENDING, fault: sentenceOf(error) };
  if (decoded.data) return { done: 1, message: 'Ready', recording: decoded.data, notes: [...sent.data!.notes, ...job!.warnings] };
  if (!job) return SENDING;
  if (hasEnded(job) && job.state !== 'done') return { done: 0, message: job.message, fault: job.message };
  return { done: job.done, message: job.message };
}
