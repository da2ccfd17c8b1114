/** Decodes an uploaded recording to the truth, in a process of its own, and leaves it beside as a wave file. */
import { SAMPLE_RATE, waveHeader, type Refusal } from '@zest-jaw/core';
import { decodeRecording } from '@zest-jaw/engine';
import { closeSync, openSync, readFileSync, writeSync } from 'node:fs';
import { waveBeside } from '../recordings/waveBeside.js';
import type { Progress } from './progress.js';

export interface DecodeTask {
  /** Of the recording as it came. */
  readonly path: string;
  readonly progress: Progress;
}

export interface Decoded {
  /** Where its 48 kHz wave file lies. */
  readonly wave: string;
  readonly lengthSamples: number;
  /** What to know of how it came about. */
  readonly notes: readonly string[];
}

function writeWaveFile(path: string, samples: Int16Array): void {
  const handle = openSync(path, 'w');
  try {
    writeSync(handle, waveHeader(samples.length, SAMPLE_RATE));
    // As they lie in memory, which is as a wave file has them wherever Node runs but on mainframes.
    const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
    for (let at = 0; at < bytes.length;) at += writeSync(handle, bytes, at);
  } finally {
    closeSync(handle);
  }
}

export default async function decode({ path, progress }: DecodeTask): Promise<Decoded | Refusal> {
  const truth = await decodeRecording(readFileSync(path), (done, doing) => progress.postMessage([done, doing]));
  if ('refusal' in truth) return truth;
  writeWaveFile(waveBeside(path), truth.samples);
  return { wave: waveBeside(path), lengthSamples: truth.samples.length, notes: truth.notes ?? [] };
}
