/**
 * Slow sound at its own pitch: waveform-similarity overlap-add (Verhelst and Roelands, "An
 * overlap-add technique based on waveform similarity (WSOLA) for high quality time-scale
 * modification of speech", ICASSP 1993). Windows are laid out evenly and taken from where
 * the wave goes on most like the one before.
 *
 * It works on a stream: sound goes in by pieces of any size and comes out as soon as it is
 * known, and what comes out does not depend on how it was cut.
 */

/** Samples of a window at 48 000 Hz: 43 ms, two or three periods of a low voice. */
const WINDOW = 2048;
const HOP = WINDOW / 2;
/** How far from its even place a window may be taken, in samples: 6.7 ms either way, a period of the lowest voices (75 Hz). More would move what is heard for nothing. */
const REACH = 320;
/** Likeness is measured on every so many-th sample, then again on each around the best. */
const COARSE = 8;

const SHAPE = Float32Array.from({ length: WINDOW }, (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 0.5)) / WINDOW));

/** How alike two stretches of a wave are: their normalised cross-correlation. */
function likeness(samples: Float32Array, a: number, b: number, step: number): number {
  let [product, powerA, powerB] = [0, 1e-9, 1e-9];
  for (let index = 0; index < HOP; index += step) {
    const [x, y] = [samples[a + index] ?? 0, samples[b + index] ?? 0];
    product += x * y;
    powerA += x * x;
    powerB += y * y;
  }
  return product / Math.sqrt(powerA * powerB);
}

/** The start near `around` from which the wave goes on most like it does from `wanted`. */
function mostAlike(samples: Float32Array, wanted: number, around: number): number {
  let [best, found] = [-Infinity, around];
  const look = (from: number, to: number, by: number, step: number): void => {
    for (let start = from; start <= to; start += by) {
      if (start < 0 || start + WINDOW > samples.length) continue;
      const like = likeness(samples, wanted, start, step);
      if (like > best) [best, found] = [like, start];
    }
  };
  look(around - REACH, around + REACH, COARSE, COARSE);
  const coarse = found;
  best = -Infinity;
  look(coarse - COARSE, coarse + COARSE, 1, COARSE / 2);
  return found;
}

export interface Stretcher {
  /** Takes more sound in; answers with what is known of the slow sound since the last time. */
  push(samples: Float32Array): Float32Array<ArrayBuffer>;
  /** The rest, when no more comes. All answers together are `round(length · factor)` samples long. */
  end(): Float32Array<ArrayBuffer>;
}

/**
 * Makes sound `factor` times as long (2 for half speed), its pitch kept, as it comes.
 * Sound is mono, 48 000 Hz.
 */
export function openStretcher(factor: number): Stretcher {
  /** What has come in and is still needed; its first sample is the sound's sample `dropped`. */
  let input = new Float32Array(0);
  let dropped = 0;
  let taken = 0;
  /** The next window's place in the slow sound; what lies before it is out. */
  let at = 0;
  /** The second half of the last window, which the next one fades into, and its weights. */
  let tail = new Float32Array(HOP);
  let tailWeights = new Float32Array(HOP);

  /** Where the next window would lie in the sound if it were taken evenly: middle to middle, so that what is heard is neither early nor late. */
  const evenStart = (): number => Math.max(0, Math.round((at + HOP) / factor) - HOP);

  /** Lays the next window; the first half of it is whole then. */
  const layWindow = (length: number, out: Float32Array, outAt: number): void => {
    const even = evenStart();
    const around = Math.min(even, Math.max(0, length - WINDOW));
    // Where the wave would go on by itself after the window before.
    const start = at === 0 ? 0 : dropped + mostAlike(input, taken + HOP - dropped, around - dropped);
    const nextTail = new Float32Array(HOP);
    const nextWeights = new Float32Array(HOP);
    for (let index = 0; index < HOP; index++) {
      // The first window begins at once: nothing lies before it to fade from.
      const weight = at === 0 ? 1 : SHAPE[index]!;
      const sum = tail[index]! + (input[start - dropped + index] ?? 0) * weight;
      out[outAt + index] = sum / Math.max(tailWeights[index]! + weight, 1e-3);
      nextTail[index] = (input[start - dropped + HOP + index] ?? 0) * SHAPE[HOP + index]!;
      nextWeights[index] = SHAPE[HOP + index]!;
    }
    [tail, tailWeights, taken] = [nextTail, nextWeights, start];
    at += HOP;
  };

  /** Lays every window whose surroundings are known. */
  const layWhile = (isKnown: () => boolean, length: number): Float32Array<ArrayBuffer> => {
    const pieces: Float32Array[] = [];
    while (isKnown()) {
      const piece = new Float32Array(HOP);
      layWindow(length, piece, 0);
      pieces.push(piece);
    }
    const out = new Float32Array(pieces.length * HOP);
    pieces.forEach((piece, index) => out.set(piece, index * HOP));
    return out;
  };

  return {
    push: (samples) => {
      const kept = Math.max(0, Math.min(taken, evenStart() - REACH - COARSE) - dropped);
      const next = new Float32Array(input.length - kept + samples.length);
      next.set(input.subarray(kept));
      next.set(samples, input.length - kept);
      dropped += kept;
      input = next;
      const known = dropped + input.length;
      return layWhile(() => evenStart() + REACH + COARSE + WINDOW <= known, Number.POSITIVE_INFINITY);
    },
    end: () => {
      const length = dropped + input.length;
      const whole = Math.round(length * factor);
      const from = at;
      return layWhile(() => at < whole, length).slice(0, Math.max(0, whole - from));
    },
  };
}

/**
 * Sound made `factor` times as long (2 for half speed), its pitch kept.
 *
 * @param samples mono, 48 000 Hz
 * @returns `samples.length · factor` samples, rounded
 * @example stretched(new Float32Array(48_000), 2).length // 96000
 */
export function stretched(samples: Float32Array, factor: number): Float32Array<ArrayBuffer> {
  const stretcher = openStretcher(factor);
  const [first, rest] = [stretcher.push(samples), stretcher.end()];
  const out = new Float32Array(first.length + rest.length);
  out.set(first);
  out.set(rest, first.length);
  return out.slice(0, Math.round(samples.length * factor));
}
