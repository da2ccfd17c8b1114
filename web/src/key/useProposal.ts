/** Other rules tried on a track: its pencil planned with them in a worker, shown before it is taken. */
import {
  applyPatch,
  isRefusal,
  mergePatches,
  SCENE_KIND,
  sceneSettings,
  setRules,
  type HeardFrames,
  type KeyingRules,
  type Patch,
  type SceneDocument,
} from '@zest-jaw/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { maybeHeard, sheetExposures, type SheetData } from '../barSheet/sheetData.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';
import { keyInWorker } from '../workers/heavy.js';

interface Planned {
  readonly rules: KeyingRules;
  /** The scene it was planned for, and the one it would become. */
  readonly before: SceneDocument;
  readonly after: SceneDocument;
  readonly patch: Patch;
}

export interface Proposal {
  /** The rules at hand: those tried, else the track's own. */
  readonly rules: KeyingRules;
  readonly isTrying: boolean;
  /** The sheet as it would be; as it is when nothing is tried. */
  readonly data: SheetData;
  /** Mouths that would change. */
  readonly changes: number;
  readonly propose: (rules: KeyingRules) => void;
  readonly take: () => void;
  readonly leave: () => void;
}

/** What is heard of the speaker of the track. */
export function useHeard(): HeardFrames | undefined {
  const { data, document, track } = useOpenScene();
  const { lengthFrames } = sceneSettings(document);
  return useMemo(() => maybeHeard(data.waves, track.characterId, lengthFrames), [data.waves, track.characterId, lengthFrames]);
}

export function useProposal(heard: HeardFrames | undefined): Proposal {
  const { session, document, track, charts, data } = useOpenScene();
  const [wanted, setWanted] = useState<KeyingRules>();
  const [planned, setPlanned] = useState<Planned>();
  const latest = useRef(0);

  useEffect(() => {
    const ask = ++latest.current;
    if (!wanted) return;
    const ruled = setRules(document, track.id, wanted, newId);
    if (isRefusal(ruled)) {
      toast.message(ruled.refusal);
      return;
    }
    const ruledScene = applyPatch(SCENE_KIND, document, ruled);
    void keyInWorker(ruledScene, track.id, charts, { heard }).then((keyed) => {
      // A later wish has gone out meanwhile: this answer is stale.
      if (ask !== latest.current) return;
      if (isRefusal(keyed)) toast.message(keyed.refusal);
      else
        setPlanned({
          rules: wanted,
          before: document,
          after: applyPatch(SCENE_KIND, ruledScene, keyed.patch),
          patch: ruled.ops.length > 0 ? mergePatches(ruled, keyed.patch) : keyed.patch,
        });
    });
  }, [wanted, document, track.id, charts, heard]);

  const leave = useCallback(() => {
    setWanted(undefined);
    setPlanned(undefined);
  }, []);
  const isCurrent = planned !== undefined && wanted !== undefined && planned.before === document;
  const exposures = useMemo(() => {
    if (!planned || !isCurrent) return data.exposures;
    const now = new Set(data.exposures.map(({ from, to, drawing }) => `${from} ${to} ${drawing}`));
    return sheetExposures(planned.after, track.id, charts).map((exposure) =>
      now.has(`${exposure.from} ${exposure.to} ${exposure.drawing}`) ? exposure : { ...exposure, isProposed: true },
    );
  }, [planned, isCurrent, data.exposures, track.id, charts]);
  const shown = useMemo(() => (exposures === data.exposures ? data : { ...data, exposures }), [data, exposures]);
  const take = useCallback(() => {
    if (planned && planned.before === session.store.getState().document && session.change(planned.patch)) {
      toast.success('Taken. The ink stayed.');
      leave();
    }
  }, [planned, session, leave]);
  return {
    rules: wanted ?? track.rules,
    isTrying: wanted !== undefined,
    data: shown,
    changes: exposures.filter((exposure) => exposure.isProposed).length,
    propose: setWanted,
    take,
    leave,
  };
}
