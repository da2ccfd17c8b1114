/** Raster files to pixels: PNG, JPEG, WebP and GIF, and the frames of animated ones. */
import type { Raster } from '@zest-jaw/core';
import sharp from 'sharp';
import { framesOfApng, maybeFrameCount } from './apng.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import type { FileKind } from './kindOfFile.js';

/** What is read from a file that a hand may have made to harm: no more than is allowed, and stop at the first fault. */
const careful = { limitInputPixels: false, failOn: 'error', unlimited: false } as const;

function checkSize(file: string, width: number, height: number, frames: number): void {
  const { pixels, side, frames: mostFrames } = PICTURE_FILE_LIMITS;
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
  try {
    const { width, height, pages = 1, pageHeight } = await sharp(bytes, { ...careful, pages: 1 }).metadata();
    checkSize(file, width, pageHeight ?? height, pages);
  } catch (error) {
    if (error instanceof CannotUsePicture) throw error;
    throw new CannotUsePicture(`${file} is damaged: it cannot be read. Export it again.`);
  }
}

/**
 * The frames of a picture as pixels in sRGB, turned upright as its camera says. One frame for
 * a still picture. Throws {@link CannotUsePicture}.
 */
export async function decodePicture(bytes: Uint8Array, kind: Exclude<FileKind, 'svg' | 'zip'>, file: string): Promise<Raster[]> {
  try {
    await checkPictureSize(bytes, file);
    const frames = kind === 'png' ? maybeFrameCount(bytes) : undefined;
    if (frames !== undefined) {
      const { width, height } = await sharp(bytes, { ...careful }).metadata();
      checkSize(file, width, height, frames);
      return await framesOfApng(bytes);
    }
    const animated = kind === 'gif' || kind === 'webp';
    const picture = sharp(bytes, { ...careful, ...(animated ? { animated: true } : {}) });
    const { data, info } = await (animated ? picture : picture.rotate())
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const frameHeight = info.pageHeight ?? info.height;
    const frameBytes = info.width * frameHeight * 4;
    return Array.from({ length: Math.max(1, Math.round(info.height / frameHeight)) }, (_, index) => ({
      width: info.width,
      height: frameHeight,
      pixels: data.subarray(index * frameBytes, (index + 1) * frameBytes),
    }));
  } catch (error) {
    if (error instanceof CannotUsePicture) throw error;
    throw new CannotUsePicture(`${file} is damaged: its picture cannot be read. Export it again.`);
  }
}

/** Pixels as a PNG, made smaller when a side is longer than `mostSide`. */
export async function pngOfRaster({ width, height, pixels }: Raster, mostSide: number): Promise<Uint8Array> {
  const picture = sharp(pixels, { raw: { width, height, channels: 4 } });
  const fitting = Math.max(width, height) > mostSide ? picture.resize({ width: mostSide, height: mostSide, fit: 'inside' }) : picture;
  return fitting.png({ compressionLevel: 6 }).toBuffer();
}
