/** Work too long for the page's own thread: keying a track, measuring a wave. */
import { keyPencil, waveBlocks, type ChartDocument, type SceneDocument } from '@zest-jaw/core';

export type HeavyRequest =
  | { readonly id: number; readonly kind: 'key'; readonly scene: SceneDocument; readonly trackId: string; readonly chart: ChartDocument }
  | { readonly id: number; readonly kind: 'wave'; readonly samples: Float32Array; readonly samplesPerBlock: number };

function answer(request: HeavyRequest): unknown {
  if (request.kind === 'wave') return waveBlocks(request.samples, request.samplesPerBlock);
  return keyPencil(request.scene, request.trackId, request.chart, () => crypto.randomUUID());
}

self.onmessage = ({ data }: MessageEvent<HeavyRequest>) => {
  self.postMessage({ id: data.id, answer: answer(data) });
};
