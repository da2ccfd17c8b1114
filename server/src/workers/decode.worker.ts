/** Decodes an uploaded recording to the truth: half an hour of sound is seconds of work, too long for the server's own thread. */
import { truthToWave, type Refusal } from '@zest-jaw/core';
import { decodeRecording } from '@zest-jaw/engine';

export interface DecodeTask {
  readonly bytes: Uint8Array;
}

/** A 48 kHz wave file and how many samples it holds. */
export interface Decoded {
  readonly wave: Uint8Array;
  readonly lengthSamples: number;
}

export default async function decode({ bytes }: DecodeTask): Promise<Decoded | Refusal> {
  const truth = await decodeRecording(bytes);
  return 'refusal' in truth ? truth : { wave: truthToWave(truth), lengthSamples: truth.samples.length };
}
