/** Encodes a film: a picture a frame and the sound of the scene, by the browser's own encoders, in a thread of its own. */
import { SAMPLE_RATE, sampleAtFrame, sceneSettings, sceneSound, truthOfWave, type ChartDocument, type SceneDocument } from '@zest-jaw/core';
import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  canEncodeAudio,
  canEncodeVideo,
  CanvasSource,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny';

import { painterOf, type Painter } from './filmPaint.js';
import { movingPicture, type HeldFrame } from './movingPicture.js';

export type FilmKind = 'webm' | 'mp4' | 'gif' | 'apng';

export interface FilmOptions {
  readonly kind: FilmKind;
  readonly width: number;
  readonly height: number;
  readonly withHead: boolean;
  readonly ground: string;
  /** The line below the character, as the bar sheet has it. */
  readonly withLine: boolean;
  /** Frames of the scene, half-open. */
  readonly from: number;
  readonly to: number;
  /** Burnt in. */
  readonly frameNumbers: boolean;
  readonly timecode: boolean;
  readonly words: boolean;
  readonly drawings: boolean;
}

/** A state of the scene, and which of the pictures each of its frames shows. */
export interface FilmPart {
  /** What it is called in the picture; empty for nothing. */
  readonly title: string;
  readonly scene: SceneDocument;
  readonly shown: Int32Array;
}

export interface FilmTask extends FilmOptions {
  readonly trackId: string;
  /** The charts of the track, by id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  /** The distinct pictures of all parts. */
  readonly pictures: readonly ImageBitmap[];
  /** The scene as it is, whose sound is heard; and another state of it, for somebody to choose. */
  readonly parts: readonly [FilmPart, ...FilmPart[]];
  /** How two are shown. */
  readonly arranged: 'side' | 'after';
  /** Wave files by hash. */
  readonly recordings: ReadonlyMap<string, ArrayBuffer>;
}

export type FilmAnswer =
  | { readonly kind: 'progress'; readonly done: number }
  | { readonly kind: 'done'; readonly film: Uint8Array<ArrayBuffer>; readonly mediaType: string }
  | { readonly kind: 'fault'; readonly sentence: string };

/** Sound is given to the encoder a second at a time. */
const PIECE = SAMPLE_RATE;
/** Bits a second for each pixel of a frame, at 24 a second: flat colours compress well. */
const BITS_A_PIXEL = 2.4;
const SOUND_BITS = 128_000;

const CODECS = { webm: { video: ['vp9', 'vp8'], audio: ['opus'] }, mp4: { video: ['avc'], audio: ['aac', 'opus'] } } as const;

/** All that is heard, mixed to the sample. */
function soundOf({ parts: [{ scene }], recordings }: FilmTask): Float32Array<ArrayBuffer> {
  const sounds = new Map<string, Int16Array>();
  for (const [hash, bytes] of recordings) {
    const truth = truthOfWave(new Uint8Array(bytes));
    if (!('refusal' in truth)) sounds.set(hash, truth.samples);
  }
  return sceneSound(scene, (hash) => sounds.get(hash));
}

/** The first codec of some that this browser encodes. */
async function firstOf<T>(codecs: readonly T[], can: (codec: T) => Promise<boolean>): Promise<T | undefined> {
  for (const codec of codecs) if (await can(codec)) return codec;
  return undefined;
}

/** The frames of the film in turn: which part each shows, and which of its frames. Side by side all parts are in each. */
function stepsOf({ from, to, parts, arranged }: FilmTask): { part: number; frame: number }[] {
  const runs = arranged === 'after' ? parts.length : 1;
  return Array.from({ length: runs * (to - from) }, (_, index) => ({
    part: Math.floor(index / (to - from)),
    frame: from + (index % (to - from)),
  }));
}

/** Pictures that move without a sound. */
function encodePictures(
  kind: 'gif' | 'apng',
  task: FilmTask,
  painter: Painter,
  report: (done: number) => void,
): { film: Uint8Array<ArrayBuffer>; mediaType: string } {
  const { width, height } = task;
  const steps = stepsOf(task);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  const held: HeldFrame[] = [];
  for (const [index, { part, frame }] of steps.entries()) {
    painter.paint(context, frame, part);
    const { data } = context.getImageData(0, 0, width, height);
    const last = held.at(-1);
    if (last && isSame(last.pixels, data)) held[held.length - 1] = { ...last, frames: last.frames + 1 };
    else held.push({ pixels: data, frames: 1 });
    if (index % 12 === 0) report((0.3 * index) / steps.length);
  }
  const rate = sceneSettings(task.parts[0].scene).frameRate;
  const film = movingPicture(kind, held, { width, height, rate }, (done) => report(0.3 + 0.7 * done));
  if (typeof film === 'string') throw new Error(film);
  return { film, mediaType: kind === 'gif' ? 'image/gif' : 'image/apng' };
}

