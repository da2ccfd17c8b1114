/** Changes after which the pencil is keyed again, in one step of undo. The keying is done in the worker. */
import { listensToLoudness, type ChartDocument, type HeardOf, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import type { DocumentSession } from '../session/session.js';
import { keyer, type Charts } from '../workers/keyer.js';
import { useHearing, useOpenScene, useSpeaker } from './sceneContext.js';

type Session = DocumentSession<SceneDocument>;

const documentOf = (session: Session): SceneDocument => session.store.getState().document;

/** What the pencil of every track of a scene would be keyed to; undefined when a newer scene was asked about meanwhile. */
function askForPencil(scene: SceneDocument, charts: Charts, heardOf: HeardOf): Promise<Patch | undefined> {
  const heard = new Map(
    scene.tracks.flatMap((track) => {
      // What cannot change the pencil is not measured.
      const frames = listensToLoudness(scene, track, charts) ? heardOf(scene, track.characterId) : undefined;
      return frames ? [[track.characterId, frames] as const] : [];
    }),
  );
  return keyer.pencil(scene, charts, heard);
}

/** Keys the pencil as a part of the session's last step, on whatever the scene has become until then. */
async function keyAfter(session: Session, charts: Charts, heardOf: HeardOf): Promise<void> {
  const step = session.lastStep();
  for (;;) {
    const asked = documentOf(session);
    const patch = await askForPencil(asked, charts, heardOf);
    // Whoever asked after this one keys it all.
    if (!patch) return;
    if (documentOf(session) !== asked) continue;
    session.follow(step, patch);
    return;
  }
}

type Make = (scene: SceneDocument) => Patch | Refusal;

/** Keys the pencil of every track again, after what was done last. */
export function useKeyAfter(): () => void {
  const { session } = useOpenScene();
  const { allCharts } = useSpeaker();
  const { heardOf } = useHearing();
  return useCallback(
    () => session.expect(keyAfter(session, allCharts, heardOf).catch((error: unknown) => void toast.error(sentenceOf(error)))),
    [session, allCharts, heardOf],
  );
}

/** Answers whether the change was made; its pencil follows in the same step. */
export function useChangeAndKey(): (make: Make) => boolean {
  const { session } = useOpenScene();
  const key = useKeyAfter();
  return useCallback(
    (make) => {
      const before = documentOf(session);
      const isMade = session.change(make(before));
      if (isMade && documentOf(session) !== before) key();
      return isMade;
    },
    [session, key],
  );
}

/** The chart a character begins with, for one that has not spoken yet; undefined when it has none. */
export function useChartOf(): (characterId: string) => { chartId: string; chart: ChartDocument } | undefined {
  const { characters } = useOpenScene();
  const { allCharts } = useSpeaker();
  return (characterId) => {
    const chartId = characters.find((character) => character.id === characterId)?.chartId ?? '';
    const chart = allCharts.get(chartId);
    return chart && { chartId, chart };
  };
}
