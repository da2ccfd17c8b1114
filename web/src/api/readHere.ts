/**
 * Recordings that the server cannot read and this browser perhaps can: AAC, and the sound of a
 * film. They are read once, here, and sent as WAV; what is sent is the truth from then on.
 */
import { maybeFilmKind, SAMPLE_RATE } from '@zest-jaw/core';
import { waveFileInWorker } from '../workers/recordings.js';

export interface ReadHere {
  readonly file: File;
  readonly notes: readonly string[];
}

/** The most that is read here, in bytes: all of it lies in memory while it is. */
const MOST_BYTES = 200 * 1_048_576;

/**
 * The recording as a wave file; undefined for a file that the server is to look at itself.
 * Throws an error whose message is a sentence.
 */
export async function maybeReadHere(file: File): Promise<ReadHere | undefined> {
  const kind = maybeFilmKind(new Uint8Array(await file.slice(0, 64).arrayBuffer()));
  if (!kind) return undefined;
  if (file.size > MOST_BYTES)
    throw new Error(
      `“${file.name}” is ${kind.name} of ${Math.ceil(file.size / 1_048_576)} MB. It may be ${MOST_BYTES / 1_048_576} MB: save its sound alone and drop that.`,
    );
  let buffer: AudioBuffer;
  try {
    buffer = await new OfflineAudioContext(1, 1, SAMPLE_RATE).decodeAudioData(await file.arrayBuffer());
  } catch {
    throw new Error(
      `“${file.name}” is ${kind.name}, and this browser cannot read its sound. Save the sound as WAV, FLAC, MP3, Ogg Vorbis or Opus and drop that.`,
    );
  }
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, channel) => buffer.getChannelData(channel));
  const { wave, notes } = await waveFileInWorker(channels);
  return {
    file: new File([wave], file.name, { type: 'audio/wav' }),
    notes: [`“${file.name}” is ${kind.name}: this browser read its sound, and that is what is kept.`, ...notes],
  };
}
