/** Animated PNGs whose frames cover parts of the picture, against the frames that ffmpeg composes. */
import type { Raster } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { crc32 } from 'node:zlib';
import sharp from 'sharp';
import { framesOfApng, maybeFrameCount } from './apng.js';

async function allFrames(file: Uint8Array): Promise<Raster[]> {
  const frames: Raster[] = [];
  for await (const frame of framesOfApng(file)) frames.push(frame);
  return frames;
}

const folder = mkdtempSync(join(tmpdir(), 'zest-apng-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const hasFfmpeg = (process.env['PATH'] ?? '').split(delimiter).some((path) => existsSync(join(path, 'ffmpeg')));
const withFfmpeg = hasFfmpeg ? it : it.skip;

const [WIDTH, HEIGHT] = [24, 16];

interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly colour: { r: number; g: number; b: number; alpha: number };
  readonly dispose: number;
  readonly blend: number;
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

/** The compressed pixels of a part: its colour, half see-through in every second column. */
async function dataOf({ width, height, colour }: Part): Promise<Buffer> {
  const pixels = Buffer.alloc(width * height * 4);
  for (let at = 0; at < width * height; at++)
    pixels.set([colour.r, colour.g, colour.b, Math.round((at % 2 === 0 ? colour.alpha : colour.alpha / 2) * 255)], at * 4);
  const png = await sharp(pixels, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
  const found: Buffer[] = [];
  for (let at = 8; at < png.length;) {
    const length = png.readUInt32BE(at);
    if (png.toString('latin1', at + 4, at + 8) === 'IDAT') found.push(png.subarray(at + 8, at + 8 + length));
    at += 12 + length;
  }
  return Buffer.concat(found);
}

async function animated(parts: readonly Part[]): Promise<Buffer> {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(WIDTH, 0);
  header.writeUInt32BE(HEIGHT, 4);
  header.set([8, 6, 0, 0, 0], 8);
  const control = Buffer.alloc(8);
  control.writeUInt32BE(parts.length, 0);
  const chunks = [chunk('IHDR', header), chunk('acTL', control)];
  let sequence = 0;
  for (const [index, part] of parts.entries()) {
    const frame = Buffer.alloc(26);
    [sequence++, part.width, part.height, part.x, part.y].forEach((value, place) => frame.writeUInt32BE(value, place * 4));
    frame.writeUInt16BE(1, 20);
    frame.writeUInt16BE(10, 22);
    frame.set([part.dispose, part.blend], 24);
    const data = await dataOf(part);
    const numbered = Buffer.alloc(4);
    chunks.push(chunk('fcTL', frame));
    if (index === 0) chunks.push(chunk('IDAT', data));
    else {
      numbered.writeUInt32BE(sequence++);
      chunks.push(chunk('fdAT', Buffer.concat([numbered, data])));
    }
  }
  return Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), ...chunks, chunk('IEND', Buffer.alloc(0))]);
}

const whole = { x: 0, y: 0, width: WIDTH, height: HEIGHT };
const red = { r: 220, g: 40, b: 40, alpha: 1 };
const blue = { r: 30, g: 60, b: 220, alpha: 0.6 };
const green = { r: 40, g: 200, b: 80, alpha: 1 };

/** Every way of putting away and laying, the parts at different places. */
const cases = [0, 1, 2].flatMap((dispose) => [0, 1].map((blend) => [dispose, blend] as const));

withFfmpeg.each(cases)('dispose %i, blend %i: each frame is what ffmpeg shows', async (dispose, blend) => {
  const file = await animated([
    { ...whole, colour: red, dispose: 0, blend: 0 },
    { x: 3, y: 2, width: 10, height: 8, colour: blue, dispose, blend },
    { x: 8, y: 5, width: 12, height: 9, colour: green, dispose, blend },
    { x: 0, y: 0, width: 6, height: 6, colour: blue, dispose: 0, blend: 1 },
  ]);
  const path = join(folder, `a${dispose}${blend}.apng`);
  writeFileSync(path, file);
  const raw = execFileSync('ffmpeg', [
    '-loglevel',
    'error',
    '-f',
    'apng',
    '-i',
    path,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-',
  ]);
  const frames = await allFrames(file);
  expect(maybeFrameCount(file)).toBe(4);
  expect(frames).toHaveLength(4);
  expect(raw.length).toBe(4 * WIDTH * HEIGHT * 4);
  frames.forEach(({ pixels }, index) => {
    const theirs = raw.subarray(index * pixels.length, (index + 1) * pixels.length);
    let worst = 0;
    for (let at = 0; at < pixels.length; at += 4) {
      worst = Math.max(worst, Math.abs(pixels[at + 3]! - theirs[at + 3]!));
      // What is see-through has no colour to compare.
      if (theirs[at + 3]! > 8)
        for (let channel = 0; channel < 3; channel++) worst = Math.max(worst, Math.abs(pixels[at + channel]! - theirs[at + channel]!));
    }
    expect(worst).toBeLessThanOrEqual(2);
  });
});

it('a frame outside the picture is refused, and the picture for others is no frame when none is announced', async () => {
  const outside = await animated([
    { ...whole, colour: red, dispose: 0, blend: 0 },
    { x: 20, y: 2, width: 10, height: 8, colour: blue, dispose: 0, blend: 0 },
  ]);
  await expect(allFrames(outside)).rejects.toThrow(/outside/);
  const still = await sharp({ create: { width: 4, height: 4, channels: 4, background: red } })
    .png()
    .toBuffer();
  expect(maybeFrameCount(still)).toBeUndefined();
});
