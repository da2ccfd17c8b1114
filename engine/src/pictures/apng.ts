/**
 * Animated PNG (PNG, third edition, 2025: 11.3.5 and the model of 4.9): each frame is a
 * picture of a part of the canvas, laid over what the frame before it left, by its blend
 * operation, after that frame was put away by its dispose operation.
 */
import type { Raster } from '@zest-jaw/core';
import { crc32 } from 'node:zlib';
import sharp from 'sharp';

interface Chunk {
  readonly type: string;
  readonly data: Buffer;
}

/** What becomes of a frame's part of the canvas before the next one: it stays, is emptied, or is as it was before. */
const DISPOSE = { none: 0, background: 1, previous: 2 } as const;
/** How a frame is laid: in the place of what is there, or over it. */
const BLEND = { source: 0, over: 1 } as const;

interface Frame {
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  readonly dispose: number;
  readonly blend: number;
  readonly data: Buffer[];
}

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** Chunks that say how a frame's pixels are to be read, and so go with each. */
const SHARED = new Set(['PLTE', 'tRNS', 'gAMA', 'cHRM', 'sRGB', 'iCCP', 'sBIT', 'cICP']);

function* chunksOf(bytes: Uint8Array): Generator<Chunk> {
  const view = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 12 <= view.length;) {
    const length = view.readUInt32BE(at);
    if (at + 12 + length > view.length) return;
    yield { type: view.toString('latin1', at + 4, at + 8), data: view.subarray(at + 8, at + 8 + length) };
    at += 12 + length;
  }
}

function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const whole = Buffer.alloc(body.length + 8);
  whole.writeUInt32BE(data.length, 0);
  body.copy(whole, 4);
  whole.writeUInt32BE(crc32(body), body.length + 4);
  return whole;
}

/** How many frames an animated PNG has; undefined for a still one (an `acTL` chunk comes before its first `IDAT`). */
export function maybeFrameCount(bytes: Uint8Array): number | undefined {
  for (const { type, data } of chunksOf(bytes)) {
    if (type === 'acTL' && data.length >= 8) return data.readUInt32BE(0);
    if (type === 'IDAT') return undefined;
  }
  return undefined;
}

function read(bytes: Uint8Array): { header: Buffer; shared: Chunk[]; frames: Frame[] } {
  let header: Buffer | undefined;
  const shared: Chunk[] = [];
  const frames: Frame[] = [];
  for (const { type, data } of chunksOf(bytes)) {
    if (type === 'IHDR') header = data;
    else if (SHARED.has(type)) shared.push({ type, data });
    else if (type === 'fcTL')
      frames.push({
        width: data.readUInt32BE(4),
        height: data.readUInt32BE(8),
        x: data.readUInt32BE(12),
        y: data.readUInt32BE(16),
        dispose: data[24]!,
        blend: data[25]!,
        data: [],
      });
    // The picture for those who know no animation is a frame only when a frame control stands before it.
    else if (type === 'IDAT') frames.at(-1)?.data.push(data);
    else if (type === 'fdAT') frames.at(-1)?.data.push(data.subarray(4));
  }
  if (!header) throw new Error('no header');
  return { header, shared, frames };
}

/** One frame as a picture of its own, decoded. */
async function pixelsOf(frame: Frame, header: Buffer, shared: readonly Chunk[]): Promise<Buffer> {
  const own = Buffer.from(header);
  own.writeUInt32BE(frame.width, 0);
  own.writeUInt32BE(frame.height, 4);
  const png = Buffer.concat([
    SIGNATURE,
    chunk('IHDR', own),
    ...shared.map(({ type, data }) => chunk(type, data)),
    ...frame.data.map((data) => chunk('IDAT', data)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
  return sharp(png, { limitInputPixels: false, failOn: 'error' }).toColourspace('srgb').ensureAlpha().raw().toBuffer();
}

/** Lays a pixel over another, neither multiplied by its alpha (Porter and Duff, "Compositing digital images", 1984: over). */
function layOver(canvas: Uint8Array, at: number, pixels: Uint8Array, from: number): void {
  const [over, under] = [pixels[from + 3]! / 255, canvas[at + 3]! / 255];
  const alpha = over + under * (1 - over);
  for (let channel = 0; channel < 3; channel++)
    canvas[at + channel] =
      alpha === 0 ? 0 : Math.round((pixels[from + channel]! * over + canvas[at + channel]! * under * (1 - over)) / alpha);
  canvas[at + 3] = Math.round(alpha * 255);
}

/**
 * Every frame as it is seen, whole, one after another. Throws when the file breaks the rules of its format.
 *
 * @param most frames that are taken: as many as the file says that it has
 */
export async function* framesOfApng(bytes: Uint8Array, most = Number.POSITIVE_INFINITY): AsyncGenerator<Raster> {
  const { header, shared, frames } = read(bytes);
  const [width, height] = [header.readUInt32BE(0), header.readUInt32BE(4)];
  const canvas = new Uint8Array(width * height * 4);
  for (const [index, frame] of frames.entries()) {
    if (index >= most) return;
    if (frame.width === 0 || frame.height === 0 || frame.x + frame.width > width || frame.y + frame.height > height)
      throw new Error('a frame lies outside the picture');
    const pixels = await pixelsOf(frame, header, shared);
    // The first frame has nothing before it to go back to.
    const dispose = index === 0 && frame.dispose === DISPOSE.previous ? DISPOSE.background : frame.dispose;
    const before = dispose === DISPOSE.previous ? canvas.slice() : undefined;
    for (let row = 0; row < frame.height; row++) {
      const start = ((frame.y + row) * width + frame.x) * 4;
      const from = row * frame.width * 4;
      if (frame.blend === BLEND.source) canvas.set(pixels.subarray(from, from + frame.width * 4), start);
      else for (let column = 0; column < frame.width * 4; column += 4) layOver(canvas, start + column, pixels, from + column);
    }
    yield { width, height, pixels: canvas.slice() };
    if (before) canvas.set(before);
    else if (dispose === DISPOSE.background)
      for (let row = 0; row < frame.height; row++) {
        const start = ((frame.y + row) * width + frame.x) * 4;
        canvas.fill(0, start, start + frame.width * 4);
      }
  }
}
