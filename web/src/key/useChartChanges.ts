/** Notices when the chart or the sound map of a track has changed since its Key step was last open. */
import type { ChartDocument } from '@zest-jaw/core';
import { useEffect, useRef } from 'react';
import { useOpenScene } from '../scene/sceneContext.js';

/** What of its charts the plan of each track was last made from, for as long as the page is open. */
const seen = new Map<string, string>();

/** What of charts a plan depends on: which drawing plays what, and which sounds look alike. */
function mapOf(charts: ReadonlyMap<string, ChartDocument>): string {
  return JSON.stringify(
    [...charts].map(([id, { groups, drawings }]) => [
      id,
      groups.map((group) => [group.id, group.phonemes, group.must]),
      drawings.map((drawing) => [drawing.id, drawing.groups]),
    ]),
  );
}

/** @param onChange called once, when the step opens on charts that play other sounds than before */
export function useChartChanges(onChange: () => void): void {
  const { sceneId, track, charts } = useOpenScene();
  const tell = useRef(onChange);
  useEffect(() => {
    tell.current = onChange;
  });
  useEffect(() => {
    const key = `${sceneId} ${track.id}`;
    const now = mapOf(charts);
    const before = seen.get(key);
    seen.set(key, now);
    if (before !== undefined && before !== now) tell.current();
  }, [sceneId, track.id, charts]);
}
