/** Connected areas of a mask. */
import type { Mask } from './raster.js';

export interface Area {
  /** Indices into the mask, row after row. */
  readonly pixels: readonly number[];
  readonly left: number;
  readonly top: number;
  /** The last column and row that belong to it. */
  readonly right: number;
  readonly bottom: number;
}

/** The areas of a mask whose pixels touch: by their sides, or by their corners too. In the order of their first pixels. */
export function areasOf({ width, height, bits }: Mask, touch: 'sides' | 'corners'): Area[] {
  const left = Uint8Array.from(bits);
  const areas: Area[] = [];
  for (let start = 0; start < left.length; start++) {
    if (!left[start]) continue;
    left[start] = 0;
    const pixels = [start];
    let [west, east, north, south] = [width, -1, height, -1];
    for (let index = 0; index < pixels.length; index++) {
      const at = pixels[index]!;
      const [x, y] = [at % width, Math.floor(at / width)];
      [west, east, north, south] = [Math.min(west, x), Math.max(east, x), Math.min(north, y), Math.max(south, y)];
      for (let nextY = Math.max(0, y - 1); nextY <= Math.min(height - 1, y + 1); nextY++)
        for (let nextX = Math.max(0, x - 1); nextX <= Math.min(width - 1, x + 1); nextX++) {
          const next = nextY * width + nextX;
          if (!left[next] || (touch === 'sides' && nextX !== x && nextY !== y)) continue;
          left[next] = 0;
          pixels.push(next);
        }
    }
    areas.push({ pixels, left: west, right: east, top: north, bottom: south });
  }
  return areas;
}
