/** Opening a scene bundle: sent, then opened by the server as a job; its scenes come beside those that are there. */
import { skipToken, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { hasEnded, type JobView } from '@zest-jaw/core';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { cancelJob, watchJob } from '../api/job.js';

export const isBundle = (file: File): boolean => /\.zip$/i.test(file.name);

interface Opened {
  readonly sceneIds: readonly string[];
  readonly charts: readonly string[];
}

export interface OpeningBundle {
  open(file: File): void;
  /** Gives it up; nothing of it stays. */
  giveUp(): void;
  /** How far it is; undefined while none is opened. */
  readonly state: { readonly name: string; readonly done: number; readonly message: string } | undefined;
}

export function useOpenBundle(): OpeningBundle {
  const client = useQueryClient();
  const navigate = useNavigate();
  const send = useMutation({
    mutationFn: (file: File): Promise<JobView> => {
      const body = new FormData();
      body.set('bundle', file);
      return api<JobView>('/bundles', { method: 'POST', body });
    },
    onSuccess: (job, file) => follow.mutate({ id: job.id, name: file.name }),
    onError: (error, file) => void toast.error(`${file.name}: ${sentenceOf(error)}`),
  });
  const follow = useMutation({
    mutationFn: async ({ id }: { id: string; name: string }): Promise<Opened | undefined> => {
      const { state, message } = await new Promise<JobView>((resolve) => {
        watchJob(id, (job) => {
          client.setQueryData(['job', id], job);
          if (hasEnded(job)) resolve(job);
        });
      });
      if (state === 'cancelled') return undefined;
      if (state === 'failed') throw new Error(message);
      return api<Opened>(`/bundles/${id}`);
    },
    onSuccess: async (opened) => {
      if (!opened) return;
      await client.invalidateQueries();
      if (opened.charts.length > 0) toast.message(`New here with it: ${opened.charts.map((name) => `“${name}”`).join(', ')}.`);
      const [first] = opened.sceneIds;
      if (first !== undefined) await navigate(`/scenes/${first}/key`);
    },
    onError: (error, { name }) => void toast.error(`${name}: ${sentenceOf(error)}`),
  });
  const running = follow.isPending ? follow.variables : undefined;
  const { data: job } = useQuery<JobView>({ queryKey: ['job', running?.id], queryFn: skipToken });
  const name = running?.name ?? (send.isPending ? send.variables.name : undefined);
  return {
    open: (file) => send.mutate(file),
    giveUp: () => void (running && cancelJob(running.id).catch((error: unknown) => toast.error(sentenceOf(error)))),
    state: name === undefined ? undefined : { name, done: job?.done ?? 0, message: job?.message ?? 'Sending it' },
  };
}
