/** Loudness in short windows, and the pauses it shows. */

/** Root mean square of consecutive windows, 0 to 1; the last one may be short. */
export function loudnessOfWindows(samples: Float32Array, samplesPerWindow: number): Float32Array {
  const result = new Float32Array(Math.ceil(samples.length / samplesPerWindow));
  for (let window = 0; window < result.length; window++) {
    const start = window * samplesPerWindow;
    const end = Math.min(samples.length, start + samplesPerWindow);
    let sum = 0;
    for (let index = start; index < end; index++) sum += samples[index]! ** 2;
    result[window] = Math.sqrt(sum / (end - start));
  }
  return result;
}

/** Loudness as decibels below full scale; −120 for silence. */
export function decibels(loudness: number): number {
  return Math.max(-120, 20 * Math.log10(Math.max(loudness, 1e-6)));
}

export interface Pause {
  /** Samples. */
  readonly from: number;
  readonly to: number;
}

/** A recording quieter than this everywhere has nothing to read, in dBFS. */
export const SILENT_BELOW_DB = -60;

/**
 * Stretches quieter than 35 dB below the loudest window, and no quieter than the floor
 * allows, for at least `leastSeconds`.
 */
export function findPauses(samples: Float32Array, sampleRate: number, leastSeconds = 0.25): Pause[] {
  const window = Math.round(sampleRate / 100);
  const loudness = loudnessOfWindows(samples, window);
  const loudest = loudness.reduce((most, value) => Math.max(most, value), 0);
  const threshold = Math.max(loudest * 10 ** (-35 / 20), 10 ** (SILENT_BELOW_DB / 20));
  const pauses: Pause[] = [];
  let start = -1;
  for (let index = 0; index <= loudness.length; index++) {
    const quiet = index < loudness.length && loudness[index]! < threshold;
    if (quiet && start < 0) start = index;
    if (!quiet && start >= 0) {
      if ((index - start) * window >= leastSeconds * sampleRate)
        pauses.push({ from: start * window, to: Math.min(samples.length, index * window) });
      start = -1;
    }
  }
  return pauses;
}

/** Loudest window of a tenth of a second, in dBFS. */
export function peakLevel(samples: Float32Array, sampleRate: number): number {
  return decibels(loudnessOfWindows(samples, Math.round(sampleRate / 10)).reduce((most, value) => Math.max(most, value), 0));
}
