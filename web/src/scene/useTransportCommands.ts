/** The commands that every step with a transport has. */
import { exposuresOfTrack, framesPerSecond, maybeExposureAt, sceneSettings } from '@zest-jaw/core';
import { useCallback, useEffect } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { Span } from '@zest-jaw/core';
import { chooseNone } from '../key/chosen.js';
import type { Command, CommandGroup } from '../commands/command.js';
import { useOpenScene, useSceneDocument, useSheet, useSpeaker } from './sceneContext.js';

export interface TransportCommands {
  readonly commands: readonly Command[];
  /** Loops what is selected, or else the phrase at the playhead. */
  readonly loopHere: () => void;
}

export function useTransportCommands(): TransportCommands {
  const { playhead, session, chosen } = useOpenScene();
  const document = useSceneDocument();
  const { track } = useSpeaker();
  const { data } = useSheet();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const frame = (): number => playhead.store.getState().frame;
  const step = (by: number) => () => playhead.scrubTo(frame() + by);
  /** One frame at a press; held, it goes on at its own pace. */
  const stepOrHold = (direction: 1 | -1) => (event?: KeyboardEvent) => {
    if (event?.repeat) playhead.hold(direction);
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
  const stretchHere = useCallback((): Span => {
    const { selection, frame: now } = playhead.store.getState();
    return selection ?? phraseAt(data.words, now, framesPerSecond(frameRate), lengthFrames);
  }, [data.words, playhead, frameRate, lengthFrames]);
  const loopHere = useCallback(() => playhead.toggleLoop(stretchHere()), [playhead, stretchHere]);
  /** The frames of the word at the playhead, or else of the one after it. */
  const wordHere = (): Span | undefined => {
    const word = data.words.find(({ to }) => to > frame());
    return word && { from: Math.floor(word.from), to: Math.min(lengthFrames, Math.ceil(word.to)) };
  };
  const toWord = (towards: 1 | -1) => () => {
    const starts = data.words.map(({ from }) => Math.round(from));
    const next = towards > 0 ? starts.find((start) => start > frame()) : starts.findLast((start) => start < frame());
    if (next !== undefined) playhead.scrubTo(next);
  };
  const second = Math.round(framesPerSecond(frameRate));
  return {
    loopHere,
    commands: [
      at('play', 'Play, or stop', 'Hear', ['Space'], playhead.toggle, 'start listen'),
      at('play-again', 'Play again from where it was started', 'Hear', ['Shift+Space'], playhead.playAgain),
      at('play-part', 'Play the selection, or the phrase', 'Hear', ['KeyP'], () => playhead.playRange(stretchHere())),
      at('loop', 'Loop the selection, or the phrase', 'Hear', ['KeyL'], loopHere, 'repeat round'),
      at('loop-from-earlier', 'The loop begins a frame earlier', 'Hear', ['BracketLeft'], () => playhead.nudgeLoop('from', -1)),
      at('loop-from-later', 'The loop begins a frame later', 'Hear', ['Shift+BracketLeft'], () => playhead.nudgeLoop('from', 1)),
      at('loop-to-later', 'The loop ends a frame later', 'Hear', ['BracketRight'], () => playhead.nudgeLoop('to', 1)),
      at('loop-to-earlier', 'The loop ends a frame earlier', 'Hear', ['Shift+BracketRight'], () => playhead.nudgeLoop('to', -1)),
      at('speed-1', 'Full speed', 'Hear', ['Digit1'], () => playhead.setSlowness(1), 'slow'),
      at('speed-2', 'Half speed', 'Hear', ['Digit2'], () => playhead.setSlowness(2), 'slow'),
      at('speed-4', 'Quarter speed', 'Hear', ['Digit3'], () => playhead.setSlowness(4), 'slow'),
      at('speed-8', 'Eighth speed', 'Hear', ['Digit4'], () => playhead.setSlowness(8), 'slow'),
      at('frame-back', 'A frame back, and hear it; held, on and on', 'Hear', ['ArrowLeft'], stepOrHold(-1), 'step scrub'),
      at('frame-on', 'A frame on, and hear it; held, on and on', 'Hear', ['ArrowRight'], stepOrHold(1), 'step scrub'),
      at('second-back', 'A second back', 'Hear', ['Ctrl+ArrowLeft'], step(-second)),
      at('second-on', 'A second on', 'Hear', ['Ctrl+ArrowRight'], step(second)),
      at('exposure-before', 'To the exposure before', 'Hear', ['ArrowUp'], toExposure(-1)),
      at('exposure-after', 'To the next exposure', 'Hear', ['ArrowDown'], toExposure(1)),
      at('first-frame', 'To the first frame', 'Hear', ['Home'], () => playhead.moveTo(0), 'start'),
      at('last-frame', 'To the last frame', 'Hear', ['End'], () => playhead.moveTo(lengthFrames - 1), 'end'),
      at('select-back', 'Select a frame back', 'Choose frames', ['Shift+ArrowLeft'], select(-1)),
      at('select-on', 'Select a frame on', 'Choose frames', ['Shift+ArrowRight'], select(1)),
      at('select-phrase', 'Select the phrase at the playhead', 'Choose frames', ['KeyN'], () => {
        playhead.select(phraseAt(data.words, frame(), framesPerSecond(frameRate), lengthFrames));
      }),
      at('select-word', 'Select the word at the playhead', 'Choose frames', ['Ctrl+KeyD'], () => {
        const word = wordHere();
        if (word) playhead.select(word);
      }),
      at('play-word', 'Play the word at the playhead', 'Hear', ['Shift+KeyP'], () => {
        const word = wordHere();
        if (word) playhead.playRange(word);
      }),
      at('word-before', 'To the word before', 'Hear', ['Ctrl+Shift+ArrowLeft'], toWord(-1), 'jump previous'),
      at('word-after', 'To the next word', 'Hear', ['Ctrl+Shift+ArrowRight'], toWord(1), 'jump next tab'),
      at('select-mouth', 'Select the mouth at the playhead', 'Choose frames', ['Shift+KeyN'], () => {
        const mouth = maybeExposureAt(exposuresOfTrack(session.store.getState().document, track.id), frame());
        if (mouth) playhead.select({ from: mouth.from, to: mouth.to });
      }),
      at('select-all', 'Select all frames', 'Choose frames', ['Ctrl+KeyA'], () => playhead.select({ from: 0, to: lengthFrames })),
      at('select-none', 'Select none', 'Choose frames', ['Escape'], () => {
        playhead.select(null);
        chooseNone(chosen);
      }),
      at('undo', 'Undo', 'Whole scene', ['Ctrl+KeyZ'], () => void session.undo(), 'back'),
      at('redo', 'Redo', 'Whole scene', ['Ctrl+Shift+KeyZ', 'Ctrl+KeyY'], () => void session.redo(), 'again'),
    ],
  };
}

/** A command that can always be done. */
const at = (id: string, title: string, group: CommandGroup, keys: readonly string[], run: Command['run'], also?: string): Command => ({
  id,
  title,
  group,
  keys,
  run,
  ...(also !== undefined && { also }),
});
