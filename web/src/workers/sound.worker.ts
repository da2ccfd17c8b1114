/** Slow sound, made beside the page's own thread and beside other heavy work, so that it is there when it is to be heard. */
import { openStretcher, type Stretcher } from '@zest-jaw/core';

export type SoundRequest =
  | {
      readonly kind: 'push';
      readonly stream: number;
      readonly id: number;
      readonly factor: number;
      readonly samples: Float32Array;
      readonly isLast: boolean;
    }
  | { readonly kind: 'close'; readonly stream: number };

const streams = new Map<number, Stretcher>();

self.onmessage = ({ data }: MessageEvent<SoundRequest>) => {
  if (data.kind === 'close') {
    streams.delete(data.stream);
    return;
  }
  const stretcher = streams.get(data.stream) ?? openStretcher(data.factor);
  streams.set(data.stream, stretcher);
  const first = stretcher.push(data.samples);
  let answer = first;
  if (data.isLast) {
    const rest = stretcher.end();
    answer = new Float32Array(first.length + rest.length);
    answer.set(first);
    answer.set(rest, first.length);
    streams.delete(data.stream);
  }
  self.postMessage({ id: data.id, answer }, { transfer: [answer.buffer] });
};
