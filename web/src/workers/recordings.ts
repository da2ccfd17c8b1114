/** The page's side of what is measured of a recording and written of one. */
import type { ClipFacts, Pause, WavePyramid } from '@zest-jaw/core';
import { createAsker } from './asking.js';
import type { RecordingQuestion } from './recording.worker.js';

const recordings = createAsker<RecordingQuestion>(() => new Worker(new URL('./recording.worker.ts', import.meta.url), { type: 'module' }));

/** What a wave looks like, and what is in it. */
export interface MeasuredWave {
  readonly pyramid: WavePyramid;
  readonly facts: ClipFacts;
  readonly pauses: readonly Pause[];
}

export const waveInWorker = (samples: Float32Array<ArrayBuffer>, samplesPerBlock: number): Promise<MeasuredWave> =>
  recordings.ask({ kind: 'wave', samples, samplesPerBlock }, [samples.buffer]);

/** Channels at 48 000 Hz as one wave file, with what is to be known of how they were mixed. */
export const waveFileInWorker = (channels: readonly Float32Array[]): Promise<{ wave: Uint8Array<ArrayBuffer>; notes: readonly string[] }> =>
  recordings.ask({ kind: 'file', channels });
