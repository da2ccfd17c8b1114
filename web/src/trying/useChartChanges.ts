/** Knows when the charts of a track play other sounds than when its pencil was last planned on them. */
import type { ChartDocument } from '@zest-jaw/core';
import { useCallback, useEffect, useMemo } from 'react';
import { createStore, useStore } from 'zustand';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';

/** What of its charts each track was last seen with, for as long as the page is open. */
const seen = createStore<Readonly<Record<string, string>>>(() => ({}));

/** What of charts a plan depends on: which drawing plays what, and which sounds look alike. */
function mapOf(charts: ReadonlyMap<string, ChartDocument>): string {
  return JSON.stringify(
    [...charts].map(([id, { groups, drawings }]) => [
      id,
      groups.map((group) => [group.id, group.phonemes, group.must]),
      // What no sound plays, such as a one-off, is in no plan.
      drawings.filter((drawing) => drawing.groups.length > 0).map((drawing) => [drawing.id, drawing.groups]),
    ]),
  );
}

export interface ChartChanges {
  readonly changed: boolean;
  /** Says that what would change has been decided on. */
  readonly settle: () => void;
}

export function useChartChanges(): ChartChanges {
  const { sceneId } = useOpenScene();
  const { track, charts } = useSpeaker();
  const key = `${sceneId} ${track.id}`;
  const now = useMemo(() => mapOf(charts), [charts]);
  const before = useStore(seen, (maps) => maps[key]);
  const settle = useCallback(() => seen.setState({ [key]: now }), [key, now]);
  useEffect(() => {
    if (before === undefined) settle();
  }, [before, settle]);
  return { changed: before !== undefined && before !== now, settle };
}
