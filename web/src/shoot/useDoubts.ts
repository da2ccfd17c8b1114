/** What is doubted of a take: found by the check, less what somebody has looked at and found right. */
import { doubtedShots, type DoubtedShot, type ShotPictureView } from '@zest-jaw/core';
import { useMemo, useState } from 'react';
import { keep, maybeKept } from '../ui/browserStore.js';
import type { ShotLine } from './ShotLine.js';
import { useMouthCheck, type MouthChecking } from './useMouthCheck.js';

export interface Doubts extends MouthChecking {
  readonly shots: readonly DoubtedShot[];
  readonly pictures: ReadonlySet<number>;
  /** It was looked at, and is right. */
  findRight(shot: DoubtedShot): void;
}

function readRight(key: string): ReadonlySet<string> {
  try {
    return new Set(JSON.parse(maybeKept(key) ?? '[]') as string[]);
  } catch {
    return new Set();
  }
}

export function useDoubts(line: ShotLine, taken: ReadonlyMap<number, ShotPictureView>): Doubts {
  const checking = useMouthCheck(line, taken);
  const key = `zest-jaw right ${line.sceneId} ${line.trackId} ${line.cameraOn}`;
  const [right, setRight] = useState(() => readRight(key));
  const { check } = checking;
  const shots = useMemo(
    // By the picture itself: one that is shot again is looked at again.
    () => doubtedShots((check?.doubts ?? []).filter(({ picture }) => !right.has(taken.get(picture)?.asset ?? ''))),
    [check, right, taken],
  );
  return {
    ...checking,
    shots,
    pictures: new Set(shots.flatMap(({ pictures }) => pictures)),
    findRight: ({ pictures }) => {
      const next = new Set([...right, ...pictures.map((picture) => taken.get(picture)?.asset ?? '')]);
      setRight(next);
      keep(key, JSON.stringify([...next]));
    },
  };
}
