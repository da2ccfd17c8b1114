/**
 * What the camera took: kept by the server picture by picture, by the browser until the server has it, so that neither a
 * server that ends nor a page that goes loses one.
 */
import type { ShotPictureView } from '@zest-jaw/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { del, get, keys, set } from 'idb-keyval';
import { useEffect, useEffectEvent, useState } from 'react';
import { api, ApiProblem, sentenceOf } from '../api/http.js';
import { inTurn } from '../ui/inTurn.js';
import type { ShotLine } from './ShotLine.js';

interface Waiting {
  readonly picture: number;
  readonly jpeg: Blob;
  readonly chartId: string | null;
  readonly drawing: string | null;
  readonly practice: boolean;
}

const TRIED_AGAIN_AFTER = 1500;

export interface ShotPictures {
  /** By picture; undefined until it is known. */
  readonly taken: ReadonlyMap<number, ShotPictureView> | undefined;
  /** Not kept by the server yet. */
  readonly waiting: number;
  /** Why one was refused. */
  readonly fault: string | undefined;
  keep(taken: Waiting): Promise<void>;
}

/** By name in the browser's store: an earlier page of the same visit may be sending them still. */
const onTheirWay = new Set<string>();

const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

export function useShotPictures({ sceneId, trackId, cameraOn }: Pick<ShotLine, 'sceneId' | 'trackId' | 'cameraOn'>): ShotPictures {
  const client = useQueryClient();
  const path = `/scenes/${sceneId}/shooting/${trackId}/pictures`;
  const key = ['shot-pictures', path, cameraOn];
  const mine = `zest-jaw shot ${path} ${cameraOn} `;
  const { data } = useQuery({ queryKey: key, queryFn: () => api<ShotPictureView[]>(`${path}?on=${cameraOn}`), retry: 20 });
  const [waiting, setWaiting] = useState(0);
  const [fault, setFault] = useState<string>();

  const send = async ({ picture, jpeg, chartId, drawing, practice }: Waiting): Promise<void> => {
    const body = new FormData();
    body.append('picture', jpeg, `${picture}.jpg`);
    if (chartId !== null) body.append('chartId', chartId);
    if (drawing !== null) body.append('drawing', drawing);
    body.append('practice', practice ? 'yes' : 'no');
    for (;;) {
      try {
        const kept = await api<ShotPictureView>(`${path}/${picture}?on=${cameraOn}`, { method: 'PUT', body });
        client.setQueryData<ShotPictureView[]>(
          key,
          (before) => before && [...before.filter((one) => one.picture !== picture), kept].sort((a, b) => a.picture - b.picture),
        );
        return;
      } catch (error) {
        // Refused for good: it is told, and not tried again.
        if (error instanceof ApiProblem && error.status < 500) throw error;
        await rest(TRIED_AGAIN_AFTER);
      }
    }
  };
  const enqueue = (name: string, load: () => Promise<Waiting | undefined>): void => {
    onTheirWay.add(name);
    setWaiting((count) => count + 1);
    // One after another: of two of the same picture the later one stands.
    void inTurn(mine, async () => {
      const one = await load();
      if (one) await send(one);
    })
      .catch((error: unknown) => setFault(sentenceOf(error)))
      .then(() => del(name).catch(() => undefined))
      .then(() => {
        onTheirWay.delete(name);
        setWaiting((count) => count - 1);
        // An answer that was on its way meanwhile is older.
        return client.invalidateQueries({ queryKey: key });
      });
  };
  // What an earlier page could not hand over goes first.
  const resume = useEffectEvent(async () => {
    const left = await keys().catch(() => []);
    const names = left.flatMap((one) => (typeof one === 'string' && one.startsWith(mine) && !onTheirWay.has(one) ? [one] : []));
    // Another window may have sent one before its turn comes.
    for (const name of names.sort()) enqueue(name, () => get<Waiting>(name));
  });
  useEffect(() => {
    const soon = setTimeout(() => void resume());
    return () => clearTimeout(soon);
  }, [path, cameraOn]);
  return {
    taken: data && new Map(data.map((one) => [one.picture, one])),
    waiting,
    fault,
    keep: async (one) => {
      const name = `${mine}${Date.now()} ${one.picture}`;
      onTheirWay.add(name);
      // A browser that keeps nothing still has it in memory.
      await set(name, one).catch(() => undefined);
      enqueue(name, async () => one);
    },
  };
}
