/** Words aligned by the acoustic model, beside soundswallower (npm, MIT), which the model was made for: it is the reference here. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { melSpectra, readAcousticModel, truthForRecogniser, truthOfWave, type Truth } from '@zest-jaw/core';
import { maybeAlignWords } from './alignWords.js';
import { acousticModel, dictionary, RECOGNISER_ENTRY } from './modelFiles.js';
import type { AlignedSegment, SpokenPlace } from './recogniser.js';

const SPEECH = join(__dirname, '../../../core/fixtures/speech');
const model = acousticModel('en');
const sentences = readFileSync(join(SPEECH, 'sentences.txt'), 'utf8').trim().split('\n');

/** In steps of 16 bits, as the reference takes its samples. */
const in16Bits = (samples: Float32Array): Float32Array => samples.map((value) => Math.round(value * 32_768) / 32_768);
const heard = (name: string): Float32Array => truthForRecogniser(truthOfWave(readFileSync(join(SPEECH, `${name}.wav`))) as Truth);
const wordsIn = (line: number): string[] => sentences[line]!.toLowerCase().match(/[a-z']+/g)!;
const waysOf = (word: string): string[][] => {
  const ways: string[][] = [];
  for (let way = dictionary('en').get(word); way; way = dictionary('en').get(`${word}(${ways.length + 1})`)) ways.push(way.split(' '));
  return ways;
};
const align = (samples: Float32Array, words: readonly string[], extent: 'all' | 'first' = 'all', places?: readonly SpokenPlace[]) =>
  maybeAlignWords(
    model,
    samples,
    words.map((word) => ({ word, ways: waysOf(word) })),
    { extent, places },
  );
const said = (segments: readonly AlignedSegment[] | undefined): AlignedSegment[] =>
  (segments ?? []).filter(({ word }) => word !== undefined);

interface Reference {
  readonly spectra: number[];
  readonly starts: number[];
  readonly symbols: string[];
}

/** What soundswallower hears: its spectra, and the sounds that it aligns, in a process of its own. */
function reference(samples: Float32Array, words: readonly string[]): Reference {
  const script = `
    const { default: create } = await import(${JSON.stringify(RECOGNISER_ENTRY)});
    const chunks = []; for await (const chunk of process.stdin) chunks.push(chunk);
    const bytes = Buffer.concat(chunks);
    const samples = new Float32Array(new Uint8Array(bytes).buffer);
    const library = await create({ print() {}, printErr() {}, modelBase: ${JSON.stringify(join(RECOGNISER_ENTRY, '../model/'))} });
    const decoder = new library.Decoder({ hmm: library.get_model_path('en-us'), loglevel: 'FATAL', samprate: 16000, beam: 1e-80, wbeam: 1e-60, pbeam: 1e-80 });
    await decoder.initialize();
    const spectra = [...decoder.spectrogram(samples).data];
    decoder.set_align_text(${JSON.stringify(words.join(' '))});
    decoder.start(); decoder.process_audio(samples, false, true); decoder.stop();
    const sounds = decoder.get_alignment({ align_level: 1 }).w.filter(({ t }) => !/^[<[+]/.test(t)).flatMap(({ w }) => w);
    process.stdout.write(JSON.stringify({ spectra, starts: sounds.map(({ b }) => b), symbols: sounds.map(({ t }) => t) }), () => process.exit());`;
  const input = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);
  return JSON.parse(
    execFileSync(process.execPath, ['--input-type=module', '-e', script], { input, maxBuffer: 1e8 }).toString(),
  ) as Reference;
}

/** The middle of a word that was found. */
const middle = (segment: AlignedSegment | undefined): number => (segment ? (segment.fromSeconds + segment.toSeconds) / 2 : Number.NaN);

describe.each(['slt-00', 'kal16-05'])('beside the reference, %s', (name) => {
  const samples = in16Bits(heard(name));
  const words = wordsIn(Number(name.slice(-2)));
  const expected = reference(samples, words);

  it('hears the same spectra', () => {
    const frames = melSpectra(samples);
    expect(frames.length * frames[0]!.length).toBe(expected.spectra.length);
    // The reference leaves out some samples of the last frame, which is filled up with silence.
    const spectra = frames.slice(0, -1).flatMap((frame) => [...frame]);
    expect(Math.max(...spectra.map((value, index) => Math.abs(value - expected.spectra[index]!)))).toBeLessThan(1e-3);
  });

  it('finds the same sounds, nine in ten of them within a frame of a hundredth of a second', () => {
    const sounds = said(align(samples, words)).flatMap(({ phonemes }) => phonemes);
    expect(sounds.map(({ symbol }) => symbol)).toEqual(expected.symbols);
    const near = sounds.filter(({ fromSeconds }, index) => Math.abs(fromSeconds - expected.starts[index]!) < 0.0101);
    expect(near.length / sounds.length).toBeGreaterThan(0.9);
  });
});

describe('words', () => {
  const samples = heard('slt-01');
  const words = wordsIn(1);

  it('are surer where they are said than where others are', () => {
    const wrong = words.map((word, index) => (index === 3 ? 'umbrella' : word));
    const [right, other] = [said(align(samples, words)), said(align(samples, wrong))];
    expect(right.every(({ confidence }) => confidence > 0.88)).toBe(true);
    expect(other[3]!.confidence).toBeLessThan(right[3]!.confidence - 0.05);
  });

  it('are found up to where the recording ends, when more may follow', () => {
    const more = [...words, ...wordsIn(2)];
    expect(said(align(samples, more, 'first')).map(({ word }) => word)).toEqual(words);
    expect(said(align(samples, more, 'first')).map(({ index }) => index)).toEqual(words.map((_, index) => index));
  });

  it('do not fit where there is no time for them, or where the model has none of their sounds', () => {
    expect(align(samples.subarray(0, 8000), words)).toBeUndefined();
    expect(maybeAlignWords(model, samples, [{ word: 'x', ways: [['XX']] }], { extent: 'all' })).toBeUndefined();
    expect(maybeAlignWords(model, samples, [], { extent: 'all' })).toBeUndefined();
  });

  it('lie one after another without a hole, from the first frame on', () => {
    const segments = align(samples, words)!;
    expect(segments[0]!.fromSeconds).toBe(0);
    segments.slice(1).forEach(({ fromSeconds }, index) => expect(fromSeconds).toBe(segments[index]!.toSeconds));
    for (const { phonemes, fromSeconds, toSeconds } of segments) {
      expect(phonemes[0]!.fromSeconds).toBe(fromSeconds);
      expect(phonemes.at(-1)!.toSeconds).toBe(toSeconds);
    }
  });
});

describe('lines with places', () => {
  const [one, other] = [heard('slt-01'), heard('slt-02')];
  const samples = new Float32Array(one.length + 16_000 + other.length);
  samples.set(one);
  samples.set(other, one.length + 16_000);
  const end = samples.length / 16_000;
  const turn = one.length / 16_000;

  it('are said in them, and a line that nobody says is left out whole', () => {
    const lines = [wordsIn(1), wordsIn(7), wordsIn(2)];
    const places = [
      { fromSeconds: -1, toSeconds: turn },
      { fromSeconds: turn - 1, toSeconds: turn + 2 },
      { fromSeconds: turn, toSeconds: end + 1 },
    ];
    const found = said(
      align(
        samples,
        lines.flat(),
        'all',
        lines.flatMap((words, line) => words.map(() => places[line]!)),
      ),
    );
    expect(found.map(({ word }) => word)).toEqual([...lines[0]!, ...lines[2]!]);
    expect(found.map(({ index }) => index)).toEqual([
      ...lines[0]!.keys(),
      ...lines[2]!.map((_, at) => lines[0]!.length + lines[1]!.length + at),
    ]);
    expect(middle(found[lines[0]!.length - 1])).toBeLessThan(turn);
    expect(middle(found[lines[0]!.length])).toBeGreaterThan(turn);
  });

  it('are not looked for anywhere else', () => {
    const words = wordsIn(2);
    const place = { fromSeconds: 0, toSeconds: turn - 0.5 };
    for (const { fromSeconds } of said(
      align(
        samples,
        words,
        'all',
        words.map(() => place),
      ),
    ))
      expect(fromSeconds).toBeLessThan(turn);
  });
});

it('says which file of a model is damaged', () => {
  const bytes = new Uint8Array(64);
  const files = { mdef: bytes, means: bytes, variances: bytes, sendump: bytes, transitions: bytes };
  expect(() => readAcousticModel(files)).toThrow(
    'The acoustic model’s definitions cannot be read: install the application’s packages again.',
  );
});
