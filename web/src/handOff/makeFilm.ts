/** A film of the scene: what each frame shows is drawn once, the sound mixed to the sample, and both given to the encoder. */
import { facesOfFrames, keyOfLook, looksOfFrames, mouthLaneOf, pictureSvg, type ChartDocument, type SceneDocument } from '@zest-jaw/core';
import { bytesOf, drawn, picturesOfCharts } from '../mouth/drawnPicture.js';
import type { FilmAnswer, FilmOptions, FilmPart, FilmTask } from '../workers/film.worker.js';

/** Another state of the scene beside it, for somebody to choose. */
export interface FilmBeside {
  readonly title: string;
  readonly ownTitle: string;
  readonly scene: SceneDocument;
  readonly arranged: FilmTask['arranged'];
}

/**
 * @param onProgress 0 to 1
 * @throws a sentence where the browser cannot encode, or what is needed could not be loaded
 */
export async function makeFilm(
  scene: SceneDocument,
  laneId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  options: FilmOptions,
  onProgress: (done: number) => void,
  signal: AbortSignal,
  beside?: FilmBeside,
): Promise<Blob> {
  const own = scene.tracks.find(({ id }) => id === laneId);
  // A head has all of its parts on it, whichever is worked on.
  const trackId = options.withHead && own ? mouthLaneOf(scene, own).id : laneId;
  const first = charts.get(scene.tracks.find(({ id }) => id === trackId)?.chartId ?? '') ?? [...charts.values()][0];
  const uris = await picturesOfCharts(charts.values());
  const pictures: ImageBitmap[] = [];
  const known = new Map<string, number>();
  const partOf = async (title: string, of: SceneDocument): Promise<FilmPart> => {
    const looks = options.withHead ? facesOfFrames(of, trackId, charts) : looksOfFrames(of, trackId, charts);
    const shown = new Int32Array(looks.length);
    for (const [frame, look] of looks.entries()) {
      const key = keyOfLook(look);
      let index = known.get(key);
      if (index === undefined) {
        signal.throwIfAborted();
        known.set(key, (index = pictures.length));
        pictures.push(
          await drawn(pictureSvg(look ? charts.get(look.chartId)! : first!, look, { ...options, charts }, (hash) => uris.get(hash) ?? '')),
        );
      }
      shown[frame] = index;
    }
    return { title, scene: of, shown };
  };
  const ownPart = await partOf(beside?.ownTitle ?? '', scene);
  const parts: FilmTask['parts'] = beside ? [ownPart, await partOf(beside.title, beside.scene)] : [ownPart];
  const recordings = new Map<string, ArrayBuffer>();
  for (const { audio } of scene.clips) if (!recordings.has(audio)) recordings.set(audio, await (await bytesOf(audio)).arrayBuffer());
  signal.throwIfAborted();
  const task: FilmTask = { ...options, trackId, charts, pictures, parts, arranged: beside?.arranged ?? 'side', recordings };
  const worker = new Worker(new URL('../workers/film.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await new Promise<Blob>((resolve, reject) => {
      signal.addEventListener('abort', () => reject(signal.reason as Error), { once: true });
      worker.onerror = (event) => reject(new Error(`The encoder broke down: ${event.message}. Try a smaller size.`));
      worker.onmessage = ({ data }: MessageEvent<FilmAnswer>) => {
        if (data.kind === 'progress') onProgress(data.done);
        else if (data.kind === 'done') resolve(new Blob([data.film], { type: data.mediaType }));
        else reject(new Error(data.sentence));
      };
      worker.postMessage(task, [...pictures, ...recordings.values()]);
    });
  } finally {
    // What was encoded so far goes with it.
    worker.terminate();
  }
}
