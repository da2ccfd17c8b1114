/** Changes after which the pencil is keyed again, in one step of undo. The keying is done in the worker. */
import {
  applyPatch,
  isRefusal,
  listensToLoudness,
  mergePatches,
  SCENE_KIND,
  type ChartDocument,
  type HeardOf,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import type { DocumentSession } from '../session/documentSession.js';
import { keyer, type Charts } from '../workers/keyer.js';
import { useOpenScene } from './sceneContext.js';

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

/** Keys the pencil after a drag, as a part of its step, on whatever the scene has become until then. */
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

/** Changes wait for one another: each is made of what the one before has made. */
const waiting = new WeakMap<Session, Promise<void>>();

/** Makes a change and the pencil that follows from it, as one patch. */
async function changeAndKey(session: Session, make: Make, charts: Charts, heardOf: HeardOf): Promise<void> {
  for (;;) {
    const before = documentOf(session);
    const change = make(before);
    if (isRefusal(change) || change.ops.length === 0) {
      session.change(change);
      return;
    }
    const pencil = await askForPencil(applyPatch(SCENE_KIND, before, change), charts, heardOf);
    if (!pencil || documentOf(session) !== before) continue;
    session.change(mergePatches(change, pencil));
    return;
  }
}

type Make = (scene: SceneDocument) => Patch | Refusal;

/** Keys the pencil of every track again, after what was done last. */
export function useKeyAfter(): () => void {
  const { session, allCharts, heardOf } = useOpenScene();
  return useCallback(
    () => void keyAfter(session, allCharts, heardOf).catch((error: unknown) => toast.error(sentenceOf(error))),
    [session, allCharts, heardOf],
  );
}

/** Answers whether the change can be made; it is, with its pencil, a moment later. */
export function useChangeAndKey(): (make: Make) => boolean {
  const { session, allCharts, heardOf } = useOpenScene();
  return useCallback(
    (make) => {
      const first = make(documentOf(session));
      if (isRefusal(first)) return session.change(first);
      const next = (waiting.get(session) ?? Promise.resolve())
        .then(() => changeAndKey(session, make, allCharts, heardOf))
        .catch((error: unknown) => void toast.error(sentenceOf(error)));
      waiting.set(session, next);
      return true;
    },
    [session, allCharts, heardOf],
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
