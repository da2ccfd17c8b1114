/**
 * Wave files (RIFF/WAVE): integer PCM of 8, 16, 24 and 32 bits and 32- and 64-bit float,
 * plain or extensible, read to floats; 16-bit PCM written. After "Multimedia Programming
 * Interface and Data Specifications 1.0" (IBM and Microsoft, 1991) and its 1994 revision
 * for extensible formats.
 */
import type { Refusal } from '../document/refusal.js';
import type { Span } from '../time/span.js';

export interface Sound {
  readonly sampleRate: number;
  /** One array a channel, −1 to 1, all of the same length. */
  readonly channels: readonly Float32Array[];
  /** What to know about it: that the file breaks off. */
  readonly notes?: readonly string[];
}

/** What is said of a file that breaks off, and where. */
export const brokenOff = (seconds: number, meantSeconds?: number): string =>
  `This file breaks off after ${seconds.toFixed(1)} s${meantSeconds === undefined ? '' : ` of ${meantSeconds.toFixed(1)} s`}: what is there was taken. If that is not all of it, copy or save it again.`;

const FORMAT_PCM = 1;
const FORMAT_FLOAT = 3;
const FORMAT_EXTENSIBLE = 0xfffe;

/** Most channels and the sampling rates accepted. */
export const WAVE_LIMITS = { channels: 8, slowest: 4000, fastest: 384_000 } as const;

interface WaveFormat {
  readonly format: number;
  readonly channels: number;
  readonly sampleRate: number;
  readonly bits: number;
}

type SampleReader = (view: DataView, offset: number) => number;

function readerFor({ format, bits }: WaveFormat): SampleReader | undefined {
  if (format === FORMAT_FLOAT) {
    if (bits === 32) return (view, offset) => view.getFloat32(offset, true);
    if (bits === 64) return (view, offset) => view.getFloat64(offset, true);
    return undefined;
  }
  if (format !== FORMAT_PCM) return undefined;
  if (bits === 8) return (view, offset) => (view.getUint8(offset) - 128) / 128;
  if (bits === 16) return (view, offset) => view.getInt16(offset, true) / 32_768;
  if (bits === 24) return (view, offset) => (view.getUint16(offset, true) + view.getInt8(offset + 2) * 65_536) / 8_388_608;
  if (bits === 32) return (view, offset) => view.getInt32(offset, true) / 2_147_483_648;
  return undefined;
}

const chunkName = (view: DataView, offset: number): string =>
  String.fromCharCode(view.getUint8(offset), view.getUint8(offset + 1), view.getUint8(offset + 2), view.getUint8(offset + 3));

/** True when the bytes begin as a wave file does. */
export function looksLikeWave(bytes: Uint8Array): boolean {
  if (bytes.length < 12) return false;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return chunkName(view, 0) === 'RIFF' && chunkName(view, 8) === 'WAVE';
}

/** A wave file whose samples have not been read yet. */
export interface OpenWave {
  readonly sampleRate: number;
  readonly channels: number;
  /** Samples of each channel. */
  readonly length: number;
  /** What to know about it: that the file breaks off. */
  readonly notes?: readonly string[];
  /** Samples of every channel, −1 to 1. */
  read(from: number, to: number): Float32Array[];
}

/** Looks at a wave file; a refusal says what is wrong with it. A file cut off in the middle is read as far as it goes. */
export function openWave(bytes: Uint8Array): OpenWave | Refusal {
  if (!looksLikeWave(bytes))
    return { refusal: 'This is not a WAV file: it does not begin as one. Save the recording as WAV and drop it again.' };
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let wave: WaveFormat | undefined;
  for (let offset = 12; offset + 8 <= bytes.length;) {
    const name = chunkName(view, offset);
    const length = view.getUint32(offset + 4, true);
    const start = offset + 8;
    if (name === 'fmt ' && start + 16 <= bytes.length) {
      const declared = view.getUint16(start, true);
      const extended = declared === FORMAT_EXTENSIBLE && length >= 40 && start + 40 <= bytes.length;
      wave = {
        format: extended ? view.getUint16(start + 24, true) : declared,
        channels: view.getUint16(start + 2, true),
        sampleRate: view.getUint32(start + 4, true),
        bits: view.getUint16(start + 14, true),
      };
    } else if (name === 'data') {
      if (!wave) break;
      const there = Math.min(length, bytes.length - start);
      const open = openSamples(view, wave, start, there);
      // Recorders that were switched off leave a length of nothing or of everything: that says nothing.
      const isKnown = length < 0xffff_ff00 && length > there;
      if ('refusal' in open || !isKnown) return open;
      const seconds = open.length / open.sampleRate;
      return { ...open, notes: [brokenOff(seconds, (seconds * length) / Math.max(1, there))] };
    }
    offset = start + length + (length % 2);
  }
  return { refusal: 'This WAV file has no sound in it. Save the recording again and drop it here.' };
}

