/** The discrete Fourier transform of real windows, by Cooley and Tukey (1965), radix 2. */

/** Power of each frequency from 0 to half the sampling rate. Shape in: a power of two of samples; out: half of it and one. */
export function powerSpectrum(samples: Float32Array): Float64Array {
  const count = samples.length;
  const real = Float64Array.from(samples);
  const imaginary = new Float64Array(count);
  for (let index = 1, reversed = 0; index < count; index++) {
    let bit = count >> 1;
    for (; reversed & bit; bit >>= 1) reversed ^= bit;
    reversed ^= bit;
    if (index < reversed) [real[index], real[reversed]] = [real[reversed]!, real[index]!];
  }
  for (let size = 2; size <= count; size <<= 1) {
    const angle = (-2 * Math.PI) / size;
    for (let start = 0; start < count; start += size)
      for (let offset = 0; offset < size >> 1; offset++) {
        const [cosine, sine] = [Math.cos(angle * offset), Math.sin(angle * offset)];
        const [even, odd] = [start + offset, start + offset + (size >> 1)];
        const turnedReal = real[odd]! * cosine - imaginary[odd]! * sine;
        const turnedImaginary = real[odd]! * sine + imaginary[odd]! * cosine;
        real[odd] = real[even]! - turnedReal;
        imaginary[odd] = imaginary[even]! - turnedImaginary;
        real[even]! += turnedReal;
        imaginary[even]! += turnedImaginary;
      }
  }
  return Float64Array.from({ length: count / 2 + 1 }, (_, index) => real[index]! ** 2 + imaginary[index]! ** 2);
}
