/**
 * Recordings of any usual kind to the one decoded truth. Each decoder takes away the delay its
 * encoder put in front (the LAME tag of an MP3, the pre-skip of Opus), so that a line does
 * not come a frame late.
 */
import {
  brokenOff,
  CLIPPED_BEYOND_USE,
  factsOfClip,
  maybeKindOfRecording,
  maybeNameOfFile,
  readWave,
  SILENT_DB,
  truthOfSound,
  type Refusal,
  type Sound,
  type Truth,
} from '@zest-jaw/core';
import { endsWhole, factsOfMp3, samplesOfFlac } from './fileFacts.js';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { OggOpusDecoder } from 'ogg-opus-decoder';

interface Decoded {
  readonly channelData: readonly Float32Array[];
  readonly sampleRate: number;
  readonly samplesDecoded: number;
}

interface Decoder {
  readonly ready: Promise<void>;
  free(): void;
}

async function decodedBy<D extends Decoder>(decoder: D, decode: (decoder: D) => Decoded | Promise<Decoded>): Promise<Sound> {
  await decoder.ready;
  try {
    const { channelData, sampleRate, samplesDecoded } = await decode(decoder);
    // A copy: what the decoder answers with may lie in its own memory.
    return { sampleRate, channels: channelData.map((channel) => channel.slice(0, samplesDecoded)) };
  } finally {
    decoder.free();
  }
}

/**
 * Samples that an MP3 begins with before its sound where nothing says how many: the decoder's 529
 * and the 576 of the encoder most used (its technical FAQ, from memory). At its own rate.
 */
const USUAL_DELAY = 529 + 576;

/** The sound of an MP3 in its place, and a word where the file breaks off. */
function placedMp3(sound: Sound, bytes: Uint8Array): Sound {
  const { knowsDelay, samples } = factsOfMp3(bytes);
  const channels = knowsDelay ? sound.channels : sound.channels.map((channel) => channel.subarray(Math.min(USUAL_DELAY, channel.length)));
  return withEnd({ ...sound, channels }, samples);
}

/** A file may end a frame or two early and be whole. */
const SPARE_SAMPLES = 4 * 1152;

/** A word where a file has less than it is meant to. */
function withEnd(sound: Sound, meant: number | undefined): Sound {
  const length = sound.channels[0]?.length ?? 0;
  if (meant === undefined || length >= meant - SPARE_SAMPLES) return sound;
  return { ...sound, notes: [brokenOff(length / sound.sampleRate, meant / sound.sampleRate)] };
}

/** The same for Ogg, which does not say how long it is but ends with a page that says so. */
function withLastPage(sound: Sound, bytes: Uint8Array): Sound {
  return endsWhole(bytes) ? sound : { ...sound, notes: [brokenOff((sound.channels[0]?.length ?? 0) / sound.sampleRate)] };
}

const NAMES = { mp3: 'MP3', vorbis: 'Ogg Vorbis', opus: 'Opus', flac: 'FLAC' } as const;

/** Told how far the decoding is, 0 to 1, and what is being done. */
export type DecodeReport = (done: number, doing: string) => void;

/** Shares of the time that decoding and resampling take; measuring takes the rest. */
const [DECODED, RESAMPLED] = [0.25, 0.93];

/** Bytes of an MP3 decoded between two reports. */
const MP3_PIECE = 1 << 19;

/** An MP3 piece by piece, so that its progress can be told; the pieces are what one call would give. */
function decodeMp3(decoder: MPEGDecoder, bytes: Uint8Array, report: DecodeReport): Decoded {
  const pieces: Decoded[] = [];
  for (let from = 0; from < bytes.length; from += MP3_PIECE) {
    const { channelData, sampleRate, samplesDecoded } = decoder.decode(bytes.subarray(from, from + MP3_PIECE));
    pieces.push({ channelData: channelData.map((channel) => channel.slice(0, samplesDecoded)), sampleRate, samplesDecoded });
    report((DECODED * Math.min(bytes.length, from + MP3_PIECE)) / bytes.length, 'Decoding the recording');
  }
  const full = pieces.filter((piece) => piece.samplesDecoded > 0);
  const samplesDecoded = full.reduce((sum, piece) => sum + piece.samplesDecoded, 0);
  const channels = Math.max(0, ...full.map((piece) => piece.channelData.length));
  const channelData = Array.from({ length: channels }, (_, channel) => {
    const whole = new Float32Array(samplesDecoded);
    let at = 0;
    for (const piece of full) {
      whole.set(piece.channelData[channel] ?? piece.channelData[0]!, at);
      at += piece.samplesDecoded;
    }
    return whole;
  });
  return { channelData, sampleRate: full[0]?.sampleRate ?? 0, samplesDecoded };
}

async function soundOf(bytes: Uint8Array, report: DecodeReport): Promise<Sound | Refusal> {
  const kind = maybeKindOfRecording(bytes);
  if (kind === 'wav') return readWave(bytes);
  if (!kind || kind === 'aac') {
    const name = maybeNameOfFile(bytes);
    const what = name ? `This is ${name}, which cannot be read here.` : 'This is not a recording that can be read.';
    return { refusal: `${what} It may be WAV, FLAC, MP3, Ogg Vorbis or Opus: save it as one of those and drop it again.` };
  }
  try {
    if (kind === 'mp3')
      return placedMp3(await decodedBy(new MPEGDecoder({ enableGapless: true }), (decoder) => decodeMp3(decoder, bytes, report)), bytes);
    if (kind === 'opus') return withLastPage(await decodedBy(new OggOpusDecoder(), (decoder) => decoder.decodeFile(bytes)), bytes);
    if (kind === 'vorbis') return withLastPage(await decodedBy(new OggVorbisDecoder(), (decoder) => decoder.decodeFile(bytes)), bytes);
    return withEnd(await decodedBy(new FLACDecoder(), (decoder) => decoder.decodeFile(bytes)), samplesOfFlac(bytes));
  } catch {
    return { refusal: `This ${NAMES[kind]} file is damaged and cannot be read. Save the recording again and drop it here.` };
  }
}

/** Decodes a recording to the truth, or says in a sentence why it cannot be used. */
export async function decodeRecording(bytes: Uint8Array, report: DecodeReport = () => undefined): Promise<Truth | Refusal> {
  report(0, 'Decoding the recording');
  const sound = await soundOf(bytes, report);
  if ('refusal' in sound) return sound;
  if (sound.channels.length === 0 || sound.channels[0]!.length === 0)
    return { refusal: 'There is no sound in this recording, or it is damaged. Save it again and drop it here.' };
  const truth = truthOfSound(sound, (done) => report(DECODED + (RESAMPLED - DECODED) * done, 'Bringing it to 48 kHz'));
  if ('refusal' in truth) return truth;
  report(RESAMPLED, 'Measuring it');
  const { peakDb, clipped } = factsOfClip(truth);
  if (peakDb < SILENT_DB)
    return { refusal: 'This recording is silent. Check that the microphone was on, and that this is the file you meant.' };
  if (clipped > CLIPPED_BEYOND_USE)
    return {
      refusal: `${Math.round(clipped * 100)} % of this recording is cut off at the top: no word in it can be trusted. Record it again at a lower level.`,
    };
  return truth;
}
