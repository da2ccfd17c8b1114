/** Channels as one, by what is in them. */
import { mixChannels, SAMPLE_RATE } from '../index.js';

const voice = Float32Array.from({ length: SAMPLE_RATE / 4 }, (_, index) => 0.5 * Math.sin(index / 20) * Math.sin(index / 900));
const other = Float32Array.from(voice, (_, index) => 0.4 * Math.sin(index / 13));
const scaled = (by: number): Float32Array => voice.map((value) => value * by);
const power = (samples: Float32Array): number => samples.reduce((sum, value) => sum + value * value, 0);

it.each<[string, Float32Array[], number, RegExp | undefined]>([
  ['one channel', [voice], 1, undefined],
  ['two alike', [voice, voice], 1, undefined],
  ['the second empty', [voice, scaled(0)], 1, /^Channel 2 is empty: only the other is heard\.$/],
  ['the first empty but for a little noise', [scaled(0.001), voice], 1, /^Channel 1 is empty/],
  [
    'six channels, the voice in the middle',
    [scaled(0), scaled(0), voice, scaled(0), scaled(0), scaled(0)],
    1,
    /^Channels 1 and 2 and 4 and 5 and 6 are empty: only the other is/,
  ],
  ['the second turned over', [voice, scaled(-1)], 1, /^Channel 2 is channel 1 turned over/],
  ['the second turned over and quieter', [voice, scaled(-0.5)], 0.75, /turned over/],
])('%s: nothing is lost of the level', (_, channels, level, note) => {
  const { samples, notes } = mixChannels(channels);
  expect(Math.sqrt(power(samples) / power(voice))).toBeCloseTo(level, 3);
  if (note) expect(notes.join(' ')).toMatch(note);
  else expect(notes).toEqual([]);
});

it('two different sounds are mixed, each with its share', () => {
  const { samples, notes } = mixChannels([voice, other]);
  expect(notes).toEqual([]);
  expect(samples[1234]).toBeCloseTo((voice[1234]! + other[1234]!) / 2, 6);
});

it('nothing at all stays nothing', () => {
  expect(power(mixChannels([scaled(0), scaled(0)]).samples)).toBe(0);
});
