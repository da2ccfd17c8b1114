/** Keying the pencil again, in the worker; what could not be shown is told. */
import { isRefusal, type HeardFrames } from '@zest-jaw/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { keepBefore, savedRevision } from '../passes/usePasses.js';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';

export interface KeyAgain {
  readonly isKeying: boolean;
  /** Keys a part of the track, or all of it. */
  readonly keyAgain: (part?: { readonly from?: number; readonly to?: number }) => Promise<void>;
  /** Why closures could not be shown, while the list of them is open. */
  readonly notShown: readonly string[] | undefined;
  readonly putAway: () => void;
}

export function useKeyAgain(heard: HeardFrames | undefined): KeyAgain {
  const { session, sceneId } = useOpenScene();
  const { track, charts } = useSpeaker();
  const [isKeying, setKeying] = useState(false);
  const [notShown, setNotShown] = useState<readonly string[]>();
  const keyAgain = async (scope: { readonly from?: number; readonly to?: number } = {}): Promise<void> => {
    setKeying(true);
    try {
      const isWhole = scope.from === undefined && scope.to === undefined;
      const revision = isWhole ? await savedRevision(session) : undefined;
      const before = session.store.getState().document;
      const keyed = await keyer.key({ scene: before, trackId: track.id, charts, heard }, scope);
      if (isRefusal(keyed)) {
        session.change(keyed);
        return;
      }
      // Something was put by hand while the worker planned: its plan no longer fits, so it plans again.
      if (session.store.getState().document !== before) return await keyAgain(scope);
      const changed = keyed.patch.ops.length;
      if (changed > 0) keepBefore(sceneId, revision, 'everything was keyed again');
      session.change(keyed.patch);
      const missing = keyed.notShown.map((entry) => entry.reason);
      const [first] = missing;
      if (missing.length === 1) toast.warning(`1 closure could not be shown. ${first!}`);
      else if (missing.length > 1)
        toast.warning(`${missing.length} closures could not be shown.`, {
          action: { label: 'Which, and why', onClick: () => setNotShown(missing) },
        });
      else toast.success(changed === 0 ? 'The pencil is already as the rules have it.' : 'The pencil is keyed again; the ink stayed.');
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setKeying(false);
    }
  };
  return { isKeying, keyAgain, notShown, putAway: () => setNotShown(undefined) };
}
