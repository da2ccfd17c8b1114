/** Changes after which the pencil is keyed again, in one step of undo. The keying is done in the worker, and follows a moment later. */
import { listensToLoudness, type ChartDocument, type HeardOf, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import type { DocumentSession } from '../session/documentSession.js';
import { keyer, type Charts } from '../workers/keyer.js';
import { useOpenScene } from './sceneContext.js';

/** Keys the pencil of every track as a part of the session's last step, on whatever the scene has become until then. */
async function keyAfter(session: DocumentSession<SceneDocument>, charts: Charts, heardOf: HeardOf): Promise<void> {
  const step = session.lastStep();
  const now = (): SceneDocument => session.store.getState().document;
  for (;;) {
    const asked = now();
    const heard = new Map(
      asked.tracks.flatMap((track) => {
        // What cannot change the pencil is not measured.
        const frames = listensToLoudness(asked, track, charts) ? heardOf(asked, track.characterId) : undefined;
        return frames ? [[track.characterId, frames] as const] : [];
      }),
    );
    const patch = await keyer.pencil(asked, charts, heard);
    // Whoever asked after this one keys it all.
    if (!patch) return;
    if (now() !== asked) continue;
    session.follow(step, patch);
    return;
  }
}

/** Keys the pencil of every track again, after what was done last. */
export function useKeyAfter(): () => void {
  const { session, allCharts, heardOf } = useOpenScene();
  return useCallback(
    () => void keyAfter(session, allCharts, heardOf).catch((error: unknown) => toast.error(sentenceOf(error))),
    [session, allCharts, heardOf],
  );
}

/** Answers whether the change was made. */
export function useChangeAndKey(): (make: (scene: SceneDocument) => Patch | Refusal) => boolean {
  const { session } = useOpenScene();
  const key = useKeyAfter();
  return useCallback(
    (make) => {
      const before = session.store.getState().document;
      const made = session.change(make(before));
      if (made && session.store.getState().document !== before) key();
      return made;
    },
    [session, key],
  );
}

/** The chart a character begins with, for one that has not spoken yet; undefined when it has none. */
export function useSpeaker(): (characterId: string) => { chartId: string; chart: ChartDocument } | undefined {
  const { characters, allCharts } = useOpenScene();
  return (characterId) => {
    const chartId = characters.find((character) => character.id === characterId)?.chartId ?? '';
    const chart = allCharts.get(chartId);
    return chart && { chartId, chart };
  };
}
