/** What is used of gifenc, which comes without types. */
declare module 'gifenc' {
  export type Palette = number[][];
  export function quantize(pixels: Uint8Array | Uint8ClampedArray, colours: number): Palette;
  export function applyPalette(pixels: Uint8Array | Uint8ClampedArray, palette: Palette): Uint8Array;
  export function GIFEncoder(): {
    /** @param options the delay in milliseconds */
    writeFrame(indices: Uint8Array, width: number, height: number, options: { palette: Palette; delay: number }): void;
    finish(): void;
    bytes(): Uint8Array;
  };
}
