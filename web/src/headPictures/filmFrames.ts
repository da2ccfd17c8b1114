/** The pictures of a film, taken in the browser at the scene's own rate. */
import { PICTURES_LIMITS } from '@zest-jaw/core';
import type { ChosenFile } from '../api/imports.js';
import { createAsker } from '../workers/asking.js';
import type { FilmFramesQuestion } from '../workers/filmFrames.worker.js';

export const isFilm = ({ file }: ChosenFile): boolean => file.type.startsWith('video/');

/**
 * A film as numbered PNG files. Throws an error whose message is a sentence.
 *
 * @param rate pictures a second
 */
export async function framesOfFilm(
  { file }: ChosenFile,
  rate: number,
  report: (done: number) => void,
  signal: AbortSignal,
): Promise<ChosenFile[]> {
  const worker = new Worker(new URL('../workers/filmFrames.worker.ts', import.meta.url), { type: 'module' });
  try {
    const { ask } = createAsker<FilmFramesQuestion>(() => worker);
    const count = await ask<number>({ kind: 'open', file, rate });
    if (count > PICTURES_LIMITS.most)
      throw new Error(`${file.name} has ${count} pictures at this scene’s rate. ${PICTURES_LIMITS.most} can be brought: cut it shorter.`);
    const frames: ChosenFile[] = [];
    while (frames.length < count) {
      signal.throwIfAborted();
      const picture = await ask<Blob>({ kind: 'next' });
      const name = `${file.name.replace(/\.[^.]*$/, '')}.${String(frames.length + 1).padStart(4, '0')}.png`;
      frames.push({ file: new File([picture], name, { type: 'image/png' }), path: name });
      report(frames.length / count);
    }
    return frames;
  } finally {
    worker.terminate();
  }
}
