/** What a compressed recording says of itself in its frames: how long it is meant to be, and whether its encoder's delay is known. */

/** Samples of an MP3's frame by version (ISO/IEC 11172-3 and 13818-3, layer III). */
const samplesOfFrame = (isVersion1: boolean): number => (isVersion1 ? 1152 : 576);

const ascii = (bytes: Uint8Array, from: number, length: number): string => String.fromCharCode(...bytes.subarray(from, from + length));
const bigEndian = (bytes: Uint8Array, from: number): number =>
  ((bytes[from]! << 24) | (bytes[from + 1]! << 16) | (bytes[from + 2]! << 8) | bytes[from + 3]!) >>> 0;

export interface Mp3Facts {
  /** The frame after the tags says how much the encoder put in front, so that a decoder can take it away. */
  readonly knowsDelay: boolean;
  /** Samples at its own rate that it is meant to have; undefined when it does not say. */
  readonly samples: number | undefined;
}

/** Where an MP3's first frame is: after an ID3v2 tag. */
function firstFrame(bytes: Uint8Array): number {
  let at = 0;
  if (ascii(bytes, 0, 3) === 'ID3') at = 10 + bytes.subarray(6, 10).reduce((sum, byte) => sum * 128 + (byte & 0x7f), 0);
  while (at < bytes.length - 4 && !(bytes[at] === 0xff && (bytes[at + 1]! & 0xe0) === 0xe0)) at += 1;
  return at;
}

/**
 * The encoder's header: a first frame that holds no sound but `Xing` or `Info`, the count of
 * frames, and where `LAME`'s extension follows, the delay (its place in the frame is after
 * the side information; the layout of the extension is the encoder's own documentation,
 * from memory).
 */
export function factsOfMp3(bytes: Uint8Array): Mp3Facts {
  const at = firstFrame(bytes);
  const isVersion1 = (bytes[at + 1]! & 0x18) === 0x18;
  const isMono = (bytes[at + 3]! & 0xc0) === 0xc0;
  const tag = at + 4 + (isVersion1 ? (isMono ? 17 : 32) : isMono ? 9 : 17);
  const name = ascii(bytes, tag, 4);
  if (name !== 'Xing' && name !== 'Info') return { knowsDelay: false, samples: undefined };
  const flags = bigEndian(bytes, tag + 4);
  const frames = (flags & 1) === 1 ? bigEndian(bytes, tag + 8) : undefined;
  const extension = tag + 8 + (flags & 1 ? 4 : 0) + (flags & 2 ? 4 : 0) + (flags & 4 ? 100 : 0) + (flags & 8 ? 4 : 0);
  const delay = (bytes[extension + 21]! << 4) | (bytes[extension + 22]! >> 4);
  return { knowsDelay: delay > 0, samples: frames === undefined ? undefined : frames * samplesOfFrame(isVersion1) };
}

const littleEndian = (bytes: Uint8Array, from: number): number =>
  (bytes[from]! | (bytes[from + 1]! << 8) | (bytes[from + 2]! << 16) | (bytes[from + 3]! << 24)) >>> 0;

/** What a file says of its sound before any of it is decoded; `samples` is undefined when it does not say. */
export interface SoundFacts {
  readonly sampleRate: number;
  readonly channels: number;
  /** Of one channel, at its own rate. */
  readonly samples: number | undefined;
}

/** What a FLAC's stream info says (RFC 9639, 8.2); undefined when it does not begin with one. */
export function maybeFactsOfFlac(bytes: Uint8Array): SoundFacts | undefined {
  if (ascii(bytes, 0, 4) !== 'fLaC' || (bytes[4]! & 0x7f) !== 0 || bytes.length < 42) return undefined;
  const rate = bigEndian(bytes, 18) >>> 12;
  const samples = (bytes[21]! & 0x0f) * 2 ** 32 + bigEndian(bytes, 22);
  return { sampleRate: rate, channels: ((bytes[20]! >> 1) & 7) + 1, samples: samples > 0 ? samples : undefined };
}

/** Bytes from the end of a file in which the last page of an Ogg begins: none is longer (RFC 3533, 6). */
const LONGEST_PAGE = 70_000;

/** Where an Ogg's last page begins. */
function maybeLastPage(bytes: Uint8Array): number | undefined {
  for (let at = bytes.length - 27; at >= Math.max(0, bytes.length - LONGEST_PAGE); at--) if (ascii(bytes, at, 4) === 'OggS') return at;
  return undefined;
}

/**
 * What an Ogg says in its first page, where the codec's own header is (Vorbis I, 4.2.2; RFC 7845, 5.1), and by
 * the place of its last page, which is counted at 48 000 Hz in Opus.
 */
export function maybeFactsOfOgg(bytes: Uint8Array): SoundFacts | undefined {
  const packet = 27 + (bytes[26] ?? 0);
  const isOpus = ascii(bytes, packet, 8) === 'OpusHead';
  if (!isOpus && ascii(bytes, packet + 1, 6) !== 'vorbis') return undefined;
  const last = maybeLastPage(bytes);
  const place = last === undefined ? 0 : littleEndian(bytes, last + 6) + littleEndian(bytes, last + 10) * 2 ** 32;
  // A page on which no packet ends has no place: all its bits are set.
  const samples = place > 0 && place < 2 ** 62 ? place : undefined;
  if (isOpus) return { sampleRate: 48_000, channels: bytes[packet + 9]!, samples };
  return { sampleRate: littleEndian(bytes, packet + 12), channels: bytes[packet + 11]!, samples };
}

/** Whether an Ogg file ends with its last page (RFC 3533, 6: a header type with the third bit set). */
export function endsWhole(bytes: Uint8Array): boolean {
  const at = maybeLastPage(bytes);
  if (at === undefined) return false;
  const segments = bytes[at + 26]!;
  const length = bytes.subarray(at + 27, at + 27 + segments).reduce((sum, size) => sum + size, 0);
  return (bytes[at + 5]! & 4) === 4 && at + 27 + segments + length <= bytes.length;
}
