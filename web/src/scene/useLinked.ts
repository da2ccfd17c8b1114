/** Lanes that go with others are keyed again when those change: in the worker, as a part of the step that changed them. */
import { exposuresOfTrack, hasLinks, type Exposure, type SceneDocument } from '@zest-jaw/core';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { keyer } from '../workers/keyer.js';
import { useOpenScene, useSpeaker } from './sceneContext.js';

/** What the lanes that go with others look at: every exposure of the lanes that lead. */
function leadingOf(scene: SceneDocument): readonly Exposure[] {
  const leads = scene.tracks.filter((lane) =>
    scene.tracks.some(
      ({ characterId, links = [] }) =>
        characterId === lane.characterId && links.some(({ of }) => of?.toLowerCase() === lane.part?.toLowerCase()),
    ),
  );
  return leads.flatMap(({ id }) => exposuresOfTrack(scene, id));
}

const areSame = (one: readonly Exposure[], other: readonly Exposure[]): boolean =>
  one.length === other.length && one.every((exposure, index) => exposure === other[index]);

export function useLinked(): void {
  const { session } = useOpenScene();
  const { allCharts } = useSpeaker();
  useEffect(() => {
    let [before, seen] = [session.store.getState().document, undefined as readonly Exposure[] | undefined];
    const keyAfter = async (): Promise<void> => {
      const step = session.lastStep();
      for (;;) {
        const asked = session.store.getState().document;
        const patch = await keyer.linked(asked, allCharts);
        if (!patch) return;
        if (session.store.getState().document !== asked) continue;
        if (patch.ops.length > 0) session.follow(step, patch);
        return;
      }
    };
    return session.store.subscribe(({ document }) => {
      if (document === before) return;
      const was = before;
      before = document;
      if (!hasLinks(document) || document.exposures === was.exposures) return;
      const leading = leadingOf(document);
      const isSame = areSame(seen ?? leadingOf(was), leading);
      seen = leading;
      if (!isSame) session.expect(keyAfter().catch((error: unknown) => void toast.error(sentenceOf(error))));
    });
  }, [session, allCharts]);
}
