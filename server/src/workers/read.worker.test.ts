/** What the reading worker does around a reading: its recogniser is kept warm, and a part is counted from the start of the whole. */
import { PLAIN_ACCENT, truthToWave, type Reading } from '@zest-jaw/core';
import { openRecogniser, readTrack } from '@zest-jaw/engine';
import read, { type ReadTask } from './read.worker.js';

jest.mock('@zest-jaw/engine', () => ({ openRecogniser: jest.fn(async () => ({})), readTrack: jest.fn() }));

const reading: Reading = { sampleRate: 48_000, durationSamples: 24_000, words: [], phonemes: [], warnings: [] };
const task: ReadTask = {
  wave: truthToWave({ samples: new Int16Array(48_000).fill(1000) }),
  script: 'tide',
  language: 'en',
  fromSample: 24_000,
  toSample: 48_000,
  pronunciations: [],
  accent: PLAIN_ACCENT,
};

it('keeps its recogniser warm, one for each language', async () => {
  jest.mocked(readTrack).mockResolvedValueOnce(reading).mockResolvedValueOnce({ refusal: 'not found' }).mockResolvedValueOnce(reading);
  await read(task);
  expect(await read(task)).toEqual({ refusal: 'not found' });
  await read({ ...task, language: 'fr' });
  expect(jest.mocked(openRecogniser).mock.calls).toEqual([['en'], ['fr']]);
});

it('hears only the part that is asked for, and counts from the start of the whole recording', async () => {
  jest.mocked(readTrack).mockResolvedValueOnce(reading);
  expect(await read(task)).toMatchObject({ durationSamples: 48_000, words: [] });
  expect(jest.mocked(readTrack).mock.lastCall![1].samples).toHaveLength(24_000);
});
