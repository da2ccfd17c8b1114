/** Noises of the mouth, made by formula, told from speech; real ones are held against in docs/measured-once.md. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  checkReading,
  hearNoises,
  NOISES,
  soundsOfNoise,
  truthForRecogniser,
  truthOfWave,
  withNoises,
  type Reading,
  type Truth,
} from '../index.js';

const RATE = 16_000;
/** White noise from a seeded generator, −1 to 1. */
function noise(length: number): Float32Array {
  let state = 7;
  return Float32Array.from({ length }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2_147_483_648 - 1;
  });
}
/** Glottal pulses through resonances, an envelope over them: a voice. */
function voice(
  seconds: number,
  hertz: number,
  formants: readonly (readonly [hertz: number, width: number])[],
  level: (seconds: number) => number,
): Float32Array {
  const pulses = Float32Array.from({ length: Math.round(seconds * RATE) }, (_, index) => (index % Math.round(RATE / hertz) === 0 ? 1 : 0));
  const made = formants.reduce<Float32Array>((sum, [centre, width]) => {
    const radius = Math.exp((-Math.PI * width) / RATE);
    const [a, b] = [2 * radius * Math.cos((2 * Math.PI * centre) / RATE), -radius * radius];
    let [last, before] = [0, 0];
    pulses.forEach((pulse, index) => {
      const value = pulse + a * last + b * before;
      [before, last] = [last, value];
      sum[index]! += value / formants.length;
    });
    return sum;
  }, new Float32Array(pulses.length));
  const most = made.reduce((peak, value) => Math.max(peak, Math.abs(value)), 1e-9);
  return made.map((value, index) => (value / most) * level(index / RATE));
}
const AH = [
  [730, 80],
  [1090, 90],
  [2440, 120],
] as const;
/** Parts one after another, with near silence around them. */
function among(part: Float32Array, before = 0.6, after = 0.6): { samples: Float32Array; from: number; to: number } {
  const [lead, tail] = [Math.round(before * RATE), Math.round(after * RATE)];
  const samples = noise(lead + part.length + tail).map((value) => value * 1e-4);
  part.forEach((value, index) => (samples[lead + index]! += value));
  return { samples, from: lead, to: lead + part.length };
}
/** A vowel that somebody says before the noise, so that it is known how loud the voice is; and where it lies. */
function afterAWord(part: Float32Array): { samples: Float32Array; words: { from: number; to: number }[]; from: number; to: number } {
  const word = voice(0.5, 120, AH, () => 0.6);
  const whole = new Float32Array(word.length + RATE * 0.3 + part.length);
  whole.set(word);
  whole.set(part, word.length + RATE * 0.3);
  const { samples, from } = among(whole);
  return { samples, words: [{ from, to: from + word.length }], from: from + word.length + RATE * 0.3, to: from + whole.length };
}
const kinds = (samples: Float32Array, words?: readonly { from: number; to: number }[]): string[] =>
  hearNoises(samples, words).map(({ kind }) => kind);

const laugh = voice(1.35, 180, AH, (at) => 0.7 * Math.max(0.02, Math.sin(Math.PI * ((at / 0.15) % 1)) ** 2));

it('tells a laugh by its even beats that are alike, with each of them', () => {
  const { samples, from, to } = among(laugh);
  const [heard, ...others] = hearNoises(samples);
  expect(others).toEqual([]);
  expect(heard).toMatchObject({ kind: 'laugh' });
  expect(Math.abs(heard!.from - from)).toBeLessThan(0.1 * RATE);
  expect(Math.abs(heard!.to - to)).toBeLessThan(0.1 * RATE);
  // 1.35 s at a beat of 0.15 s.
  expect(heard!.pulses).toHaveLength(9);
});

it.each([
  ['hum', voice(0.8, 120, [[220, 60]], () => 0.4)],
  ['whistle', Float32Array.from({ length: 0.5 * RATE }, (_, index) => 0.3 * Math.sin((2 * Math.PI * 1500 * index) / RATE))],
  ['breath', noise(0.5 * RATE).map((value, index) => 0.02 * value * Math.sin((Math.PI * index) / (0.5 * RATE)))],
  ['cough', noise(0.25 * RATE).map((value, index) => 0.5 * value * Math.exp(-index / (0.06 * RATE)))],
  [
    'scream',
    voice(
      0.9,
      500,
      [
        [1100, 400],
        [1900, 400],
        [3100, 500],
      ],
      () => 0.7,
    ),
  ],
] as const)('tells a %s beside a word', (kind, part) => {
  const { samples, words, from, to } = afterAWord(part);
  const heard = hearNoises(samples, words);
  expect(heard.map((one) => one.kind)).toEqual([kind]);
  expect(Math.abs(heard[0]!.from - from)).toBeLessThan(0.08 * RATE);
  expect(heard[0]!.to).toBeLessThan(to + 0.1 * RATE);
});

it('says nothing of what is not plain: a vowel, noise as loud as a voice, silence', () => {
  expect(kinds(among(voice(0.6, 140, AH, () => 0.6)).samples)).toEqual([]);
  expect(kinds(among(noise(1.2 * RATE).map((value) => 0.5 * value)).samples)).toEqual([]);
  expect(kinds(new Float32Array(RATE))).toEqual([]);
  expect(kinds(new Float32Array(0))).toEqual([]);
});

it('takes no labelled line of speech for a noise', () => {
  const folder = join(__dirname, '../../fixtures/speech');
  for (const file of readdirSync(folder).filter((name) => /-\d[05]\.wav$/.test(name))) {
    const samples = truthForRecogniser(truthOfWave(readFileSync(join(folder, file))) as Truth);
    expect([file, ...kinds(samples)]).toEqual([file]);
  }
});

it('becomes sounds in a reading, where none was read, and a mark of its kind', () => {
  const word = { text: 'wet', from: 48_000, to: 60_000, confidence: 1 };
  const reading: Reading = {
    sampleRate: 48_000,
    durationSamples: 240_000,
    words: [word],
    phonemes: [{ symbol: 'W', from: 48_000, to: 60_000, confidence: 1, word: 0 }],
    warnings: [],
    notSpeech: [{ from: 96_000, to: 200_000 }],
  };
  const after = withNoises(reading, [
    { from: 24_000, to: 40_000, kind: 'hum' },
    {
      from: 40_000,
      to: 56_000,
      kind: 'laugh',
      pulses: [
        { from: 42_000, to: 44_000 },
        { from: 48_000, to: 50_000 },
      ],
    },
  ]);
  expect(checkReading(after)).toEqual([]);
  expect(after.phonemes.map(({ symbol, from, to, word: of }) => [symbol, from, to, of])).toEqual([
    ['W', 48_000, 60_000, 0],
    ['M', 72_000, 120_000, null],
    ['HH', 120_000, 126_000, null],
    ['AA', 126_000, 132_000, null],
    ['HH', 132_000, 144_000, null],
    ['AA', 144_000, 150_000, null],
  ]);
  expect(after.notSpeech).toEqual([
    { from: 72_000, to: 120_000, kind: 'hum' },
    { from: 120_000, to: 168_000, kind: 'laugh' },
    { from: 168_000, to: 200_000 },
  ]);
  expect(withNoises(reading, [])).toBe(reading);
  // What each looks like lies within it, in order.
  for (const kind of NOISES) {
    const sounds = soundsOfNoise(kind, { from: 1000, to: 49_000 });
    expect(sounds[0]!.from).toBe(1000);
    expect(sounds.at(-1)!.to).toBe(49_000);
    sounds.slice(1).forEach((sound, index) => expect(sound.from).toBe(sounds[index]!.to));
  }
});
