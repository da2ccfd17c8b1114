/** Moving pictures without a sound: GIF89a, and PNG with the animation of its third edition. Frames that are the same are one, held longer. */
import { framesPerSecond, type FrameRate } from '@zest-jaw/core';
import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import UPNG from 'upng-js';

/** GIF counts hundredths of a second, and players take less than two of them for ten. */
const HUNDREDTH = 10;
const COLOURS = 256;
/** Bytes of pixels that an animated PNG may have before it is packed. */
const MOST_BYTES = 600_000_000;

export interface HeldFrame {
  readonly pixels: Uint8ClampedArray<ArrayBuffer>;
  /** In frames of the scene. */
  readonly frames: number;
}

/** Ends of frames in whole units, so that what is rounded never adds up. */
function delays(held: readonly HeldFrame[], rate: FrameRate, unit: number): number[] {
  let frames = 0;
  let before = 0;
  return held.map((one) => {
    frames += one.frames;
    const end = Math.round((frames * 1000) / framesPerSecond(rate) / unit) * unit;
    const delay = end - before;
    before = end;
    return delay;
  });
}

/** @returns a sentence when it would be too large */
export function movingPicture(
  kind: 'gif' | 'apng',
  held: readonly HeldFrame[],
  { width, height, rate }: { readonly width: number; readonly height: number; readonly rate: FrameRate },
  report: (done: number) => void,
): Uint8Array<ArrayBuffer> | string {
  if (kind === 'apng') {
    if (held.length * width * height * 4 > MOST_BYTES)
      return `${held.length} different pictures of ${width} × ${height} are too much for one animated PNG. Choose fewer frames or a smaller size, or save a film.`;
    const buffers = held.map(({ pixels }) => pixels.buffer);
    return new Uint8Array(UPNG.encode(buffers, width, height, 0, delays(held, rate, 1)));
  }
  const gif = GIFEncoder();
  const times = delays(held, rate, HUNDREDTH);
  held.forEach(({ pixels }, index) => {
    const palette = quantize(pixels, COLOURS);
    gif.writeFrame(applyPalette(pixels, palette), width, height, { palette, delay: times[index]! });
    report((index + 1) / held.length);
  });
  gif.finish();
  return new Uint8Array(gif.bytes());
}
