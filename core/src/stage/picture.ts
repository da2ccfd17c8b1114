/** The grey of a camera's pictures, at the size in which they are compared. */
import type { Raster } from '../picture/raster.js';

/** Shape: values is height × width, 0 to 255. */
export interface GreyPicture {
  readonly width: number;
  readonly height: number;
  readonly values: Float32Array;
}

/** Pixels across in which pictures are compared: a mouth that fills a fifth of the picture has 64 of them. */
export const COMPARED_WIDTH = 320;

/** Luma of Recommendation ITU-R BT.601, 2.5.1. */
const [RED, GREEN, BLUE] = [0.299, 0.587, 0.114];

/** A picture in grey, each pixel the mean of those it stands for. */
export function greyOf({ width, height, pixels }: Raster, across = COMPARED_WIDTH): GreyPicture {
  const to = { width: Math.min(across, width), height: Math.max(1, Math.round((height * Math.min(across, width)) / width)) };
  const values = new Float32Array(to.width * to.height);
  for (let y = 0; y < to.height; y++) {
    const top = Math.floor((y * height) / to.height);
    const bottom = Math.max(top + 1, Math.floor(((y + 1) * height) / to.height));
    for (let x = 0; x < to.width; x++) {
      const left = Math.floor((x * width) / to.width);
      const right = Math.max(left + 1, Math.floor(((x + 1) * width) / to.width));
      let sum = 0;
      for (let row = top; row < bottom; row++)
        for (let at = (row * width + left) * 4; at < (row * width + right) * 4; at += 4)
          sum += RED * pixels[at]! + GREEN * pixels[at + 1]! + BLUE * pixels[at + 2]!;
      values[y * to.width + x] = sum / ((bottom - top) * (right - left));
    }
  }
  return { ...to, values };
}

/** The mean of each pixel and its eight neighbours, by halves: 1 2 1 across and down. */
export function softened({ width, height, values }: GreyPicture): GreyPicture {
  const across = new Float32Array(values.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      across[at] = (values[x > 0 ? at - 1 : at]! + 2 * values[at]! + values[x < width - 1 ? at + 1 : at]!) / 4;
    }
  const out = new Float32Array(values.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      out[at] = (across[y > 0 ? at - width : at]! + 2 * across[at]! + across[y < height - 1 ? at + width : at]!) / 4;
    }
  return { width, height, values: out };
}

/** Half as wide and high, each pixel the mean of four. */
export function halved({ width, height, values }: GreyPicture): GreyPicture {
  const to = { width: width >> 1, height: height >> 1 };
  const out = new Float32Array(to.width * to.height);
  for (let y = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++) {
      const at = 2 * y * width + 2 * x;
      out[y * to.width + x] = (values[at]! + values[at + 1]! + values[at + width]! + values[at + width + 1]!) / 4;
    }
  return { ...to, values: out };
}

/** The value between pixels, by their four nearest; NaN outside. */
export function valueAt({ width, height, values }: GreyPicture, x: number, y: number): number {
  if (!(x >= 0 && y >= 0 && x <= width - 1 && y <= height - 1)) return Number.NaN;
  const left = Math.min(width - 2, Math.floor(x));
  const top = Math.min(height - 2, Math.floor(y));
  const right = x - left;
  const down = y - top;
  const at = top * width + left;
  return (
    (values[at]! * (1 - right) + values[at + 1]! * right) * (1 - down) +
    (values[at + width]! * (1 - right) + values[at + width + 1]! * right) * down
  );
}
