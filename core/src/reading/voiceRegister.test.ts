import fc from 'fast-check';
import { resample } from '../audio/resample.js';
import { voicePitch } from '../audio/voicePitch.js';
import { truthForRecogniser, truthOfWave } from '../audio/truth.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { roundedSpeed, SPEED_LIMITS, speedForPitch } from './voiceRegister.js';

/** Glottal pulses through one resonance, in bursts: a voice of a known pitch at 16 kHz. */
function pulses(hertz: number, seconds = 2): Float32Array {
  const samples = new Float32Array(seconds * 16_000);
  let [one, two, next] = [0, 0, 0];
  for (let index = 0; index < samples.length; index++) {
    const speaks = Math.floor(index / 4000) % 3 < 2;
    const struck = speaks && index >= next ? 1 : 0;
    if (struck) next = index + 16_000 / hertz;
    const value = struck + 1.8 * one - 0.9 * two;
    [two, one] = [one, value];
    samples[index] = value * 0.05;
  }
  return samples;
}

describe('the pitch of a voice', () => {
  it.each([70, 95, 130, 172, 220, 300, 420])('finds %i Hz within 3 in a hundred', (hertz) => {
    expect(Math.abs(voicePitch(pulses(hertz))! / hertz - 1)).toBeLessThan(0.03);
  });

  it('is not known where nothing is voiced', () => {
    let state = 3;
    const noise = Float32Array.from({ length: 32_000 }, () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state / 4_294_967_296 - 0.5;
    });
    expect(voicePitch(noise)).toBeUndefined();
    expect(voicePitch(new Float32Array(16_000))).toBeUndefined();
    expect(voicePitch(new Float32Array(0))).toBeUndefined();
  });

  it('goes up with the voice', () => {
    const truth = truthOfWave(readFileSync(join(__dirname, '../../fixtures/speech/slt-09.wav')));
    if ('refusal' in truth) throw new Error(truth.refusal);
    const voice = truthForRecogniser(truth);
    const [low, high] = [voicePitch(voice)!, voicePitch(resample(voice, 24_000, 16_000))!];
    expect(high / low).toBeCloseTo(1.5, 1);
  });
});

describe('the speed a voice is read at', () => {
  it('leaves a low voice alone, slows a higher one down by how much shorter its throat is, and has limits', () => {
    expect(speedForPitch(110)).toBe(1);
    expect(speedForPitch(undefined)).toBe(1);
    // Women’s formants are 15 to 20 in a hundred higher, children’s 30 (Peterson and Barney, 1952; from memory).
    expect(speedForPitch(200)).toBeGreaterThanOrEqual(1.15);
    expect(speedForPitch(200)).toBeLessThanOrEqual(1.25);
    expect(speedForPitch(264)).toBeGreaterThanOrEqual(1.3);
    expect(speedForPitch(20)).toBe(SPEED_LIMITS.slowest);
    expect(speedForPitch(5000)).toBe(SPEED_LIMITS.fastest);
  });

  it('never falls as a voice gets higher, and goes in steps that a resampler likes', () => {
    fc.assert(
      fc.property(fc.double({ min: 50, max: 600, noNaN: true }), fc.double({ min: 50, max: 600, noNaN: true }), (a, b) => {
        if (a <= b) expect(speedForPitch(a)).toBeLessThanOrEqual(speedForPitch(b));
        expect((roundedSpeed(a / 200) * 20) % 1).toBeCloseTo(0, 9);
      }),
    );
  });
});
