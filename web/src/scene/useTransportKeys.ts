/** The keys that every step with a transport has. */
import { exposuresOfTrack, framesPerSecond, sceneSettings } from '@zest-jaw/core';
import { useCallback, useEffect } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { FrameRange } from '../sound/playhead.js';
import type { KeyMap } from '../ui/useKeys.js';
import { useOpenScene } from './sceneContext.js';

export interface TransportKeys {
  readonly keys: KeyMap;
  /** Loops what is selected, or else the phrase at the playhead. */
  readonly loopHere: () => void;
}

export function useTransportKeys(): TransportKeys {
  const { playhead, document, track, session, data } = useOpenScene();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const frame = (): number => playhead.store.getState().frame;
  const step = (by: number) => () => playhead.scrubTo(frame() + by);
  /** One frame at a press; held, it goes on at its own pace. */
  const stepOrHold = (direction: 1 | -1) => (event: KeyboardEvent) => {
    if (event.repeat) playhead.hold(direction);
    else step(direction)();
  };
  const select = (by: number) => () => playhead.selectTo(frame() + by);
  useEffect(() => {
    const letGo = (event: KeyboardEvent): void => {
      if (event.code === 'ArrowLeft' || event.code === 'ArrowRight') playhead.letGo();
    };
    window.addEventListener('keyup', letGo);
    window.addEventListener('blur', playhead.letGo);
    return () => {
      window.removeEventListener('keyup', letGo);
      window.removeEventListener('blur', playhead.letGo);
    };
  }, [playhead]);
  const toExposure = (towards: 1 | -1) => () => {
    const starts = exposuresOfTrack(document, track.id).map((exposure) => exposure.from);
    const next = towards > 0 ? starts.find((start) => start > frame()) : starts.findLast((start) => start < frame());
    if (next !== undefined) playhead.scrubTo(next);
  };
  /** What is selected, or else the phrase at the playhead. */
  const stretchHere = useCallback((): FrameRange => {
    const { selection, frame: now } = playhead.store.getState();
    return selection ?? phraseAt(data.words, now, framesPerSecond(frameRate), lengthFrames);
  }, [data.words, playhead, frameRate, lengthFrames]);
  const loopHere = useCallback(() => playhead.toggleLoop(stretchHere()), [playhead, stretchHere]);
  const second = Math.round(framesPerSecond(frameRate));
  return {
    loopHere,
    keys: {
      Space: playhead.toggle,
      ArrowLeft: stepOrHold(-1),
      ArrowRight: stepOrHold(1),
      'Shift+ArrowLeft': select(-1),
      'Shift+ArrowRight': select(1),
      Escape: () => playhead.select(null),
      'Ctrl+KeyA': () => playhead.select({ from: 0, to: lengthFrames }),
      'Ctrl+ArrowLeft': step(-second),
      'Ctrl+ArrowRight': step(second),
      ArrowUp: toExposure(-1),
      ArrowDown: toExposure(1),
      Home: () => playhead.moveTo(0),
      End: () => playhead.moveTo(lengthFrames - 1),
      KeyL: loopHere,
      KeyP: () => playhead.playRange(stretchHere()),
      'Shift+Space': playhead.playAgain,
      Digit1: () => playhead.setSlowness(1),
      Digit2: () => playhead.setSlowness(2),
      Digit3: () => playhead.setSlowness(4),
      Digit4: () => playhead.setSlowness(8),
      BracketLeft: () => playhead.nudgeLoop('from', -1),
      BracketRight: () => playhead.nudgeLoop('to', 1),
      'Shift+BracketLeft': () => playhead.nudgeLoop('from', 1),
      'Shift+BracketRight': () => playhead.nudgeLoop('to', -1),
      'Ctrl+KeyZ': () => session.undo(),
      'Ctrl+Shift+KeyZ': () => session.redo(),
      'Ctrl+KeyY': () => session.redo(),
    },
  };
}
