/** Raster files to pixels: PNG, JPEG, WebP and GIF, and the frames of animated ones. */
import type { Raster } from '@zest-jaw/core';
import sharp, { type Sharp } from 'sharp';
import { framesOfApng, maybeFrameCount } from './apng.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import type { FileKind } from './kindOfFile.js';

/** What is read from a file that a hand may have made to harm: no more than is allowed, and stop at the first fault. */
const careful = { limitInputPixels: false, failOn: 'error', unlimited: false } as const;

/** Throws {@link CannotUsePicture} for a size that is none, or that is larger than may be decoded. */
export function checkSize(file: string, width: number, height: number, frames = 1): void {
  const { pixels, side, frames: mostFrames } = PICTURE_FILE_LIMITS;
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1)
    throw new CannotUsePicture(`${file} says that it is ${width} by ${height} pixels, which no picture can be. Save it again.`);
  if (frames < 1) throw new CannotUsePicture(`${file} is an animated picture without a frame. Export it again.`);
  if (width > side || height > side || width * height > pixels)
    throw new CannotUsePicture(
      `${file} is ${width} by ${height} pixels. A picture may be ${side} pixels a side and ${pixels / 1e6} million in all: make it smaller.`,
    );
  if (frames > mostFrames) throw new CannotUsePicture(`${file} has ${frames} frames. It may have ${mostFrames}: export fewer.`);
  if (width * height * frames > pixels * 4)
    throw new CannotUsePicture(`${file} has ${frames} frames of ${width} by ${height} pixels, more than can be held. Make it smaller.`);
}

/** Refuses a picture that is larger than may be decoded, by its header alone. Throws {@link CannotUsePicture}. */
export async function checkPictureSize(bytes: Uint8Array, file: string): Promise<void> {
  await pixelsOfPicture(bytes, file);
}

/** Pixels of a picture by its header alone. Throws {@link CannotUsePicture} where there are more than may be decoded. */
export async function pixelsOfPicture(bytes: Uint8Array, file: string): Promise<number> {
  try {
    const { width, height, pages = 1, pageHeight } = await sharp(bytes, { ...careful, pages: 1 }).metadata();
    checkSize(file, width, pageHeight ?? height, pages);
    return width * (pageHeight ?? height);
  } catch (error) {
    if (error instanceof CannotUsePicture) throw error;
    throw new CannotUsePicture(`${file} is damaged: it cannot be read. Export it again.`);
  }
}

/** A picture whose pixels are decoded when they are asked for. */
export interface OpenPicture {
  /** 1 for a still one. */
  readonly count: number;
  /** Pixels in sRGB, turned upright as its camera says, one frame after another. */
  frames(): AsyncGenerator<Raster>;
}

/** Frames of an animated picture that are decoded at a time. */
const FRAMES_AT_ONCE = 8;

/** Pixels of some frames, which a decoder gives one under another. */
async function* framesUnderOneAnother(picture: Sharp): AsyncGenerator<Raster> {
  const { data, info } = await picture.toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const height = info.pageHeight ?? info.height;
  const bytes = info.width * height * 4;
  for (let index = 0; index < Math.max(1, Math.round(info.height / height)); index++)
    yield { width: info.width, height, pixels: data.subarray(index * bytes, (index + 1) * bytes) };
}

/** Throws {@link CannotUsePicture} for a picture that is damaged, or larger than may be decoded; its frames throw it too. */
export async function openPicture(bytes: Uint8Array, kind: Exclude<FileKind, 'svg' | 'zip'>, file: string): Promise<OpenPicture> {
  await checkPictureSize(bytes, file);
  const { width, height, pageHeight, pages = 1 } = await sharp(bytes, { ...careful }).metadata();
  const animated = kind === 'png' ? maybeFrameCount(bytes) : undefined;
  const isPaged = (kind === 'gif' || kind === 'webp') && pages > 1;
  const count = animated ?? (isPaged ? pages : 1);
  checkSize(file, width, pageHeight ?? height, count);
  async function* frames(): AsyncGenerator<Raster> {
    if (animated !== undefined) yield* framesOfApng(bytes, animated);
    else if (!isPaged) yield* framesUnderOneAnother(sharp(bytes, { ...careful }).rotate());
    else
      for (let page = 0; page < count; page += FRAMES_AT_ONCE)
        yield* framesUnderOneAnother(sharp(bytes, { ...careful, page, pages: Math.min(FRAMES_AT_ONCE, count - page) }));
  }
  return {
    count,
    async *frames() {
      let given = 0;
      try {
        for await (const frame of frames()) {
          given += 1;
          yield frame;
        }
      } catch (error) {
        if (error instanceof CannotUsePicture) throw error;
        throw new CannotUsePicture(`${file} is damaged: its picture cannot be read. Export it again.`);
      }
      if (given === 0) throw new CannotUsePicture(`${file} is an animated picture without a frame. Export it again.`);
    },
  };
}

/** The first frame of a picture. Throws {@link CannotUsePicture}. */
export async function firstFrame(picture: OpenPicture): Promise<Raster> {
  for await (const frame of picture.frames()) return frame;
  throw new CannotUsePicture('This picture is empty. Export it again.');
}

/** Pixels as a PNG, made smaller when a side is longer than `mostSide`. */
export async function pngOfRaster({ width, height, pixels }: Raster, mostSide: number): Promise<Uint8Array> {
  const picture = sharp(pixels, { raw: { width, height, channels: 4 } });
  const fitting = Math.max(width, height) > mostSide ? picture.resize({ width: mostSide, height: mostSide, fit: 'inside' }) : picture;
  return fitting.png({ compressionLevel: 6 }).toBuffer();
}
