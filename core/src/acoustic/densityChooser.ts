/**
 * Which densities of the codebooks that are looked at fit a frame best. Most of the time of a reading goes by here, so it is
 * done four densities at a time, in WebAssembly: `core/assembly/densities.ts` is what is compiled.
 */
import { type AcousticModel, STREAM_LENGTH, STREAMS } from './acousticModel.js';
import { DENSITIES_KERNEL } from '../kernels/compiled.js';
import { layOut, openKernel } from '../kernels/kernel.js';

/** Densities of a codebook that count. */
export const BEST = 4;
const AT_ONCE = 4;

export interface DensityChooser {
  /**
   * @param values of all frames, nats apart; shape: frames × `STREAMS` × `STREAM_LENGTH`
   * @param at where the frame begins in them
   * @param isLooked which sounds' codebooks are looked at; the others stay as they are
   * @param chosen those that were best last, from the best on; then those that are. Shape: sounds × `STREAMS` × `BEST`
   * @param logs their logarithms in nats, in the same shape
   */
  choose(values: Float32Array, at: number, isLooked: Uint8Array, chosen: Int32Array, logs: Float32Array): void;
}

type Choose = (...pointersAndCounts: number[]) => void;

function openChooser({ sounds, densities, parameters, peaks }: AcousticModel): DensityChooser {
  const rows = sounds.length * STREAMS;
  const fours = Math.ceil(densities / AT_ONCE);
  const floats = { parameters: rows * fours * AT_ONCE * STREAM_LENGTH * 2, peaks: rows * fours * AT_ONCE, values: STREAMS * STREAM_LENGTH };
  const { memory, places } = layOut({
    parameters: floats.parameters * 4,
    peaks: floats.peaks * 4,
    values: floats.values * 4,
    looked: sounds.length,
    chosen: rows * BEST * 4,
    logs: rows * BEST * 4,
  });
  const kept = new Float32Array(memory.buffer, places.parameters, floats.parameters);
  // Where a codebook is no multiple of four, what fills it up fits nothing.
  const tops = new Float32Array(memory.buffer, places.peaks, floats.peaks).fill(Number.NEGATIVE_INFINITY);
  for (let row = 0; row < rows; row++)
    for (let density = 0; density < densities; density++) {
      tops[row * fours * AT_ONCE + density] = peaks[row * densities + density]!;
      const from = (row * densities + density) * STREAM_LENGTH * 2;
      const to = (row * fours + Math.floor(density / AT_ONCE)) * STREAM_LENGTH * 2 * AT_ONCE + (density % AT_ONCE);
      for (let value = 0; value < 2 * STREAM_LENGTH; value++) kept[to + value * AT_ONCE] = parameters[from + value]!;
    }
  const { choose } = openKernel<{ readonly choose: Choose }>(DENSITIES_KERNEL, memory);
  const frame = new Float32Array(memory.buffer, places.values, floats.values);
  const looked = new Uint8Array(memory.buffer, places.looked, sounds.length);
  const best = new Int32Array(memory.buffer, places.chosen, rows * BEST);
  const fits = new Float32Array(memory.buffer, places.logs, rows * BEST);
  return {
    choose: (values, at, isLooked, chosen, logs) => {
      frame.set(values.subarray(at, at + frame.length));
      looked.set(isLooked);
      best.set(chosen);
      fits.set(logs);
      choose(
        places.parameters,
        places.peaks,
        fours * AT_ONCE,
        places.values,
        STREAMS,
        places.looked,
        sounds.length,
        places.chosen,
        places.logs,
      );
      chosen.set(best);
      logs.set(fits);
    },
  };
}

const choosers = new WeakMap<AcousticModel, DensityChooser>();

/** The one of a model: it holds what the model's densities are, and nothing of a recording. */
export function chooserOf(model: AcousticModel): DensityChooser {
  let chooser = choosers.get(model);
  if (!chooser) choosers.set(model, (chooser = openChooser(model)));
  return chooser;
}
