/** Recordings of any usual kind to the one decoded truth, piece by piece. */
import {
  CLIPPED_BEYOND_USE,
  factsOfClip,
  maybeKindOfRecording,
  maybeUnfit,
  measureChannels,
  openTruth,
  SILENT_DB,
  type ChannelMeasure,
  type Refusal,
  type Truth,
  type TruthMaker,
} from '@zest-jaw/core';
import { openSound, type SoundPiece, type SoundSource } from './soundSource.js';

const NAMES = { wav: 'WAV', mp3: 'MP3', vorbis: 'Ogg Vorbis', opus: 'Opus', flac: 'FLAC', aac: 'AAC' } as const;

/** Told how far the decoding is, 0 to 1, and what is being done. */
export type DecodeReport = (done: number, doing: string) => void;

/** Share of the time that decoding takes; measuring takes the rest. */
const DECODED = 0.93;

const NOTHING: Refusal = { refusal: 'There is no sound in this recording, or it is damaged. Save it again and drop it here.' };

/** One channel is brought to the truth as it comes; several are measured first, and run through again. */
class Taker {
  truth: TruthMaker | undefined;
  measure: ChannelMeasure | undefined;
  refusal: Refusal | undefined;
  sampleRate = 0;
  samples = 0;
  private channels = 0;

  /** @param meant samples of a channel by what the file says of itself */
  constructor(private readonly meant: number | undefined) {}

  /** Whether more is wanted. */
  take(piece: SoundPiece): boolean {
    if (this.sampleRate === 0) this.begin(piece);
    if (this.refusal) return false;
    // A stream that changes its channels on the way is taken as it began.
    const channels = Array.from({ length: this.channels }, (_, index) => piece.channels[index] ?? piece.channels[0]!);
    this.samples += channels[0]!.length;
    this.truth?.push(channels);
    this.measure?.push(channels);
    this.refusal = maybeUnfit(this.sampleRate, this.channels, this.samples);
    return !this.refusal;
  }

  private begin({ sampleRate, channels }: SoundPiece): void {
    [this.sampleRate, this.channels] = [sampleRate, channels.length];
    this.refusal = maybeUnfit(sampleRate, channels.length, undefined);
    if (this.refusal) return;
    this.measure = measureChannels(channels.length);
    if (channels.length === 1) this.truth = openTruth(sampleRate, this.measure.plan(), this.meant);
  }

  /** Begins again, with what is known now. */
  again(): void {
    this.truth = openTruth(this.sampleRate, this.measure!.plan(), this.samples);
    this.measure = undefined;
    this.samples = 0;
  }
}

/** Told as often as a bar can show it, not at every piece. */
const STEPS_TOLD = 200;

async function run(source: SoundSource, taker: Taker, report: (done: number) => void): Promise<void> {
  let told = -1;
  const tell = (done: number): void => {
    const step = Math.floor(done * STEPS_TOLD);
    if (step > told) report(done);
    told = step;
  };
  for await (const piece of source.pieces(tell)) if (!taker.take(piece)) return;
}

async function truthOf(source: SoundSource, report: DecodeReport): Promise<Truth | Refusal> {
  const taker = new Taker(source.samples);
  // Until it is known whether it is run through again, half of the way is told.
  await run(source, taker, (done) => report((DECODED * done) / 2, 'Decoding the recording'));
  if (taker.refusal) return taker.refusal;
  if (taker.sampleRate === 0) return NOTHING;
  if (!taker.truth) {
    taker.again();
    await run(source, taker, (done) => report((DECODED * (1 + done)) / 2, 'Bringing it to 48 kHz'));
  }
  const truth = taker.truth!.end();
  if ('refusal' in truth) return truth;
  const notes = [...source.notes(taker.samples, taker.sampleRate), ...(truth.notes ?? [])];
  return { samples: truth.samples, ...(notes.length > 0 && { notes }) };
}

/** Decodes a recording to the truth, or says in a sentence why it cannot be used. */
export async function decodeRecording(bytes: Uint8Array, report: DecodeReport = () => undefined): Promise<Truth | Refusal> {
  report(0, 'Decoding the recording');
  const source = openSound(bytes);
  if ('refusal' in source) return source;
  let truth: Truth | Refusal;
  try {
    truth = await truthOf(source, report);
  } catch {
    const name = NAMES[maybeKindOfRecording(bytes) ?? 'wav'];
    return { refusal: `This ${name} file is damaged and cannot be read. Save the recording again and drop it here.` };
  }
  if ('refusal' in truth) return truth;
  report(DECODED, 'Measuring it');
  const { peakDb, clipped } = factsOfClip(truth);
  if (peakDb < SILENT_DB)
    return { refusal: 'This recording is silent. Check that the microphone was on, and that this is the file you meant.' };
  if (clipped > CLIPPED_BEYOND_USE)
    return {
      refusal: `${Math.round(clipped * 100)} % of this recording is cut off at the top: no word in it can be trusted. Record it again at a lower level.`,
    };
  return truth;
}
