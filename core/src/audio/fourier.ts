/** The discrete Fourier transform of real windows, by Cooley and Tukey (1965), radix 2. */

/** Cosines and sines of a whole turn in as many steps, by their number. */
const turns = new Map<number, { readonly cosine: Float64Array; readonly sine: Float64Array }>();

function turnOf(count: number): { readonly cosine: Float64Array; readonly sine: Float64Array } {
  let turn = turns.get(count);
  if (!turn) {
    turn = { cosine: new Float64Array(count), sine: new Float64Array(count) };
    for (let step = 0; step < count; step++) {
      turn.cosine[step] = Math.cos((-2 * Math.PI * step) / count);
      turn.sine[step] = Math.sin((-2 * Math.PI * step) / count);
    }
    turns.set(count, turn);
  }
  return turn;
}

/** Transforms a window in place; both parts are a power of two long. */
function transform(real: Float64Array, imaginary: Float64Array): void {
  const count = real.length;
  const turn = turnOf(count);
  for (let index = 1, reversed = 0; index < count; index++) {
    let bit = count >> 1;
    for (; reversed & bit; bit >>= 1) reversed ^= bit;
    reversed ^= bit;
    if (index >= reversed) continue;
    const kept = real[index]!;
    real[index] = real[reversed]!;
    real[reversed] = kept;
    const other = imaginary[index]!;
    imaginary[index] = imaginary[reversed]!;
    imaginary[reversed] = other;
  }
  for (let size = 2; size <= count; size <<= 1) {
    const step = count / size;
    const half = size >> 1;
    for (let start = 0; start < count; start += size)
      for (let offset = 0; offset < half; offset++) {
        // No pairs in here: each would be an array made and thrown away.
        const cosine = turn.cosine[offset * step]!;
        const sine = turn.sine[offset * step]!;
        const even = start + offset;
        const odd = even + half;
        const turnedReal = real[odd]! * cosine - imaginary[odd]! * sine;
        const turnedImaginary = real[odd]! * sine + imaginary[odd]! * cosine;
        real[odd] = real[even]! - turnedReal;
        imaginary[odd] = imaginary[even]! - turnedImaginary;
        real[even]! += turnedReal;
        imaginary[even]! += turnedImaginary;
      }
  }
}

/** Power of each frequency from 0 to half the sampling rate. Shape in: a power of two of samples; out: half of it and one. */
export function powerSpectrum(samples: Float32Array): Float64Array {
  const count = samples.length;
  const real = Float64Array.from(samples);
  const imaginary = new Float64Array(count);
  transform(real, imaginary);
  const power = new Float64Array(count / 2 + 1);
  for (let index = 0; index < power.length; index++) power[index] = real[index]! * real[index]! + imaginary[index]! * imaginary[index]!;
  return power;
}

/**
 * How alike a window is to itself later: Σ `x[i] · x[i + lag]` for each lag from 0, by the transform of its
 * power (A. Khinchin, 1934; N. Wiener, 1930). Shape in: a power of two of samples; out: as many lags.
 */
export function autocorrelation(samples: Float32Array): Float64Array {
  // As much silence after it, so that its end does not meet its beginning.
  const size = 2 * samples.length;
  const real = new Float64Array(size);
  real.set(samples);
  const imaginary = new Float64Array(size);
  transform(real, imaginary);
  for (let index = 0; index < size; index++) {
    real[index] = (real[index]! * real[index]! + imaginary[index]! * imaginary[index]!) / size;
    imaginary[index] = 0;
  }
  transform(real, imaginary);
  return real.subarray(0, samples.length);
}
