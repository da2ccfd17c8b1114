/**
 * Many mouths from what an animator has: pictures one by one, archives of them, an SVG whose
 * groups are mouths, an OpenRaster file's layers, many mouths on one sheet, the frames of an
 * animated picture. Each file that cannot be used is answered with a sentence, and the others go on.
 */
import {
  cropped,
  figureOf,
  gridCells,
  maybeBoxOfMask,
  maybePaperColour,
  measurePicture,
  separateFigures,
  stackOfOpenRaster,
  svgParts,
  withoutPaper,
  type Box,
  type PlacedArt,
  type Raster,
} from '@zest-jaw/core';
import { Resvg } from '@resvg/resvg-js';
import { decodePicture, pngOfRaster } from './decode.js';
import { maybeKindOfFile } from './kindOfFile.js';
import { CannotUsePicture, KEPT_SIDE, PICTURE_FILE_LIMITS, PREVIEW_SIDE } from './limits.js';
import { unpack, type NamedFile } from './unpack.js';

/** How one picture with many mouths on it is taken. */
export type Cut =
  | { readonly how: 'whole' }
  /** Every file is one picture: neither groups, layers nor frames are taken apart. */
  | { readonly how: 'single' }
  | { readonly how: 'figures' }
  | { readonly how: 'grid'; readonly columns: number; readonly rows: number };

export interface ImportOptions {
  readonly cut: Cut;
  /** Paper around a mouth becomes transparent. */
  readonly clearPaper: boolean;
}

/** Where a mouth came from, in words. */
export type FoundAs = 'picture' | 'group' | 'layer' | 'figure' | 'cell' | 'frame';

/** A mouth that was found, and its files. */
export interface FoundMouth {
  /** What the file, layer or group is called. */
  readonly name: string;
  /** The file it was found in. */
  readonly file: string;
  readonly as: FoundAs;
  /** Which of how many in its file, from 1. */
  readonly index: number;
  readonly of: number;
  /** Mouths of one page lie on it as they were drawn, so that they can be lined up as there. */
  readonly pageKey: string;
  readonly art: Omit<PlacedArt, 'picture' | 'preview'>;
  readonly mediaType: 'image/png' | 'image/svg+xml';
  readonly picture: Uint8Array;
  readonly preview: Uint8Array;
}

export interface RefusedFile {
  readonly file: string;
  readonly sentence: string;
}

export interface ImportReport {
  readonly refused: readonly RefusedFile[];
  readonly warnings: readonly string[];
  /** Some picture shows paper around its mouths. */
  readonly hasPaper: boolean;
}

type Found = Omit<FoundMouth, 'file'>;

