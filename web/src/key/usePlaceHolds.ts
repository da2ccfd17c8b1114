/** Keys of places are dragged by their lozenges at the top of the lane, apart from what is exposed there. */
import { movePlacesAt } from '@zest-jaw/core';
import { useMemo } from 'react';
import { PLACE_REACH, type Hit } from '../barSheet/plan.js';
import type { Holds } from '../barSheet/useSheetPointer.js';
import { dragFrom } from '../scene/dragFrom.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';

const TABLES = ['places'] as const;

/** @param isOpen nothing is taken hold of while other mouths are only tried */
export function usePlaceHolds(isOpen: boolean): Holds | undefined {
  const { session, playhead } = useOpenScene();
  const { track } = useSpeaker();
  const { places } = useSheet().data;
  return useMemo(() => {
    if (!isOpen || places.length === 0) return undefined;
    const keyAt = ({ row, within, position, perFrame }: Hit): number | undefined =>
      row === 'mouth' && within <= PLACE_REACH
        ? places.find((frame) => Math.abs(position - (frame + 0.5)) * perFrame <= PLACE_REACH)
        : undefined;
    return {
      cursor: (hit) => (keyAt(hit) === undefined ? undefined : 'ew-resize'),
      takeHold: (hit, { ctrl, alt }) => {
        const frame = ctrl || alt ? undefined : keyAt(hit);
        if (frame === undefined) return undefined;
        // What is moved is seen where it comes to be.
        playhead.moveTo(frame);
        return dragFrom(session, {
          tables: TABLES,
          make: (base, { frame: to }) => (to === frame ? undefined : movePlacesAt(base, { track: track.id, frame, by: to - frame }, newId)),
          onMade: ({ frame: to }) => playhead.moveTo(to),
          onCancel: () => playhead.moveTo(frame),
        });
      },
    };
  }, [isOpen, places, session, playhead, track.id]);
}
