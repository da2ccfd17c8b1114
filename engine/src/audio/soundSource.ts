/**
 * Recordings of any usual kind as a run of pieces, so that half an hour of sound is never held. Each
 * decoder takes away the delay its encoder put in front (the LAME tag of an MP3, the pre-skip of
 * Opus), so that a line does not come a frame late.
 */
import {
  brokenOff,
  maybeKindOfRecording,
  maybeNameOfFile,
  maybeUnfit,
  openWave,
  type OpenWave,
  type RecordingKind,
  type Refusal,
} from '@zest-jaw/core';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { OggOpusDecoder } from 'ogg-opus-decoder';
import { endsWhole, factsOfMp3, maybeFactsOfFlac, maybeFactsOfOgg } from './fileFacts.js';

/** A piece of a sound: a stretch of every channel, −1 to 1. */
export interface SoundPiece {
  readonly sampleRate: number;
  readonly channels: readonly Float32Array[];
}

export interface SoundSource {
  /** Samples of a channel, at its own rate, where the file says how many. */
  readonly samples: number | undefined;
  /** Its sound from the start; it may be run through more than once. */
  pieces(report: (done: number) => void): AsyncGenerator<SoundPiece>;
  /** What to know of it, once so many samples of a channel have come. */
  notes(samples: number, sampleRate: number): readonly string[];
}

interface Decoded {
  readonly channelData: readonly Float32Array[];
  readonly sampleRate: number;
  readonly samplesDecoded: number;
}

interface Decoder {
  readonly ready: Promise<void>;
  decode(bytes: Uint8Array): Decoded | Promise<Decoded>;
  flush?(): Promise<Decoded>;
  free(): void;
}

/** Most and fewest bytes of a file that are decoded at a time: silence takes a dozen bytes for a second of every channel. */
const [MOST_BYTES, FEWEST_BYTES] = [1 << 14, 1 << 8];
/** A piece is made smaller when more values than this came out of one, and larger when less than an eighth of it did. */
const MANY_VALUES = 1 << 21;
/** Samples of a wave file that are read at a time. */
const PIECE_SAMPLES = 1 << 18;

async function* piecesOf(open: () => Decoder, bytes: Uint8Array, report: (done: number) => void): AsyncGenerator<SoundPiece> {
  const decoder = open();
  await decoder.ready;
  const maybePiece = ({ channelData, sampleRate, samplesDecoded }: Decoded): SoundPiece | undefined =>
    // A copy: what the decoder answers with may lie in its own memory.
    samplesDecoded > 0 ? { sampleRate, channels: channelData.map((channel) => channel.slice(0, samplesDecoded)) } : undefined;
  try {
    for (let from = 0, length = FEWEST_BYTES; from < bytes.length;) {
      const piece = maybePiece(await decoder.decode(bytes.subarray(from, from + length)));
      if (piece) yield piece;
      from += length;
      report(Math.min(1, from / bytes.length));
      const values = piece ? piece.channels.length * piece.channels[0]!.length : 0;
      if (values > MANY_VALUES) length = Math.max(FEWEST_BYTES, length / 2);
      else if (values < MANY_VALUES / 8) length = Math.min(MOST_BYTES, length * 2);
    }
    const last = decoder.flush && maybePiece(await decoder.flush());
    if (last) yield last;
  } finally {
    decoder.free();
  }
}

/** The same without its first samples. */
async function* after(without: number, pieces: AsyncGenerator<SoundPiece>): AsyncGenerator<SoundPiece> {
  let left = without;
  for await (const { sampleRate, channels } of pieces) {
    const skipped = Math.min(left, channels[0]!.length);
    left -= skipped;
    yield { sampleRate, channels: skipped === 0 ? channels : channels.map((channel) => channel.subarray(skipped)) };
  }
}

/**
 * Samples that an MP3 begins with before its sound where nothing says how many: the decoder's 529
 * and the 576 of the encoder most used (its technical FAQ, from memory). At its own rate.
 */
const USUAL_DELAY = 529 + 576;

/** A file may end a frame or two early and be whole. */
const SPARE_SAMPLES = 4 * 1152;

/** A word where a file has less than it is meant to. */
const endOf =
  (meant: number | undefined): SoundSource['notes'] =>
  (samples, sampleRate) =>
    meant === undefined || samples >= meant - SPARE_SAMPLES ? [] : [brokenOff(samples / sampleRate, meant / sampleRate)];

function mp3Source(bytes: Uint8Array): SoundSource {
  const { knowsDelay, samples } = factsOfMp3(bytes);
  const pieces = (report: (done: number) => void): AsyncGenerator<SoundPiece> =>
    after(
      knowsDelay ? 0 : USUAL_DELAY,
      piecesOf(() => new MPEGDecoder({ enableGapless: true }), bytes, report),
    );
  return { samples, pieces, notes: endOf(samples) };
}

/** An Ogg does not say how long it is but ends with a page that says so: without that page it breaks off. */
function oggSource(open: () => Decoder, bytes: Uint8Array, samples: number | undefined): SoundSource {
  return {
    samples,
    pieces: (report) => piecesOf(open, bytes, report),
    notes: (samples, sampleRate) => (endsWhole(bytes) ? [] : [brokenOff(samples / sampleRate)]),
  };
}

function waveSource(wave: OpenWave): SoundSource {
  return {
    samples: wave.length,
    async *pieces(report) {
      for (let from = 0; from < wave.length; from += PIECE_SAMPLES) {
        yield { sampleRate: wave.sampleRate, channels: wave.read(from, from + PIECE_SAMPLES) };
        report(Math.min(1, (from + PIECE_SAMPLES) / wave.length));
      }
    },
    notes: () => wave.notes ?? [],
  };
}

function sourceOfKind(kind: Exclude<RecordingKind, 'wav' | 'aac'>, bytes: Uint8Array): SoundSource | Refusal {
  if (kind === 'mp3') return mp3Source(bytes);
  const facts = kind === 'flac' ? maybeFactsOfFlac(bytes) : maybeFactsOfOgg(bytes);
  const unfit = facts && maybeUnfit(facts.sampleRate, facts.channels, facts.samples);
  if (unfit) return unfit;
  if (kind === 'opus') return oggSource(() => new OggOpusDecoder() as Decoder, bytes, facts?.samples);
  if (kind === 'vorbis') return oggSource(() => new OggVorbisDecoder(), bytes, facts?.samples);
  const samples = facts?.samples;
  return { samples, pieces: (report) => piecesOf(() => new FLACDecoder(), bytes, report), notes: endOf(samples) };
}

/** A recording ready to be run through; or, in a sentence, why it cannot be, told by its first bytes where they say it. */
export function openSound(bytes: Uint8Array): SoundSource | Refusal {
  const kind = maybeKindOfRecording(bytes);
  if (kind === 'wav') {
    const wave = openWave(bytes);
    if ('refusal' in wave) return wave;
    return maybeUnfit(wave.sampleRate, wave.channels, wave.length) ?? waveSource(wave);
  }
  if (kind && kind !== 'aac') return sourceOfKind(kind, bytes);
  const name = maybeNameOfFile(bytes);
  const what = name ? `This is ${name}, which cannot be read here.` : 'This is not a recording that can be read.';
  return { refusal: `${what} It may be WAV, FLAC, MP3, Ogg Vorbis or Opus: save it as one of those and drop it again.` };
}
