/** Made recordings with known answers. */
import { factsOfClip, powerSpectrum, SAMPLE_RATE, type Truth } from '../index.js';

/** Repeatable noise, −1 to 1 (xorshift, Marsaglia 2003). */
function noiseSource(seed = 2463534242): () => number {
  let state = seed;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2147483648 - 1;
  };
}

// Taken once: a global is slow to reach inside the test runner, and these are called millions of times.
const { sin, cos, PI, round } = Math;

/** Samples from a rule. A loop: `from` with a rule is ten times as slow. */
function made(count: number, at: (index: number) => number): Int16Array {
  const samples = new Int16Array(count);
  for (let index = 0; index < count; index++) samples[index] = at(index);
  return samples;
}

const clamped = (value: number): number => (value > 32_767 ? 32_767 : value < -32_768 ? -32_768 : round(value));

/** A voice: buzzing bursts of a third of a second, as loud as said, over a ground. */
function recording(seconds: number, level: number, ground: (seconds: number) => number, speaks = (at: number) => at % 0.9 < 0.6): Truth {
  const samples = made(seconds * SAMPLE_RATE, (index) => {
    const at = index / SAMPLE_RATE;
    let voice = 0;
    if (speaks(at))
      for (let harmonic = 1; harmonic <= 12; harmonic++) voice += sin(2 * PI * 130 * harmonic * at + harmonic * harmonic) / harmonic;
    return clamped((voice * level * 0.4 + ground(at)) * 32_767);
  });
  return { samples };
}

const silence = (): number => 0;

describe('what is in a recording', () => {
  it('measures a sine of a known level: a full one has its peak at 0 and its mean power at −3.01 dB', () => {
    const facts = factsOfClip({
      samples: made(SAMPLE_RATE, (index) => round(sin((2 * PI * index) / 64) * 32_767)),
    });
    expect(facts.peakDb).toBeCloseTo(0, 2);
    expect(facts.floorDb).toBeCloseTo(-3.01, 1);
    const half = factsOfClip({
      samples: made(SAMPLE_RATE, (index) => round(sin((2 * PI * index) / 64) * 16_384)),
    });
    expect(half.peakDb).toBeCloseTo(-6.02, 1);
  });

  it('finds the share of speech', () => {
    expect(factsOfClip(recording(9, 0.5, silence)).speech).toBeCloseTo(0.667, 1);
    expect(factsOfClip(recording(9, 0.5, silence, (at) => at > 3 && at < 4.8)).speech).toBeCloseTo(0.2, 1);
  });

  it('tells a clean ground from noise and from tones, and says what to do', () => {
    const clean = factsOfClip(recording(6, 0.5, silence));
    expect(clean).toMatchObject({ ground: 'quiet', clipped: 0 });
    expect(clean.advice.join()).toMatch(/^Clean/);
    const next = noiseSource();
    const noisy = factsOfClip(recording(6, 0.5, () => next() * 0.04));
    expect(noisy.ground).toBe('noise');
    // White noise of amplitude a has a power of a²/3.
    expect(noisy.floorDb).toBeCloseTo(20 * Math.log10(0.04 / Math.sqrt(3)), 0);
    expect(noisy.advice.join()).toMatch(/noise under the voice/);
    const chord = [220, 277.2, 329.6, 440];
    const music = factsOfClip(recording(6, 0.5, (at) => chord.reduce((sum, hertz) => sum + sin(2 * PI * hertz * at) * 0.012, 0)));
    expect(music.ground).toBe('tones');
    expect(music.advice.join()).toMatch(/music or a hum/);
  });

  it('counts what is cut off at the top, and not what is only loud', () => {
    expect(factsOfClip(recording(4, 1.0, silence)).clipped).toBeLessThan(0.001);
    const clipped = factsOfClip(recording(4, 3, silence));
    expect(clipped.clipped).toBeGreaterThan(0.02);
    expect(clipped.advice.join()).toMatch(/cut off at the top/);
    const square = factsOfClip({ samples: made(48_000, (index) => (index % 100 < 50 ? 32_767 : -32_768)) });
    expect(square.clipped).toBeGreaterThan(0.9);
  });

  it('says when hardly anybody speaks, and when the voice is very quiet', () => {
    expect(factsOfClip(recording(20, 0.5, silence, (at) => at < 0.6)).advice.join()).toMatch(/Hardly anybody speaks/);
    expect(factsOfClip(recording(6, 0.006, silence)).advice.join()).toMatch(/very quiet/);
  });
});

describe('the spectrum', () => {
  it('of a sine on a bin has all its power there (Parseval)', () => {
    const samples = Float32Array.from({ length: 1024 }, (_, index) => sin((2 * PI * 32 * index) / 1024));
    const power = powerSpectrum(samples);
    expect(power[32]).toBeCloseTo(512 ** 2, -1);
    expect(power.reduce((sum, value) => sum + value, 0) - power[32]!).toBeLessThan(1e-3);
  });

  it('agrees with the transform written out as its definition', () => {
    const next = noiseSource();
    const samples = Float32Array.from({ length: 64 }, next);
    const power = powerSpectrum(samples);
    for (let bin = 0; bin <= 32; bin++) {
      let [real, imaginary] = [0, 0];
      samples.forEach((value, index) => {
        real += value * cos((2 * PI * bin * index) / 64);
        imaginary -= value * sin((2 * PI * bin * index) / 64);
      });
      expect(power[bin]).toBeCloseTo(real ** 2 + imaginary ** 2, 6);
    }
  });
});
