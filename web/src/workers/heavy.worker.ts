/** Work too long for the page's own thread: keying a track, measuring a wave. */
import {
  ditherTo16Bit,
  factsOfClip,
  explainExposure,
  keyPencil,
  keySounds,
  maybeFillAt,
  mixChannels,
  writeWave,
  findPauses,
  SAMPLE_RATE,
  waveBlocks,
  wavePyramid,
  type Box,
  type ChartDocument,
  type KeyingJob,
  type KeyingScope,
  type Mark,
  type Point,
  type SceneDocument,
} from '@zest-jaw/core';

export type HeavyRequest =
  | {
      readonly id: number;
      readonly kind: 'key';
      readonly scene: SceneDocument;
      readonly trackId: string;
      readonly charts: ReadonlyMap<string, ChartDocument>;
      readonly scope: KeyingScope;
    }
  | {
      readonly id: number;
      readonly kind: 'explain';
      readonly job: KeyingJob;
      readonly exposure: { readonly from: number; readonly inked: boolean };
    }
  | {
      readonly id: number;
      readonly kind: 'fill';
      readonly marks: readonly Mark[];
      readonly at: Point;
      readonly box: Box;
      readonly colour: string;
    }
  | { readonly id: number; readonly kind: 'sounds'; readonly job: KeyingJob }
  | { readonly id: number; readonly kind: 'file'; readonly channels: readonly Float32Array[] }
  | { readonly id: number; readonly kind: 'wave'; readonly samples: Float32Array; readonly samplesPerBlock: number };

function answer(request: HeavyRequest): unknown {
  if (request.kind === 'wave') {
    const facts = factsOfClip({ samples: ditherTo16Bit(request.samples) });
    const pyramid = wavePyramid(waveBlocks(request.samples, request.samplesPerBlock));
    return { pyramid, facts, pauses: findPauses(request.samples, SAMPLE_RATE) };
  }
  if (request.kind === 'file') {
    const { samples, notes } = mixChannels(request.channels);
    return { wave: writeWave(ditherTo16Bit(samples), SAMPLE_RATE), notes };
  }
  if (request.kind === 'fill') return maybeFillAt(request.marks, request.at, request.box, request.colour, crypto.randomUUID());
  if (request.kind === 'sounds') return keySounds(request.job);
  if (request.kind === 'explain') return explainExposure(request.job, request.exposure);
  return keyPencil(request.scene, request.trackId, request.charts, () => crypto.randomUUID(), request.scope);
}

self.onmessage = ({ data }: MessageEvent<HeavyRequest>) => {
  self.postMessage({ id: data.id, answer: answer(data) });
};
