/** The mouths of an OpenRaster file: its layers, a stack of layers painted into one. */
import { stackOfOpenRaster, type OpenRasterLayer, type Raster } from '@zest-jaw/core';
import { checkSize, firstFrame, openPicture, pixelsOfPicture } from './decode.js';
import { baseName, maybePlaced, stem, type Found, type LayerOptions } from './foundMouth.js';
import { maybeKindOfFile } from './kindOfFile.js';
import { CannotUsePicture, checkMouthCount } from './limits.js';
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
      if (above === 0) continue;
      const below = page.pixels[to + 3]! / 255;
      const both = above + below * (1 - above);
      for (let channel = 0; channel < 3; channel++)
        page.pixels[to + channel] = Math.round(
          (layer.pixels[from + channel]! * above + page.pixels[to + channel]! * below * (1 - above)) / both,
        );
      page.pixels[to + 3] = Math.round(both * 255);
    }
}

/** Pixels of all layers of a file together: a hundred layers of two thousand by two thousand. */
const LAYER_PIXELS = 400_000_000;

/** By the headers of their pictures, before any is decoded. Throws {@link CannotUsePicture}. */
async function checkLayers(name: string, inside: readonly NamedFile[], layers: readonly OpenRasterLayer[]): Promise<void> {
  const sizes = new Map<string, number>();
  let pixels = 0;
  for (const { src } of layers) {
    const picture = inside.find((entry) => entry.name === src);
    if (!picture) continue;
    if (!sizes.has(src)) sizes.set(src, await pixelsOfPicture(picture.bytes, name));
    pixels += sizes.get(src)!;
  }
  if (pixels > LAYER_PIXELS)
    throw new CannotUsePicture(
      `${name} has ${layers.length} layers of ${Math.round(pixels / 1e6)} million pixels in all. They may have ${LAYER_PIXELS / 1e6} million: crop the layers, or save it smaller.`,
    );
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
  checkMouthCount(mouths.length, name);
  checkSize(name, width, height);
  await checkLayers(
    name,
    inside,
    mouths.flatMap(({ layers }) => layers),
  );
  const found: Found[] = [];
  for (const [index, mouth] of mouths.entries()) {
    const page = { width, height, pixels: new Uint8Array(width * height * 4) };
    for (const { src, x, y, opacity } of mouth.layers) {
      const picture = inside.find((entry) => entry.name === src);
      if (!picture || maybeKindOfFile(picture.bytes) !== 'png')
        throw new CannotUsePicture(`${name} lacks the picture of its layer “${mouth.name}”. Save it again.`);
      paintOver(page, await firstFrame(await openPicture(picture.bytes, 'png', name)), x, y, opacity);
    }
    const placed = await maybePlaced(page, { isWhole: single });
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
