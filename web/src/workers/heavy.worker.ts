/** Work too long for the page's own thread that is of charts and lanes. */
import {
  fitChart,
  maybeFillAt,
  swapPlansOf,
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
  | { readonly kind: 'fill'; readonly marks: readonly Mark[]; readonly at: Point; readonly box: Box; readonly colour: string };

answering<HeavyQuestion>((question) => {
  if (question.kind === 'swaps') return swapPlansOf(question.scene, question.trackId, question.charts);
  if (question.kind === 'fit') return fitChart(question.chart, question.fixed);
  return maybeFillAt(question.marks, question.at, question.box, question.colour, newId());
});
