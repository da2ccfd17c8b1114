/** Cutting at pauses, moving boundaries, and the script beside what was read. */
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { besideScript, cutAtPauses, outsideOf, refineBoundaries, steadySound, truthForRecogniser, truthOfWave } from '../index.js';

const RATE = 16_000;

/** Noise at a level from a seeded generator. */
function noise(length: number, level: number, seed = 1): Float32Array {
  const samples = new Float32Array(length);
  let state = seed;
  for (let index = 0; index < length; index++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    samples[index] = (state / 2_147_483_648 - 1) * level;
  }
  return samples;
}

/** Speech-like: loud, with pauses in the middle of these seconds. */
function withPauses(seconds: number, pauses: readonly number[]): Float32Array {
  const samples = noise(seconds * RATE, 0.3);
  for (const at of pauses) samples.fill(0, (at - 0.2) * RATE, (at + 0.2) * RATE);
  return samples;
}

describe('cutting at pauses', () => {
  it('cuts in the pauses, no stretch longer than it may be', () => {
    const stretches = cutAtPauses(withPauses(50, [12, 18, 31, 44]), RATE, 20);
    expect(stretches.map(({ to }) => Math.round((to / RATE) * 10) / 10)).toEqual([18, 31, 50]);
  });

  it('cuts where it is quietest when nobody pauses', () => {
    const samples = noise(30 * RATE, 0.3);
    for (let index = 14 * RATE; index < 14.1 * RATE; index++) samples[index]! *= 0.2;
    const [first] = cutAtPauses(samples, RATE, 20);
    expect(Math.abs(first!.to / RATE - 14.05)).toBeLessThan(0.06);
  });

  it('covers the whole recording without a gap', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 90 }), fc.array(fc.integer({ min: 1, max: 89 }), { maxLength: 12 }), (seconds, pauses) => {
        const samples = withPauses(
          seconds,
          pauses.filter((at) => at < seconds - 1),
        );
        const stretches = cutAtPauses(samples, RATE, 20);
        expect(stretches[0]!.from).toBe(0);
        expect(stretches.at(-1)!.to).toBe(samples.length);
        stretches.forEach(({ from, to }, index) => {
          expect(to - from).toBeGreaterThan(0);
          expect(to - from).toBeLessThanOrEqual(20 * RATE);
          if (index > 0) expect(from).toBe(stretches[index - 1]!.to);
        });
      }),
      { seed: 44, numRuns: 25 },
    );
  });
});

describe('moving boundaries', () => {
  /** Silence, a burst of noise at 0.5 s, then a tone from 0.6 s on. */
  const samples = new Float32Array(RATE);
  samples.set(noise(RATE / 10, 0.4), RATE / 2);
  for (let index = 0.6 * RATE; index < RATE; index++) samples[index] = 0.3 * Math.sin((2 * Math.PI * 300 * index) / RATE);

  it.each([-0.018, -0.01, 0, 0.008, 0.014])('finds a known burst and its end from %d s away', (away) => {
    const sounds = [
      { symbol: 'S', fromSeconds: 0.5 + away, toSeconds: 0.6 + away },
      { symbol: 'AA', fromSeconds: 0.6 + away, toSeconds: 0.95 },
    ];
    const [burst, tone] = refineBoundaries(samples, sounds);
    expect(Math.abs(burst!.fromSeconds - 0.5)).toBeLessThan(0.006);
    expect(Math.abs(tone!.fromSeconds - 0.6)).toBeLessThan(0.006);
    expect(burst!.toSeconds).toBe(tone!.fromSeconds);
    expect(tone!.toSeconds).toBe(0.95);
  });

  it('keeps order and a length for every sound, and moves none further than 24 ms and the recogniser’s own 4', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 20 }), (lengths) => {
        let at = 0.05;
        const sounds = lengths.map((length) => {
          const sound = { symbol: 'AA', fromSeconds: at, toSeconds: at + length / 100 };
          at = sound.toSeconds;
          return sound;
        });
        const moved = refineBoundaries(noise(3 * RATE, 0.2, 9), sounds);
        moved.forEach((sound, index) => {
          expect(sound.toSeconds).toBeGreaterThan(sound.fromSeconds);
          if (index > 0) expect(sound.fromSeconds).toBeGreaterThanOrEqual(moved[index - 1]!.toSeconds - 1e-9);
          expect(Math.abs(sound.fromSeconds - sounds[index]!.fromSeconds)).toBeLessThan(0.0281);
        });
      }),
      { seed: 45, numRuns: 30 },
    );
    expect(refineBoundaries(samples, [])).toEqual([]);
  });
});

describe('what never lets up', () => {
  const spoken = (['slt', 'kal16'] as const).map((voice) => {
    const lines = Array.from({ length: 8 }, (_, line) => {
      const truth = truthOfWave(readFileSync(join(__dirname, `../../fixtures/speech/${voice}-0${line}.wav`)));
      if ('refusal' in truth) throw new Error(truth.refusal);
      return truthForRecogniser(truth);
    });
    return Float32Array.from(lines.flatMap((line) => [...line]));
  });
  const chord = Float32Array.from(
    { length: 6 * RATE },
    (_, index) => 0.1 * [220, 277, 330].reduce((sum, hertz) => sum + Math.sin((2 * Math.PI * hertz * index) / RATE), 0),
  );

  it('is not found in speech, nor in speech over noise 10 dB below it', () => {
    for (const voice of spoken) {
      expect(steadySound(voice, RATE)).toEqual([]);
      const level = Math.sqrt(voice.reduce((sum, value) => sum + value * value, 0) / voice.length / 10) * Math.sqrt(3);
      const ground = noise(voice.length, level, 7);
      expect(
        steadySound(
          voice.map((value, index) => value + ground[index]!),
          RATE,
        ),
      ).toEqual([]);
    }
  });

  it('is found after speech: a chord, or noise as loud as a voice', () => {
    for (const sound of [chord, noise(6 * RATE, 0.2, 9)]) {
      const samples = new Float32Array(spoken[0]!.length + sound.length);
      samples.set(spoken[0]!);
      samples.set(sound, spoken[0]!.length);
      const [span, ...others] = steadySound(samples, RATE);
      expect(others).toEqual([]);
      expect(Math.abs(span!.from - spoken[0]!.length) / RATE).toBeLessThan(0.2);
      expect(span!.to).toBe(samples.length);
    }
  });

  it('leaves the rest, without scraps', () => {
    const spans = [
      { from: 0, to: 10 },
      { from: 12, to: 50 },
    ];
    expect(outsideOf(spans, 100, 5)).toEqual([{ from: 50, to: 100 }]);
    expect(outsideOf([], 100, 5)).toEqual([{ from: 0, to: 100 }]);
  });
});

describe('the script beside what was read', () => {
  it('strikes what was not said and keeps what was', () => {
    const line = besideScript(['Put', 'the', 'wet', 'stamp', 'here!'], ['put', 'stamp', 'here']);
    expect(line.map(({ text, read }) => (read === undefined ? `-${text}` : text))).toEqual(['put', '-the', '-wet', 'stamp', 'here']);
  });

  it('has every word that was read once, in order', () => {
    const word = fc.constantFrom('tide', 'pool', 'post', 'the');
    fc.assert(
      fc.property(fc.array(word), fc.array(word), (script, read) => {
        const line = besideScript(script, read);
        expect(line.flatMap((entry) => (entry.read === undefined ? [] : [entry.read]))).toEqual(read.map((_, index) => index));
      }),
      { seed: 46 },
    );
  });
});
