/** Random keying jobs: speech of 20 to 250 ms a sound, ink here and there, phrases with rules of their own. */
import fc from 'fast-check';
import {
  FEELS,
  fullRules,
  PHONEMES,
  SAMPLE_RATE,
  starterChart,
  type InkedSpan,
  type KeyingJob,
  type RuledPhrase,
  type SceneSound,
} from '../index.js';

const chart = starterChart('Test', 'brush');
const symbols = PHONEMES.map((phoneme) => phoneme.symbol);
const rates = [8, 12, 24, 25, 30].map((num) => ({ num, den: 1 })).concat([{ num: 30_000, den: 1001 }]);

/** Sounds, now and then a pause between two. */
export const anySounds = fc
  .array(
    fc.tuple(
      fc.nat(symbols.length - 1),
      fc.integer({ min: 960, max: 12_000 }),
      fc.oneof({ weight: 5, arbitrary: fc.constant(0) }, fc.integer({ min: 0, max: 30_000 })),
    ),
    { maxLength: 40 },
  )
  .map((parts) => {
    let at = 4800;
    return parts.map(([symbol, length, pause]): SceneSound => {
      const from = at + pause;
      at = from + length;
      return { symbol: symbols[symbol]!, from, to: at, stress: 1 };
    });
  });

export const anyJob = fc
  .tuple(
    anySounds,
    fc.constantFrom(...rates),
    fc.integer({ min: 1, max: 3 }),
    fc.integer({ min: 0, max: 3 }),
    fc.boolean(),
    fc.array(fc.tuple(fc.nat(200), fc.integer({ min: 1, max: 9 }), fc.nat(12)), { maxLength: 4 }),
  )
  .map(([sounds, frameRate, holdFrames, leadFrames, strict, inkParts]): KeyingJob => {
    const lengthFrames = Math.ceil((((sounds.at(-1)?.to ?? 24_000) / SAMPLE_RATE) * frameRate.num) / frameRate.den) + 5;
    const ink: InkedSpan[] = [];
    for (const [from, length, pick] of [...inkParts].sort((a, b) => a[0] - b[0])) {
      const to = Math.min(lengthFrames, from + length);
      if (from < to && from >= (ink.at(-1)?.to ?? 0)) ink.push({ from, to, drawing: chart.drawings[pick]!.id });
    }
    return { sounds, frameRate, lengthFrames, chart, rules: { holdFrames, leadFrames, strict }, ink };
  });

/** The same with phrases that go by other rules, some of them by loudness, which is then heard. */
export const mixedJob = fc
  .tuple(
    anyJob,
    fc.array(fc.tuple(fc.nat(90_000), fc.integer({ min: 500, max: 60_000 }), fc.nat(3), fc.boolean()), { minLength: 1, maxLength: 3 }),
  )
  .map(([job, parts]): KeyingJob => {
    const phrases: RuledPhrase[] = [];
    let at = 0;
    for (const [gap, length, feel, isLoud] of parts) {
      const from = at + gap;
      at = from + length;
      phrases.push({ from, to: at, rules: { ...fullRules(FEELS[feel]!.rules), source: isLoud ? 'loudness' : 'sounds' } });
    }
    const loudness = new Float32Array(job.lengthFrames).map((_, frame) => Math.abs(Math.sin(frame * 0.7)));
    return { ...job, phrases, loudness, hiss: new Float32Array(job.lengthFrames) };
  });
