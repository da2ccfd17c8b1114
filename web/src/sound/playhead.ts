/** The playhead: one for the whole scene, kept from step to step. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Player } from './player.js';

export interface PlayheadState {
  readonly frame: number;
  readonly playing: boolean;
  readonly looping: boolean;
}

export interface Playhead {
  readonly store: StoreApi<PlayheadState>;
  /** Moves to a frame and lets it be heard; playing stops. */
  scrubTo(frame: number): void;
  /** Moves without a sound. */
  moveTo(frame: number): void;
  /** Plays from the playhead to the end of the scene, or stops. */
  toggle(): void;
  /** Plays a range over and over, or stops. */
  toggleLoop(fromFrame: number, toFrame: number): void;
  stop(): void;
  setLength(lengthFrames: number): void;
  close(): void;
}

export function openPlayhead(player: Player): Playhead {
  const store = createStore<PlayheadState>(() => ({ frame: 0, playing: false, looping: false }));
  let length = 1;
  let request = 0;
  /** Where the playhead returns to when it has played to the end. */
  let startedFrom = 0;

  const clamped = (frame: number): number => Math.min(length - 1, Math.max(0, frame));

  const stop = (): void => {
    cancelAnimationFrame(request);
    player.stop();
    if (store.getState().playing) store.setState({ playing: false, looping: false });
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

  const start = (fromFrame: number, toFrame: number, loop: boolean): void => {
    startedFrom = fromFrame;
    store.setState({ frame: fromFrame, playing: true, looping: loop });
    void player.wake().then(() => {
      // Stopped again while the sound device was opening.
      if (!store.getState().playing) return;
      player.play({ fromFrame, toFrame, loop });
      cancelAnimationFrame(request);
      request = requestAnimationFrame(follow);
    });
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
      void player.wake().then(() => player.scrub(clamped(frame)));
    },
    toggle: () => {
      const { playing, frame } = store.getState();
      if (playing) stop();
      else start(frame >= length - 1 ? 0 : frame, length, false);
    },
    toggleLoop: (fromFrame, toFrame) => {
      const { playing, looping } = store.getState();
      stop();
      if (!(playing && looping)) start(fromFrame, toFrame, true);
    },
    setLength: (lengthFrames) => {
      length = lengthFrames;
      store.setState({ frame: clamped(store.getState().frame) });
    },
    close: stop,
  };
}
