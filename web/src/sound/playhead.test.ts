/** The playhead follows the sound, never the screen. */
import { openPlayhead } from './playhead.js';
import type { Player, PlayRange } from './player.js';
import { changeSoundSettings } from './soundSettings.js';

class StandInPlayer implements Player {
  heard: number | undefined;
  played: PlayRange[] = [];
  scrubbed: number[] = [];
  stops = 0;
  wake = (): Promise<void> => Promise.resolve();
  decode = (): Promise<AudioBuffer> => Promise.reject(new Error('not here'));
  setScene = (): void => undefined;
  play = (range: PlayRange): void => void this.played.push(range);
  wentOn: PlayRange[] = [];
  goOn = (range: PlayRange): void => void this.wentOn.push(range);
  stop = (): void => void (this.stops += 1);
  isPlaying = (): boolean => this.played.length > 0;
  maybeFrameHeard = (): number | undefined => this.heard;
  scrub = (frame: number): void => void this.scrubbed.push(frame);
  bufferOf = (samples: Float32Array<ArrayBuffer>): AudioBuffer => ({ length: samples.length }) as AudioBuffer;
  hush = (): void => undefined;
  frameSeconds = (): number => 0.002;
  device = (): AudioContext => ({}) as AudioContext;
  maybeHeardSince = (): undefined => undefined;
  maybeHeardWhen = (): undefined => undefined;
  close = (): void => undefined;
}

const playheads: ReturnType<typeof openPlayhead>[] = [];
afterEach(() => playheads.splice(0).forEach((playhead) => playhead.close()));

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
  playheads.push(playhead);
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
    jest.useFakeTimers();
    player.heard = undefined;
    paint();
    // The last frame is still before the eye: what is pressed now is meant for it.
    expect(playhead.store.getState()).toEqual({ frame: 58, playing: false, loop: null, slowness: 1, selection: null });
    expect(frames).toEqual([]);
    jest.advanceTimersByTime(500);
    expect(playhead.store.getState().frame).toBe(10);
    jest.useRealTimers();
  });

  it.each([
    ['something is done there', (playhead: ReturnType<typeof openPlayhead>) => playhead.stay()],
    ['that is chosen', () => changeSoundSettings({ returnsAfterPlay: false })],
  ])('stays where play ended when %s', async (_, make) => {
    const { player, playhead } = await opened();
    playhead.toggle();
    await settled();
    player.heard = 40;
    paint();
    jest.useFakeTimers();
    if (make.length === 0) make(playhead);
    player.heard = undefined;
    paint();
    if (make.length > 0) make(playhead);
    jest.advanceTimersByTime(5000);
    expect(playhead.store.getState().frame).toBe(40);
    jest.useRealTimers();
    changeSoundSettings({ returnsAfterPlay: true });
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
    playhead.toggleLoop({ from: 5, to: 20 });
    await settled();
    expect(player.played).toEqual([{ fromFrame: 5, toFrame: 20, loop: true }]);
    expect(playhead.store.getState()).toMatchObject({ playing: true, loop: { from: 5, to: 20 } });
    playhead.toggleLoop({ from: 5, to: 20 });
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

  it('asks for slow sound, and goes on from where it is when the speed changes', async () => {
    const { player, playhead } = await opened();
    playhead.setSlowness(4);
    playhead.toggleLoop({ from: 10, to: 20 });
    await settled();
    expect(player.played).toEqual([{ fromFrame: 10, toFrame: 20, loop: true, slowness: 4 }]);
    playhead.setSlowness(1);
    await settled();
    expect(player.played).toHaveLength(1);
    expect(player.wentOn).toEqual([{ fromFrame: 10, toFrame: 20, loop: true }]);
    playhead.stop();
    playhead.setSlowness(2);
    await settled();
    expect(player.wentOn).toHaveLength(1);
  });

  it('does not play what begins after it was stopped', async () => {
    const { player, playhead } = await opened();
    playhead.setSlowness(8);
    playhead.toggle();
    playhead.stop();
    await settled();
    expect(player.played).toEqual([]);
  });

  it('moves the ends of its loop by frames, but never past one another or the scene', async () => {
    const { player, playhead } = await opened();
    playhead.nudgeLoop('to', 1);
    playhead.toggleLoop({ from: 0, to: 2 });
    await settled();
    player.heard = 0;
    paint();
    playhead.nudgeLoop('to', 1);
    playhead.nudgeLoop('from', -1);
    playhead.nudgeLoop('from', 1);
    playhead.nudgeLoop('from', 5);
    await settled();
    expect(playhead.store.getState().loop).toEqual({ from: 1, to: 3 });
    // The round goes on: nothing is begun anew.
    expect(player.played).toHaveLength(1);
    expect(player.wentOn.at(-1)).toMatchObject({ fromFrame: 1, toFrame: 3 });
  });

  it('plays a range once, and again from where it was last started', async () => {
    const { player, playhead } = await opened();
    playhead.playRange({ from: 30, to: 40 });
    await settled();
    player.heard = 37;
    paint();
    playhead.playAgain();
    await settled();
    expect(player.played.map(({ fromFrame, toFrame }) => [fromFrame, toFrame])).toEqual([
      [30, 40],
      [30, 100],
    ]);
  });

  it('leaves the gap that is set between two rounds', async () => {
    const { player, playhead } = await opened();
    changeSoundSettings({ loopGapSeconds: 0.5 });
    playhead.toggleLoop({ from: 0, to: 24 });
    await settled();
    changeSoundSettings({ loopGapSeconds: 0 });
    expect(player.played[0]).toMatchObject({ loop: true, gapSeconds: 0.5 });
  });

  it('goes on at its own pace while a key is held, forwards playing, backwards step by step, and stops when it is let go', async () => {
    const { player, playhead } = await opened();
    playhead.moveTo(20);
    playhead.hold(1);
    playhead.hold(1);
    await settled();
    expect(player.played).toEqual([{ fromFrame: 20, toFrame: 100, loop: false }]);
    player.heard = 26;
    paint();
    playhead.letGo();
    expect(playhead.store.getState()).toMatchObject({ playing: false, frame: 26 });
    playhead.hold(-1);
    while (playhead.store.getState().frame > 22) await settled();
    playhead.letGo();
    const { frame } = playhead.store.getState();
    expect(player.scrubbed.slice(0, 4)).toEqual([25, 24, 23, 22]);
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(playhead.store.getState().frame).toBe(frame);
  });

  it('selects with Shift and an arrow from where it stands, forwards and back over its start', async () => {
    const { playhead } = await opened();
    playhead.moveTo(10);
    playhead.selectTo(11);
    playhead.selectTo(12);
    expect(playhead.store.getState().selection).toEqual({ from: 10, to: 13 });
    for (const frame of [11, 10, 9, 8]) playhead.selectTo(frame);
    expect(playhead.store.getState().selection).toEqual({ from: 8, to: 11 });
    playhead.moveTo(50);
    playhead.selectTo(49);
    expect(playhead.store.getState().selection).toEqual({ from: 49, to: 51 });
    playhead.select({ from: 90, to: 200 });
    expect(playhead.store.getState().selection).toEqual({ from: 90, to: 100 });
    playhead.setLength(80);
    expect(playhead.store.getState().selection).toBeNull();
  });
});
