/** A mouth moved by a voice as it is heard, with made signals and with the lines of the demo's voices. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { measureLook, openLiveMouth, starterChart, truthOfWave, type Truth } from '../index.js';

const chart = starterChart('Test', 'brush');
const opening = new Map(chart.drawings.map((drawing) => [drawing.id, measureLook(drawing).opening]));
const RATE = 48_000;
/** What a microphone hands over at once. */
const BATCH = 1024;

function* batches(samples: Float32Array): Generator<{ readonly from: number; readonly batch: Float32Array }> {
  for (let from = 0; from + BATCH <= samples.length; from += BATCH) yield { from, batch: samples.subarray(from, from + BATCH) };
}
/** The quiet of a room, at −60 decibels or so. */
const room = (index: number): number => 0.0016 * Math.sin(index * 12.9898 + 78.233 * ((index * 7) % 13));
/** The drawings after each batch. */
function shown(samples: Float32Array): { readonly from: number; readonly drawing: string }[] {
  const mouth = openLiveMouth(chart, RATE);
  return [...batches(samples)].map(({ from, batch }) => ({ from, drawing: mouth.hear(batch) }));
}
const voice = (index: number, loud = 0.3): number => loud * Math.sin((2 * Math.PI * 180 * index) / RATE);

it('opens within a hundred milliseconds of a voice that begins, and closes within two hundred of its end', () => {
  const [begins, ends] = [48_000, 96_000];
  const samples = Float32Array.from({ length: 144_000 }, (_, index) => room(index) + (index >= begins && index < ends ? voice(index) : 0));
  const all = shown(samples);
  expect(all.filter(({ from }) => from + BATCH <= begins).every(({ drawing }) => drawing === 'rest')).toBe(true);
  const opens = all.find(({ from, drawing }) => from + BATCH > begins && opening.get(drawing)! > opening.get('rest')!)!;
  // The batch it is in, handed over when it is full; painting comes on top.
  expect((opens.from + BATCH - begins) / RATE).toBeLessThanOrEqual(0.05);
  const closes = all.find(({ from, drawing }) => from >= ends && drawing === 'rest')!;
  expect((closes.from + BATCH - ends) / RATE).toBeLessThanOrEqual(0.35);
});

it('shows teeth while it hisses, and opens wider the louder it is', () => {
  let state = 7;
  const noise = (): number => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2_147_483_648 - 1;
  };
  const samples = Float32Array.from({ length: 144_000 }, (_, index) =>
    index < 48_000
      ? room(index)
      : index < 72_000
        ? 0.2 * noise()
        : index < 100_000
          ? room(index)
          : voice(index, index < 120_000 ? 0.03 : 0.5),
  );
  const all = shown(samples);
  const at = (sample: number): string => all.findLast(({ from }) => from + BATCH <= sample)!.drawing;
  expect(['teeth', 'push']).toContain(at(60_000));
  expect(opening.get(at(142_000))!).toBeGreaterThan(opening.get(at(118_000))!);
});

it('learns a soft voice and a loud room: both are seen to speak and to rest', () => {
  const wave = truthOfWave(readFileSync(join(__dirname, '../../../web/public/try-out/line.wav'))) as Truth;
  const line = Float32Array.from(wave.samples, (value) => value / 32_768);
  for (const [gain, hum] of [
    [1, 1],
    [0.1, 1],
    [0.5, 8],
  ] as const) {
    const before = Float32Array.from({ length: RATE }, (_, index) => hum * room(index));
    const samples = new Float32Array(2 * RATE + line.length);
    samples.set(before);
    line.forEach((value, index) => (samples[RATE + index] = gain * value + hum * room(index)));
    samples.set(before, RATE + line.length);
    const all = shown(samples);
    const said = all.filter(({ from }) => from > RATE && from < RATE + line.length);
    const open = said.filter(({ drawing }) => drawing !== 'rest').length / said.length;
    expect({ gain, hum, speaks: open > 0.5, mouths: new Set(said.map(({ drawing }) => drawing)).size > 4 }).toEqual({
      ...{ gain, hum },
      ...{ speaks: true, mouths: true },
    });
    expect(all.slice(-20).every(({ drawing }) => drawing === 'rest')).toBe(true);
  }
});
