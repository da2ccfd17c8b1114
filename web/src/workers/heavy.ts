/** Work too long for the page's own thread that is of no scene: a wave measured, an area filled, a file written. */
import type {
  Box,
  ChartDocument,
  ClipFacts,
  FillMark,
  FitProposal,
  Mark,
  Pause,
  Point,
  SceneDocument,
  SwapPlan,
  WavePyramid,
} from '@zest-jaw/core';
import { createAsker } from './asking.js';
import type { HeavyQuestion } from './heavy.worker.js';

const heavy = createAsker<HeavyQuestion>(() => new Worker(new URL('./heavy.worker.ts', import.meta.url), { type: 'module' }));

/** What a wave looks like, and what is in it. */
export interface MeasuredWave {
  readonly pyramid: WavePyramid;
  readonly facts: ClipFacts;
  readonly pauses: readonly Pause[];
}

export const waveInWorker = (samples: Float32Array<ArrayBuffer>, samplesPerBlock: number): Promise<MeasuredWave> =>
  heavy.ask({ kind: 'wave', samples, samplesPerBlock }, [samples.buffer]);

export const fillInWorker = (marks: readonly Mark[], at: Point, box: Box, colour: string): Promise<FillMark | undefined> =>
  heavy.ask({ kind: 'fill', marks, at, box, colour });

/** Channels at 48 000 Hz as one wave file, with what is to be known of how they were mixed. */
export const waveFileInWorker = (channels: readonly Float32Array[]): Promise<{ wave: Uint8Array<ArrayBuffer>; notes: readonly string[] }> =>
  heavy.ask({ kind: 'file', channels });

/** A map proposed for a chart; what a hand has chosen is fixed. */
export const fitInWorker = (chart: ChartDocument, fixed: ReadonlyMap<string, string>): Promise<FitProposal> =>
  heavy.ask({ kind: 'fit', chart, fixed });

/** A lane with fewer and fewer swaps. */
export const swapsInWorker = (
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
): Promise<readonly SwapPlan[]> => heavy.ask({ kind: 'swaps', scene, trackId, charts });
