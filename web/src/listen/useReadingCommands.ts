/** The reading by keys: words and sounds said otherwise, nudged, slid, stretched, split, joined, put in, taken out; pauses and noises. */
import {
  deleteSound,
  deleteWord,
  joinSounds,
  joinWords,
  maybeRoomAt,
  moveWordEdge,
  NOISES,
  placeWords,
  SAMPLE_RATE,
  sampleAtFrame,
  sceneSettings,
  clipStart,
  setNotSpeech,
  setPause,
  setSpeech,
  slideWord,
  splitWord,
  type NoiseKind,
  type SceneDocument,
} from '@zest-jaw/core';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import type { SheetSound, SheetWord } from '../barSheet/sheetData.js';
import type { Command, CommandGroup } from '../commands/command.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import type { NewWordAt } from './RetypeDialog.js';
import { useDoubtfulCommands } from './useDoubtfulCommands.js';
import { useReadingAtHand } from './useReadingAtHand.js';

/** The small step of an edge, in samples: 5 ms. */
const FINE = 240;
/** A word that is put in is at most so long before its edges are dragged, in samples: 0.4 s. */
const NEW_WORD = 0.4 * SAMPLE_RATE;

export interface OpensReading {
  readonly onWord: (word: SheetWord) => void;
  readonly onSound: (sound: SheetSound) => void;
  /** Shows where a sound lies on the map of the chart. */
  readonly onMap: (symbol: string) => void;
  /** A word that is to be put in. */
  readonly onNewWord: (place: NewWordAt) => void;
  /** A sound that is to be put in after a place in another, in samples of the recording. */
  readonly onNewSound: (sound: SheetSound, atSample: number) => void;
}

const NOISE_NAMES: Readonly<Record<NoiseKind, string>> = {
  breath: 'A breath',
  laugh: 'A laugh',
  cough: 'A cough',
  hum: 'A hum',
  kiss: 'A kiss',
  whistle: 'A whistle',
  scream: 'A scream',
};

