/** Slow sound, held against what must not change: its pitch, its level, the order and place of what is heard. */
import fc from 'fast-check';
import { openStretcher, powerSpectrum, SAMPLE_RATE, stretched } from '../index.js';

const { sin, PI, abs, round, sqrt } = Math;

function made(seconds: number, at: (seconds: number) => number): Float32Array {
  const samples = new Float32Array(round(seconds * SAMPLE_RATE));
  for (let index = 0; index < samples.length; index++) samples[index] = at(index / SAMPLE_RATE);
  return samples;
}

/** The frequency with the most power in the middle of a sound, in Hz, to 3 Hz. */
function pitchOf(samples: Float32Array): number {
  const window = samples.slice((samples.length >> 1) - 8192, (samples.length >> 1) + 8192);
  for (let index = 0; index < window.length; index++) window[index]! *= sin((PI * index) / window.length) ** 2;
  const power = powerSpectrum(window);
  return (power.indexOf(power.reduce((most, value) => (value > most ? value : most), 0)) * SAMPLE_RATE) / window.length;
}

const level = (samples: Float32Array): number => sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

describe('slow sound', () => {
  it.each([2, 4, 8])('%i times as long keeps its pitch and its level', (factor) => {
    const tone = made(1, (at) => 0.4 * sin(2 * PI * 440 * at));
    const slow = stretched(tone, factor);
    expect(slow).toHaveLength(SAMPLE_RATE * factor);
    expect(abs(pitchOf(slow) - 440)).toBeLessThan(4);
    expect(level(slow) / level(tone)).toBeGreaterThan(0.93);
    expect(level(slow) / level(tone)).toBeLessThan(1.05);
  });

  it('keeps a buzz of many harmonics together: no gap and no click between windows', () => {
    const buzz = made(0.6, (at) => [1, 2, 3, 4, 5].reduce((sum, harmonic) => sum + sin(2 * PI * 120 * harmonic * at) / harmonic, 0) * 0.2);
    const slow = stretched(buzz, 4);
    const steps = (samples: Float32Array): number =>
      samples.reduce(
        (most, value, index) => (index > 0 && abs(value - samples[index - 1]!) > most ? abs(value - samples[index - 1]!) : most),
        0,
      );
    expect(steps(slow)).toBeLessThan(steps(buzz) * 1.4);
  });

  it.each([2, 4, 8])(
    '%i times as long puts what is heard where it belongs: a burst of 30 ms, middle to middle, to 6 ms of the sound',
    (factor) => {
      const burst = made(1, (at) => (at > 0.5 && at < 0.53 ? sin(2 * PI * 900 * at) : 0));
      const slow = stretched(burst, factor);
      const power = slow.reduce((sum, value) => sum + value * value, 0);
      const middle = slow.reduce((sum, value, index) => sum + value * value * index, 0) / power / SAMPLE_RATE / factor;
      expect(abs(middle - 0.515)).toBeLessThan(0.006);
      expect(level(slow.slice(0, round(0.9 * 0.5 * factor * SAMPLE_RATE)))).toBe(0);
    },
  );

  it('at its own speed is the same sound, and of nothing is nothing', () => {
    const tone = made(0.3, (at) => 0.4 * sin(2 * PI * 300 * at));
    const same = stretched(tone, 1);
    for (let index = 2000; index < 12_000; index += 97) expect(same[index]).toBeCloseTo(tone[index]!, 3);
    expect(stretched(new Float32Array(0), 4)).toHaveLength(0);
  });
});

describe('a stream of slow sound', () => {
  const voice = made(
    0.5,
    (at) => [1, 2, 3].reduce((sum, harmonic) => sum + sin(2 * PI * (110 + 30 * at) * harmonic * at) / harmonic, 0) * 0.2,
  );

  it.each([2, 8])('%i times as long is the same, however it is cut', (factor) => {
    const whole = stretched(voice, factor);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 12_000 }), { minLength: 1, maxLength: 8 }), (sizes) => {
        const stretcher = openStretcher(factor);
        const out: number[] = [];
        for (let at = 0, turn = 0; at < voice.length; turn++) {
          const size = sizes[turn % sizes.length]!;
          for (const value of stretcher.push(voice.slice(at, at + size))) out.push(value);
          at += size;
        }
        for (const value of stretcher.end()) out.push(value);
        expect(out).toHaveLength(whole.length);
        let worst = 0;
        for (let index = 0; index < out.length; index++) worst = Math.max(worst, abs(out[index]! - whole[index]!));
        expect(worst).toBe(0);
      }),
      { numRuns: 5 },
    );
  });

  it('comes out while it goes in: a tenth of a second is enough for the first of it', () => {
    expect(openStretcher(8).push(voice.slice(0, 4800)).length).toBeGreaterThan(8 * 1024);
  });
});
