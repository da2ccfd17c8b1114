/** The playhead: one for the whole scene, kept from step to step. */
import type { Span } from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Player, PlayRange } from './player.js';
import { soundSettings } from './soundSettings.js';

/** How many times as long as it is: full, half, quarter and eighth speed. */
export const SLOWNESSES = [1, 2, 4, 8] as const;
export type Slowness = (typeof SLOWNESSES)[number];

export interface PlayheadState {
  readonly frame: number;
  readonly playing: boolean;
  /** What is played over and over; null when nothing is. */
  readonly loop: Span | null;
  readonly slowness: Slowness;
  /** Frames picked out, to be played, looped or worked on; null when none are. */
  readonly selection: Span | null;
}

export interface Playhead {
  readonly store: StoreApi<PlayheadState>;
  /** Moves to a frame and lets it be heard; playing stops. */
  scrubTo(frame: number): void;
  /** Moves without a sound. */
  moveTo(frame: number): void;
  /** Plays from the playhead to the end of the scene, or stops. */
  toggle(): void;
  /** Plays from where it was last started. */
  playAgain(): void;
  /** Plays a range once. */
  playRange(range: Span): void;
  /** Plays a range over and over, or stops. */
  toggleLoop(range: Span): void;
  /** Moves an end of the loop by frames while it plays. */
  nudgeLoop(end: 'from' | 'to', by: number): void;
  /** Full, half, quarter or eighth speed, at its own pitch; what plays goes on at it. */
  setSlowness(slowness: Slowness): void;
  /** Held: goes on in a direction at its own pace until it is let go. Backwards it sounds step by step. */
  hold(direction: 1 | -1): void;
  letGo(): void;
  /** The frames that are being played, or were last. */
  played(): Span;
  /** Stays where it is, should it be about to go back: something is done at the frame before the eye. */
  stay(): void;
  /** Picks frames out; null picks none. What lies outside the scene is left out. */
  select(range: Span | null): void;
  /** Moves the end of the selection that the playhead is at, as Shift with an arrow does, and lets the frame be heard. */
  selectTo(frame: number): void;
  stop(): void;
  setLength(lengthFrames: number): void;
  close(): void;
}

/** How long the last frame stays when play has come to its end and goes back, in milliseconds: what is pressed then is meant for it. */
const RETURN_AFTER_MS = 400;

