/** Work too long for the page's own thread that is of no scene. */
import {
  ditherTo16Bit,
  factsOfClip,
  findPauses,
  fitChart,
  maybeFillAt,
  mixChannels,
  SAMPLE_RATE,
  swapPlansOf,
  waveBlocks,
  wavePyramid,
  writeWave,
  type Box,
  type ChartDocument,
  type Mark,
  type Point,
  type SceneDocument,
} from '@zest-jaw/core';
import { newId } from '../session/newId.js';
import { answering } from './asking.js';

export type HeavyQuestion =
  | {
      readonly kind: 'swaps';
      readonly scene: SceneDocument;
      readonly trackId: string;
      readonly charts: ReadonlyMap<string, ChartDocument>;
    }
  | { readonly kind: 'fit'; readonly chart: ChartDocument; readonly fixed: ReadonlyMap<string, string> }
  | { readonly kind: 'fill'; readonly marks: readonly Mark[]; readonly at: Point; readonly box: Box; readonly colour: string }
  | { readonly kind: 'file'; readonly channels: readonly Float32Array[] }
  | { readonly kind: 'wave'; readonly samples: Float32Array; readonly samplesPerBlock: number };

answering<HeavyQuestion>((question) => {
  if (question.kind === 'wave') {
    const facts = factsOfClip({ samples: ditherTo16Bit(question.samples) });
    const pyramid = wavePyramid(waveBlocks(question.samples, question.samplesPerBlock));
    return { pyramid, facts, pauses: findPauses(question.samples, SAMPLE_RATE) };
  }
  if (question.kind === 'swaps') return swapPlansOf(question.scene, question.trackId, question.charts);
  if (question.kind === 'fit') return fitChart(question.chart, question.fixed);
  if (question.kind === 'file') {
    const { samples, notes } = mixChannels(question.channels);
    return { wave: writeWave(ditherTo16Bit(samples), SAMPLE_RATE), notes };
  }
  return maybeFillAt(question.marks, question.at, question.box, question.colour, newId());
});