/** Reads all of a wave file; a refusal says what is wrong with it. */
export function readWave(bytes: Uint8Array): Sound | Refusal {
  const open = openWave(bytes);
  if ('refusal' in open) return open;
  const { sampleRate, length, notes } = open;
  return { sampleRate, channels: open.read(0, length), ...(notes && { notes }) };
}

function openSamples(view: DataView, wave: WaveFormat, start: number, length: number): OpenWave | Refusal {
  const { channels, sampleRate, bits } = wave;
  const read = readerFor(wave);
  if (!read)
    return {
      refusal: `This WAV file holds sound of kind ${wave.format} at ${bits} bits. PCM of 8, 16, 24 or 32 bits and float can be read: save it as one of those.`,
    };
  if (channels < 1 || channels > WAVE_LIMITS.channels)
    return { refusal: `This WAV file has ${channels} channels. It may have 1 to ${WAVE_LIMITS.channels}: mix it down and drop it again.` };
  if (sampleRate < WAVE_LIMITS.slowest || sampleRate > WAVE_LIMITS.fastest)
    return { refusal: `This WAV file has ${sampleRate} samples a second. It may have ${WAVE_LIMITS.slowest} to ${WAVE_LIMITS.fastest}.` };
  const bytesPerSample = bits / 8;
  const frames = Math.floor(length / (bytesPerSample * channels));
  return {
    sampleRate,
    channels,
    length: frames,
    read(from, to) {
      const count = Math.max(0, Math.min(frames, to) - from);
      const sound = Array.from({ length: channels }, () => new Float32Array(count));
      for (let frame = 0, offset = start + from * channels * bytesPerSample; frame < count; frame++) {
        for (const channel of sound) {
          const value = read(view, offset);
          channel[frame] = Number.isFinite(value) ? value : 0;
          offset += bytesPerSample;
        }
      }
      return sound;
    },
  };
}

const HEADER_BYTES = 44;

/** What stands before the samples in a 16-bit mono wave file. */
export function waveHeader(length: number, sampleRate: number): Uint8Array {
  const bytes = new Uint8Array(HEADER_BYTES);
  const view = new DataView(bytes.buffer);
  const text = (offset: number, value: string): void =>
    [...value].forEach((letter, index) => view.setUint8(offset + index, letter.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + length * 2, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, FORMAT_PCM, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, length * 2, true);
  return bytes;
}

/** A 16-bit mono wave file of samples from −32 768 to 32 767. */
export function writeWave(samples: Int16Array, sampleRate: number): Uint8Array {
  const bytes = new Uint8Array(HEADER_BYTES + samples.length * 2);
  bytes.set(waveHeader(samples.length, sampleRate));
  const view = new DataView(bytes.buffer);
  for (let index = 0; index < samples.length; index++) view.setInt16(HEADER_BYTES + index * 2, samples[index]!, true);
  return bytes;
}

/** Samples of a wave that `writeWave` wrote, without reading the rest of it. */
export function partOfWave(bytes: Uint8Array, { from, to }: Span): Int16Array {
  const own = bytes.slice(HEADER_BYTES + 2 * Math.max(0, from), HEADER_BYTES + 2 * Math.max(0, to));
  return new Int16Array(own.buffer, 0, own.length >> 1);
}
