/** Decodes an uploaded recording to the truth: half an hour of sound is seconds of work, too long for the server's own thread. */
import { truthToWave, type Refusal } from '@zest-jaw/core';
import { decodeRecording } from '@zest-jaw/engine';
import { readFileSync } from 'node:fs';
import type { MessagePort } from 'node:worker_threads';

export interface DecodeTask {
  /** Of the recording as it came. */
  readonly path: string;
  readonly progress: MessagePort;
}

/** A 48 kHz wave file and how many samples it holds. */
export interface Decoded {
  readonly wave: Uint8Array;
  readonly lengthSamples: number;
  /** What to know of how it came about. */
  readonly notes: readonly string[];
}

export default async function decode({ path, progress }: DecodeTask): Promise<Decoded | Refusal> {
  const truth = await decodeRecording(readFileSync(path), (done, doing) => progress.postMessage([done, doing]));
  return 'refusal' in truth ? truth : { wave: truthToWave(truth), lengthSamples: truth.samples.length, notes: truth.notes ?? [] };
}
