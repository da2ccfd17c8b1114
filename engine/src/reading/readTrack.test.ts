/** The steps of a reading, with a stand-in for the recogniser; the real one is tested through the command line. */
import { checkReading, PLAIN_ACCENT, type Truth } from '@zest-jaw/core';
import { readTrack } from './readTrack.js';
import type { AlignedSegment, Recogniser } from './recogniser.js';

/** Its voice is a tone in beats, which is a laugh or a hum to whoever listens for one: that is tested where they are told. */
jest.mock('@zest-jaw/core', () => ({ ...jest.requireActual<object>('@zest-jaw/core'), hearNoises: () => [] }));
jest.mock('cmu-pronouncing-dictionary', () => ({
  dictionary: { tide: 'T AY1 D', pelican: 'P EH1 L AH0 K AH0 N', record: 'R AH0 K AO1 R D', 'record(1)': 'R EH1 K ER0 D' },
}));

/** Two seconds of a tone of 110 Hz that fades in and out, loud enough to be speech and as high as a voice that fits. */
const truth: Truth = {
  samples: Int16Array.from({ length: 96_000 }, (_, index) => 8000 * Math.sin(index / 69.4) * Math.sin((Math.PI * index) / 96_000)),
};

/** As loud as syllables are, five a second. */
const syllables = (index: number): number => 8000 * Math.sin(index / 69.4) * Math.abs(Math.sin((Math.PI * index) / 9600));

const segment = (
  word: string | undefined,
  fromSeconds: number,
  symbols: readonly string[],
  each: number,
  confidence = 0.99,
): AlignedSegment => ({
  word,
  confidence,
  fromSeconds,
  toSeconds: fromSeconds + symbols.length * each,
  phonemes: symbols.map((symbol, index) => ({
    symbol,
    fromSeconds: fromSeconds + index * each,
    toSeconds: fromSeconds + (index + 1) * each,
    confidence,
  })),
});

interface StandIn extends Recogniser {
  readonly heard: { samples: number; words: readonly string[] }[];
  readonly loose: (readonly string[])[];
  readonly taught: string[][];
}

