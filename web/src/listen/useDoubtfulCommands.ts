/** Doubtful words by keys: to the next one, which loops, accepted, and on. */
import { inkWords, isRefusal } from '@zest-jaw/core';
import { useStore } from 'zustand';
import { SURE_WORD, type SheetWord } from '../barSheet/sheetData.js';
import type { Command } from '../commands/command.js';
import { useOpenScene, useSheet } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { count } from '../ui/count.js';
import type { ReadingAtHand } from './useReadingAtHand.js';

/** Heard before and after a doubtful word that loops, in frames. */
const AROUND = 2;

export const isDoubtful = ({ confidence, inked }: Pick<SheetWord, 'confidence' | 'inked'>): boolean => !inked && confidence < SURE_WORD;

export function useDoubtfulCommands({ wordHere, changeWord }: ReadingAtHand): readonly Command[] {
  const { session, playhead } = useOpenScene();
  const { data } = useSheet();
  const loopAround = ({ from, to }: SheetWord) => ({ from: Math.max(0, Math.floor(from) - AROUND), to: Math.ceil(to) + AROUND });
  const looped = (): SheetWord | undefined => {
    const { loop } = playhead.store.getState();
    return loop ? data.words.filter(isDoubtful).find(({ from, to }) => from >= loop.from && to <= loop.to) : undefined;
  };
  // While one loops, Tab goes on; else it goes through the page as ever.
  const isLooping = useStore(playhead.store, ({ loop }) => loop !== null) && looped() !== undefined;
  const toDoubtful = (towards: 1 | -1): void => {
    const { frame } = playhead.store.getState();
    const doubtful = data.words.filter(isDoubtful);
    const next =
      towards > 0 ? doubtful.find(({ from }) => Math.round(from) > frame) : doubtful.findLast(({ from }) => Math.round(from) < frame);
    const word = next ?? (towards > 0 ? doubtful[0] : doubtful.at(-1));
    playhead.stop();
    if (!word) {
      announce('No word is doubtful.');
      return;
    }
    playhead.moveTo(Math.round(word.from));
    playhead.toggleLoop(loopAround(word));
    announce(`“${word.text}”, doubtful; ${count(doubtful.length, 'word is', 'words are')} left.`);
  };
  /** The one that loops, else the one at the playhead, is accepted; then on to the next. */
  const accept = (): void => {
    const word = looped() ?? wordHere();
    if (!word) return;
    const patch = inkWords(session.store.getState().document, { clip: word.clip, ids: [word.id], inked: true }, newId);
    if (!session.change(patch) || isRefusal(patch)) return;
    playhead.stop();
    playhead.moveTo(Math.round(word.from));
    const left = data.words.filter((one) => isDoubtful(one) && one.id !== word.id).length;
    announce(`“${word.text}” accepted; ${count(left, 'doubtful word is', 'doubtful words are')} left.`);
    const next = data.words.find((one) => isDoubtful(one) && one.from > word.from);
    if (next) playhead.toggleLoop(loopAround(next));
  };
  const group = 'Change words' as const;
  return [
    {
      id: 'doubtful-next',
      title: 'To the next doubtful word, looped; while one loops, Tab goes on',
      group,
      keys: isLooping ? ['KeyD', 'Tab'] : ['KeyD'],
      also: 'unsure check',
      run: () => toDoubtful(1),
    },
    {
      id: 'doubtful-before',
      title: 'To the doubtful word before, looped',
      group,
      keys: isLooping ? ['Shift+KeyD', 'Shift+Tab'] : ['Shift+KeyD'],
      also: 'unsure',
      run: () => toDoubtful(-1),
    },
    { id: 'word-accept', title: 'Accept the word: it is right', group, keys: ['Enter', 'KeyI'], also: 'ink confirm ok', run: accept },
    {
      id: 'word-pencil',
      title: 'Back to how it was read',
      group,
      keys: ['Shift+KeyI'],
      also: 'pencil',
      run: changeWord((scene, { clip, id }) => inkWords(scene, { clip, ids: [id], inked: false }, newId), 'is as it was read'),
    },
  ];
}
