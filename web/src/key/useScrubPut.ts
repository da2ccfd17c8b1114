/** A keycap held while the playhead is stepped or dragged: its mouth is put on every frame that is passed, in one step of undo. */
import { isRefusal, putOver } from '@zest-jaw/core';
import { useCallback, useEffect, useEffectEvent, useRef } from 'react';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';

interface HeldKeycap {
  readonly drawing: string;
  readonly code: string;
  /** Where the playhead was last. */
  frame: number;
  /** The gesture, once a frame has been passed. */
  mark: number | undefined;
}

/** @param put puts a mouth at the playhead, or over what is selected */
export function useScrubPut(put: (drawing: string) => void): (drawing: string, event?: KeyboardEvent) => void {
  const { session, playhead, chosen } = useOpenScene();
  const { track, chart } = useSpeaker();
  const held = useRef<HeldKeycap | undefined>(undefined);
  const pass = useEffectEvent((frame: number) => {
    const now = held.current;
    if (!now || now.frame === frame) return;
    const [from, to] = frame > now.frame ? [now.frame + 1, frame + 1] : [frame, now.frame];
    now.frame = frame;
    now.mark ??= session.mark();
    const patch = putOver(session.store.getState().document, { track: track.id, from, to, drawing: now.drawing }, chart, newId);
    // Where it is there already nothing is put, and nothing need be said.
    if (!isRefusal(patch)) session.change(patch);
  });
  const letGo = useCallback(
    (code?: string): void => {
      const now = held.current;
      if (!now || (code !== undefined && now.code !== code)) return;
      if (now.mark !== undefined) session.squash(now.mark);
      held.current = undefined;
    },
    [session],
  );
  useEffect(() => {
    const onKeyUp = ({ code }: KeyboardEvent): void => letGo(code);
    const onBlur = (): void => letGo();
    window.addEventListener('keyup', onKeyUp);
    window.addEventListener('blur', onBlur);
    const unsubscribe = playhead.store.subscribe(({ frame, playing }) => {
      if (!playing) pass(frame);
    });
    return () => {
      window.removeEventListener('keyup', onKeyUp);
      window.removeEventListener('blur', onBlur);
      unsubscribe();
    };
  }, [playhead, letGo]);
  return (drawing, event) => {
    if (event?.repeat) return;
    letGo();
    put(drawing);
    const { frame, playing, selection } = playhead.store.getState();
    // Over a selection, and for mouths chosen one by one, all is done.
    if (!event || playing || selection || chosen.getState().ids.size > 0) return;
    held.current = { drawing, code: event.code, frame, mark: undefined };
  };
}
