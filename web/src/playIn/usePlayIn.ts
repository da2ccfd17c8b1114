/**
 * Playing mouths in: while the line plays, keycaps lay mouths from the moment they are pressed.
 * What was pressed is a proposal until it is taken as ink, played again, or left.
 */
import {
  framesPerSecond,
  fullRules,
  layPlayed,
  meantAt,
  playedMouths,
  restDrawing,
  sceneSettings,
  type KeyPress,
  type PlayedMouth,
  type PlayInRules,
  type Span,
} from '@zest-jaw/core';
import { useEffect, useEffectEvent, useState } from 'react';
import { useStore } from 'zustand';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { createJSONStorage, persist } from 'zustand/middleware';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { soundSettings } from '../sound/soundSettings.js';
import { announce } from '../ui/Announced.js';
import { count } from '../ui/count.js';

export interface PlayInWays {
  readonly after: PlayInRules['after'];
  /** Mouths start on the grid of the hold. */
  readonly isOnGrid: boolean;
}

/** How one plays in: kept by the browser, for it belongs to the hand. */
export const playInWays = createStore<PlayInWays>()(
  // Without a store it holds for this page.
  persist(() => ({ after: 'holds', isOnGrid: true }) as PlayInWays, {
    name: 'zest-play-in',
    storage: createJSONStorage(() => localStorage),
    merge: (kept, now) => {
      const { after, isOnGrid } = { ...now, ...(kept as Partial<PlayInWays> | undefined) };
      return { after: after === 'rests' ? 'rests' : 'holds', isOnGrid: isOnGrid !== false };
    },
  }),
);

/** A run through what is played: a round of a loop is one. */
interface Run {
  readonly round: number;
  /** What was there before it. */
  readonly base: readonly PlayedMouth[];
  readonly span: Span;
  readonly presses: readonly (KeyPress & { readonly code: string | undefined })[];
}

interface Playing {
  readonly isArmed: boolean;
  readonly mouths: readonly PlayedMouth[];
  readonly run: Run | undefined;
}

export interface PlayIn {
  readonly isArmed: boolean;
  readonly mouths: readonly PlayedMouth[];
  readonly arm: (isArmed: boolean) => void;
  /** A keycap came down; answers whether it was played in. */
  readonly press: (drawing: string, event?: KeyboardEvent) => boolean;
  readonly take: () => void;
  readonly leave: () => void;
}

const NOTHING: Playing = { isArmed: false, mouths: [], run: undefined };

export function usePlayIn(): PlayIn {
  const { session, playhead, player } = useOpenScene();
  const { track, chart } = useSpeaker();
  const { frameRate } = useSceneDocument(sceneSettings);
  const [store] = useState<StoreApi<Playing>>(() => createStore(() => NOTHING));
  const { isArmed, mouths } = useStore(store);

  const rules = (): PlayInRules => {
    const { after, isOnGrid } = playInWays.getState();
    return { after, grid: isOnGrid ? fullRules(track.rules).holdFrames : 1, rest: restDrawing(chart).id };
  };
  /** Where in the scene something was meant that a hand did at a time of the page's clock, and in which round. */
  const whenMeant = (performanceMs: number): { readonly round: number; readonly position: number } | undefined => {
    const heard = player.maybeHeardWhen(performanceMs);
    if (!heard) return undefined;
    const { reactionMs } = soundSettings.getState();
    const { slowness } = playhead.store.getState();
    return { ...heard, position: meantAt(heard.position, { reactionMs, slowness, framesPerSecond: framesPerSecond(frameRate) }) };
  };
  const lay = (run: Run): void => {
    store.setState({ run, mouths: playedMouths(run.base, run.presses, run.span, rules()) });
  };
  const press: PlayIn['press'] = (drawing, event) => {
    if (!store.getState().isArmed || !playhead.store.getState().playing) return false;
    if (event?.repeat) return true;
    const meant = whenMeant(event?.timeStamp ?? performance.now());
    if (!meant) return true;
    const { run, mouths: before } = store.getState();
    const isSame = run?.round === meant.round;
    const current: Run = isSame ? run : { round: meant.round, base: before, span: playhead.played(), presses: [] };
    const { position } = meant;
    lay({ ...current, presses: [...current.presses, { drawing, down: position, up: position, code: event?.code }] });
    return true;
  };
  const letGo = useEffectEvent((event: KeyboardEvent) => {
    const { run } = store.getState();
    const at = run?.presses.findLastIndex(({ code }) => code === event.code) ?? -1;
    const meant = at < 0 ? undefined : whenMeant(event.timeStamp);
    if (!run || !meant || meant.round !== run.round) return;
    const held = run.presses[at]!;
    if (held.code === undefined) return;
    const up = Math.max(held.down, meant.position);
    lay({ ...run, presses: run.presses.with(at, { ...held, up, code: undefined }) });
  });
  /** What plays has stopped: the last mouth holds on no further than one heard. */
  const stopped = useEffectEvent(() => {
    const { run } = store.getState();
    if (!run) return;
    const to = Math.min(run.span.to, playhead.store.getState().frame + 1);
    lay({ ...run, span: { from: run.span.from, to } });
    store.setState({ run: undefined });
    announce(`${count(store.getState().mouths.length, 'mouth', 'mouths')} played in: take them, play again, or leave them.`);
  });
  useEffect(() => {
    const onKeyUp = (event: KeyboardEvent): void => letGo(event);
    window.addEventListener('keyup', onKeyUp);
    let wasPlaying = false;
    const unsubscribe = playhead.store.subscribe(({ playing }) => {
      if (wasPlaying && !playing) stopped();
      wasPlaying = playing;
    });
    return () => {
      window.removeEventListener('keyup', onKeyUp);
      unsubscribe();
    };
  }, [playhead]);

  return {
    isArmed,
    mouths,
    press,
    arm: (next) => {
      store.setState(next ? { isArmed: true } : { isArmed: false, run: undefined });
      announce(next ? 'Armed: play, and press keycaps as you hear them.' : 'No longer armed.');
    },
    take: () => {
      playhead.stop();
      const played = store.getState().mouths;
      if (!session.change(layPlayed(session.store.getState().document, track.id, played, newId))) return;
      store.setState(NOTHING);
      announce(`${count(played.length, 'mouth', 'mouths')} inked.`);
    },
    leave: () => {
      playhead.stop();
      store.setState({ mouths: [], run: undefined });
    },
  };
}

/** Whether there is anything to be seen of playing in. */
export const isPlayingIn = ({ isArmed, mouths }: PlayIn): boolean => isArmed || mouths.length > 0;
