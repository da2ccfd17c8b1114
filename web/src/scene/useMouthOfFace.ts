/** The mouth of the face whose lane is worked on, and the head that it is on at the playhead. */
import { chartStretchAt, maybeHead, mouthLaneOf, type ChartDocument, type ChartHead, type Track } from '@zest-jaw/core';
import { useStore } from 'zustand';
import type { DocumentSession } from '../session/session.js';
import { useOpenScene, useSceneDocument, useSpeaker } from './sceneContext.js';

export interface MouthOfFace {
  readonly mouth: Track;
  readonly head: ChartHead | undefined;
  /** The chart of the head; '' where there is none. */
  readonly chartId: string;
  /** That chart, open for changes. */
  readonly chartSession: DocumentSession<ChartDocument> | undefined;
}

export function useMouthOfFace(): MouthOfFace {
  const { playhead, chartSessions } = useOpenScene();
  const { track, allCharts } = useSpeaker();
  const document = useSceneDocument();
  const mouth = mouthLaneOf(document, track);
  const chartId = useStore(playhead.store, ({ frame }) => chartStretchAt(document, mouth.id, frame)?.chartId ?? '');
  const chart = allCharts.get(chartId);
  return { mouth, head: chart && maybeHead(chart), chartId, chartSession: chartSessions.get(chartId) };
}
