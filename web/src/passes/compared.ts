/** What an open scene is held against: a pass, a moment of its history, the crib, or what came from a file. */
import type { SceneDocument } from '@zest-jaw/core';
import { createStore } from 'zustand/vanilla';

export interface Compared {
  readonly sceneId: string;
  /** What it is, as a person would say it. */
  readonly title: string;
  /** A pass by its id; null for what is none. */
  readonly passId: string | null;
  /** `crib` is planned anew as the scene changes. */
  readonly document: SceneDocument | 'crib';
}

/** Of this page: it is looked at from step to step. */
export const compared = createStore<{ readonly other: Compared | null }>(() => ({ other: null }));

/** Another person’s scene on the charts of this one: a bundle has names of its own for them. */
export function onOwnCharts(own: SceneDocument, other: SceneDocument): SceneDocument {
  const byId = new Map(own.tracks.map((track) => [track.id, track]));
  return {
    ...other,
    tracks: other.tracks.map((track) => {
      const here = byId.get(track.id);
      return here ? { ...track, chartId: here.chartId, characterId: here.characterId } : track;
    }),
    views: own.views,
  };
}
