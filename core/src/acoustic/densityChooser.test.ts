/** Densities chosen four at a time are those that fit best, as one after another would find them. */
import fc from 'fast-check';
import { STREAM_LENGTH, STREAMS, type AcousticModel } from './acousticModel.js';
import { BEST, chooserOf } from './densityChooser.js';

const SOUNDS = ['A', 'B', 'C'];
const WIDTH = STREAMS * STREAM_LENGTH;

/** A model of densities anywhere; only what is asked for here is set. */
function modelOf(densities: number, random: () => number): AcousticModel {
  const count = SOUNDS.length * STREAMS * densities;
  return {
    sounds: SOUNDS,
    densities,
    parameters: Float64Array.from({ length: count * STREAM_LENGTH * 2 }, (_, at) => (at % 2 === 0 ? 4 * random() - 2 : 0.2 + random())),
    peaks: Float64Array.from({ length: count }, () => -5 * random()),
  } as unknown as AcousticModel;
}

function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/** Every density's logarithm, the highest first. */
function inOrder({ densities, parameters, peaks }: AcousticModel, row: number, values: Float32Array, at: number): [number, number][] {
  const logs = Array.from({ length: densities }, (_, density): [number, number] => {
    let log = peaks[row * densities + density]!;
    for (let value = 0; value < STREAM_LENGTH; value++) {
      const place = ((row * densities + density) * STREAM_LENGTH + value) * 2;
      log -= (values[at + value]! - parameters[place]!) ** 2 * parameters[place + 1]!;
    }
    return [log, density];
  });
  return logs.sort((a, b) => b[0] - a[0]);
}

it('finds the best of each codebook that is looked at, frame after frame, and leaves the others as they are', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 0xffff }),
      fc.constantFrom(4, 10, 64),
      fc.uint8Array({ minLength: 3, maxLength: 3, max: 1 }),
      (seed, densities, isLooked) => {
        const random = seeded(seed);
        const model = modelOf(densities, random);
        const frames = 4;
        const values = Float32Array.from({ length: frames * WIDTH }, () => 4 * random() - 2);
        const rows = SOUNDS.length * STREAMS;
        const chosen = Int32Array.from({ length: rows * BEST }, (_, index) => index % BEST);
        const logs = new Float32Array(rows * BEST);
        for (let frame = 0; frame < frames; frame++) {
          chooserOf(model).choose(values, frame * WIDTH, Uint8Array.from(isLooked), chosen, logs);
          for (let row = 0; row < rows; row++) {
            const own = {
              chosen: [...chosen.subarray(row * BEST, (row + 1) * BEST)],
              logs: [...logs.subarray(row * BEST, (row + 1) * BEST)],
            };
            const sound = Math.floor(row / STREAMS);
            if (!isLooked[sound]) {
              expect(own).toEqual({ chosen: [0, 1, 2, 3], logs: [0, 0, 0, 0] });
              continue;
            }
            const wanted = inOrder(model, row, values, frame * WIDTH + (row % STREAMS) * STREAM_LENGTH).slice(0, BEST);
            wanted.forEach(([log], rank) => expect(own.logs[rank]).toBeCloseTo(log, 3));
            expect(new Set(own.chosen).size).toBe(BEST);
            for (const density of own.chosen) expect(density).toBeLessThan(densities);
          }
        }
      },
    ),
    { numRuns: 60 },
  );
});
