/** What the pointer takes hold of among the mouths: edges between them, dragged, and the lanes of others. */
import { exposuresOfTrack, isRefusal, startExposure } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Holds } from '../barSheet/useSheetPointer.js';
import { lanesBelow, type Hit } from '../barSheet/plan.js';
import type { OtherLane } from '../barSheet/sheetData.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { onGrid } from '../looking/looking.js';
import { useGrid } from './useGrid.js';
import { newId } from '../session/newId.js';

/** A press this near to an edge takes hold of it, in pixels. */
const NEAR = 5;

/**
 * The one that starts at a dragged edge is ink from then on.
 *
 * @param isOpen nothing is taken hold of while other mouths are only tried
 */
export function useEdgeHolds(isOpen: boolean): Holds | undefined {
  const { session } = useOpenScene();
  const { track } = useSpeaker();
  const { data } = useSheet();
  const { exposures } = data;
  const grid = useGrid();
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
            const to = onGrid(position, grid);
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
  }, [isOpen, exposures, session, track.id, grid]);
}

/** The lanes of the others who speak: a press shows that one, where it was pressed. */
export function useOtherLanes(): Holds {
  const { playhead, showTrack } = useOpenScene();
  const { data } = useSheet();
  const { others } = data;
  return useMemo(() => {
    const laneAt = ({ row, within }: Hit): OtherLane | undefined =>
      row === 'others' ? lanesBelow(others).findLast(({ y }) => y <= within)?.lane : undefined;
    return {
      cursor: (hit) => (laneAt(hit) ? 'pointer' : undefined),
      takeHold: (hit) => {
        const lane = laneAt(hit);
        if (!lane) return undefined;
        return {
          move: () => undefined,
          end: () => {
            playhead.moveTo(hit.frame);
            showTrack(lane.track);
          },
          cancel: () => undefined,
        };
      },
    };
  }, [others, playhead, showTrack]);
}
