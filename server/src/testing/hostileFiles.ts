/** Files that are made to do harm, or that chance has made so: small, and the same each time. */
import { crc32, deflateRawSync, deflateSync } from 'node:zlib';
import { strToU8, zipSync, type Zippable } from 'fflate';

/** Some files that come together. */
export interface HostileFiles {
  readonly what: string;
  /** Makes them. */
  files(): readonly { readonly name: string; readonly bytes: Uint8Array }[];
  /** What is said of them; undefined where they may be read. */
  readonly sentence?: RegExp;
}

const svg = (inside: string, head = ''): Uint8Array =>
  strToU8(`${head}<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200" viewBox="0 0 200 200">${inside}</svg>`);

function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const whole = Buffer.alloc(body.length + 8);
  whole.writeUInt32BE(data.length, 0);
  body.copy(whole, 4);
  whole.writeUInt32BE(crc32(body), body.length + 4);
  return whole;
}

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

function header(width: number, height: number, bits = 8, colour = 6): Buffer {
  const data = Buffer.alloc(13);
  data.writeUInt32BE(width, 0);
  data.writeUInt32BE(height, 4);
  data.set([bits, colour], 8);
  return chunk('IHDR', data);
}

/** Data of a picture, `zeros` bytes of it: by pieces, since a run of nothing is packed to nearly nothing. */
const packed = (zeros: number): Buffer => deflateSync(Buffer.alloc(zeros), { level: 9 });

/** A picture of one clear colour: of 1 bit a pixel in shades of grey, or of colours with opacity. */
function png(width: number, height: number, { isGrey = false, between = [] as Buffer[], zeros = 0 } = {}): Buffer {
  const bytes = isGrey ? height * (1 + Math.ceil(width / 8)) : height * (1 + width * 4);
  const [head, data] = [header(width, height, isGrey ? 1 : 8, isGrey ? 0 : 6), chunk('IDAT', packed(zeros || bytes))];
  return Buffer.concat([SIGNATURE, head, ...between, data, chunk('IEND', Buffer.alloc(0))]);
}