/** Answers each alignment by the length of what it hears: a slowed clip is longer. */
function standIn(
  answer: (stretch: number, words: readonly string[]) => AlignedSegment[] | undefined,
  language: 'en' | 'fr' = 'en',
  knows: readonly string[] = ['tide', 'pelican', 'record'],
  answerLoosely: (words: readonly string[]) => AlignedSegment[] | undefined = () => undefined,
): StandIn {
  const heard: StandIn['heard'] = [];
  const taught: StandIn['taught'] = [];
  const loose: StandIn['loose'] = [];
  const align = async (samples: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined> => {
    heard.push({ samples: samples.length, words });
    return answer(Math.round((samples.length / 32_000) * 100) / 100, words);
  };
  return {
    language,
    heard,
    loose,
    taught,
    maybePronunciation: (word) => (knows.includes(word) ? 'X' : undefined),
    addWord: (word, ...pronunciations) => void taught.push([word, ...pronunciations]),
    maybeAlign: align,
    maybeAlignFirst: align,
    maybeAlignCut: align,
    maybeAlignLoosely: async (_, words) => {
      loose.push(words);
      let next = 0;
      return answerLoosely(words)?.map((found) => {
        if (!found.word || !words.includes(found.word)) return found;
        next = words.indexOf(found.word, next) + 1;
        return { ...found, index: next - 1 };
      });
    },
    maybeHearSounds: async () => answer(1, []),
  };
}

const sure = (): AlignedSegment[] => [segment(undefined, 0, ['SIL'], 0.5), segment('tide', 0.5, ['T', 'AY', 'D'], 0.1)];

/** A sample, give or take what a boundary may be moved: 28 ms. */
const near = (sample: number): unknown => ({
  asymmetricMatch: (value: number) => Math.abs(value - sample) <= 0.0281 * 48_000,
  toString: () => `near ${sample}`,
});

async function read(recogniser: Recogniser, script: string | undefined = 'Tide') {
  const reading = await readTrack(recogniser, truth, script);
  if ('refusal' in reading) throw new Error(reading.refusal);
  expect(checkReading(reading)).toEqual([]);
  return reading;
}

const refusal = async (recogniser: Recogniser, script: string | undefined, recording = truth): Promise<string> => {
  const reading = await readTrack(recogniser, recording, script);
  return 'refusal' in reading ? reading.refusal : 'not refused';
};

describe('reading a track', () => {
  it('aligns once when that is sure, and gives words, sounds and stress', async () => {
    const recogniser = standIn(sure);
    const reading = await read(recogniser);
    expect(recogniser.heard).toEqual([{ samples: 32_000, words: ['tide'] }]);
    expect(reading.words).toEqual([{ text: 'Tide', from: near(24_000), to: near(38_400), confidence: 0.99 }]);
    expect(reading.phonemes.map(({ symbol, stress }) => symbol + (stress ?? ''))).toEqual(['T', 'AY1', 'D']);
    expect(reading.warnings).toEqual([]);
  });

  it('begins with the speed that the pitch of the voice asks for', async () => {
    const recogniser = standIn(sure);
    const high: Truth = { samples: truth.samples.map((_, index) => 8000 * Math.sin(index / 34.7)) };
    await readTrack(recogniser, high, 'Tide');
    // 220 Hz: formants about a quarter higher.
    expect(recogniser.heard).toEqual([{ samples: 40_000, words: ['tide'] }]);
  });

  it('tries a doubtful voice slowed down, and gives its times in the recording’s own seconds', async () => {
    const slowed = (stretch: number): AlignedSegment[] =>
      stretch === 1.15
        ? [segment(undefined, 0, ['SIL'], 0.575), segment('tide', 0.575, ['T', 'AY', 'D'], 0.115)]
        : [segment('tide', 0.1, ['T', 'AY', 'D'], 0.1, 0.5)];
    const recogniser = standIn(slowed);
    const reading = await read(recogniser);
    expect(recogniser.heard).toHaveLength(2);
    expect(reading.words[0]).toMatchObject({ from: near(24_000), to: near(38_400) });
  });

  it('goes on slower while that is surer, else faster, keeps the surest, and warns', async () => {
    const heardWith = async (confidences: Record<number, number>) => {
      const recogniser = standIn((stretch) => [segment('tide', 0.5 * stretch, ['T', 'AY', 'D'], 0.1, confidences[stretch]!)]);
      const reading = await read(recogniser);
      expect(reading.warnings.join(' ')).toMatch(/do not fit well/);
      return { speeds: recogniser.heard.map(({ samples }) => samples / 32_000), confidence: reading.words[0]!.confidence };
    };
    expect(await heardWith({ 1: 0.5, 1.15: 0.6, 1.3: 0.7, 1.5: 0.4 })).toEqual({ speeds: [1, 1.15, 1.3, 1.5], confidence: 0.7 });
    expect(await heardWith({ 1: 0.5, 1.15: 0.4, 0.85: 0.7 })).toEqual({ speeds: [1, 1.15, 0.85], confidence: 0.7 });
  });

  it('leaves the speed alone for a few words that were not said', async () => {
    const confidences = [0.99, 0.5, 0.99];
    const recogniser = standIn(() =>
      confidences.map((confidence, index) => segment('tide', 0.2 + index * 0.4, ['T', 'AY', 'D'], 0.1, confidence)),
    );
    await read(recogniser, 'tide tide tide');
    expect(recogniser.heard).toHaveLength(1);
  });

  it('finds no word of a script with more of them than anybody says in the time, when they fit poorly', async () => {
    const squeezed = (confidence: number) =>
      standIn((_, words) => words.map((word, index) => segment(word, 0.02 * index, ['T', 'AY'], 0.01, confidence)));
    const script = Array.from({ length: 30 }, () => 'tide').join(' ');
    const poor = squeezed(0.7);
    expect(await refusal(poor, script)).toMatch(/The 30 words of the script could not be found/);
    expect(poor.loose).toEqual([]);
    expect((await read(squeezed(0.95), script)).words).toHaveLength(30);
  });

  it('takes an empty answer for a failure, never for silence', async () => {
    const recogniser = standIn(() => undefined);
    expect(await refusal(recogniser, 'tide pelican')).toMatch(/The 2 words of the script could not be found/);
    expect(recogniser.heard.length).toBeGreaterThan(4);
    const onlySlow = standIn((stretch) => (stretch === 1.5 ? sure() : undefined));
    expect((await read(onlySlow)).words).toHaveLength(1);
  });

  it('shortens the closure of a stop after silence, where there is nothing to hear of it', async () => {
    const long = [segment(undefined, 0, ['SIL'], 0.2), { ...segment('pelican', 0.2, ['P', 'EH'], 0.4) }];
    const reading = await read(
      standIn(() => long),
      'Pelican',
    );
    expect(reading.phonemes[0]).toMatchObject({ symbol: 'P', from: near(Math.round(0.47 * 48_000)), to: near(28_800) });
    const inside = await read(
      standIn(() => [segment('tide', 0.1, ['AY'], 0.2), segment('pelican', 0.3, ['P', 'EH'], 0.4)]),
      'tide pelican',
    );
    expect(inside.phonemes[1]!.from).toEqual(near(14_400));
  });

  it('stresses by the variant that was said', async () => {
    const noun = await read(
      standIn(() => [segment('record', 0.1, ['R', 'EH', 'K', 'ER', 'D'], 0.1)]),
      'record',
    );
    expect(noun.phonemes.map(({ stress }) => stress)).toEqual([undefined, 1, undefined, 0, undefined]);
    const verb = await read(
      standIn(() => [segment('record', 0.1, ['R', 'AH', 'K', 'AO', 'R', 'D'], 0.1)]),
      'record',
    );
    expect(verb.phonemes.map(({ stress }) => stress).filter((stress) => stress !== undefined)).toEqual([0, 1]);
  });

  it('guesses what the dictionary does not know, and says so', async () => {
    const recogniser = standIn(() => [segment('zorble', 0.1, ['Z', 'AO'], 0.2)]);
    const reading = await read(recogniser, 'Zorble');
    expect(recogniser.heard[0]!.words).toEqual([recogniser.taught[0]![0]]);
    expect(recogniser.taught[0]![1]).toMatch(/^Z .* L$/);
    expect(reading.warnings.join(' ')).toMatch(/guessed from spelling: Zorble/);
    expect(reading.words[0]).toMatchObject({ text: 'Zorble', guessed: true });
  });

  it('reads sounds without a script, that no word explains', async () => {
    const bare = await readTrack(
      standIn(() => [segment('phoneme_m', 0.1, ['M'], 0.1)]),
      truth,
      undefined,
    );
    expect('refusal' in bare).toBe(false);
    if (!('refusal' in bare))
      expect(bare).toMatchObject({
        words: [],
        phonemes: [{ symbol: 'M', word: null }],
        // The recording of these tests is a tone, which is told too.
        warnings: [expect.stringMatching(/without a script/), expect.stringMatching(/music or a hum/)],
      });
  });

  it('reads French without a script, and is content with less there', async () => {
    const heard = (confidence: number, language: 'en' | 'fr'): StandIn =>
      standIn(() => [segment('phoneme_on', 0.1, ['on'], 0.1, confidence)], language);
    const bare = await readTrack(heard(0.93, 'fr'), truth, undefined);
    expect(bare).toMatchObject({ words: [], phonemes: [{ symbol: 'ɔ̃', word: null }] });
    expect(await refusal(heard(0.93, 'en'), undefined)).toMatch(/No speech could be made out/);
    expect(await refusal(heard(0.91, 'fr'), undefined)).toMatch(/No speech could be made out/);
  });

  it('takes French sounds for what they look like', async () => {
    const reading = await read(
      standIn(() => [segment('bonjour', 0.1, ['bb', 'on', 'jj', 'ou', 'rr'], 0.1)], 'fr', ['bonjour']),
      'Bonjour',
    );
    expect(reading.phonemes.map((phoneme) => phoneme.symbol)).toEqual(['B', 'ɔ̃', 'ZH', 'UW', 'ʁ']);
  });

  it('reports progress that only grows', async () => {
    const told: number[] = [];
    await readTrack(
      standIn(() => [segment('tide', 0.1, ['T'], 0.1, 0.3)]),
      truth,
      'tide',
      (done) => told.push(done),
    );
    expect(told.length).toBeGreaterThan(4);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
  });

  it('refuses in sentences', async () => {
    const recogniser = standIn(sure);
    expect(await refusal(recogniser, '')).toMatch(/no words/);
    expect(await refusal(recogniser, '(she sighs)')).toMatch(/no words/);
    expect(await refusal(recogniser, 'a '.repeat(30_000))).toMatch(/60000 letters/);
    expect(await refusal(recogniser, 'tide', { samples: new Int16Array(48_000) })).toMatch(/silent/);
    expect(await refusal(standIn(sure, 'fr', []), 'zut')).toMatch(/“zut” is not a word of the French dictionary/);
    expect(
      await refusal(
        standIn(() => undefined),
        undefined,
      ),
    ).toMatch(/No speech/);
  });

  it('reads a doubtful line loosely, keeps what was said and the sounds between, and says what was not heard', async () => {
    const strict = (_: number, words: readonly string[]): AlignedSegment[] =>
      words.map((word, index) => segment(word, 0.2 + index * 0.4, ['T', 'AY', 'D'], 0.1, word === 'pelican' ? 0.6 : 0.97));
    const loosely = (): AlignedSegment[] => [
      segment('tide', 0.2, ['T', 'AY', 'D'], 0.1),
      segment('phoneme_m', 0.6, ['M'], 0.1),
      segment('phoneme_uw', 0.7, ['UW'], 0.1),
      segment('record', 1, ['R', 'EH', 'K', 'ER', 'D'], 0.1),
      // A lone sound is breath.
      segment('phoneme_b', 1.6, ['B'], 0.05),
    ];
    const recogniser = standIn(strict, 'en', undefined, loosely);
    const reading = await read(recogniser, 'tide pelican record');
    expect(recogniser.loose).toEqual([['tide', 'pelican', 'record']]);
    expect(recogniser.heard.at(-1)!.words).toEqual(['tide', 'phoneme_m', 'phoneme_uw', 'record']);
    expect(reading.words.map((word) => word.text)).toEqual(['tide', 'record']);
    expect(reading.phonemes.filter((phoneme) => phoneme.word === null)).toHaveLength(6);
    expect(reading.warnings.join(' ')).toMatch(/Not heard in this recording: pelican\./);
  });

  it('keeps the strict reading where leaving words out makes the rest no surer', async () => {
    const strict = (_: number, words: readonly string[]): AlignedSegment[] =>
      words.map((word, index) => segment(word, 0.2 + index * 0.4, ['T', 'AY', 'D'], 0.1, word === 'pelican' ? 0.7 : 0.97));
    const reading = await read(
      standIn(strict, 'en', undefined, () => [segment('tide', 0.2, ['T', 'AY', 'D'], 0.1, 0.5)]),
      'tide pelican record tide record',
    );
    expect(reading.words.map((word) => word.text)).toEqual(['tide', 'pelican', 'record', 'tide', 'record']);
  });

  it('reads a long take stretch by stretch, each from the word after the last one found, and counts the words', async () => {
    // Fifty seconds: loud, with a pause at 18 and at 36 seconds.
    const samples = Int16Array.from({ length: 50 * 48_000 }, (_, index) => {
      const second = index / 48_000;
      return Math.abs(second - 18) < 0.3 || Math.abs(second - 36) < 0.3 ? 0 : syllables(index);
    });
    const script = ['tide', 'pelican', 'record', 'tide', 'pelican', 'record'];
    const told: string[] = [];
    const recogniser = standIn((_, words) => words.slice(0, 2).map((word, index) => segment(word, 1 + index, ['T', 'AY', 'D'], 0.1)));
    const reading = await readTrack(recogniser, { samples }, script.join(' '), (_, doing) => told.push(doing));
    if ('refusal' in reading) throw new Error(reading.refusal);
    expect(recogniser.heard.map(({ words }) => words.length)).toEqual([6, 4, 2]);
    expect(reading.words.map((word) => word.text)).toEqual(script);
    expect(reading.words.map((word) => Math.round(word.from / 48_000))).toEqual([1, 2, 19, 20, 37, 38]);
    expect(told).toContain('2 of 6 words found');
    expect(told).toContain('4 of 6 words found');
  });

  it('goes on after a stretch in which nothing is found, and says where', async () => {
    const samples = Int16Array.from({ length: 40 * 48_000 }, (_, index) => (Math.abs(index / 48_000 - 19) < 0.3 ? 0 : syllables(index)));
    let stretch = 0;
    const recogniser = standIn((_, words) => {
      stretch += 1;
      return stretch <= 5 ? undefined : words.map((word, index) => segment(word, 1 + index, ['T', 'AY', 'D'], 0.1));
    });
    const reading = await readTrack(recogniser, { samples }, 'tide record');
    if ('refusal' in reading) throw new Error(reading.refusal);
    expect(reading.words.map((word) => Math.round(word.from / 48_000))).toEqual([20, 21]);
    expect(reading.warnings.join(' ')).toMatch(/Nothing of the script was found from 0:00 to 0:19/);
    expect(reading.notSpeech).toHaveLength(1);
    expect(reading.notSpeech![0]!.from).toBe(0);
    expect(reading.notSpeech![0]!.to / 48_000).toBeCloseTo(19, 0);
  });

  it('reads nothing where a sound never lets up', async () => {
    const samples = Int16Array.from({ length: 12 * 48_000 }, (_, index) =>
      index < 4 * 48_000 ? syllables(index) : 8000 * Math.sin(index / 40),
    );
    const recogniser = standIn((_, words) => words.map((word, index) => segment(word, 0.5 + index, ['T', 'AY', 'D'], 0.1)));
    const reading = await readTrack(recogniser, { samples }, 'tide record');
    if ('refusal' in reading) throw new Error(reading.refusal);
    expect(recogniser.heard[0]!.samples / 16_000).toBeLessThan(6);
    expect(reading.notSpeech!.map(({ from, to }) => [Math.round(from / 48_000), Math.round(to / 48_000)])).toEqual([[4, 12]]);
    expect(reading.warnings.join(' ')).toMatch(/Nothing of the script was found from 0:0[34] to 0:12/);
  });

  it('says words as the production does, in the accent of the speaker', async () => {
    const recogniser = standIn((_, words) => words.map((word, index) => segment(word, 0.2 + index * 0.4, ['T', 'AY', 'D'], 0.1)));
    const reading = await readTrack(recogniser, truth, 'tide pelican', () => undefined, {
      pronunciations: new Map([['pelican', [['P', 'EH', 'L', 'IY']]]]),
      accent: { ...PLAIN_ACCENT, droppedH: true },
    });
    if ('refusal' in reading) throw new Error(reading.refusal);
    expect(recogniser.taught.map((word) => word.slice(1))).toEqual([['T AY D'], ['P EH L IY']]);
    expect(reading.words.map((word) => word.text)).toEqual(['tide', 'pelican']);
  });
});
