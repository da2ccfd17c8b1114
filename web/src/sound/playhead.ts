/** The playhead: one for the whole scene, kept from step to step. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Player } from './player.js';
import { soundSettings } from './soundSettings.js';

/** How many times as long as it is: full, half, quarter and eighth speed. */
export const SLOWNESSES = [1, 2, 4, 8] as const;
export type Slowness = (typeof SLOWNESSES)[number];

/** Frames, half-open. */
export interface FrameRange {
  readonly from: number;
  readonly to: number;
}

export interface PlayheadState {
  readonly frame: number;
  readonly playing: boolean;
  /** What is played over and over; null when nothing is. */
  readonly loop: FrameRange | null;
  readonly slowness: Slowness;
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
  playRange(range: FrameRange): void;
  /** Plays a range over and over, or stops. */
  toggleLoop(range: FrameRange): void;
  /** Moves an end of the loop by frames while it plays. */
  nudgeLoop(end: 'from' | 'to', by: number): void;
  /** Full, half, quarter or eighth speed, at its own pitch; what plays goes on at it. */
  setSlowness(slowness: Slowness): void;
  stop(): void;
  setLength(lengthFrames: number): void;
  close(): void;
}

/** The longest stretch that is made slow at once, in frames; a longer one is heard up to there. */
const MOST_SLOW_FRAMES = 3000;

/** Makes sound so many times as long. */
export type Stretch = (samples: Float32Array, factor: number) => Promise<Float32Array<ArrayBuffer>>;

export function openPlayhead(player: Player, stretch: Stretch): Playhead {
  const store = createStore<PlayheadState>(() => ({ frame: 0, playing: false, loop: null, slowness: 1 }));
  let length = 1;
  let request = 0;
  /** Where the playhead returns to when it has played to the end. */
  let startedFrom = 0;
  /** Counts starts, so that a slow sound that arrives late is not played. */
  let starts = 0;

  const clamped = (frame: number): number => Math.min(length - 1, Math.max(0, frame));

  const stop = (): void => {
    starts += 1;
    cancelAnimationFrame(request);
    player.stop();
    if (store.getState().playing) store.setState({ playing: false, loop: null });
  };

  const follow = (): void => {
    const heard = player.maybeFrameHeard();
    if (heard === undefined) {
      stop();
      store.setState({ frame: clamped(startedFrom) });
      return;
    }
    const frame = clamped(heard);
    if (frame !== store.getState().frame) store.setState({ frame });
    request = requestAnimationFrame(follow);
  };

  const begin = async (range: FrameRange, loop: boolean): Promise<void> => {
    starts += 1;
    const mine = starts;
    await player.wake();
    const { slowness } = store.getState();
    const { from } = range;
    const to = slowness === 1 ? range.to : Math.min(range.to, from + MOST_SLOW_FRAMES);
    const slow = slowness === 1 ? undefined : player.bufferOf(await stretch(player.mixOf(from, to), slowness));
    // Stopped or begun again while the sound device was opening or the slow sound was being made.
    if (mine !== starts || !store.getState().playing) return;
    const gapSeconds = loop ? soundSettings.getState().loopGapSeconds : 0;
    player.play({ fromFrame: from, toFrame: to, loop, ...(gapSeconds > 0 && { gapSeconds }), ...(slow && { slow }) });
    cancelAnimationFrame(request);
    request = requestAnimationFrame(follow);
  };

  const start = (range: FrameRange, loop: boolean): void => {
    // Nothing is heard until the new sound begins: what followed the one before must not take that for its end.
    cancelAnimationFrame(request);
    startedFrom = range.from;
    store.setState({ frame: range.from, playing: true, loop: loop ? range : null });
    void begin(range, loop);
  };

  return {
    store,
    stop,
    moveTo: (frame) => {
      stop();
      store.setState({ frame: clamped(frame) });
    },
    scrubTo: (frame) => {
      stop();
      store.setState({ frame: clamped(frame) });
      void player.wake().then(() => player.scrub(clamped(frame), soundSettings.getState().scrubFrames));
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
      player.stop();
      start(moved, true);
    },
    setSlowness: (slowness) => {
      const { playing, loop, frame } = store.getState();
      store.setState({ slowness });
      if (!playing) return;
      player.stop();
      const returnTo = startedFrom;
      start(loop ?? { from: frame, to: length }, loop !== null);
      startedFrom = returnTo;
    },
    setLength: (lengthFrames) => {
      length = lengthFrames;
      store.setState({ frame: clamped(store.getState().frame) });
    },
    close: stop,
  };
}