const baseName = (path: string): string => path.replace(/^.*\//, '');
const stem = (path: string): string => baseName(path).replace(/\.[^.]*$/, '');
const inNaturalOrder = (a: NamedFile, b: NamedFile): number => a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' });

/** Empty ground left around a mouth, in pixels, so that its edge stays soft. */
const MARGIN = 2;

/** The ink of a raster: what is not ground, or all of it when it is one opaque area; undefined when it is empty. */
function maybeInk(raster: Raster): Box | undefined {
  const ink = maybeBoxOfMask(figureOf(raster));
  if (ink) return ink;
  const isOpaque = raster.pixels.every((value, index) => index % 4 !== 3 || value > 127);
  return isOpaque ? { x: 0, y: 0, width: raster.width, height: raster.height } : undefined;
}

/** A raster kept as PNG, cropped to its ink unless it is to stay whole; undefined when there is nothing on it. */
async function maybePlaced(
  raster: Raster,
  origin: { x: number; y: number },
  whole = false,
): Promise<Pick<Found, 'art' | 'mediaType' | 'picture' | 'preview'> | undefined> {
  const ink = maybeInk(raster);
  if (!ink) return undefined;
  const left = whole ? 0 : Math.max(0, ink.x - MARGIN);
  const top = whole ? 0 : Math.max(0, ink.y - MARGIN);
  const box: Box = whole
    ? { x: 0, y: 0, width: raster.width, height: raster.height }
    : {
        x: left,
        y: top,
        width: Math.min(raster.width, ink.x + ink.width + MARGIN) - left,
        height: Math.min(raster.height, ink.y + ink.height + MARGIN) - top,
      };
  const part = cropped(raster, box);
  const [picture, preview] = await Promise.all([pngOfRaster(part, KEPT_SIDE), pngOfRaster(part, PREVIEW_SIDE)]);
  return {
    mediaType: 'image/png',
    picture,
    preview,
    art: {
      kind: 'placed',
      width: box.width,
      height: box.height,
      ink: { x: ink.x - left, y: ink.y - top, width: ink.width, height: ink.height },
      page: { x: origin.x + left, y: origin.y + top },
      measures: measurePicture(part),
    },
  };
}

/** The cells a sheet is cut into. */
function cellsOf(raster: Raster, cut: Cut): readonly Box[] {
  if (cut.how === 'figures') return separateFigures(raster);
  if (cut.how === 'grid') return gridCells(raster.width, raster.height, cut.columns, cut.rows);
  return [{ x: 0, y: 0, width: raster.width, height: raster.height }];
}

async function mouthsOfRasters(
  file: NamedFile,
  frames: readonly Raster[],
  { cut, clearPaper }: ImportOptions,
  notePaper: () => void,
): Promise<Found[]> {
  const found: Found[] = [];
  const name = stem(file.name);
  const [first] = frames;
  if (frames.length > 1) {
    for (const [index, frame] of frames.entries()) {
      if (maybePaperColour(frame)) notePaper();
      const placed = await maybePlaced(clearPaper ? withoutPaper(frame) : frame, { x: 0, y: 0 });
      if (placed)
        found.push({ ...placed, name: `${name} ${index + 1}`, as: 'frame', index: index + 1, of: frames.length, pageKey: file.name });
    }
    return found;
  }
  if (maybePaperColour(first!)) notePaper();
  const sheet = clearPaper ? withoutPaper(first!) : first!;
  const cells = cellsOf(sheet, cut);
  for (const [index, cell] of cells.entries()) {
    const placed = await maybePlaced(
      cells.length === 1 ? sheet : cropped(sheet, cell),
      cells.length === 1 ? { x: 0, y: 0 } : cell,
      cut.how === 'single',
    );
    if (!placed) continue;
    const many = cells.length > 1;
    found.push({
      ...placed,
      name: many ? `${name} ${index + 1}` : name,
      as: many ? (cut.how === 'grid' ? 'cell' : 'figure') : 'picture',
      index: index + 1,
      of: cells.length,
      // Pictures of one size are pages laid over one another; the mouths of a sheet are not.
      pageKey: many ? `${file.name}#${index}` : `${first!.width}x${first!.height}`,
    });
  }
  return found;
}

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

const SVG_LOOKED_AT = 700;

function mouthsOfSvg(file: NamedFile, single: boolean, warnings: string[]): Found[] {
  const read = svgParts(Buffer.from(file.bytes).toString('utf8'), baseName(file.name), single);
  if ('refusal' in read) throw new CannotUsePicture(read.refusal);
  warnings.push(...read.warnings);
  const { canvas, parts } = read;
  const found: Found[] = [];
  for (const [index, part] of parts.entries()) {
    let whole;
    try {
      whole = rasterOfSvg(part.svg(canvas), canvas, SVG_LOOKED_AT);
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

async function mouthsOfOpenRaster(file: NamedFile, inside: readonly NamedFile[], single: boolean): Promise<Found[]> {
  const name = baseName(file.name);
  const xml = inside.find((entry) => entry.name === 'stack.xml')!;
  const stack = stackOfOpenRaster(Buffer.from(xml.bytes).toString('utf8'), name);
  if ('refusal' in stack) throw new CannotUsePicture(stack.refusal);
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
    const placed = await maybePlaced(page, { x: 0, y: 0 });
    if (placed) found.push({ ...placed, name: mouth.name, as: 'layer', index: index + 1, of: mouths.length, pageKey: file.name });
  }
  return found;
}

/** Files with archives in them unpacked; an OpenRaster file stays one. */
function expanded(files: readonly NamedFile[], refused: RefusedFile[]): { file: NamedFile; inside?: readonly NamedFile[] }[] {
  return files.flatMap((file) => {
    if (maybeKindOfFile(file.bytes) !== 'zip') return [{ file }];
    try {
      const inside = unpack(file.bytes, baseName(file.name));
      if (inside.some((entry) => entry.name === 'stack.xml')) return [{ file, inside }];
      return inside.sort(inNaturalOrder).map((entry) => ({ file: entry }));
    } catch (error) {
      if (!(error instanceof CannotUsePicture)) throw error;
      refused.push({ file: baseName(file.name), sentence: error.message });
      return [];
    }
  });
}

const NAMED_FOR: Readonly<Record<string, string>> = {
  png: 'png',
  apng: 'png',
  jpg: 'jpeg',
  jpeg: 'jpeg',
  webp: 'webp',
  gif: 'gif',
  svg: 'svg',
};

async function mouthsOfFile(
  { file, inside }: { file: NamedFile; inside?: readonly NamedFile[] },
  options: ImportOptions,
  warnings: string[],
  notePaper: () => void,
): Promise<Found[]> {
  const name = baseName(file.name);
  const single = options.cut.how === 'single';
  if (inside) return mouthsOfOpenRaster(file, inside, single);
  const kind = maybeKindOfFile(file.bytes);
  if (!kind)
    throw new CannotUsePicture(
      `${name} is not a picture that can be used. It may be PNG, JPEG, WebP, GIF, SVG or OpenRaster, or a zip of those.`,
    );
  if (kind === 'zip') throw new CannotUsePicture(`${name} is an archive inside an archive. Unpack it and choose its pictures.`);
  const expected = NAMED_FOR[/\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''];
  if (expected && expected !== kind) warnings.push(`${name} is a ${kind.toUpperCase()} whatever its name says; it is taken as one.`);
  if (kind === 'svg') return mouthsOfSvg(file, single, warnings);
  const frames = await decodePicture(file.bytes, kind, name);
  return mouthsOfRasters(file, single ? frames.slice(0, 1) : frames, options, notePaper);
}

/**
 * Finds the mouths of some files.
 *
 * @param onMouth called for each in order, so that nothing need be kept
 * @param report share done, and what is being done
 */
export async function importPictures(
  files: readonly NamedFile[],
  options: ImportOptions,
  onMouth: (mouth: FoundMouth) => void | Promise<void>,
  report: (done: number, doing: string) => void = () => undefined,
): Promise<ImportReport> {
  const refused: RefusedFile[] = [];
  const warnings: string[] = [];
  let hasPaper = false;
  const sources = expanded([...files].sort(inNaturalOrder), refused);
  const { files: most, mouths: mostMouths } = PICTURE_FILE_LIMITS;
  if (sources.length > most)
    return {
      refused: [
        { file: `${sources.length} files`, sentence: `These are ${sources.length} files. An import may have ${most}: choose fewer.` },
      ],
      warnings,
      hasPaper,
    };
  let count = 0;
  for (const [index, source] of sources.entries()) {
    const name = baseName(source.file.name);
    report(index / sources.length, `${name}, ${index + 1} of ${sources.length}`);
    try {
      const found = await mouthsOfFile(source, options, warnings, () => (hasPaper = true));
      if (found.length === 0) throw new CannotUsePicture(`${name} is empty: there is nothing on it but ground.`);
      if (count + found.length > mostMouths) throw new CannotUsePicture(`${name} brings more than ${mostMouths} mouths. Choose fewer.`);
      for (const mouth of found) await onMouth({ ...mouth, file: name });
      count += found.length;
    } catch (error) {
      if (!(error instanceof CannotUsePicture)) throw error;
      refused.push({ file: name, sentence: error.message });
    }
  }
  return { refused, warnings, hasPaper };
}
