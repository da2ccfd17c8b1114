/** The page's side of the heavy worker: one worker, answers matched to requests by number. */
import type {
  Box,
  ChartDocument,
  ClipFacts,
  ExposureReason,
  FillMark,
  Keyed,
  KeyingJob,
  KeyingScope,
  Mark,
  NotShown,
  Pause,
  Point,
  Patch,
  Refusal,
  SceneDocument,
  WavePyramid,
} from '@zest-jaw/core';
import type { HeavyRequest } from './heavy.worker.js';

type Bare<T> = T extends unknown ? Omit<T, 'id'> : never;

let worker: Worker | undefined;
let count = 0;
const waiting = new Map<number, (answer: unknown) => void>();

function ask<Answer>(request: Bare<HeavyRequest>): Promise<Answer> {
  if (!worker) {
    worker = new Worker(new URL('./heavy.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; answer: unknown }>) => {
      waiting.get(data.id)?.(data.answer);
      waiting.delete(data.id);
    };
  }
  const id = ++count;
  return new Promise((resolve) => {
    waiting.set(id, resolve as (answer: unknown) => void);
    worker!.postMessage({ ...request, id });
  });
}

export const keyInWorker = (
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  scope: KeyingScope = {},
): Promise<{ patch: Patch; notShown: readonly NotShown[] } | Refusal> => ask({ kind: 'key', scene, trackId, charts, scope });

/** Why an exposure is there, or what the rules would have had in its place. */
export const explainInWorker = (job: KeyingJob, exposure: { readonly from: number; readonly inked: boolean }): Promise<ExposureReason> =>
  ask({ kind: 'explain', job, exposure });

/** What a wave looks like, and what is in it. */
export interface MeasuredWave {
  readonly pyramid: WavePyramid;
  readonly facts: ClipFacts;
  readonly pauses: readonly Pause[];
}

export const waveInWorker = (samples: Float32Array, samplesPerBlock: number): Promise<MeasuredWave> =>
  ask({ kind: 'wave', samples, samplesPerBlock });

export const fillInWorker = (marks: readonly Mark[], at: Point, box: Box, colour: string): Promise<FillMark | undefined> =>
  ask({ kind: 'fill', marks, at, box, colour });

export const keySoundsInWorker = (job: KeyingJob): Promise<Keyed> => ask({ kind: 'sounds', job });

/** Channels at 48 000 Hz as one wave file, with what is to be known of how they were mixed. */
export const waveFileInWorker = (channels: readonly Float32Array[]): Promise<{ wave: Uint8Array<ArrayBuffer>; notes: readonly string[] }> =>
  ask({ kind: 'file', channels });
