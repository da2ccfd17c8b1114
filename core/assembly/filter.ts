/**
 * Samples at another rate, four products at a time. Compiled to WebAssembly by `npm run kernels`;
 * `src/audio/resample.ts` says how it is asked.
 */

/**
 * Output samples one after another: each the inner product of the taps of its phase and the samples it falls among.
 *
 * @param taps for each phase `width` of them, a multiple of eight
 * @param samples of which the first is that under the first tap of the first output
 * @param phase of the first output, below `up`
 */
export function filter(taps: usize, width: i32, samples: usize, result: usize, count: i32, up: i32, down: i32, phase: i32): void {
  const end = result + (count << 2);
  while (result < end) {
    let tap = taps + phase * (width << 2);
    let sample = samples;
    let even = f32x4.splat(0);
    let odd = f32x4.splat(0);
    const last = tap + (width << 2);
    while (tap < last) {
      even = f32x4.add(even, f32x4.mul(v128.load(tap), v128.load(sample)));
      odd = f32x4.add(odd, f32x4.mul(v128.load(tap, 16), v128.load(sample, 16)));
      tap += 32;
      sample += 32;
    }
    even = f32x4.add(even, odd);
    store<f32>(
      result,
      f32x4.extract_lane(even, 0) + f32x4.extract_lane(even, 1) + (f32x4.extract_lane(even, 2) + f32x4.extract_lane(even, 3)),
    );
    result += 4;
    phase += down;
    samples += (phase / up) << 2;
    phase = phase % up;
  }
}
