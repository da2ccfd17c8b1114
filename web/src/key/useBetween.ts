/** In-betweens and smears put by a key or a button: how they are eased and how many, kept while the page is open. */
import {
  fullRules,
  isRefusal,
  madeOf,
  maybeExposureAt,
  exposuresOfTrack,
  putInBetween,
  putInBetweens,
  setShare,
  smearMouth,
  spanInWords,
  type Between,
  type Ease,
  type Refusal,
} from '@zest-jaw/core';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { Command } from '../commands/command.js';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';

interface Choice {
  readonly ease: Ease;
  /** 0 for one a hold. */
  readonly count: number;
}

const choice = createStore<Choice>(() => ({ ease: 'even', count: 0 }));

/** What a key press changes the share of an in-between by. */
const STEP = 0.1;

export interface BetweenEdits extends Choice {
  readonly set: (changed: Partial<Choice>) => void;
  /** Over the selection, else one from the playhead on. */
  readonly put: () => void;
  readonly smear: () => void;
  readonly commands: readonly Command[];
}

export function useBetween(): BetweenEdits {
  const { session, playhead } = useOpenScene();
  const { track, chart } = useSpeaker();
  const { ease, count } = useStore(choice);
  const take = (made: Between | Refusal, what: string): void => {
    playhead.stay();
    if (isRefusal(made)) {
      session.change(made);
      return;
    }
    if (made.instead !== undefined) toast.message(made.instead);
    const { frame, selection } = playhead.store.getState();
    const { document } = session.store.getState();
    if (session.change(made.patch)) announce(`${what}, ${spanInWords(document, selection ?? { from: frame, to: frame + 1 })}.`);
  };
  const put = (): void => {
    const { frame, selection } = playhead.store.getState();
    const { document } = session.store.getState();
    const { holdFrames: hold } = fullRules(track.rules);
    if (!selection) return take(putInBetween(document, { track: track.id, frame, share: 0.5, hold }, chart, newId), 'An in-between');
    const asked = { track: track.id, ...selection, ease, hold, ...(count > 0 && { count }) };
    return take(putInBetweens(document, asked, chart, newId), 'In-betweens');
  };
  const smear = (): void => {
    const { frame } = playhead.store.getState();
    take(smearMouth(session.store.getState().document, { track: track.id, frame }, chart, newId), 'A smear');
  };
  const nearer = (by: number) => (): void => {
    const { frame } = playhead.store.getState();
    const { document } = session.store.getState();
    const there = maybeExposureAt(exposuresOfTrack(document, track.id), frame);
    const share = Math.round(((madeOf(there?.drawing ?? '').mix?.share ?? 0.5) + by) * 100) / 100;
    if (session.change(setShare(document, { track: track.id, frame, share }, newId)))
      announce(`${Math.round(share * 100)} percent of the way.`);
  };
  const commands: readonly Command[] = [
    {
      id: 'between',
      title: 'An in-between from here to the next mouth; over a selection, several',
      group: 'Put mouths',
      keys: ['Alt+KeyI'],
      also: 'tween mix inbetween morph',
      run: put,
    },
    {
      id: 'between-first',
      title: 'The in-between nearer to its first mouth',
      group: 'Change mouths',
      keys: ['Alt+Comma'],
      also: 'share favour favor',
      run: nearer(-STEP),
    },
    {
      id: 'between-second',
      title: 'The in-between nearer to its second mouth',
      group: 'Change mouths',
      keys: ['Alt+Period'],
      also: 'share favour favor',
      run: nearer(STEP),
    },
    {
      id: 'smear',
      title: 'A smear into the mouth at the playhead',
      group: 'Put mouths',
      keys: ['Alt+KeyS'],
      also: 'stretch squash blur',
      run: smear,
    },
  ];
  return { ease, count, set: (changed) => choice.setState(changed), put, smear, commands };
}
