/** Reads recordings in a thread of its own; the model is opened once a language and kept warm. */
import type { MessagePort } from 'node:worker_threads';
import { truthOfWave, type Reading } from '@zest-jaw/core';
import { openRecogniser, readTrack, type Language, type ReadRefusal, type Recogniser } from '@zest-jaw/engine';

export interface ReadTask {
  /** A 48 kHz wave file. */
  readonly wave: Uint8Array;
  readonly script: string;
  readonly language: Language;
  /** Told `[done, doing]`; absent when nobody listens. */
  readonly progress?: MessagePort;
}

const recognisers = new Map<Language, Promise<Recogniser>>();

export default async function read({ wave, script, language, progress }: ReadTask): Promise<Reading | ReadRefusal> {
  let recogniser = recognisers.get(language);
  if (!recogniser) recognisers.set(language, (recogniser = openRecogniser(language)));
  progress?.postMessage([0.02, 'Opening the recogniser']);
  const truth = truthOfWave(wave);
  if ('refusal' in truth) return truth;
  return readTrack(await recogniser, truth, script, (done, doing) => progress?.postMessage([done, doing]));
}
