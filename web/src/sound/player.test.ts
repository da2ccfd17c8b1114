/** What is asked of the sound device, on a stand-in whose clock is set by hand. */
import { openPlayer } from './player.js';

interface Started {
  readonly when: number;
  readonly offset: number;
  readonly duration: number;
  stopped: boolean;
}

class StandInContext {
  static last: StandInContext;
  currentTime = 10;
  outputLatency = 0;
  baseLatency = 0;
  state = 'suspended';
  closed = false;
  readonly destination = {};
  readonly started: Started[] = [];
  readonly ramps: [number, number][] = [];
  constructor() {
    StandInContext.last = this;
  }
  resume = async (): Promise<void> => void (this.state = 'running');
  close = async (): Promise<void> => void (this.closed = true);
  decodeAudioData = async (): Promise<unknown> => ({ length: 48_000 });
  createGain = (): unknown => ({
    gain: {
      setValueAtTime: (value: number, at: number) => this.ramps.push([value, at]),
      linearRampToValueAtTime: (value: number, at: number) => this.ramps.push([value, at]),
    },
    connect: () => undefined,
  });
  createBufferSource = (): unknown => {
    const entry: Started = { when: 0, offset: 0, duration: 0, stopped: false };
    return {
      connect: () => undefined,
      disconnect: () => undefined,
      start: (when: number, offset: number, duration: number) => this.started.push(Object.assign(entry, { when, offset, duration })),
      stop: () => (entry.stopped = true),
    };
  };
}

const rate = { num: 24, den: 1 };
const buffer = (samples: number): AudioBuffer => ({ length: samples }) as AudioBuffer;

function opened(sounds: { atSample: number; buffer: AudioBuffer }[]) {
  Object.assign(globalThis, { AudioContext: StandInContext });
  const player = openPlayer();
  player.setScene(sounds, rate, true);
  void player.wake();
  return { player, device: StandInContext.last };
}

describe('the player', () => {
  it('starts the recording where the range begins, and tells the frame by the audio clock', () => {
    const { player, device } = opened([{ atSample: 0, buffer: buffer(96_000) }]);
    player.play({ fromFrame: 12, toFrame: 48, loop: false });
    expect(device.started).toHaveLength(1);
    expect(device.started[0]).toMatchObject({ offset: 0.5, duration: 1.5 });
    const start = device.started[0]!.when;
    expect(player.maybeFrameHeard()).toBe(12);
    device.currentTime = start + 0.51;
    expect(player.maybeFrameHeard()).toBe(24);
    device.currentTime = start + 1.51;
    expect(player.maybeFrameHeard()).toBeUndefined();
  });

  it('takes the way to the loudspeaker off', () => {
    const { player, device } = opened([{ atSample: 0, buffer: buffer(96_000) }]);
    device.outputLatency = 0.1;
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    device.currentTime = device.started[0]!.when + 0.601;
    expect(player.maybeFrameHeard()).toBe(12);
  });

  it('starts a recording that begins later at its own time, and leaves out what lies outside', () => {
    const { player, device } = opened([
      { atSample: 24_000, buffer: buffer(48_000) },
      { atSample: 480_000, buffer: buffer(48_000) },
    ]);
    player.play({ fromFrame: 0, toFrame: 24, loop: false });
    expect(device.started).toHaveLength(1);
    expect(device.started[0]!.when).toBeCloseTo(10.52, 6);
    expect(device.started[0]).toMatchObject({ offset: 0, duration: 0.5 });
  });

  it('loops without losing a sample: each round starts where the last one ended', () => {
    const { player, device } = opened([{ atSample: 0, buffer: buffer(96_000) }]);
    player.play({ fromFrame: 0, toFrame: 12, loop: true });
    const start = device.started[0]!.when;
    device.currentTime = start + 0.505;
    expect(player.maybeFrameHeard()).toBe(0);
    expect(device.started).toHaveLength(2);
    device.currentTime = start + 0.5 + 0.26;
    expect(player.maybeFrameHeard()).toBe(6);
  });

  it('scrubs one frame, faded at both ends', () => {
    const { player, device } = opened([{ atSample: 0, buffer: buffer(96_000) }]);
    player.scrub(10);
    expect(device.started[0]!.offset).toBeCloseTo(10 / 24, 9);
    expect(device.started[0]!.duration).toBeCloseTo(1 / 24, 9);
    expect(device.ramps.map(([value]) => value)).toEqual([0, 1, 1, 0]);
    expect(device.ramps.at(-1)![1]).toBeCloseTo(10 + 1 / 24, 9);
    player.scrub(11);
    expect(device.started[0]!.stopped).toBe(true);
  });

  it('leaves nothing sounding when it stops, plays anew or closes', () => {
    const { player, device } = opened([{ atSample: 0, buffer: buffer(96_000) }]);
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    player.play({ fromFrame: 4, toFrame: 48, loop: false });
    expect(device.started.map((entry) => entry.stopped)).toEqual([true, false]);
    player.stop();
    expect(device.started.every((entry) => entry.stopped)).toBe(true);
    expect(player.maybeFrameHeard()).toBeUndefined();
    player.close();
    expect(device.closed).toBe(true);
  });

  it('waits for the recordings before it plays', async () => {
    Object.assign(globalThis, { AudioContext: StandInContext });
    const player = openPlayer();
    player.setScene([], rate, false);
    let awake = false;
    const waking = player.wake().then(() => (awake = true));
    await Promise.resolve();
    await Promise.resolve();
    expect(awake).toBe(false);
    player.setScene([{ atSample: 0, buffer: buffer(10) }], rate, true);
    await waking;
    expect(awake).toBe(true);
  });
});
