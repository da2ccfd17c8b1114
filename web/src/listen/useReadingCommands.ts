/** The reading by keys: to the next doubtful word, accepted, nudged, split, joined, taken out. */
import {
  deleteWord,
  framesPerSecond,
  inkWords,
  isRefusal,
  joinWords,
  moveWordEdge,
  sampleAtFrame,
  sceneSettings,
  clipStart,
  slideWord,
  splitWord,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import { SURE_WORD, type SheetSound, type SheetWord } from '../barSheet/sheetData.js';
import type { Command, CommandGroup } from '../commands/command.js';
import { mostHeard } from '../scene/Readout.js';
import { useOpenScene, useSheet } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { announce } from '../ui/Announced.js';
import { count } from '../ui/count.js';

/** Heard before and after a doubtful word that loops, in frames. */
const AROUND = 2;
/** The small step of an edge, in samples: 5 ms. */
const FINE = 240;

export const isDoubtful = ({ confidence }: Pick<SheetWord, 'confidence'>): boolean => confidence < SURE_WORD;

interface Opened {
  readonly onWord: (word: SheetWord) => void;
  readonly onSound: (sound: SheetSound) => void;
}

export function useReadingCommands({ onWord, onSound }: Opened): readonly Command[] {
  const { session, playhead } = useOpenScene();
  const { data } = useSheet();
  const changeAndKey = useChangeAndKey();
  const group: CommandGroup = 'Change words';
  const wordHere = (): SheetWord | undefined => {
    const { frame } = playhead.store.getState();
    return (
      data.words.find(({ from, to }) => from < frame + 1 && to > frame + 0.5) ?? data.words.find(({ from }) => Math.round(from) === frame)
    );
  };
  const change = (make: (scene: SceneDocument, word: SheetWord) => Patch | Refusal, said?: string) => (): void => {
    playhead.stay();
    const word = wordHere();
    if (!word) {
      session.change({ refusal: 'There is no word at the playhead. Go to one.' });
      return;
    }
    if (changeAndKey((scene) => make(scene, word)) && said !== undefined) announce(`“${word.text}” ${said}.`);
  };
  const frameSamples = (scene: SceneDocument): number => Math.round(48_000 / framesPerSecond(sceneSettings(scene).frameRate));
  const nudge = (edge: 'from' | 'to', by: 1 | -1, isFine: boolean) =>
    change((scene, { clip, id }) => {
      const record = scene.words.find((word) => word.id === id)!;
      const at = edge === 'from' ? record.fromSample : record.toSample;
      return moveWordEdge(scene, { clip, id, edge, toSample: at + by * (isFine ? FINE : frameSamples(scene)), opensGap: false }, newId);
    });
  const slide = (by: 1 | -1) => change((scene, { clip, id }) => slideWord(scene, { clip, id, by: by * frameSamples(scene) }, newId));
  const toDoubtful = (towards: 1 | -1): void => {
    const { frame } = playhead.store.getState();
    const doubtful = data.words.filter(isDoubtful);
    const next =
      towards > 0 ? doubtful.find(({ from }) => Math.round(from) > frame) : doubtful.findLast(({ from }) => Math.round(from) < frame);
    const word = next ?? (towards > 0 ? doubtful[0] : doubtful.at(-1));
    if (!word) {
      playhead.stop();
      announce('No word is doubtful.');
      return;
    }
    const from = Math.max(0, Math.floor(word.from) - AROUND);
    playhead.stop();
    playhead.moveTo(Math.round(word.from));
    playhead.toggleLoop({ from, to: Math.ceil(word.to) + AROUND });
    announce(`“${word.text}”, doubtful; ${count(doubtful.length, 'word is', 'words are')} left.`);
  };
  /** The one that loops, else the one at the playhead, is accepted; then on to the next. */
  const accept = (): void => {
    const { loop } = playhead.store.getState();
    const looped = loop && data.words.filter(isDoubtful).find(({ from, to }) => from >= loop.from && to <= loop.to);
    const word = looped ?? wordHere();
    if (!word) return;
    const patch = inkWords(session.store.getState().document, { clip: word.clip, ids: [word.id], inked: true }, newId);
    if (!session.change(patch) || isRefusal(patch)) return;
    playhead.stop();
    playhead.moveTo(Math.round(word.from));
    const left = data.words.filter((one) => isDoubtful(one) && one.id !== word.id).length;
    announce(`“${word.text}” accepted; ${count(left, 'doubtful word is', 'doubtful words are')} left.`);
    const next = data.words.find((one) => isDoubtful(one) && one.from > word.from);
    if (next) playhead.toggleLoop({ from: Math.max(0, Math.floor(next.from) - AROUND), to: Math.ceil(next.to) + AROUND });
  };
  const at = (id: string, title: string, keys: readonly string[], run: () => void, also = ''): Command => ({
    id,
    title,
    group,
    keys,
    also,
    run,
  });
  return [
    at('doubtful-next', 'To the next doubtful word, looped', ['KeyD'], () => toDoubtful(1), 'unsure check tab'),
    at('doubtful-before', 'To the doubtful word before, looped', ['Shift+KeyD'], () => toDoubtful(-1), 'unsure'),
    at('word-accept', 'Accept the word: it is right', ['Enter', 'KeyI'], accept, 'ink confirm ok'),
    at(
      'word-pencil',
      'Back to how it was read',
      ['Shift+KeyI'],
      change((scene, { clip, id }) => inkWords(scene, { clip, ids: [id], inked: false }, newId), 'is as it was read'),
    ),
    at(
      'word-retype',
      'Say what the word is',
      ['KeyT'],
      () => {
        const word = wordHere();
        if (word) onWord(word);
      },
      'edit text rename sounds',
    ),
    at(
      'sound-retype',
      'Say which sound it is',
      ['Shift+KeyT'],
      () => {
        const { frame } = playhead.store.getState();
        const sound = mostHeard(data.sounds, frame);
        if (sound) onSound(sound);
      },
      'phoneme symbol change',
    ),
    at('word-from-earlier', 'The word starts a frame earlier', ['Comma'], nudge('from', -1, false)),
    at('word-from-later', 'The word starts a frame later', ['Period'], nudge('from', 1, false)),
    at('word-to-earlier', 'The word ends a frame earlier', ['Shift+Comma'], nudge('to', -1, false)),
    at('word-to-later', 'The word ends a frame later', ['Shift+Period'], nudge('to', 1, false)),
    at('word-from-earlier-fine', 'The word starts 5 ms earlier', ['Alt+Comma'], nudge('from', -1, true)),
    at('word-from-later-fine', 'The word starts 5 ms later', ['Alt+Period'], nudge('from', 1, true)),
    at('word-to-earlier-fine', 'The word ends 5 ms earlier', ['Alt+Shift+Comma'], nudge('to', -1, true)),
    at('word-to-later-fine', 'The word ends 5 ms later', ['Alt+Shift+Period'], nudge('to', 1, true)),
    at('word-slide-earlier', 'Slide the word a frame earlier', ['Alt+ArrowLeft'], slide(-1)),
    at('word-slide-later', 'Slide the word a frame later', ['Alt+ArrowRight'], slide(1)),
    at(
      'word-split',
      'Split the word at the playhead',
      ['Slash'],
      change((scene, { clip, id }) => {
        const own = scene.clips.find((one) => one.id === clip)!;
        const { frame } = playhead.store.getState();
        const atSample = sampleAtFrame(sceneSettings(scene).frameRate, frame) - clipStart(scene, own);
        return splitWord(scene, { clip, id, atSample }, newId);
      }),
    ),
    at(
      'word-join',
      'Join the word with the next',
      ['Backslash'],
      change((scene, { clip, id }) => joinWords(scene, { clip, id }, newId)),
    ),
    at(
      'word-delete',
      'Take the word out: a pause',
      ['Backspace', 'Delete'],
      change((scene, { clip, id }) => deleteWord(scene, { clip, id }, newId), 'is taken out'),
    ),
  ];
}
