/**
 * How far a lane is shot: kept by the server at every press, by the browser until the server has it, and
 * followed on every page that shows it.
 */
import { isShootingState, NOT_BEGUN, type ShootingState } from '@zest-jaw/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { api, sendJson } from '../api/http.js';
import { keep as keepHere, maybeKept } from '../ui/browserStore.js';

/** Another device is looked at so often, in milliseconds. */
const LOOKED_AT = 1500;

export interface Shooting {
  readonly state: ShootingState;
  /** What stands has been told by the server: before that nothing can be pressed. */
  readonly isKnown: boolean;
  /** What was pressed is not kept by the server yet; it is tried again. */
  readonly isBehind: boolean;
  change(make: (state: ShootingState) => ShootingState): void;
}

/** @param pictures how many pictures the lane has: what stands of a longer one begins anew */
export function useShooting(sceneId: string, trackId: string, cameraOn: 1 | 2, pictures: number): Shooting {
  const client = useQueryClient();
  const presses = useRef(0);
  const path = `/scenes/${sceneId}/shooting/${trackId}?on=${cameraOn}`;
  /** Where the browser keeps what the server has not got yet. */
  const here = `zest-jaw ${path}`;
  const key = ['shooting', sceneId, trackId, cameraOn];
  const keep = useMutation({
    mutationKey: key,
    // One after another: the last press is the one that stands.
    scope: { id: path },
    mutationFn: async (state: ShootingState) => {
      await sendJson('PUT', path, { state });
      // A press that came meanwhile is on its way by itself.
      if (maybeKept(here) === JSON.stringify(state)) keepHere(here, '');
    },
    retry: 20,
    retryDelay: 1000,
  });
  const isBehind = keep.isPending;
  const { data } = useQuery({
    queryKey: key,
    queryFn: async () => {
      const waiting = maybeKept(here);
      if (!waiting) {
        const before = presses.current;
        const { state } = await api<{ state: ShootingState | null }>(path);
        // What was pressed since is newer than the answer.
        return presses.current === before ? state : (client.getQueryData<ShootingState | null>(key) ?? null);
      }
      // The page went before the server had it: it goes first.
      const state = JSON.parse(waiting) as ShootingState;
      await sendJson('PUT', path, { state });
      keepHere(here, '');
      return state;
    },
    retry: 20,
    // What is on its way must not be put back by what was kept before it.
    refetchInterval: isBehind ? false : LOOKED_AT,
  });
  const stands = (kept: ShootingState | null | undefined): ShootingState => (isShootingState(kept, pictures) ? kept : NOT_BEGUN);
  return {
    state: stands(data),
    isKnown: data !== undefined,
    isBehind,
    change: (make) => {
      // Before it is known what stands, nothing is put in its place.
      if (client.getQueryData(key) === undefined) return;
      presses.current += 1;
      const next = make(stands(client.getQueryData<ShootingState | null>(key)));
      client.setQueryData(key, next);
      keepHere(here, JSON.stringify(next));
      keep.mutate(next);
    },
  };
}
