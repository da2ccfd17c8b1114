/** The page's side of the worker that makes slow sound. */
import type { OpenSlow } from '../sound/player.js';
import type { SoundRequest } from './sound.worker.js';

let worker: Worker | undefined;
let count = 0;
const waiting = new Map<number, (answer: Float32Array<ArrayBuffer>) => void>();

function tell(request: SoundRequest): void {
  if (!worker) {
    worker = new Worker(new URL('./sound.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; answer: Float32Array<ArrayBuffer> }>) => {
      waiting.get(data.id)?.(data.answer);
      waiting.delete(data.id);
    };
  }
  worker.postMessage(request);
}

export const openSlowSound: OpenSlow = (factor) => {
  const stream = ++count;
  return {
    push: (samples, isLast) => {
      const id = ++count;
      tell({ kind: 'push', stream, id, factor, samples, isLast });
      return new Promise((resolve) => waiting.set(id, resolve));
    },
    close: () => tell({ kind: 'close', stream }),
  };
};