/** In Key, where letters are keycaps, they have no keys and are found in menus and in the list. */
export function useReadingCommands(opens: OpensReading, where: 'listen' | 'key' = 'listen'): readonly Command[] {
  const { session, playhead, readAgain } = useOpenScene();
  const atHand = useReadingAtHand();
  const { wordHere, soundHere, wordsHere, placeHere, changeWord, changeSound, changeSpan, frameSamples } = atHand;
  const doubtful = useDoubtfulCommands(atHand);
  const nudge = (edge: 'from' | 'to', by: 1 | -1, isFine: boolean) =>
    changeWord((scene, { clip, id }) => {
      const record = scene.words.find((word) => word.id === id)!;
      const at = edge === 'from' ? record.fromSample : record.toSample;
      return moveWordEdge(scene, { clip, id, edge, toSample: at + by * (isFine ? FINE : frameSamples(scene)), opensGap: false }, newId);
    });
  /** What is selected as a whole; one word by itself. */
  const move = (by: 1 | -1, what: 'slide' | 'stretch') =>
    changeWord((scene, { clip, id }) => {
      const step = by * frameSamples(scene);
      const ids = wordsHere().map((word) => word.id);
      if (what === 'slide' && ids.length < 2) return slideWord(scene, { clip, id, by: step }, newId);
      const own = scene.words.filter((word) => ids.includes(word.id));
      const [fromSample, toSample] = [Math.min(...own.map((word) => word.fromSample)), Math.max(...own.map((word) => word.toSample))];
      return placeWords(
        scene,
        { clip, ids, fromSample: what === 'slide' ? fromSample + step : fromSample, toSample: toSample + step },
        newId,
      );
    });
  const sampleHere = (scene: SceneDocument, clipId: string): number => {
    const own = scene.clips.find(({ id }) => id === clipId)!;
    return sampleAtFrame(sceneSettings(scene).frameRate, playhead.store.getState().frame) - clipStart(scene, own);
  };
  const putWord = (): void => {
    playhead.stay();
    const place = placeHere();
    const room = place && maybeRoomAt(session.store.getState().document, place.clip.id, place.sample, NEW_WORD);
    if (!place) session.change({ refusal: 'No recording of this speaker is heard at the playhead. Go to one.' });
    else if (!room) session.change({ refusal: 'There is a word at the playhead already. Split it, or go to where none is.' });
    else opens.onNewWord({ clip: place.clip.id, fromSample: room.from, toSample: room.to });
  };
  const putSound = (): void => {
    const sound = soundHere();
    const place = placeHere();
    if (sound && place) opens.onNewSound(sound, place.sample);
    else session.change({ refusal: 'A sound is put in after another. Go to the one it follows.' });
  };
  const speechAfterAll = (): void => {
    const span = changeSpan((scene, wanted) => setSpeech(scene, wanted, newId), 'Speech after all: it is read.')();
    if (span)
      void readAgain(span.clip, [{ fromSample: span.from, toSample: span.to }]).catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  const group: CommandGroup = 'Change words';
  const at = (id: string, title: string, keys: readonly string[], run: () => void, also = ''): Command => ({
    id,
    title,
    group,
    keys: where === 'listen' ? keys : [],
    also,
    run,
  });
  const openWord = (): void => {
    const word = wordHere();
    if (word) opens.onWord(word);
  };
  const openSound = (): void => {
    const sound = soundHere();
    if (sound) opens.onSound(sound);
  };
  const words: readonly Command[] = [
    at('word-retype', 'Say what the word is, and how it is said', ['KeyT'], openWord, 'edit text rename sounds pronunciation'),
    at('word-insert', 'Put a word in at the playhead', ['KeyW'], putWord, 'insert add missing'),
    at('word-from-earlier', 'The word starts a frame earlier', ['Comma'], nudge('from', -1, false)),
    at('word-from-later', 'The word starts a frame later', ['Period'], nudge('from', 1, false)),
    at('word-to-earlier', 'The word ends a frame earlier', ['Shift+Comma'], nudge('to', -1, false)),
    at('word-to-later', 'The word ends a frame later', ['Shift+Period'], nudge('to', 1, false)),
    at('word-from-earlier-fine', 'The word starts 5 ms earlier', ['Alt+Comma'], nudge('from', -1, true)),
    at('word-from-later-fine', 'The word starts 5 ms later', ['Alt+Period'], nudge('from', 1, true)),
    at('word-to-earlier-fine', 'The word ends 5 ms earlier', ['Alt+Shift+Comma'], nudge('to', -1, true)),
    at('word-to-later-fine', 'The word ends 5 ms later', ['Alt+Shift+Period'], nudge('to', 1, true)),
    at('word-slide-earlier', 'Slide the word, or those selected, a frame earlier', ['Alt+ArrowLeft'], move(-1, 'slide')),
    at('word-slide-later', 'Slide the word, or those selected, a frame later', ['Alt+ArrowRight'], move(1, 'slide')),
    at('word-shorter', 'Stretch the word, or those selected: a frame shorter', ['Ctrl+Comma'], move(-1, 'stretch'), 'squeeze phrase'),
    at('word-longer', 'Stretch the word, or those selected: a frame longer', ['Ctrl+Period'], move(1, 'stretch'), 'phrase'),
    at(
      'word-split',
      'Split the word at the playhead',
      ['Slash'],
      changeWord((scene, { clip, id }) => splitWord(scene, { clip, id, atSample: sampleHere(scene, clip) }, newId)),
    ),
    at(
      'word-join',
      'Join the word with the next',
      ['Backslash'],
      changeWord((scene, { clip, id }) => joinWords(scene, { clip, id }, newId)),
    ),
    at(
      'word-delete',
      'Take the word out: a pause',
      ['Backspace', 'Delete'],
      changeWord((scene, { clip, id }) => deleteWord(scene, { clip, id }, newId), 'is taken out'),
    ),
  ];
  const sounds: readonly Command[] = [
    at('sound-retype', 'Say which sound it is', ['Shift+KeyT'], openSound, 'phoneme symbol change'),
    at('sound-insert', 'Put a sound in at the playhead', ['KeyS'], putSound, 'insert split phoneme'),
    at(
      'sound-join',
      'Join the sound with the next',
      ['Shift+Backslash'],
      changeSound((scene, { id }, clip) => joinSounds(scene, { clip, id }, newId), 'lasts through the next'),
      'phoneme',
    ),
    at(
      'sound-delete',
      'Take the sound out',
      ['Shift+Backspace', 'Shift+Delete'],
      changeSound((scene, { id }, clip) => deleteSound(scene, { clip, id }, newId), 'is taken out'),
      'phoneme',
    ),
  ];
  const spans: readonly Command[] = [
    at(
      'pause',
      'What is selected is a pause',
      ['KeyU'],
      changeSpan((scene, span) => setPause(scene, span, newId), 'A pause.'),
      'silence',
    ),
    at(
      'not-speech',
      'What is selected is not speech: music, an effect',
      ['KeyX'],
      changeSpan((scene, span) => setNotSpeech(scene, span, newId), 'Not speech.'),
      'noise sound effect',
    ),
    ...NOISES.map((kind) =>
      at(
        `noise:${kind}`,
        `${NOISE_NAMES[kind]} is what is selected`,
        [],
        changeSpan((scene, span) => setNotSpeech(scene, { ...span, kind }, newId), `${NOISE_NAMES[kind]}.`),
        'not speech noise',
      ),
    ),
    at('speech', 'What is selected is speech after all: it is read', ['Shift+KeyX'], speechAfterAll, 'not noise'),
  ];
  return [...(where === 'listen' ? doubtful : []), ...words, ...sounds, ...spans];
}
