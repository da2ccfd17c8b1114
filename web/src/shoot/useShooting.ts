/**
 * How far a lane is shot: kept by the server at every press, by the browser until the server has it, and
 * followed on every page that shows it.
 */
import { isShootingState, NOT_BEGUN, type ShootingState } from '@zest-jaw/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../api/http.js';
import { stateOnItsWay } from './stateOnItsWay.js';

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
  const path = `/scenes/${sceneId}/shooting/${trackId}?on=${cameraOn}`;
  const onItsWay = stateOnItsWay(path);
  const key = ['shooting', sceneId, trackId, cameraOn];
  const keep = useMutation({ mutationKey: key, mutationFn: () => onItsWay.handOver(), retry: 20, retryDelay: 1000 });
  const isBehind = keep.isPending;
  const { data } = useQuery({
    queryKey: key,
    // What waits goes first; what is pressed while the server is asked is newer than its answer.
    queryFn: async () => (await onItsWay.handOver()) ?? onItsWay.askAfter(() => api<{ state: ShootingState | null }>(path)),
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
      const next = make(stands(client.getQueryData<ShootingState | null>(key)));
      client.setQueryData(key, next);
      onItsWay.press(next);
      keep.mutate();
    },
  };
}