export function openPlayhead(player: Player): Playhead {
  const store = createStore<PlayheadState>(() => ({ frame: 0, playing: false, loop: null, slowness: 1, selection: null }));
  let length = 1;
  let request = 0;
  /** Where the playhead returns to when it has played to the end. */
  let startedFrom = 0;
  /** What is played ends before it. */
  let playsTo = 1;
  /** Counts starts, so that what begins late is not played. */
  let starts = 0;
  /** Goes back to where it started, unless something else is done first. */
  let returning: ReturnType<typeof setTimeout> | undefined;
  let held: 1 | -1 | undefined;
  let pace: ReturnType<typeof setTimeout> | undefined;
  /** The end of the selection that stays while the other is moved. */
  let anchor: number | undefined;

  const clamped = (frame: number): number => Math.min(length - 1, Math.max(0, frame));

  const stop = (): void => {
    starts += 1;
    clearTimeout(returning);
    cancelAnimationFrame(request);
    player.stop();
    if (store.getState().playing) store.setState({ playing: false, loop: null });
  };

  /** It has come to its end by itself: the last frame is still before the eye. */
  const end = (): void => {
    stop();
    if (!soundSettings.getState().returnsAfterPlay) return;
    returning = setTimeout(() => store.setState({ frame: clamped(startedFrom) }), RETURN_AFTER_MS);
  };

  const follow = (): void => {
    const heard = player.maybeFrameHeard();
    if (heard === undefined) {
      end();
      return;
    }
    const frame = clamped(heard);
    if (frame !== store.getState().frame) store.setState({ frame });
    request = requestAnimationFrame(follow);
  };

  /** A range as the player is asked for it now. */
  const asked = ({ from, to }: Span, firstFrame = from): PlayRange => {
    const { slowness, loop } = store.getState();
    const gapSeconds = loop ? soundSettings.getState().loopGapSeconds : 0;
    return {
      fromFrame: from,
      toFrame: to,
      loop: loop !== null,
      ...(firstFrame !== from && { firstFrame }),
      ...(gapSeconds > 0 && { gapSeconds }),
      ...(slowness !== 1 && { slowness }),
    };
  };

  const begin = async (range: Span): Promise<void> => {
    starts += 1;
    const mine = starts;
    await player.wake();
    // Stopped or begun again while the sound device was opening.
    if (mine !== starts || !store.getState().playing) return;
    player.play(asked(range));
    cancelAnimationFrame(request);
    request = requestAnimationFrame(follow);
  };

  const start = (range: Span, loop: boolean): void => {
    clearTimeout(returning);
    // Nothing is heard until the new sound begins: what followed the one before must not take that for its end.
    cancelAnimationFrame(request);
    [startedFrom, playsTo] = [range.from, range.to];
    store.setState({ frame: range.from, playing: true, loop: loop ? range : null });
    void begin(range);
  };

  /** Goes on with what plays, with other ends or at another speed. */
  const goOn = (range: Span): void => {
    // Not begun yet: it will be asked for as it is then.
    if (!player.isPlaying()) start(range, store.getState().loop !== null);
    else player.goOn(asked(range));
  };

  const scrubTo = (frame: number): void => {
    stop();
    store.setState({ frame: clamped(frame) });
    void player.wake().then(() => player.scrub(clamped(frame), soundSettings.getState().scrubFrames));
  };

  const letGo = (): void => {
    clearTimeout(pace);
    if (held === 1) stop();
    held = undefined;
  };

  /** Steps backwards, each step heard, at the pace of the scene. */
  const stepBack = (): void => {
    const { frame, slowness } = store.getState();
    if (frame === 0) return letGo();
    scrubTo(frame - 1);
    pace = setTimeout(stepBack, player.frameSeconds() * slowness * 1000);
  };

  return {
    store,
    stop,
    moveTo: (frame) => {
      stop();
      store.setState({ frame: clamped(frame) });
    },
    scrubTo,
    hold: (direction) => {
      if (held === direction) return;
      letGo();
      held = direction;
      const { frame } = store.getState();
      if (direction === 1) start({ from: frame, to: length }, false);
      else stepBack();
    },
    letGo,
    played: () => ({ from: startedFrom, to: playsTo }),
    stay: () => clearTimeout(returning),
    select: (range) => {
      anchor = undefined;
      const within = range && { from: Math.max(0, range.from), to: Math.min(length, range.to) };
      store.setState({ selection: within && within.from < within.to ? within : null });
    },
    selectTo: (frame) => {
      const { frame: now, selection } = store.getState();
      const isAtEnd = selection !== null && (now === selection.from || now === selection.to - 1);
      if (!isAtEnd) anchor = undefined;
      anchor ??= !isAtEnd ? now : now === selection.from ? selection.to - 1 : selection.from;
      const to = clamped(frame);
      scrubTo(to);
      store.setState({ selection: { from: Math.min(anchor, to), to: Math.max(anchor, to) + 1 } });
    },
    toggle: () => {
      const { playing, frame } = store.getState();
      if (playing) stop();
      else start({ from: frame >= length - 1 ? 0 : frame, to: length }, false);
    },
    playAgain: () => {
      player.stop();
      start({ from: clamped(startedFrom), to: length }, false);
    },
    playRange: (range) => {
      stop();
      start(range, false);
    },
    toggleLoop: (range) => {
      const wasLooping = store.getState().loop !== null;
      stop();
      if (!wasLooping) start(range, true);
    },
    nudgeLoop: (end, by) => {
      const { loop } = store.getState();
      if (!loop) return;
      const moved = { ...loop, [end]: loop[end] + by };
      if (moved.from < 0 || moved.to > length || moved.to <= moved.from) return;
      store.setState({ loop: moved });
      [startedFrom, playsTo] = [moved.from, moved.to];
      goOn(moved);
    },
    setSlowness: (slowness) => {
      const { playing, loop } = store.getState();
      store.setState({ slowness });
      if (playing) goOn(loop ?? { from: startedFrom, to: playsTo });
    },
    setLength: (lengthFrames) => {
      length = lengthFrames;
      const { frame, selection } = store.getState();
      store.setState({ frame: clamped(frame), selection: selection && selection.to > length ? null : selection });
    },
    close: () => {
      letGo();
      stop();
    },
  };
}
