/** A patch followed over the pictures of a lane: in a worker, one picture after another, until it is lost or given up. */
import type { Box, Followed } from '@zest-jaw/core';
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../api/http.js';
import { bytesOf } from '../mouth/drawnPicture.js';
import { createAsker } from '../workers/asking.js';
import type { FollowQuestion } from '../workers/follow.worker.js';

export interface Path {
  /** How far the patch has come on each picture, in its pixels; the first is where it was marked. */
  readonly points: readonly { readonly x: number; readonly y: number }[];
  /** The picture on which it was lost, counted from 0. */
  readonly lostAt?: number;
}

export interface Follow {
  /** Share done while it runs. */
  readonly done: number | undefined;
  readonly path: Path | undefined;
  readonly fault: string | undefined;
  start(pictures: readonly string[], patch: Box): void;
  cancel(): void;
}

export function useFollow(): Follow {
  const [done, setDone] = useState<number>();
  const [path, setPath] = useState<Path>();
  const [fault, setFault] = useState<string>();
  const worker = useRef<Worker>(undefined);
  const cancel = (): void => {
    worker.current?.terminate();
    worker.current = undefined;
    setDone(undefined);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const run = async (pictures: readonly string[], patch: Box): Promise<void> => {
    const mine = new Worker(new URL('../workers/follow.worker.ts', import.meta.url), { type: 'module' });
    worker.current = mine;
    const { ask } = createAsker<FollowQuestion>(() => mine);
    const points = [{ x: 0, y: 0 }];
    let lostAt: number | undefined;
    for (const [index, hash] of pictures.entries()) {
      const picture = await (await bytesOf(hash)).blob();
      if (worker.current !== mine) return;
      if (index === 0) await ask({ kind: 'first', picture, patch });
      else {
        const found = await ask<Followed | 'lost'>({ kind: 'next', picture });
        if (found === 'lost') {
          lostAt = index;
          break;
        }
        points.push({ x: found.x, y: found.y });
      }
      if (worker.current !== mine) return;
      setDone((index + 1) / pictures.length);
    }
    setPath({ points, ...(lostAt !== undefined && { lostAt }) });
    cancel();
  };
  return {
    done,
    path,
    fault,
    start: (pictures, patch) => {
      cancel();
      setFault(undefined);
      setPath(undefined);
      setDone(0);
      run(pictures, patch).catch((error: unknown) => {
        setFault(sentenceOf(error));
        cancel();
      });
    },
    cancel,
  };
}
