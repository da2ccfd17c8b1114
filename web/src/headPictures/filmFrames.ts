/** The pictures of a film, taken in the browser at the scene's own rate. */
import type { ChosenFile } from '../api/imports.js';
import { PICTURES_LIMITS } from '@zest-jaw/core';

const heard = (video: HTMLVideoElement, event: 'loadeddata' | 'seeked'): Promise<void> =>
  new Promise((resolve, reject) => {
    video.addEventListener(event, () => resolve(), { once: true });
    video.addEventListener(
      'error',
      () => reject(new Error('This film cannot be shown by the browser. Bring it as WebM, or as numbered pictures.')),
      {
        once: true,
      },
    );
  });

export const isFilm = ({ file }: ChosenFile): boolean => file.type.startsWith('video/');

/**
 * A film as numbered PNG files. Throws an error whose message is a sentence.
 *
 * @param rate pictures a second
 */
export async function framesOfFilm({ file }: ChosenFile, rate: number, report: (done: number) => void): Promise<ChosenFile[]> {
  const url = URL.createObjectURL(file);
  try {
    const video = document.createElement('video');
    video.muted = true;
    video.preload = 'auto';
    video.src = url;
    await heard(video, 'loadeddata');
    // One made by a recorder does not say how long it is before its end was looked for.
    if (!Number.isFinite(video.duration)) {
      video.currentTime = Number.MAX_SAFE_INTEGER;
      await heard(video, 'seeked');
    }
    const seconds = Number.isFinite(video.duration) ? video.duration : video.currentTime;
    const count = Math.max(1, Math.round(seconds * rate));
    if (count > PICTURES_LIMITS.most)
      throw new Error(`${file.name} has ${count} pictures at this scene’s rate. ${PICTURES_LIMITS.most} can be brought: cut it shorter.`);
    const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight);
    const context = canvas.getContext('2d')!;
    const frames: ChosenFile[] = [];
    for (let index = 0; index < count; index++) {
      // The middle of a frame's time: its edges belong to either.
      video.currentTime = Math.min(seconds, (index + 0.5) / rate);
      await heard(video, 'seeked');
      context.drawImage(video, 0, 0);
      const name = `${file.name.replace(/\.[^.]*$/, '')}.${String(index + 1).padStart(4, '0')}.png`;
      frames.push({ file: new File([await canvas.convertToBlob()], name, { type: 'image/png' }), path: name });
      report((index + 1) / count);
    }
    return frames;
  } finally {
    URL.revokeObjectURL(url);
  }
}
