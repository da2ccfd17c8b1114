/** Work too long for the page's own thread that is of charts and lanes: an area filled, a map proposed, a lane with fewer swaps. */
import type { Box, ChartDocument, FillMark, FitProposal, Mark, Point, SceneDocument, SwapPlan } from '@zest-jaw/core';
import { createAsker } from './asking.js';
import type { HeavyQuestion } from './heavy.worker.js';

const heavy = createAsker<HeavyQuestion>(() => new Worker(new URL('./heavy.worker.ts', import.meta.url), { type: 'module' }));

export const fillInWorker = (marks: readonly Mark[], at: Point, box: Box, colour: string): Promise<FillMark | undefined> =>
  heavy.ask({ kind: 'fill', marks, at, box, colour });

/** A map proposed for a chart; what a hand has chosen is fixed. */
export const fitInWorker = (chart: ChartDocument, fixed: ReadonlyMap<string, string>): Promise<FitProposal> =>
  heavy.ask({ kind: 'fit', chart, fixed });

/** A lane with fewer and fewer swaps. */
export const swapsInWorker = (
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
): Promise<readonly SwapPlan[]> => heavy.ask({ kind: 'swaps', scene, trackId, charts });
