/**
 * Cameras of a stage: those of this computer, and a practice one that ships with the application and shows the puppet
 * with the mouth that is really on, for where there is none.
 */
import { createAsker } from '../workers/asking.js';
import type { PracticeQuestion, PracticeTake } from '../workers/practiceCamera.worker.js';

export interface CameraChoice {
  readonly id: string;
  readonly name: string;
}

export const NO_CAMERA: CameraChoice = { id: '', name: 'none' };
export const PRACTICE_CAMERA: CameraChoice = { id: 'practice', name: 'Practice camera' };

export interface Camera {
  /** What it sees, live; put into the page by whoever opened it. */
  readonly view: HTMLVideoElement | HTMLCanvasElement;
  /** Takes what it sees at the call. Rejects with a sentence. */
  take(): Promise<Blob>;
  /** Of the practice camera alone: the puppet is to wear a mouth. */
  wear?(mouth: string): void;
  /** Pictures that were taken before are still given. */
  close(): void;
}

/** Pixels of the practice camera. */
export const PRACTICE_SIZE = { width: 640, height: 360 } as const;
const QUALITY = 0.92;

/** The cameras to choose from. Real ones have names only once one may be looked through. */
export async function cameraChoices(): Promise<CameraChoice[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? [];
  const real = devices.filter(({ kind, deviceId }) => kind === 'videoinput' && deviceId !== '');
  return [
    NO_CAMERA,
    ...real.map(({ deviceId, label }, index) => ({ id: deviceId, name: label || `Camera ${index + 1}` })),
    PRACTICE_CAMERA,
  ];
}

/** A camera of this computer. Throws an error with a sentence when it may not be looked through. */
export async function openRealCamera(id: string): Promise<Camera> {
  const stream = await navigator.mediaDevices
    .getUserMedia({ video: { deviceId: { exact: id }, width: { ideal: 1920 }, height: { ideal: 1080 } } })
    .catch(() => {
      throw new Error(
        'This camera cannot be looked through. Allow it in the browser, see that nothing else holds it, or choose the practice camera.',
      );
    });
  const view = document.createElement('video');
  view.muted = true;
  view.srcObject = stream;
  await view.play();
  return {
    view,
    take: async () => {
      // What is seen now is kept now, before the mouth is changed.
      const canvas = new OffscreenCanvas(view.videoWidth, view.videoHeight);
      canvas.getContext('2d', { alpha: false })!.drawImage(view, 0, 0);
      return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
    },
    close: () => {
      for (const track of stream.getTracks()) track.stop();
      view.srcObject = null;
    },
  };
}

/**
 * The practice camera before a puppet.
 *
 * @param faces the puppet with each mouth of its tray, in order
 * @param seed what befalls it: the same for the same
 */
export async function openPracticeCamera(faces: readonly (readonly [mouth: string, face: ImageBitmap])[], seed: number): Promise<Camera> {
  const view = document.createElement('canvas');
  Object.assign(view, PRACTICE_SIZE);
  const live = view.transferControlToOffscreen();
  const asker = createAsker<PracticeQuestion>(
    () => new Worker(new URL('../workers/practiceCamera.worker.ts', import.meta.url), { type: 'module' }),
  );
  await asker.ask({ kind: 'open', live, faces, seed }, [live, ...faces.map(([, face]) => face)]);
  return {
    view,
    take: async () => (await asker.ask<PracticeTake>({ kind: 'take' })).jpeg,
    wear: (mouth) => void asker.ask({ kind: 'wear', mouth }),
    close: () => asker.end(),
  };
}
