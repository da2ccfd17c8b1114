/** The ways of saying a word, with a stand-in for the recogniser; the real one is asked through the server. */
import { PLAIN_ACCENT, type Truth } from '@zest-jaw/core';
import type { AlignedSegment, Recogniser } from './recogniser.js';
import { waysOfWord } from './waysOfWord.js';

jest.mock('cmu-pronouncing-dictionary', () => ({
  dictionary: { record: 'R AH0 K AO1 R D', 'record(1)': 'R EH1 K ER0 D', the: 'DH AH0', 'the(1)': 'DH IY0' },
}));

const truth: Truth = { samples: Int16Array.from({ length: 48_000 }, (_, index) => 8000 * Math.sin(index / 69.4)) };
const SPAN = { from: 12_000, to: 36_000 };

/** Aligns what was taught in equal parts; the way that has a sound is as sure as told. */
function standIn(sure: Readonly<Record<string, number>> = {}): Recogniser & { readonly heard: number[] } {
  const said = new Map<string, string[]>();
  const heard: number[] = [];
  const align = async (samples: Float32Array, [token]: readonly string[]): Promise<AlignedSegment[] | undefined> => {
    heard.push(samples.length);
    const symbols = said.get(token!)!;
    if (symbols.includes('ZH')) return undefined;
    const seconds = samples.length / 16_000;
    const confidence = Object.entries(sure).find(([symbol]) => symbols.includes(symbol))?.[1] ?? 0.9;
    const phonemes = symbols.map((symbol, index) => ({
      symbol,
      fromSeconds: (seconds * index) / symbols.length,
      toSeconds: (seconds * (index + 1)) / symbols.length,
      confidence,
    }));
    return [{ word: token, confidence, fromSeconds: 0, toSeconds: seconds, phonemes }];
  };
  return {
    language: 'en',
    heard,
    maybePronunciation: () => undefined,
    addWord: (token, ...ways) => void said.set(token, ways[0]!.split(' ')),
    maybeAlign: align,
    maybeAlignFirst: align,
    maybeAlignCut: align,
    maybeAlignLoosely: async () => undefined,
    maybeHearSounds: async () => undefined,
  };
}

type Asked = Partial<Parameters<typeof waysOfWord>[2]>;
async function ways(recogniser: Recogniser, asked: Asked, pronunciations: ReadonlyMap<string, readonly (readonly string[])[]> = new Map()) {
  const found = await waysOfWord(
    recogniser,
    truth,
    { text: 'record', span: SPAN, spelling: 'en', ...asked },
    { pronunciations, accent: PLAIN_ACCENT },
  );
  if ('refusal' in found) throw new Error(found.refusal);
  return found;
}
const told = (found: Awaited<ReturnType<typeof ways>>): string[] =>
  found.map(({ source, sounds }) => `${source} ${sounds.map(({ symbol }) => symbol).join(' ')}`);

it('lays every way of the dictionary on the span, the one that fits best first, and hears nothing beside it', async () => {
  const recogniser = standIn({ AO: 0.6, EH: 0.9 });
  const found = await ways(recogniser, {});
  expect(told(found)).toEqual(['dictionary R EH K ER D', 'dictionary R AH K AO R D']);
  expect(found[0]!.fit!).toBeGreaterThan(found[1]!.fit!);
  // Half a second, give or take how fast the voice is heard.
  for (const samples of recogniser.heard) expect(samples).toBeLessThan(16_000);
  for (const { sounds } of found) {
    expect([sounds[0]!.fromSample, sounds.at(-1)!.toSample]).toEqual([SPAN.from, SPAN.to]);
    sounds.slice(1).forEach((sound, index) => expect(sound.fromSample).toBe(sounds[index]!.toSample));
  }
  expect(found[0]!.sounds.map(({ stress }) => stress)).toEqual([undefined, 1, undefined, 0, undefined]);
});

it('puts what was typed first and the production before the dictionary, each once', async () => {
  const own = new Map([['record', [['R', 'IY', 'K']]]]);
  const typed = [{ symbol: 'R' }, { symbol: 'EH' }, { symbol: 'K' }, { symbol: 'ER' }, { symbol: 'D' }];
  expect(told(await ways(standIn({ IY: 0.99 }), { sounds: typed }, own))).toEqual([
    'typed R EH K ER D',
    'production R IY K',
    'dictionary R AH K AO R D',
  ]);
});

it('says words together in each of their ways', async () => {
  expect(told(await ways(standIn({ IY: 0.99 }), { text: 'the record' }))[0]).toBe('dictionary DH IY R AH K AO R D');
});

it('shares the span evenly where the recogniser hears nothing', async () => {
  const [way] = await ways(standIn(), { text: '', sounds: [{ symbol: 'ZH' }, { symbol: 'AH' }] });
  expect(way).toMatchObject({ fit: null, sounds: [{ toSample: 24_000 }, { fromSample: 24_000 }] });
});

it('refuses what is no word, and a span that no word fills', async () => {
  const ask = (asked: Asked) =>
    waysOfWord(standIn(), truth, { text: '!', span: SPAN, spelling: 'en', ...asked }, { pronunciations: new Map(), accent: PLAIN_ACCENT });
  expect(await ask({})).toMatchObject({ refusal: expect.stringContaining('has no word in it') });
  expect(await ask({ text: 'record', span: { from: 0, to: 480_000 } })).toMatchObject({
    refusal: expect.stringContaining('at most 8 seconds'),
  });
});
