/** Erosion and dilation of masks by squares (mathematical morphology). */
import type { Mask } from './raster.js';

/** One line of a pass over a mask: where it begins, how many pixels it has, how far apart they lie. */
type OnLine = (start: number, length: number, stride: number) => void;

/** Goes over every row of a mask, or over every column. */
function overLines({ width, height }: Mask, way: 'rows' | 'columns', onLine: OnLine): void {
  if (way === 'rows') for (let row = 0; row < height; row++) onLine(row * width, width, 1);
  else for (let column = 0; column < width; column++) onLine(column, height, width);
}

/** A mask with a border of `radius` taken off (by squares, in two passes). */
export function eroded(mask: Mask, radius: number): Mask {
  const pass = (source: Uint8Array, way: 'rows' | 'columns'): Uint8Array => {
    const out = new Uint8Array(source.length);
    overLines(mask, way, (start, length, stride) => {
      let run = 0;
      for (let index = 0; index <= length; index++) {
        if (index < length && source[start + index * stride]) {
          run += 1;
          continue;
        }
        for (let back = index - run + radius; back < index - radius; back++) out[start + back * stride] = 1;
        run = 0;
      }
    });
    return out;
  };
  return { ...mask, bits: pass(pass(mask.bits, 'rows'), 'columns') };
}

/** What of `within` is no further than `radius` from `mask` (by squares, in two passes). */
export function grown(mask: Mask, within: Uint8Array, radius: number): Mask {
  const pass = (source: Uint8Array, way: 'rows' | 'columns'): Uint8Array => {
    const out = new Uint8Array(source.length);
    overLines(mask, way, (start, length, stride) => {
      let until = -1;
      for (let index = 0, at = start; index < length; index++, at += stride) {
        if (source[at]) until = index + radius;
        if (index <= until) out[at] = 1;
      }
      until = length;
      for (let index = length - 1, at = start + index * stride; index >= 0; index--, at -= stride) {
        if (source[at]) until = index - radius;
        if (index >= until) out[at] = 1;
      }
    });
    return out;
  };
  const bits = pass(pass(mask.bits, 'rows'), 'columns');
  for (let at = 0; at < bits.length; at++) bits[at]! &= within[at]!;
  return { ...mask, bits };
}
