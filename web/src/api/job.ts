/** Following a job by server-sent events, until it ends. */
import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api } from './http.js';
import { hasEnded, type JobView } from '@zest-jaw/core';

/** Tells every change of a job; returns what stops it. */
export function watchJob(id: string, onChange: (job: JobView) => void): () => void {
  const source = new EventSource(`/api/jobs/${id}/events`);
  source.onmessage = (event: MessageEvent<string>) => {
    const job = JSON.parse(event.data) as JobView;
    // Closed by hand: a finished stream would otherwise be opened again by the browser.
    if (hasEnded(job)) source.close();
    onChange(job);
  };
  return () => source.close();
}

/** The state of a job now; undefined without one. Its events are put where queries are kept. */
export function useJob(id: string | undefined): JobView | undefined {
  const client = useQueryClient();
  useEffect(() => (id === undefined ? undefined : watchJob(id, (job) => client.setQueryData(['job', id], job))), [client, id]);
  return useQuery<JobView>({ queryKey: ['job', id], queryFn: skipToken }).data;
}

export function cancelJob(id: string): Promise<JobView> {
  return api<JobView>(`/jobs/${id}`, { method: 'DELETE' });
}
