/** What of the reading is at hand: the word and the sound at the playhead, what is selected, and how they are changed. */
import {
  clipStart,
  framesPerSecond,
  SAMPLE_RATE,
  sampleAtFrame,
  sceneSettings,
  type Clip,
  type ClipSpan,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import type { SheetSound, SheetWord } from '../barSheet/sheetData.js';
import { mostHeard } from '../scene/Readout.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { announce } from '../ui/Announced.js';
import { partOfClip } from './partOfClip.js';

const NO_WORD: Refusal = { refusal: 'There is no word at the playhead. Go to one.' };
const NO_SOUND: Refusal = { refusal: 'There is no sound at the playhead. Go to one.' };
const NOT_SELECTED: Refusal = { refusal: 'Select the frames first: drag over them with Shift.' };

export interface ReadingAtHand {
  /** A frame of the scene, in samples. */
  readonly frameSamples: (scene: SceneDocument) => number;
  readonly wordHere: () => SheetWord | undefined;
  readonly soundHere: () => SheetSound | undefined;
  /** The words that the selection holds most of, or the one at the playhead. */
  readonly wordsHere: () => readonly SheetWord[];
  /** The recording of the speaker at the playhead, and where in it that is. */
  readonly placeHere: () => { readonly clip: Clip; readonly sample: number } | undefined;
  /** Changes the word at the playhead, then says what was done to it. */
  readonly changeWord: (make: (scene: SceneDocument, word: SheetWord) => Patch | Refusal, said?: string) => () => void;
  readonly changeSound: (make: (scene: SceneDocument, sound: SheetSound, clip: string) => Patch | Refusal, said?: string) => () => void;
  /** Changes what is selected of a recording. */
  readonly changeSpan: (make: (scene: SceneDocument, span: ClipSpan) => Patch | Refusal, said?: string) => () => ClipSpan | undefined;
}

export function useReadingAtHand(): ReadingAtHand {
  const { session, playhead } = useOpenScene();
  const { data } = useSheet();
  const { track } = useSpeaker();
  const changeAndKey = useChangeAndKey();
  const scene = (): SceneDocument => session.store.getState().document;
  const wordHere = (): SheetWord | undefined => {
    const { frame } = playhead.store.getState();
    return (
      data.words.find(({ from, to }) => from < frame + 1 && to > frame + 0.5) ?? data.words.find(({ from }) => Math.round(from) === frame)
    );
  };
  const soundHere = (): SheetSound | undefined => mostHeard(data.sounds, playhead.store.getState().frame);
  const clipAt = (frame: number): Clip | undefined => {
    const own = scene().clips.filter(({ characterId }) => characterId === track.characterId);
    const { frameRate } = sceneSettings(scene());
    const at = sampleAtFrame(frameRate, frame);
    return own.find((clip) => {
      const start = clipStart(scene(), clip);
      return at >= start + clip.fromSample && at < start + clip.toSample;
    });
  };
  const tell = (isMade: boolean, said: string | undefined): void => {
    if (isMade && said !== undefined) announce(said);
  };
  return {
    frameSamples: (of) => Math.round(SAMPLE_RATE / framesPerSecond(sceneSettings(of).frameRate)),
    wordHere,
    soundHere,
    wordsHere: () => {
      const { selection } = playhead.store.getState();
      const inside = selection
        ? data.words.filter(({ from, to }) => (from + to) / 2 >= selection.from && (from + to) / 2 < selection.to)
        : [];
      const here = wordHere();
      return inside.length > 0 ? inside : here ? [here] : [];
    },
    placeHere: () => {
      const { frame } = playhead.store.getState();
      const clip = clipAt(frame);
      return clip && { clip, sample: sampleAtFrame(sceneSettings(scene()).frameRate, frame) - clipStart(scene(), clip) };
    },
    changeWord: (make, said) => () => {
      playhead.stay();
      const word = wordHere();
      if (!word) session.change(NO_WORD);
      else
        tell(
          changeAndKey((now) => make(now, word)),
          said && `“${word.text}” ${said}.`,
        );
    },
    changeSound: (make, said) => () => {
      playhead.stay();
      const sound = soundHere();
      const clip = scene().phonemes.find(({ id }) => id === sound?.id)?.clip;
      if (!sound || clip === undefined) session.change(NO_SOUND);
      else
        tell(
          changeAndKey((now) => make(now, sound, clip)),
          said && `/${sound.ipa}/ ${said}.`,
        );
    },
    changeSpan: (make, said) => () => {
      playhead.stay();
      const { selection } = playhead.store.getState();
      const clip = selection ? (clipAt(selection.from) ?? clipAt(selection.to - 1)) : undefined;
      if (!selection || !clip) {
        session.change(NOT_SELECTED);
        return undefined;
      }
      const { fromSample, toSample } = partOfClip(scene(), clip, selection);
      const span = { clip: clip.id, from: fromSample, to: toSample };
      const isMade = changeAndKey((now) => make(now, span));
      tell(isMade, said);
      return isMade ? span : undefined;
    },
  };
}
