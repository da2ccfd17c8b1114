/** What the reading worker does when its recogniser gives way: that job ends with a sentence, and the next one works. */
import { PLAIN_ACCENT, truthToWave, type Reading } from '@zest-jaw/core';
import { openRecogniser, readTrack } from '@zest-jaw/engine';
import read, { type ReadTask } from './read.worker.js';

jest.mock('@zest-jaw/engine', () => ({ openRecogniser: jest.fn(), readTrack: jest.fn() }));

const opened: { broken: boolean; closed: boolean }[] = [];
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

beforeEach(() => {
  jest.mocked(openRecogniser).mockImplementation(async () => {
    const state = { broken: false, closed: false };
    opened.push(state);
    return { isBroken: () => state.broken, close: () => void (state.closed = true) } as never;
  });
});

/** The next reading ends so, the recogniser giving way over it or not. */
function next(answer: Reading | { refusal: string }, breaks: boolean): void {
  jest.mocked(readTrack).mockImplementationOnce(async () => {
    opened.at(-1)!.broken = breaks;
    return answer;
  });
}

it('keeps its recogniser warm, and opens another after it gave way', async () => {
  next(reading, false);
  await read(task);
  next({ refusal: 'not found' }, false);
  expect(await read(task)).toEqual({ refusal: 'not found' });
  expect(opened).toHaveLength(1);

  next({ refusal: 'not found' }, true);
  expect(await read(task)).toMatchObject({ refusal: expect.stringMatching(/gave way over this recording/) });
  next(reading, false);
  // Counted from the start of the whole recording, of which only a part was heard.
  expect(await read(task)).toMatchObject({ durationSamples: 48_000, words: [] });
  expect(opened).toMatchObject([{ closed: true }, { closed: false }]);
  expect(jest.mocked(readTrack).mock.lastCall![1].samples).toHaveLength(24_000);
});

it('keeps what was read before its recogniser gave way', async () => {
  next({ ...reading, warnings: ['Listen.'] }, true);
  expect(await read(task)).toMatchObject({ warnings: ['Listen.'] });
  next(reading, false);
  await read(task);
  expect(opened.at(-1)!.closed).toBe(false);
  expect(opened.at(-2)!.closed).toBe(true);
});
