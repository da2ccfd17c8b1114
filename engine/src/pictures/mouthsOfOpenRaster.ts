/** The mouths of an OpenRaster file: its layers, a stack of layers painted into one. */
import { stackOfOpenRaster, type Raster } from '@zest-jaw/core';
import { decodePicture } from './decode.js';
import { baseName, maybePlaced, stem, type Found, type LayerOptions } from './foundMouth.js';
import { maybeKindOfFile } from './kindOfFile.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import type { NamedFile } from './unpack.js';

/** Paints a layer over a page, by its opacity. */
function paintOver(
  page: { width: number; height: number; pixels: Uint8Array },
  layer: Raster,
  x: number,
  y: number,
  opacity: number,
): void {
  for (let row = Math.max(0, -y); row < Math.min(layer.height, page.height - y); row++)
    for (let column = Math.max(0, -x); column < Math.min(layer.width, page.width - x); column++) {
      const from = (row * layer.width + column) * 4;
      const to = ((row + y) * page.width + column + x) * 4;
      const above = (layer.pixels[from + 3]! / 255) * opacity;
      const below = page.pixels[to + 3]! / 255;
      const both = above + below * (1 - above);
      if (both === 0) continue;
      for (let channel = 0; channel < 3; channel++)
        page.pixels[to + channel] = Math.round(
          (layer.pixels[from + channel]! * above + page.pixels[to + channel]! * below * (1 - above)) / both,
        );
      page.pixels[to + 3] = Math.round(both * 255);
    }
}

/** @param inside the files of the archive */
export async function mouthsOfOpenRaster(
  file: NamedFile,
  inside: readonly NamedFile[],
  { single, level, noteChoice }: LayerOptions,
): Promise<Found[]> {
  const name = baseName(file.name);
  const xml = inside.find((entry) => entry.name === 'stack.xml')!;
  const stack = stackOfOpenRaster(Buffer.from(xml.bytes).toString('utf8'), name, single ? 0 : level);
  if ('refusal' in stack) throw new CannotUsePicture(stack.refusal);
  if (!single) noteChoice(stack.choice);
  const { width, height } = stack;
  const mouths = single ? [{ name: stem(name), layers: stack.mouths.flatMap((mouth) => mouth.layers).reverse() }] : stack.mouths;
  if (width * height > PICTURE_FILE_LIMITS.pixels) throw new CannotUsePicture(`${name} is ${width} by ${height} pixels. Make it smaller.`);
  const found: Found[] = [];
  for (const [index, mouth] of mouths.entries()) {
    const page = { width, height, pixels: new Uint8Array(width * height * 4) };
    for (const { src, x, y, opacity } of mouth.layers) {
      const picture = inside.find((entry) => entry.name === src);
      if (!picture || maybeKindOfFile(picture.bytes) !== 'png')
        throw new CannotUsePicture(`${name} lacks the picture of its layer “${mouth.name}”. Save it again.`);
      const [raster] = await decodePicture(picture.bytes, 'png', name);
      paintOver(page, raster!, x, y, opacity);
    }
    const placed = await maybePlaced(page);
    if (placed)
      found.push({
        ...placed,
        ...('within' in mouth && { within: mouth.within! }),
        name: mouth.name,
        as: 'layer',
        index: index + 1,
        of: mouths.length,
        pageKey: file.name,
      });
  }
  return found;
}