/** A picture in which no pixel is as the one before it, in shades of grey. */
function noise(width: number, height: number): Buffer {
  const rows = Buffer.alloc(height * (1 + width));
  let seed = 1;
  for (let index = 0; index < rows.length; index++) {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    rows[index] = index % (1 + width) === 0 ? 0 : seed >>> 24;
  }
  return Buffer.concat([
    SIGNATURE,
    header(width, height, 8, 0),
    chunk('IDAT', deflateSync(rows, { level: 1 })),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

const animation = (frames: number): Buffer => {
  const data = Buffer.alloc(8);
  data.writeUInt32BE(frames, 0);
  return chunk('acTL', data);
};

function frameControl(sequence: number, width: number, height: number): Buffer {
  const data = Buffer.alloc(26);
  data.writeUInt32BE(sequence, 0);
  data.writeUInt32BE(width, 4);
  data.writeUInt32BE(height, 8);
  data.writeUInt16BE(1, 20);
  data.writeUInt16BE(24, 22);
  return chunk('fcTL', data);
}

function animated(width: number, height: number, frames: number, zeros = height * (1 + width * 4)): Buffer {
  const data = packed(zeros);
  const parts = [SIGNATURE, header(width, height), animation(frames)];
  for (let frame = 0, sequence = 0; frame < frames; frame++) {
    parts.push(frameControl(sequence++, width, height));
    if (frame === 0) parts.push(chunk('IDAT', data));
    else {
      const number = Buffer.alloc(4);
      number.writeUInt32BE(sequence++, 0);
      parts.push(chunk('fdAT', Buffer.concat([number, data])));
    }
  }
  return Buffer.concat([...parts, chunk('IEND', Buffer.alloc(0))]);
}

function openRaster(width: string, height: string, layers: string, files: Zippable = {}): Uint8Array {
  const xml = `<?xml version="1.0"?><image w="${width}" h="${height}"><stack>${layers}</stack></image>`;
  return zipSync({ mimetype: [strToU8('image/openraster'), { level: 0 }], 'stack.xml': strToU8(xml), ...files });
}

/** An archive of one file of nothing, packed by a faster hand than that of `zipSync`. */
function zipOfZeros(size: number): Buffer {
  const [name, data] = [Buffer.from('a.png'), deflateRawSync(Buffer.alloc(size), { level: 1 })];
  const local = Buffer.alloc(30);
  local.writeUInt32LE(0x04034b50, 0);
  local.writeUInt16LE(20, 4);
  local.writeUInt16LE(8, 8);
  local.writeUInt32LE(data.length, 18);
  // It says that it unpacks to little.
  local.writeUInt32LE(1000, 22);
  local.writeUInt16LE(name.length, 26);
  return Buffer.concat([local, name, data]);
}

const archives = (count: number, bytes: Uint8Array): ReturnType<HostileFiles['files']> =>
  Array.from({ length: count }, (_, index) => ({ name: `bomb${String(index).padStart(2, '0')}.zip`, bytes }));

const embedded = (head: string, bytes: Uint8Array): string => `${head},${Buffer.from(bytes).toString('base64')}`;
const times = (count: number, of: (index: number) => string): string => Array.from({ length: count }, (_, index) => of(index)).join('');

const one = (what: string, name: string, make: () => Uint8Array, sentence?: RegExp): HostileFiles => ({
  what,
  files: () => [{ name, bytes: make() }],
  ...(sentence && { sentence }),
});

/** Pictures. */
export const HOSTILE_PICTURES: readonly HostileFiles[] = [
  one('a pattern of huge size', 'pattern.svg', () =>
    svg(
      '<defs><pattern id="p" width="1e9" height="1e9" patternUnits="userSpaceOnUse"><rect width="1e9" height="1e9"/></pattern></defs>' +
        '<rect width="200" height="200" fill="url(#p)" transform="scale(1e5)"/>',
    ),
  ),
  one(
    'an OpenRaster of a fraction of a pixel',
    'sliver.ora',
    () => openRaster('1e9', '0.02', '<layer name="a" src="a.png"/>'),
    /which no picture can be/,
  ),
  one('a selector of many letters', 'letters.svg', () =>
    svg(`<style>${'a'.repeat(400_000)}{fill:red}</style><rect width="9" height="9"/>`),
  ),
  one('a run of comment marks', 'marks.svg', () => svg(`<style>${'/*'.repeat(200_000)}</style><rect width="9" height="9"/>`)),
  one(
    'many rules for many elements',
    'rules.svg',
    () => svg(`<style>${times(3000, (index) => `g > g rect.a${index}{fill:red}`)}</style>${'<rect width="9" height="9"/>'.repeat(20_000)}`),
    /more than can be held against one another/,
  ),
  one('entities of three megabytes', 'entities.svg', () => {
    const head = `<!DOCTYPE svg [${times(10_000, (index) => `<!ENTITY e${index} "${'x'.repeat(280)}">`)}]>`;
    return svg(`<g id="${times(10_000, (index) => `&e${index};`)}"><rect width="9" height="9"/></g>`, head);
  }),
  one(
    'an embedded picture whose kind is told in capitals',
    'capitals.svg',
    () => svg(`<image width="9" height="9" href="${embedded('DATA:IMAGE/PNG;BASE64', png(30_000, 30_000, { isGrey: true }))}"/>`),
    /is 30000 by 30000 pixels/,
  ),
  one('a large picture used five hundred times', 'used.svg', () => {
    const picture = embedded('data:image/png;base64', png(6000, 6000, { isGrey: true }));
    return svg(`<defs><image id="i" width="90" height="90" href="${picture}"/></defs><g>${'<use href="#i"/>'.repeat(500)}</g>`);
  }),
  one(
    'twenty thousand groups',
    'groups.svg',
    () => svg('<g><rect width="9" height="9"/></g>'.repeat(20_000)),
    /20000 drawings\. An import may have 400/,
  ),
  one('a path of two million corners', 'corners.svg', () =>
    svg(`<path d="M0 0${times(2_000_000, (index) => `L${(index * 37) % 200} ${(index * 61) % 200}`)}"/>`),
  ),
  one('uses of uses of uses', 'laughs.svg', () => {
    const levels = times(12, (level) => `<g id="l${level + 1}">${`<use href="#l${level}"/>`.repeat(10)}</g>`);
    return svg(`<defs><rect id="l0" width="9" height="9"/>${levels}</defs><use href="#l12"/>`);
  }),
  one(
    'an address written with escapes',
    'escaped.svg',
    () => svg('<rect width="9" height="9" fill="\\75 rl(http://a.b/c)"/>'),
    /outside the file/,
  ),
  one(
    'groups nested in groups',
    'deep.svg',
    () => svg(`${'<g>'.repeat(100_000)}<rect width="9" height="9"/>${'</g>'.repeat(100_000)}`),
    /nested more than/,
  ),
  one('a hundred frames of two thousand by two thousand', 'frames.png', () => animated(2000, 2000, 100), /more than can be held/),
  one('frames whose data unpacks to a gigabyte', 'unpacks.png', () => animated(64, 64, 3, 2 ** 29)),
  one('an animated picture without a frame', 'none.png', () => png(20, 20, { between: [animation(0)] }), /without a frame/),
  one(
    'an animated picture that lacks the frames it tells of',
    'lacking.png',
    () => png(20, 20, { between: [animation(3)] }),
    /without a frame/,
  ),
  one(
    'a picture that says that it is larger than it is',
    'lies.png',
    () => png(15_000, 15_000, { isGrey: true, zeros: 100 }),
    /15000 by 15000 pixels/,
  ),
  one('a picture whose data ends early', 'ends.png', () => png(2000, 2000, { zeros: 100 }), /damaged/),
  one(
    'an OpenRaster of two thousand layers',
    'layers.ora',
    () => {
      const layer = png(2000, 2000);
      return openRaster('2000', '2000', '<layer name="a" src="a.png"/>'.repeat(1990), { 'a.png': [layer, { level: 0 }] });
    },
    /layers of|drawings/,
  ),
  {
    what: 'twenty archives that each unpack to as much as one may',
    files: () => archives(20, zipOfZeros(190 * 2 ** 20)),
    sentence: /with the archives before it, unpacks to more than 400 MB/,
  },
  one('a picture of forty million pixels', 'large.png', () => png(8000, 5000)),
  one('a picture of forty million pixels, all of them drawn', 'noise.png', () => noise(8000, 5000)),
];

const ascii = (text: string): Buffer => Buffer.from(text, 'latin1');

/** A remainder as FLAC and Ogg check by: `bits` long, most significant bit first. */
function remainder(bytes: Uint8Array, bits: 8 | 16, polynomial: number): number {
  const top = 2 ** (bits - 1);
  let rest = 0;
  for (const byte of bytes) {
    rest ^= byte << (bits - 8);
    for (let bit = 0; bit < 8; bit++) rest = ((rest & top ? (rest << 1) ^ polynomial : rest << 1) >>> 0) & (2 ** bits - 1);
  }
  return rest;
}

/** A number as FLAC counts its frames: like UTF-8 (RFC 9639, 9.1.5). */
function codedNumber(number: number): number[] {
  if (number < 0x80) return [number];
  if (number < 0x800) return [0xc0 | (number >> 6), 0x80 | (number & 63)];
  return [0xe0 | (number >> 12), 0x80 | ((number >> 6) & 63), 0x80 | (number & 63)];
}

/**
 * Silence as FLAC: every channel of every frame one constant (RFC 9639, 9.2.3).
 *
 * @param told samples that the file says it has; 0 says nothing
 */
function silentFlac(seconds: number, channels: number, told: number): Buffer {
  const block = 32_768;
  const info = Buffer.alloc(34);
  info.writeUInt16BE(block, 0);
  info.writeUInt16BE(block, 2);
  info.writeUInt32BE(((48_000 << 12) | ((channels - 1) << 9) | (15 << 4)) >>> 0, 10);
  info[13]! |= Math.floor(told / 2 ** 32);
  info.writeUInt32BE(told % 2 ** 32, 14);
  const parts: Buffer[] = [ascii('fLaC'), Buffer.from([0x80, 0, 0, 34]), info];
  for (let frame = 0; frame * block < seconds * 48_000; frame++) {
    const head = [0xff, 0xf8, 0xfa, ((channels - 1) << 4) | 8, ...codedNumber(frame)];
    head.push(remainder(Uint8Array.from(head), 8, 0x07));
    for (let channel = 0; channel < channels; channel++) head.push(0, 0, 0);
    const body = Buffer.from(head);
    const check = Buffer.alloc(2);
    check.writeUInt16BE(remainder(body, 16, 0x8005), 0);
    parts.push(body, check);
  }
  return Buffer.concat(parts);
}

/** Silence as MP3: frames of MPEG 2.5, layer III, 8 kHz, 8 kbit/s, with nothing in them. */
function silentMp3(seconds: number): Buffer {
  const frame = Buffer.alloc(72);
  frame.set([0xff, 0xe3, 0x18, 0xc0]);
  return Buffer.concat(Array.from({ length: Math.ceil(seconds / 0.072) }, () => frame));
}

function page(packet: Uint8Array, { type, place, number }: { type: number; place: bigint; number: number }): Buffer {
  const head = Buffer.alloc(27);
  head.write('OggS', 0, 'latin1');
  head[5] = type;
  head.writeBigUInt64LE(place, 6);
  head.writeUInt32LE(number, 18);
  const lengths = [...new Array<number>(Math.floor(packet.length / 255)).fill(255), packet.length % 255];
  head[26] = lengths.length;
  const whole = Buffer.concat([head, Buffer.from(lengths), packet]);
  // Ogg's own sum (RFC 3533, 6): as of zip files, but not turned over.
  let rest = 0;
  for (const byte of whole) {
    rest = (rest ^ (byte << 24)) >>> 0;
    for (let bit = 0; bit < 8; bit++) rest = (rest & 0x8000_0000 ? (rest << 1) ^ 0x04c1_1db7 : rest << 1) >>> 0;
  }
  whole.writeUInt32LE(rest, 22);
  return whole;
}

/** An Opus of a head, a few packets of nothing, and a last page that says where it ends. */
function opusSaying(seconds: number): Buffer {
  const head = Buffer.concat([ascii('OpusHead'), Buffer.from([1, 1, 0, 0, 0x80, 0xbb, 0, 0, 0, 0, 0])]);
  const tags = Buffer.concat([ascii('OpusTags'), Buffer.alloc(8)]);
  const silence = Buffer.from([0xfc, 0xff, 0xfe]);
  return Buffer.concat([
    page(head, { type: 2, place: 0n, number: 0 }),
    page(tags, { type: 0, place: 0n, number: 1 }),
    page(silence, { type: 4, place: BigInt(seconds * 48_000), number: 2 }),
  ]);
}

/** A Vorbis whose head tells of a rate; nothing follows it. */
function vorbisOfRate(rate: number): Buffer {
  const head = Buffer.alloc(30);
  head.write('\x01vorbis', 0, 'latin1');
  head[11] = 1;
  head.writeUInt32LE(rate, 12);
  head.set([0xb8, 1], 28);
  return page(head, { type: 2, place: 0n, number: 0 });
}

const HOURS_8 = 8 * 3600;

/** Recordings. */
export const HOSTILE_RECORDINGS: readonly HostileFiles[] = [
  one('eight silent hours of FLAC that say so', 'hours.flac', () => silentFlac(HOURS_8, 1, HOURS_8 * 48_000), /480 minutes long/),
  one('eight silent hours of FLAC that do not', 'untold.flac', () => silentFlac(HOURS_8, 1, 0), /minutes long/),
  one('eight silent hours of FLAC that tell of one second', 'lies.flac', () => silentFlac(HOURS_8, 1, 48_000), /minutes long/),
  one('five minutes of FLAC in eight channels', 'channels.flac', () => silentFlac(300, 8, 300 * 48_000), /silent/),
  one('eight silent hours of MP3', 'hours.mp3', () => silentMp3(HOURS_8), /minutes long/),
  one('an Opus that says that it lasts eight hours', 'hours.opus', () => opusSaying(HOURS_8), /480 minutes long/),
  one('a Vorbis of 96 MHz', 'fast.ogg', () => vorbisOfRate(96_000_000), /96000000 samples a second/),
  one('a FLAC that breaks off in its head', 'head.flac', () => silentFlac(1, 1, 48_000).subarray(0, 30), /damaged|no sound/),
];
