/** The playhead follows the sound, never the screen. */
import { openPlayhead } from './playhead.js';
import type { Player, PlayRange } from './player.js';

class StandInPlayer implements Player {
  heard: number | undefined;
  played: PlayRange[] = [];
  scrubbed: number[] = [];
  stops = 0;
  wake = (): Promise<void> => Promise.resolve();
  decode = (): Promise<AudioBuffer> => Promise.reject(new Error('not here'));
  setScene = (): void => undefined;
  play = (range: PlayRange): void => void this.played.push(range);
  stop = (): void => void (this.stops += 1);
  isPlaying = (): boolean => this.played.length > 0;
  maybeFrameHeard = (): number | undefined => this.heard;
  scrub = (frame: number): void => void this.scrubbed.push(frame);
  close = (): void => undefined;
}

let frames: (() => void)[] = [];
const paint = (): void => {
  const due = frames;
  frames = [];
  for (const callback of due) callback();
};
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

beforeEach(() => {
  frames = [];
  Object.assign(globalThis, {
    requestAnimationFrame: (callback: () => void) => frames.push(callback),
    cancelAnimationFrame: () => (frames = []),
  });
});

async function opened(): Promise<{ player: StandInPlayer; playhead: ReturnType<typeof openPlayhead> }> {
  const player = new StandInPlayer();
  const playhead = openPlayhead(player);
  playhead.setLength(100);
  return { player, playhead };
}

describe('the playhead', () => {
  it('shows the frame that is heard, however many pictures were dropped, and returns at the end', async () => {
    const { player, playhead } = await opened();
    playhead.moveTo(10);
    playhead.toggle();
    await settled();
    expect(player.played).toEqual([{ fromFrame: 10, toFrame: 100, loop: false }]);
    for (const frame of [11, 12, 57, 58]) {
      player.heard = frame;
      paint();
      expect(playhead.store.getState().frame).toBe(frame);
    }
    player.heard = undefined;
    paint();
    expect(playhead.store.getState()).toEqual({ frame: 10, playing: false, looping: false });
    expect(frames).toEqual([]);
  });

  it('stops at once, even while the sound device is opening', async () => {
    const { player, playhead } = await opened();
    playhead.toggle();
    playhead.toggle();
    await settled();
    expect(player.played).toEqual([]);
    expect(playhead.store.getState().playing).toBe(false);
  });

  it('scrubs inside the scene and lets the frame be heard', async () => {
    const { player, playhead } = await opened();
    playhead.scrubTo(500);
    playhead.scrubTo(-3);
    await settled();
    expect(playhead.store.getState().frame).toBe(0);
    expect(player.scrubbed).toEqual([99, 0]);
  });

  it('loops until it is stopped', async () => {
    const { player, playhead } = await opened();
    playhead.toggleLoop(5, 20);
    await settled();
    expect(player.played).toEqual([{ fromFrame: 5, toFrame: 20, loop: true }]);
    expect(playhead.store.getState()).toMatchObject({ playing: true, looping: true });
    playhead.toggleLoop(5, 20);
    expect(playhead.store.getState().playing).toBe(false);
  });

  it('plays from the start when it stands at the end', async () => {
    const { player, playhead } = await opened();
    playhead.moveTo(99);
    playhead.toggle();
    await settled();
    expect(player.played[0]!.fromFrame).toBe(0);
    playhead.close();
    expect(frames).toEqual([]);
  });
});
