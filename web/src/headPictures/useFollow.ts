/** A patch followed over the pictures of a lane: in a worker, one picture after another, until it is lost or given up. */
import { FOLLOW_LIMITS, type Box, type Followed, type PlacedArt } from '@zest-jaw/core';
import { useState } from 'react';
import { assetUrl } from '../mouth/pictures.js';
import type { FollowQuestion } from '../workers/follow.worker.js';
import { useOneRun, type Running } from '../workers/useOneRun.js';

/** Pixels across in which pictures are looked at: how far is looked from one to the next goes with it. */
const LOOKED_WIDTH = 640;

/** A picture of whatever kind as pixels, so large. */
async function bitmapOf({ picture }: PlacedArt, width: number, height: number): Promise<ImageBitmap> {
  const image = new Image(width, height);
  image.src = assetUrl(picture);
  await image.decode();
  return createImageBitmap(image, { resizeWidth: width, resizeHeight: height });
}

function scaledPatch({ x, y, width, height }: Box, scale: number, picture: { readonly width: number; readonly height: number }): Box {
  const [across, down] = [width, height].map((side) => Math.max(FOLLOW_LIMITS.leastSide, Math.round(side * scale))) as [number, number];
  const within = (value: number, most: number): number => Math.max(0, Math.min(most, Math.round(value * scale)));
  return { x: within(x, picture.width - across), y: within(y, picture.height - down), width: across, height: down };
}

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
  /** @param patch in the pixels of the first picture */
  start(pictures: readonly PlacedArt[], patch: Box): void;
  cancel(): void;
}

export function useFollow(): Follow {
  const { done, fault, start, cancel } = useOneRun<FollowQuestion>(
    () => new Worker(new URL('../workers/follow.worker.ts', import.meta.url), { type: 'module' }),
  );
  const [path, setPath] = useState<Path>();
  const run = async (pictures: readonly PlacedArt[], patch: Box, { ask, isWanted, report }: Running<FollowQuestion>): Promise<void> => {
    const [first] = pictures;
    const scale = Math.min(1, LOOKED_WIDTH / first!.width);
    const [width, height] = [Math.round(first!.width * scale), Math.round(first!.height * scale)];
    const points = [{ x: 0, y: 0 }];
    let lostAt: number | undefined;
    for (const [index, art] of pictures.entries()) {
      const picture = await bitmapOf(art, width, height);
      if (!isWanted()) return;
      if (index === 0) await ask({ kind: 'first', picture, patch: scaledPatch(patch, scale, { width, height }) }, [picture]);
      else {
        const found = await ask<Followed | 'lost'>({ kind: 'next', picture }, [picture]);
        if (found === 'lost') {
          lostAt = index;
          break;
        }
        points.push({ x: found.x / scale, y: found.y / scale });
      }
      report((index + 1) / pictures.length);
    }
    if (isWanted()) setPath({ points, ...(lostAt !== undefined && { lostAt }) });
  };
  return {
    done,
    path,
    fault,
    start: (pictures, patch) => {
      setPath(undefined);
      start((running) => run(pictures, patch, running));
    },
    cancel,
  };
}
