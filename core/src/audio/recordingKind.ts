/** What a recording is, told by its first bytes and never by its name. */

export type RecordingKind = 'wav' | 'mp3' | 'vorbis' | 'opus' | 'flac' | 'aac';

const ascii = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));

/** Where an ID3v2 tag ends (id3.org, ID3v2.4.0 structure, 3.1); 0 without one. */
function afterTag(bytes: Uint8Array): number {
  if (ascii(bytes, 0, 3) !== 'ID3' || bytes.length < 10) return 0;
  const size = bytes.subarray(6, 10).reduce((sum, byte) => sum * 128 + (byte & 0x7f), 0);
  return 10 + size + ((bytes[5]! & 0x10) !== 0 ? 10 : 0);
}

/** The codec inside an Ogg file: its first packet begins with the codec's name (RFC 3533; RFC 7845; Vorbis I, 4.2.1; Ogg FLAC mapping). */
function kindInOgg(bytes: Uint8Array): RecordingKind | undefined {
  const segments = bytes[26] ?? 0;
  const packet = ascii(bytes, 27 + segments, 27 + segments + 8);
  if (packet === 'OpusHead') return 'opus';
  if (packet.startsWith('\x01vorbis')) return 'vorbis';
  return packet.startsWith('\x7fFLAC') ? 'flac' : undefined;
}

/** An MPEG audio frame header (ISO/IEC 11172-3, 2.4.1.3): a sync word, layer III, a bit rate and a sampling rate that exist. */
function isMp3Frame(bytes: Uint8Array, at: number): boolean {
  const [first, second, third] = [bytes[at], bytes[at + 1], bytes[at + 2]];
  if (first !== 0xff || second === undefined || third === undefined) return false;
  return (second & 0xe0) === 0xe0 && (second & 0x06) === 0x02 && third >> 4 !== 0xf && (third & 0x0c) !== 0x0c;
}

/** AAC: an MP4 file (ISO/IEC 14496-12, `ftyp`), or ADTS frames (ISO/IEC 13818-7, 6.2). */
function isAac(bytes: Uint8Array, at: number): boolean {
  return ascii(bytes, 4, 8) === 'ftyp' || (bytes[at] === 0xff && ((bytes[at + 1] ?? 0) & 0xf6) === 0xf0);
}

export function maybeKindOfRecording(bytes: Uint8Array): RecordingKind | undefined {
  const head = ascii(bytes, 0, 4);
  if (head === 'RIFF' && ascii(bytes, 8, 12) === 'WAVE') return 'wav';
  if (head === 'OggS') return kindInOgg(bytes);
  const start = afterTag(bytes);
  if (ascii(bytes, start, start + 4) === 'fLaC') return 'flac';
  if (isAac(bytes, start)) return 'aac';
  // Some encoders leave empty bytes between the tag and the first frame.
  for (let at = start; at < Math.min(bytes.length - 3, start + 4096); at++) {
    if (bytes[at] !== 0) return isMp3Frame(bytes, at) ? 'mp3' : undefined;
  }
  return undefined;
}