function isSame(a: Uint8ClampedArray, b: Uint8ClampedArray): boolean {
  const [one, other] = [new Uint32Array(a.buffer), new Uint32Array(b.buffer)];
  for (let at = 0; at < one.length; at++) if (one[at] !== other[at]) return false;
  return true;
}

async function encode(task: FilmTask, report: (done: number) => void): Promise<{ film: Uint8Array<ArrayBuffer>; mediaType: string }> {
  const { kind, width, height, from, to } = task;
  const [{ scene }] = task.parts;
  const steps = stepsOf(task);
  const sound = soundOf(task);
  const painter = painterOf(task, sound);
  if (kind === 'gif' || kind === 'apng') return encodePictures(kind, task, painter, report);
  const { frameRate: rate } = sceneSettings(scene);
  const bitrate = Math.round(width * height * BITS_A_PIXEL);
  const video = await firstOf(CODECS[kind].video, (codec) => canEncodeVideo(codec, { width, height, bitrate }));
  const audio = await firstOf(CODECS[kind].audio, (codec) =>
    canEncodeAudio(codec, { numberOfChannels: 1, sampleRate: SAMPLE_RATE, bitrate: SOUND_BITS }),
  );
  if (!video || !audio)
    throw new Error(
      `This browser cannot encode ${kind === 'webm' ? 'WebM' : 'MP4'}. Choose ${kind === 'webm' ? 'MP4' : 'WebM'}, or use one that has its encoder; pictures and sound can be saved in any.`,
    );
  const target = new BufferTarget();
  const output = new Output({ format: kind === 'webm' ? new WebMOutputFormat() : new Mp4OutputFormat(), target });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false })!;
  const frames = new CanvasSource(canvas, { codec: video, bitrate, keyFrameInterval: 2 });
  const sounds = new AudioSampleSource({ codec: audio, bitrate: SOUND_BITS });
  output.addVideoTrack(frames, { frameRate: rate.num / rate.den });
  output.addAudioTrack(sounds);
  await output.start();
  const duration = rate.den / rate.num;
  // Shown one after the other, each has the sound from its beginning.
  const own = sound.subarray(sampleAtFrame(rate, from), Math.min(sound.length, sampleAtFrame(rate, to)));
  const run = sampleAtFrame(rate, to) - sampleAtFrame(rate, from);
  const runs = steps.length / (to - from);
  let heard = 0;
  for (const [index, { part, frame }] of steps.entries()) {
    const at = (index * rate.den) / rate.num;
    // Sound and pictures go in side by side, so that neither waits in memory for the other.
    for (; heard < run * runs && heard / SAMPLE_RATE <= at;) {
      const within = heard % run;
      const length = Math.min(PIECE, run - within);
      // Where the scene goes on longer than its sound there is silence.
      const data = new Float32Array(length);
      data.set(own.subarray(within, within + length));
      const sample = new AudioSample({ data, format: 'f32', numberOfChannels: 1, sampleRate: SAMPLE_RATE, timestamp: heard / SAMPLE_RATE });
      await sounds.add(sample);
      sample.close();
      heard += length;
    }
    painter.paint(context, frame, part);
    await frames.add(at, duration);
    if (index % 12 === 0) report(index / steps.length);
  }
  await output.finalize();
  return { film: new Uint8Array(target.buffer!), mediaType: kind === 'webm' ? 'video/webm' : 'video/mp4' };
}

self.onmessage = ({ data }: MessageEvent<FilmTask>) => {
  const tell = (answer: FilmAnswer, transfer: Transferable[] = []): void => self.postMessage(answer, { transfer });
  encode(data, (done) => tell({ kind: 'progress', done })).then(
    ({ film, mediaType }) => tell({ kind: 'done', film, mediaType }, [film.buffer]),
    (error: unknown) => tell({ kind: 'fault', sentence: error instanceof Error ? error.message : String(error) }),
  );
};
