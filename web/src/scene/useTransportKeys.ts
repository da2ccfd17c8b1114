/** The keys that every step with a transport has. */
import { exposuresOfTrack, framesPerSecond, sceneSettings } from '@zest-jaw/core';
import { useCallback } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { KeyMap } from '../ui/useKeys.js';
import { useOpenScene } from './sceneContext.js';

export interface TransportKeys {
  readonly keys: KeyMap;
  readonly loopPhrase: () => void;
}

export function useTransportKeys(): TransportKeys {
  const { playhead, document, track, session, data } = useOpenScene();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const frame = (): number => playhead.store.getState().frame;
  const step = (by: number) => () => playhead.scrubTo(frame() + by);
  const toExposure = (towards: 1 | -1) => () => {
    const starts = exposuresOfTrack(document, track.id).map((exposure) => exposure.from);
    const next = towards > 0 ? starts.find((start) => start > frame()) : starts.findLast((start) => start < frame());
    if (next !== undefined) playhead.scrubTo(next);
  };
  const loopPhrase = useCallback(() => {
    const phrase = phraseAt(data.words, playhead.store.getState().frame, framesPerSecond(frameRate), lengthFrames);
    playhead.toggleLoop(phrase);
  }, [data.words, playhead, frameRate, lengthFrames]);
  const playPhrase = (): void => playhead.playRange(phraseAt(data.words, frame(), framesPerSecond(frameRate), lengthFrames));
  const second = Math.round(framesPerSecond(frameRate));
  return {
    loopPhrase,
    keys: {
      Space: playhead.toggle,
      ArrowLeft: step(-1),
      ArrowRight: step(1),
      'Ctrl+ArrowLeft': step(-second),
      'Ctrl+ArrowRight': step(second),
      ArrowUp: toExposure(-1),
      ArrowDown: toExposure(1),
      Home: () => playhead.moveTo(0),
      End: () => playhead.moveTo(lengthFrames - 1),
      KeyL: loopPhrase,
      KeyP: playPhrase,
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
