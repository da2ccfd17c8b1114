/** Takes a film apart, a picture at a time, by the browser's own decoder, in a thread of its own. */
import { BlobSource, CanvasSink, Input, MATROSKA, MP4, QTFF, WEBM } from 'mediabunny';
import { answering } from './asking.js';

export type FilmFramesQuestion =
  /** Answered with how many pictures it has at so many a second. */
  | { readonly kind: 'open'; readonly file: File; readonly rate: number }
  /** Answered with the next of them as a PNG. */
  | { readonly kind: 'next' };

const NOT_SHOWN = 'This film cannot be shown by the browser. Bring it as WebM, or as numbered pictures.';

let pictures: AsyncIterator<HTMLCanvasElement | OffscreenCanvas>;

/** What is seen at each time, in seconds; before the first picture, that. */
async function* picturesAt(sink: CanvasSink, begin: number, times: Iterable<number>): AsyncGenerator<HTMLCanvasElement | OffscreenCanvas> {
  for await (const shown of sink.canvasesAtTimestamps(Array.from(times, (time) => Math.max(begin, time)))) {
    if (!shown) throw new Error(NOT_SHOWN);
    yield shown.canvas;
  }
}

async function open(file: File, rate: number): Promise<number> {
  const input = new Input({ source: new BlobSource(file), formats: [WEBM, MATROSKA, MP4, QTFF] });
  const track = (await input.canRead()) ? await input.getPrimaryVideoTrack() : null;
  if (!track || !(await track.canDecode())) throw new Error(NOT_SHOWN);
  // Its pictures are gone through where the file does not say how long it is, as one made by a recorder.
  const seconds = await track.computeDuration();
  const count = Math.max(1, Math.round(seconds * rate));
  // The middle of a frame's time: its edges belong to either.
  const times = Array.from({ length: count }, (_, index) => Math.min(seconds, (index + 0.5) / rate));
  pictures = picturesAt(new CanvasSink(track, { alpha: true }), await track.getFirstTimestamp(), times);
  return count;
}

answering<FilmFramesQuestion>(async (question) => {
  if (question.kind === 'open') return open(question.file, question.rate);
  const { value } = await pictures.next();
  return (value as OffscreenCanvas).convertToBlob();
});
