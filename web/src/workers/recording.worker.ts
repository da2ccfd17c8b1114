/** What is measured of a recording, and the file one is written to: all that a page needs of a worker to show a wave. */
import { ditherTo16Bit, factsOfClip, findPauses, mixChannels, SAMPLE_RATE, waveBlocks, wavePyramid, writeWave } from '@zest-jaw/core';
import { answering } from './asking.js';

export type RecordingQuestion =
  | { readonly kind: 'file'; readonly channels: readonly Float32Array[] }
  | { readonly kind: 'wave'; readonly samples: Float32Array; readonly samplesPerBlock: number };

answering<RecordingQuestion>((question) => {
  if (question.kind === 'file') {
    const { samples, notes } = mixChannels(question.channels);
    return { wave: writeWave(ditherTo16Bit(samples), SAMPLE_RATE), notes };
  }
  const facts = factsOfClip({ samples: ditherTo16Bit(question.samples) });
  const pyramid = wavePyramid(waveBlocks(question.samples, question.samplesPerBlock));
  return { pyramid, facts, pauses: findPauses(question.samples, SAMPLE_RATE) };
});
