/** The mouths of an SVG: each of its groups, kept as an SVG of its own. */
import { Resvg } from '@resvg/resvg-js';
import { measurePicture, svgParts, type Box, type Raster } from '@zest-jaw/core';
import { checkPictureSize } from './decode.js';
import { baseName, MARGIN, maybeInk, type Found, type LayerOptions } from './foundMouth.js';
import { CannotUsePicture, checkMouthCount, PREVIEW_SIDE } from './limits.js';
import type { NamedFile } from './unpack.js';

/** An SVG painted at most `side` pixels a side. */
function rasterOfSvg(svg: string, view: Box, side: number): { raster: Raster; perUnit: number; png: () => Uint8Array } {
  const perUnit = side / Math.max(view.width, view.height);
  const mode = view.width >= view.height ? ({ mode: 'width', value: side } as const) : ({ mode: 'height', value: side } as const);
  const image = new Resvg(svg, { fitTo: mode, font: { loadSystemFonts: false } }).render();
  const pixels = Uint8Array.from(image.pixels);
  // The renderer's colours are multiplied by their opacity.
  for (let at = 0; at < pixels.length; at += 4) {
    const opacity = pixels[at + 3]!;
    if (opacity === 0 || opacity === 255) continue;
    for (let channel = 0; channel < 3; channel++) pixels[at + channel] = Math.min(255, Math.round((pixels[at + channel]! * 255) / opacity));
  }
  return { raster: { width: image.width, height: image.height, pixels }, perUnit, png: () => image.asPng() };
}

/** Pixels a side at which an SVG is painted to find its ink and measure it. */
const SVG_LOOKED_AT = 700;

/** A picture embedded in an SVG is held to the same size as one by itself, before anything paints it. */
async function checkEmbedded(svg: string, name: string): Promise<void> {
  for (const [, base64] of svg.matchAll(/href="data:image\/(?:png|jpeg);base64,([^"]+)"/g)) {
    await checkPictureSize(Buffer.from(base64!, 'base64'), `A picture inside ${name}`);
  }
}

/** The groups or layers of an SVG, or all of it when it is to be one picture. */
export async function mouthsOfSvg(file: NamedFile, { single, level, noteChoice }: LayerOptions, warnings: string[]): Promise<Found[]> {
  const read = svgParts(Buffer.from(file.bytes).toString('utf8'), baseName(file.name), single, level);
  if ('refusal' in read) throw new CannotUsePicture(read.refusal);
  warnings.push(...read.warnings);
  noteChoice(read.choice);
  const { canvas, parts } = read;
  checkMouthCount(parts.length, baseName(file.name));
  const found: Found[] = [];
  for (const [index, part] of parts.entries()) {
    const onCanvas = part.svg(canvas);
    await checkEmbedded(onCanvas, baseName(file.name));
    let whole;
    try {
      whole = rasterOfSvg(onCanvas, canvas, SVG_LOOKED_AT);
    } catch {
      throw new CannotUsePicture(`${baseName(file.name)} cannot be painted: its drawing is broken at “${part.name}”. Export it again.`);
    }
    const ink = maybeInk(whole.raster);
    if (!ink) {
      warnings.push(`${baseName(file.name)}: “${part.name}” has nothing on its page and is left out.`);
      continue;
    }
    const unit = (pixels: number): number => pixels / whole.perUnit;
    const margin = unit(MARGIN);
    const closeUp = {
      x: canvas.x + unit(ink.x) - margin,
      y: canvas.y + unit(ink.y) - margin,
      width: unit(ink.width) + 2 * margin,
      height: unit(ink.height) + 2 * margin,
    };
    const view = single ? canvas : closeUp;
    const svg = part.svg(view);
    const measures = measurePicture(whole.raster);
    found.push({
      name: part.name,
      ...(part.within !== undefined && { within: part.within }),
      as: parts.length > 1 ? 'group' : 'picture',
      index: index + 1,
      of: parts.length,
      pageKey: file.name,
      mediaType: 'image/svg+xml',
      picture: Buffer.from(svg),
      preview: rasterOfSvg(svg, view, PREVIEW_SIDE).png(),
      art: {
        kind: 'placed',
        width: view.width,
        height: view.height,
        ink: {
          x: canvas.x + unit(ink.x) - view.x,
          y: canvas.y + unit(ink.y) - view.y,
          width: unit(ink.width),
          height: unit(ink.height),
        },
        page: { x: view.x, y: view.y },
        measures: { ...measures, opening: unit(measures.opening), width: unit(measures.width) },
      },
    });
  }
  return found;
}
