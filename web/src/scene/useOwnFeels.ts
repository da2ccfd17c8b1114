/** The feels a production keeps beside the usual ones. */
import { fullRules, type Feel, type KeyingRules } from '@zest-jaw/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, sendJson, sentenceOf } from '../api/http.js';

export interface OwnFeels {
  readonly feels: readonly Feel[];
  readonly keep: (name: string, rules: KeyingRules) => void;
  readonly forget: (name: string) => void;
}

const NONE: readonly Feel[] = [];

export function useOwnFeels(productionId: string): OwnFeels {
  const client = useQueryClient();
  const key = ['feels', productionId];
  const path = `/productions/${productionId}/feels`;
  const { data: feels = NONE } = useQuery({ queryKey: key, queryFn: () => api<Feel[]>(path) });
  const put = useMutation({
    mutationFn: (next: readonly Feel[]) => sendJson<Feel[]>('PUT', path, { feels: next }),
    onSuccess: (kept) => client.setQueryData(key, kept),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  return {
    feels,
    keep: (name, rules) => put.mutate([...feels, { name: name.trim(), look: 'Kept by this production.', rules: fullRules(rules) }]),
    forget: (name) => put.mutate(feels.filter((feel) => feel.name !== name)),
  };
}
