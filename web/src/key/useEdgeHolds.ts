/** The edge between two mouths, dragged: the one that starts at it is ink from then on. */
import { exposuresOfTrack, isRefusal, startExposure } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Holds } from '../barSheet/BarSheet.js';
import type { Hit } from '../barSheet/plan.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';

/** A press this near to an edge takes hold of it, in pixels. */
const NEAR = 5;

/** @param isOpen nothing is taken hold of while other mouths are only tried */
export function useEdgeHolds(isOpen: boolean): Holds | undefined {
  const { session, track, data } = useOpenScene();
  const { exposures } = data;
  return useMemo(() => {
    if (!isOpen) return undefined;
    const edgeAt = ({ row, position, perFrame }: Hit): number | undefined => {
      if (row !== 'mouth') return undefined;
      const edge = Math.round(position);
      if (edge === 0 || Math.abs(position - edge) * perFrame > NEAR) return undefined;
      return exposures.some(({ from }) => from === edge) ? edge : undefined;
    };
    return {
      cursor: (hit) => (edgeAt(hit) === undefined ? undefined : 'ew-resize'),
      takeHold: (hit) => {
        const edge = edgeAt(hit);
        if (edge === undefined) return undefined;
        const mark = session.mark();
        const held = exposures.find(({ from }) => from === edge)!.id;
        let moved = false;
        return {
          move: ({ position }) => {
            const scene = session.store.getState().document;
            const from = exposuresOfTrack(scene, track.id).find(({ id }) => id === held)?.from;
            const to = Math.round(position);
            if (from === undefined || from === to) return;
            const patch = startExposure(scene, { track: track.id, from, to }, newId);
            if (!isRefusal(patch) && patch.ops.length === 0) return;
            if (session.change(patch)) moved = true;
          },
          end: () => session.squash(mark),
          cancel: () => {
            session.squash(mark);
            if (moved) session.undo();
          },
        };
      },
    };
  }, [isOpen, exposures, session, track.id]);
}

/** What can be taken hold of, of two kinds: the first that answers. */
export function useEither(first: Holds | undefined, second: Holds | undefined): Holds | undefined {
  return useMemo(() => {
    if (!first || !second) return first ?? second;
    return {
      cursor: (hit) => first.cursor(hit) ?? second.cursor(hit),
      takeHold: (hit) => first.takeHold(hit) ?? second.takeHold(hit),
    };
  }, [first, second]);
}
