/** Was it the right mouth? What was shot is held against what was asked for, with progress, and given up when asked. */
import type { MouthCheck, ShotPictureView } from '@zest-jaw/core';
import { useState } from 'react';
import { bytesOf } from '../mouth/drawnPicture.js';
import type { MouthCheckQuestion } from '../workers/mouthCheck.worker.js';
import { useOneRun, type Running } from '../workers/useOneRun.js';
import { facesOf } from './faces.js';
import { mouthKey, type ShotLine } from './ShotLine.js';

export type Against = 'shots' | 'chart';

/** Pictures that are held side by side at most, 58 kB each; of a longer take the first of each mouth that is put on. */
const MOST = 3000;

export interface MouthChecking {
  /** 0 to 1 while it goes on. */
  readonly done: number | undefined;
  readonly check: MouthCheck | undefined;
  /** How many pictures were looked at. */
  readonly looked: number;
  readonly fault: string | undefined;
  start(against: Against): void;
  cancel(): void;
}

export function useMouthCheck(line: ShotLine, taken: ReadonlyMap<number, ShotPictureView> | undefined): MouthChecking {
  const { done, fault, start, cancel } = useOneRun<MouthCheckQuestion>(
    () => new Worker(new URL('../workers/mouthCheck.worker.ts', import.meta.url), { type: 'module' }),
  );
  const [check, setCheck] = useState<MouthCheck>();
  const [looked, setLooked] = useState(0);

  const run = async (against: Against, { ask, isWanted, report }: Running<MouthCheckQuestion>): Promise<void> => {
    const shotOf = new Map([...new Set(line.pictures.map(({ shot }) => shot))].map((shot, index) => [shot, index]));
    // What was asked for then may be asked for no longer: those pictures are of another line.
    const asked = [...(taken?.values() ?? [])].filter(({ picture, chartId, drawing }) => {
      const now = line.pictures[picture];
      return now && mouthKey(now) === (drawing === null ? '' : `${chartId} ${drawing}`);
    });
    const all = asked.length <= MOST ? asked : asked.filter(({ picture }) => line.pictures[picture]!.nth === 1).slice(0, MOST);
    for (const [index, { picture, asset }] of all.entries()) {
      const jpeg = await (await bytesOf(asset)).blob();
      if (!isWanted()) return;
      const now = line.pictures[picture]!;
      await ask({ kind: 'add', taken: { picture, asked: mouthKey(now), shot: shotOf.get(now.shot)! }, jpeg });
      if (!isWanted()) return;
      report((index + 1) / (all.length + 1));
      if (index > 0 || against === 'shots') continue;
      for (const [mouth, face] of await facesOf(line)) await ask({ kind: 'draw', mouth, face }, [face]);
    }
    const found = await ask<MouthCheck>({ kind: 'check' });
    if (!isWanted()) return;
    setCheck(found);
    setLooked(all.length);
  };
  return {
    done,
    check,
    looked,
    fault,
    start: (against) => start((running) => run(against, running)),
    cancel,
  };
}
