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

/** A file that may hold sound, but is none of the kinds read here; a browser may know it. */
export interface FilmKind {
  /** With its article, for a sentence: “a film (MOV)”. */
  readonly name: string;
}

/** The brands of an MP4 family file that hold sound alone (ISO/IEC 14496-12, 4.3; registered at mp4ra.org). */
const SOUND_BRANDS = new Set(['M4A ', 'M4B ', 'M4P ']);

/** What a browser may be able to read where nothing here can: AAC, and the sound of a film. */
export function maybeFilmKind(bytes: Uint8Array): FilmKind | undefined {
  if (ascii(bytes, 4, 8) === 'ftyp') {
    const brand = ascii(bytes, 8, 12);
    if (SOUND_BRANDS.has(brand)) return { name: 'an AAC recording (M4A)' };
    return { name: brand === 'qt  ' ? 'a film (MOV)' : 'a film (MP4)' };
  }
  // QuickTime files of before brands begin with one of their parts.
  if (['moov', 'mdat', 'wide', 'free'].includes(ascii(bytes, 4, 8))) return { name: 'a film (MOV)' };
  // Matroska and WebM begin with an EBML header (RFC 8794, 11.2.1).
  if (bytes[0] === 0x1a && bytes[1] === 0x45 && bytes[2] === 0xdf && bytes[3] === 0xa3) return { name: 'a film (WebM or Matroska)' };
  return maybeKindOfRecording(bytes) === 'aac' ? { name: 'an AAC recording' } : undefined;
}

/** Beginnings of files that people drop by mistake, or that hold sound in a way nothing here reads. */
const OTHERS: readonly (readonly [at: number, begins: string, name: string])[] = [
  [0, 'FORM', 'an AIFF recording'],
  [0, 'caff', 'a Core Audio recording'],
  [0, '#!AMR', 'a telephone recording (AMR)'],
  [0, '\x30\x26\xb2\x75', 'a Windows Media recording'],
  [0, 'MThd', 'a MIDI file, which holds notes and no sound'],
  [0, 'RF64', 'a WAV file of more than four gigabytes'],
  [0, '\x89PNG', 'a picture'],
  [0, 'GIF8', 'a picture'],
  [0, '\xff\xd8\xff', 'a picture'],
  [0, '<svg', 'a picture'],
  [0, '%PDF', 'a PDF'],
  [0, 'PK\x03\x04', 'a zip archive'],
  [0, 'fLaC', 'a FLAC recording'],
  [0, 'OggS', 'an Ogg file without Vorbis, Opus or FLAC in it'],
];

/** What a file that cannot be read is, with its article; undefined when that cannot be told either. */
export function maybeNameOfFile(bytes: Uint8Array): string | undefined {
  const film = maybeFilmKind(bytes);
  return film?.name ?? OTHERS.find(([at, begins]) => ascii(bytes, at, at + begins.length) === begins)?.[2];
}
