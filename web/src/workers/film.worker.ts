/** Encodes a film: a picture a frame and the sound of the scene, by the browser's own encoders, in a thread of its own. */
import {
  formatTimecode,
  frameNumber,
  looksOfFrames,
  maybeDrawing,
  placedWords,
  SAMPLE_RATE,
  sampleAtFrame,
  sceneSettings,
  sceneSound,
  truthOfWave,
  type ChartDocument,
  type SceneDocument,
} from '@zest-jaw/core';
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

export type FilmKind = 'webm' | 'mp4';

export interface FilmOptions {
  readonly kind: FilmKind;
  readonly width: number;
  readonly height: number;
  readonly withHead: boolean;
  readonly ground: string;
  /** Burnt in. */
  readonly frameNumbers: boolean;
  readonly timecode: boolean;
  readonly words: boolean;
  readonly drawings: boolean;
}

export interface FilmTask extends FilmOptions {
  readonly scene: SceneDocument;
  readonly trackId: string;
  /** The charts of the track, by id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  /** The distinct pictures, and which of them each frame shows. */
  readonly pictures: readonly ImageBitmap[];
  readonly shown: Int32Array;
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

/** The words said in each frame, the frame's number and time, and the drawing's number: what is asked for of them. */
function linesOf({ scene, trackId, charts, frameNumbers, timecode, words, drawings }: FilmTask): string[] {
  if (!frameNumbers && !timecode && !words && !drawings) return [];
  const { frameRate } = sceneSettings(scene);
  const said = placedWords(scene);
  let next = 0;
  return looksOfFrames(scene, trackId, charts).map((look, frame) => {
    const start = sampleAtFrame(frameRate, frame);
    while (next < said.length && said[next]!.to <= start) next += 1;
    const word = said[next] && said[next]!.from < sampleAtFrame(frameRate, frame + 1) ? said[next]!.text : '';
    const drawing = look && maybeDrawing(charts.get(look.chartId)!, look.drawing);
    return [
      frameNumbers && String(frameNumber(scene, frame)),
      timecode && formatTimecode(frameRate, frame),
      drawings && drawing && `${drawing.number} ${drawing.label}`,
      words && word,
    ]
      .filter(Boolean)
      .join('   ');
  });
}

/** All that is heard, mixed to the sample. */
function soundOf({ scene, recordings }: FilmTask): Float32Array<ArrayBuffer> {
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

function paint(
  context: OffscreenCanvasRenderingContext2D,
  { ground, pictures, shown, width, height }: FilmTask,
  frame: number,
  line: string | undefined,
): void {
  context.fillStyle = ground;
  context.fillRect(0, 0, width, height);
  const picture = pictures[shown[frame]!];
  if (picture) context.drawImage(picture, 0, 0, width, height);
  if (!line) return;
  const size = Math.max(12, Math.round(height / 30));
  context.font = `600 ${size}px sans-serif`;
  context.textBaseline = 'middle';
  context.fillStyle = 'rgb(20 24 38 / 0.82)';
  context.fillRect(0, height - size * 1.9, width, size * 1.9);
  context.fillStyle = '#fff';
  context.fillText(line, size * 0.8, height - size * 0.92, width - size * 1.6);
}

async function encode(task: FilmTask, report: (done: number) => void): Promise<{ film: Uint8Array<ArrayBuffer>; mediaType: string }> {
  const { kind, width, height, shown, scene } = task;
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
  const lines = linesOf(task);
  const sound = soundOf(task);
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
  let heard = 0;
  for (let frame = 0; frame < shown.length; frame++) {
    const at = (frame * rate.den) / rate.num;
    // Sound and pictures go in side by side, so that neither waits in memory for the other.
    for (; heard < sound.length && heard / SAMPLE_RATE <= at; heard += PIECE) {
      const data = sound.slice(heard, heard + PIECE);
      const sample = new AudioSample({ data, format: 'f32', numberOfChannels: 1, sampleRate: SAMPLE_RATE, timestamp: heard / SAMPLE_RATE });
      await sounds.add(sample);
      sample.close();
    }
    paint(context, task, frame, lines[frame]);
    await frames.add(at, duration);
    if (frame % 12 === 0) report(frame / shown.length);
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
