/** Pictures as pixels: four bytes each, red, green, blue, opacity, row after row. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  /** Shape: width · height · 4; colours not multiplied by their opacity. */
  readonly pixels: Uint8Array | Uint8ClampedArray;
}

/** Yes or no for each pixel. Shape: width · height; 0 or 1. */
export interface Mask {
  readonly width: number;
  readonly height: number;
  readonly bits: Uint8Array;
}

export function emptyMask(width: number, height: number): Mask {
  return { width, height, bits: new Uint8Array(width * height) };
}

/** The box around a mask's pixels; undefined when it has none. */
export function maybeBoxOfMask({ width, height, bits }: Mask): { x: number; y: number; width: number; height: number } | undefined {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (bits[y * width + x]) {
        if (x < left) left = x;
        if (x > right) right = x;
        if (y < top) top = y;
        bottom = y;
      }
  return right < 0 ? undefined : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** A part of a raster; what lies outside it is transparent. */
export function cropped(raster: Raster, box: { x: number; y: number; width: number; height: number }): Raster {
  const pixels = new Uint8Array(box.width * box.height * 4);
  for (let row = 0; row < box.height; row++) {
    const y = box.y + row;
    if (y < 0 || y >= raster.height) continue;
    const from = Math.max(0, box.x);
    const to = Math.min(raster.width, box.x + box.width);
    if (to <= from) continue;
    pixels.set(raster.pixels.subarray((y * raster.width + from) * 4, (y * raster.width + to) * 4), (row * box.width + from - box.x) * 4);
  }
  return { width: box.width, height: box.height, pixels };
}

/** A smaller copy, each pixel the mean of those it stands for, weighted by opacity. */
export function shrunk(raster: Raster, factor: number): Raster {
  if (factor <= 1) return raster;
  const width = Math.max(1, Math.round(raster.width / factor));
  const height = Math.max(1, Math.round(raster.height / factor));
  const pixels = new Uint8Array(width * height * 4);
  const source = raster.pixels;
  for (let y = 0; y < height; y++) {
    const top = Math.floor((y * raster.height) / height);
    const bottom = Math.max(top + 1, Math.floor(((y + 1) * raster.height) / height));
    for (let x = 0; x < width; x++) {
      const left = Math.floor((x * raster.width) / width);
      const right = Math.max(left + 1, Math.floor(((x + 1) * raster.width) / width));
      let red = 0;
      let green = 0;
      let blue = 0;
      let opacity = 0;
      for (let fromY = top; fromY < bottom; fromY++) {
        const end = (fromY * raster.width + right) * 4;
        for (let at = (fromY * raster.width + left) * 4; at < end; at += 4) {
          const a = source[at + 3]!;
          red += source[at]! * a;
          green += source[at + 1]! * a;
          blue += source[at + 2]! * a;
          opacity += a;
        }
      }
      if (opacity === 0) continue;
      const to = (y * width + x) * 4;
      pixels[to] = red / opacity;
      pixels[to + 1] = green / opacity;
      pixels[to + 2] = blue / opacity;
      pixels[to + 3] = opacity / ((bottom - top) * (right - left));
    }
  }
  return { width, height, pixels };
}
