/** Lines that break off: quiet is added where they do. */
import { RECOGNISER_RATE } from '@zest-jaw/core';
import { endingInQuiet, QUIET_AFTER } from './endsInQuiet.js';

const tone = (seconds: number, at: (second: number) => number): Float32Array =>
  Float32Array.from({ length: seconds * RECOGNISER_RATE }, (_, index) => at(index / RECOGNISER_RATE) * Math.sin(index / 3));

it('is added where sound breaks off, and not where it ends in quiet', () => {
  expect(endingInQuiet(tone(1, () => 0.4))).toHaveLength(RECOGNISER_RATE + QUIET_AFTER);
  const quiet = tone(1, (second) => (second > 0.7 ? 0.0005 : 0.4));
  expect(endingInQuiet(quiet)).toBe(quiet);
  expect(Math.max(...endingInQuiet(tone(1, () => 0.4)).subarray(RECOGNISER_RATE))).toBeLessThan(1e-4);
});

it('keeps nothing of a recording that has nothing in it from being asked about', () => {
  expect(endingInQuiet(new Float32Array(0))).toHaveLength(QUIET_AFTER);
});
