/** The note that is looked at, and the way from one to the next. */
import { framesPerSecond, sceneSettings, type Note } from '@zest-jaw/core';
import { useState } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import { useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { announce } from '../ui/Announced.js';

export interface ChosenNote {
  readonly note: Note | undefined;
  /** Goes to it. */
  readonly choose: (note: Note | undefined) => void;
  /** Goes to the next one, or the one before, and plays its phrase. */
  readonly step: (by: 1 | -1) => void;
  /** Plays its phrase. */
  readonly hear: (note: Note) => void;
}

/** @param notes in order of their frames */
export function useChosenNote(notes: readonly Note[]): ChosenNote {
  const { playhead, showTrack } = useOpenScene();
  const { track } = useSpeaker();
  const { data } = useSheet();
  const document = useSceneDocument();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const [kept, keep] = useState<{ readonly id: string; readonly from: number }>();
  const note = notes.find(({ id }) => id === kept?.id);
  const choose = (next: Note | undefined): void => {
    keep(next && { id: next.id, from: next.from });
    if (!next) return;
    if (next.track !== null && next.track !== track.id) showTrack(next.track);
    playhead.stop();
    playhead.moveTo(next.from);
  };
  const hear = ({ from }: Note): void => playhead.playRange(phraseAt(data.words, from, framesPerSecond(frameRate), lengthFrames));
  const step = (by: 1 | -1): void => {
    const at = notes.findIndex(({ id }) => id === kept?.id);
    const { frame } = playhead.store.getState();
    // After one that has gone, the next is the one that follows its place.
    const from = kept?.from ?? frame;
    const next = at >= 0 ? notes[at + by] : by > 0 ? notes.find((one) => one.from >= from) : notes.findLast((one) => one.from < from);
    if (!next) {
      announce(by > 0 ? 'That was the last note.' : 'That was the first note.');
      return;
    }
    choose(next);
    hear(next);
    announce(next.why);
  };
  return { note, choose, step, hear };
}
