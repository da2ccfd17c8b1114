/** What is done to the mouths of the track at hand: put, inked, turned back to pencil, keyed, erased. */
import {
  erasePencil,
  exchangeChosen,
  exposuresOfTrack,
  framesPerSecond,
  fullRules,
  inkChosen,
  inkSpan,
  isRefusal,
  maybeDrawing,
  maybeExposureAt,
  putDrawing,
  putOver,
  sceneSettings,
  setInk,
  spanInWords,
  startExposure,
} from '@zest-jaw/core';
import { useCallback } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import { useGrid } from './useGrid.js';
import { useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import type { Part, PencilAction } from './PencilMenu.js';
import { afterKeycap, frameAfter } from './afterKeycap.js';
import type { KeyAgain } from './useKeyAgain.js';

export interface MouthEdits {
  /** Puts a drawing over what is selected, else at the playhead. */
  readonly put: (drawing: string) => void;
  /** The mouth at the playhead starts there, or the next one starts after it. */
  readonly setEdge: (edge: 'start' | 'end') => void;
  readonly ink: (inked: boolean) => void;
  readonly act: (action: PencilAction, part: Part) => void;
}

export function useMouthEdits(keyAgain: KeyAgain['keyAgain']): MouthEdits {
  const { session, playhead, chosen } = useOpenScene();
  const { track, chart, charts } = useSpeaker();
  const { data } = useSheet();
  const { frameRate, lengthFrames } = useSceneDocument(sceneSettings);
  const grid = useGrid();
  const put = useCallback(
    (drawing: string) => {
      playhead.stay();
      const { frame, selection: selected, playing } = playhead.store.getState();
      const now = session.store.getState().document;
      const { ids } = chosen.getState();
      if (ids.size > 0) {
        session.change(exchangeChosen(now, { track: track.id, ids, drawing }, charts, newId));
        return;
      }
      // What is selected is filled; while it plays, a mouth is put where it is heard.
      const patch =
        selected && !playing
          ? putOver(now, { track: track.id, ...selected, drawing }, chart, newId)
          : putDrawing(now, { track: track.id, frame: frame - (frame % grid), drawing }, chart, newId);
      const { advance } = afterKeycap.getState();
      const isAdvancing = advance !== 'stay' && !playing && !selected;
      const there = maybeExposureAt(exposuresOfTrack(now, track.id), frame);
      // Going on, the mouth that is inked there already is what was wanted.
      const isThere = isAdvancing && there?.drawing === drawing && there.inked;
      if (!isThere && !session.change(patch)) return;
      announce(
        `${maybeDrawing(chart, drawing)?.label ?? drawing}, ${spanInWords(now, selected && !playing ? selected : { from: frame, to: frame + 1 })}.`,
      );
      if (selected && !playing) playhead.select(null);
      if (isAdvancing) playhead.scrubTo(frameAfter(advance, frame, data, fullRules(track.rules).holdFrames));
    },
    [session, track, chart, playhead, data, grid, chosen, charts],
  );
  const setEdge = (edge: 'start' | 'end'): void => {
    const { frame } = playhead.store.getState();
    const now = session.store.getState().document;
    const there = maybeExposureAt(exposuresOfTrack(now, track.id), frame);
    if (!there) return;
    const [from, to] = edge === 'start' ? [there.from, frame] : [there.to, frame + 1];
    const patch = from < lengthFrames ? startExposure(now, { track: track.id, from, to }, newId) : undefined;
    if (patch && (isRefusal(patch) || patch.ops.length > 0)) session.change(patch);
  };
  const partOf = (part: Part): { from: number; to: number } => {
    const { frame, selection: selected } = playhead.store.getState();
    if (part === 'selection' && selected) return selected;
    return part === 'phrase' ? phraseAt(data.words, frame, framesPerSecond(frameRate), lengthFrames) : { from: 0, to: lengthFrames };
  };
  const ink = (inked: boolean): void => {
    const { frame, selection: selected } = playhead.store.getState();
    const now = session.store.getState().document;
    const { ids } = chosen.getState();
    if (ids.size > 0) {
      session.change(inkChosen(now, { track: track.id, ids, inked }, newId));
      return;
    }
    session.change(
      selected ? inkSpan(now, { track: track.id, ...selected, inked }, newId) : setInk(now, { track: track.id, frame, inked }, newId),
    );
  };
  const act = (action: PencilAction, part: Part): void => {
    const span = partOf(part);
    const now = session.store.getState().document;
    if (action === 'key') void keyAgain(span);
    else if (action === 'erase') session.change(erasePencil(now, { track: track.id, ...span }, charts, newId));
    else session.change(inkSpan(now, { track: track.id, ...span, inked: action === 'ink' }, newId));
  };
  return { put, setEdge, ink, act };
}
