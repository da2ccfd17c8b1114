/** What is asked of the sound device, on a stand-in whose clock is set by hand. */
import { handsAt } from './clapTest.js';
import { mixOf, wholeSound, type PlacedSound } from './mix.js';
import { openPlayer, type SlowSource } from './player.js';
import { changeSoundSettings } from './soundSettings.js';

interface Started {
  readonly when: number;
  readonly offset: number;
  readonly duration: number;
  stopped: boolean;
  /** What was made for it, where it is not a recording. */
  readonly samples: Float32Array | undefined;
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
    context: this,
    gain: {
      cancelScheduledValues: () => undefined,
      setTargetAtTime: () => undefined,
      setValueAtTime: (value: number, at: number) => this.ramps.push([value, at]),
      linearRampToValueAtTime: (value: number, at: number) => this.ramps.push([value, at]),
    },
    connect: () => undefined,
    disconnect: () => undefined,
  });
  createBuffer = (_: number, length: number): unknown => {
    const made = { length, samples: new Float32Array(length), copyToChannel: (samples: Float32Array) => made.samples.set(samples) };
    return made;
  };
  createBufferSource = (): unknown => {
    const entry: Started = { when: 0, offset: 0, duration: 0, stopped: false, samples: undefined };
    const source: Record<string, unknown> & { buffer: { length: number; samples?: Float32Array } | undefined } = {
      buffer: undefined,
      connect: (next: unknown) => next,
      disconnect: () => undefined,
      start: (when: number, offset = 0, duration = (source.buffer?.length ?? 0) / 48_000) =>
        this.started.push(Object.assign(entry, { when, offset, duration, samples: source.buffer?.samples })),
      stop: (at = 0) => (entry.stopped ||= at < entry.when + entry.duration - 0.001),
    };
    return source;
  };
}

const players: ReturnType<typeof openPlayer>[] = [];
afterEach(() => players.splice(0).forEach((player) => player.close()));

const rate = { num: 24, den: 1 };
/** A recording whose every sample says where it is, from 1 on. */
const buffer = (samples: number): AudioBuffer => {
  const own = Float32Array.from({ length: samples }, (_, index) => 1 + index);
  return { length: samples, getChannelData: () => own } as unknown as AudioBuffer;
};

/** Slow sound of the right length, when it may come. */
let mayCome = Promise.resolve();
const slowly = (factor: number): SlowSource => ({
  push: (samples) => mayCome.then(() => new Float32Array(samples.length * factor)),
  close: () => undefined,
});
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

function opened(sounds: readonly PlacedSound[]) {
  Object.assign(globalThis, { AudioContext: StandInContext });
  const player = openPlayer(slowly);
  players.push(player);
  player.setScene(sounds, rate, true);
  void player.wake();
  return { player, device: StandInContext.last };
}

describe('the player', () => {
  it('starts the recording where the range begins, and tells the frame by the audio clock', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
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

  it('says what was heard at a time of the page’s clock, with the fraction of the frame and the round', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.play({ fromFrame: 0, toFrame: 24, loop: true });
    const start = device.started[0]!.when;
    device.currentTime = start + 0.75;
    const now = performance.now();
    const soon = jest.spyOn(performance, 'now').mockReturnValue(now);
    expect(player.maybeHeardWhen(now)!.position).toBeCloseTo(18, 2);
    // An event is as old as it is, however late the page gets round to it.
    expect(player.maybeHeardWhen(now - 250)!.position).toBeCloseTo(12, 2);
    device.currentTime = start + 1.25;
    expect(player.maybeHeardWhen(now)).toMatchObject({ round: 1 });
    // The device's own account is finer than its clock, and is believed as far as it may be right.
    Object.assign(device, { getOutputTimestamp: () => ({ contextTime: start + 1.27, performanceTime: now }) });
    expect(player.maybeHeardWhen(now)!.position).toBeCloseTo(0.27 * 24, 2);
    Object.assign(device, { getOutputTimestamp: () => ({ contextTime: start + 9, performanceTime: now }) });
    expect(player.maybeHeardWhen(now)!.position).toBeCloseTo(0.25 * 24, 2);
    player.stop();
    expect(player.maybeHeardWhen(now)).toBeUndefined();
    soon.mockRestore();
  });

  it('takes the way to the loudspeaker off', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    device.outputLatency = 0.1;
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    device.currentTime = device.started[0]!.when + 0.601;
    expect(player.maybeFrameHeard()).toBe(12);
  });

  it('starts a recording that begins later at its own time, and leaves out what lies outside', () => {
    const { player, device } = opened([wholeSound(buffer(48_000), 24_000), wholeSound(buffer(48_000), 480_000)]);
    player.play({ fromFrame: 0, toFrame: 24, loop: false });
    expect(device.started).toHaveLength(1);
    expect(device.started[0]!.when).toBeCloseTo(10.52, 6);
    expect(device.started[0]).toMatchObject({ offset: 0, duration: 0.5 });
  });

  it('loops without losing a sample: rounds are laid ahead, each where the last one ends', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    device.outputLatency = 0.3;
    player.play({ fromFrame: 0, toFrame: 12, loop: true });
    const start = device.started[0]!.when;
    // Before the first round is over the next ones are there.
    expect(device.started.length).toBeGreaterThan(4);
    device.started.forEach(({ when, duration }, round) => {
      expect(when).toBeCloseTo(start + round * 0.5, 6);
      expect(duration).toBe(0.5);
    });
    for (let round = 0; round < 20; round += 1) {
      device.currentTime = start + 0.3 + 0.5 * round + 0.26;
      expect(player.maybeFrameHeard()).toBe(6);
      expect(device.started.at(-1)!.when).toBeGreaterThan(device.currentTime + 1);
    }
  });

  it('goes on with other ends from where it is', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.play({ fromFrame: 0, toFrame: 24, loop: true });
    const start = device.started[0]!.when;
    device.currentTime = start + 0.51;
    expect(player.maybeFrameHeard()).toBe(12);
    const before = device.started.length;
    player.goOn({ fromFrame: 2, toFrame: 25, loop: true });
    expect(device.started.slice(0, before).every((entry) => entry.stopped)).toBe(true);
    const next = device.started[before]!;
    // At the very sample the other one had come to.
    expect(next.offset).toBeCloseTo(next.when - start, 4);
    device.currentTime += 0.05;
    expect(player.maybeFrameHeard()).toBe(13);
    device.currentTime = start + 25 / 24 + 0.01;
    expect(player.maybeFrameHeard()).toBe(2);
  });

  it('scrubs one frame, faded at both ends', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.scrub(10);
    const { samples, duration } = device.started[0]!;
    expect(duration).toBeCloseTo(1 / 24, 9);
    // It rises in its own samples, so that one that begins late does not begin hard; then it is the recording.
    expect(samples![0]).toBe(0);
    expect(samples![120]).toBeCloseTo((20_000 + 121) / 2, 0);
    expect(samples![1000]).toBe(20_000 + 1001);
    expect(device.ramps.map(([value]) => value)).toEqual([1, 0]);
    expect(device.ramps.at(-1)![1]).toBeCloseTo(device.started[0]!.when + 1 / 24, 9);
    player.scrub(11);
    expect(device.started[0]!.stopped).toBe(true);
  });

  it('leaves nothing sounding when it stops, plays anew or closes', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    player.play({ fromFrame: 4, toFrame: 48, loop: false });
    expect(device.started.map((entry) => entry.stopped)).toEqual([true, false]);
    player.stop();
    expect(device.started.every((entry) => entry.stopped)).toBe(true);
    expect(player.maybeFrameHeard()).toBeUndefined();
    player.close();
    expect(device.closed).toBe(true);
  });

  it('plays what a trim leaves of a recording, where it is, as loud as it is set, and nothing of a muted one', () => {
    const made = { length: 96_000, getChannelData: () => Float32Array.from({ length: 96_000 }, (_, index) => index / 96_000) };
    const sound = { atSample: 4000, buffer: made as unknown as AudioBuffer, fromSample: 24_000, toSample: 48_000 };
    const { player, device } = opened([
      { ...sound, gain: 2 },
      { ...sound, gain: 0 },
    ]);
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    expect(device.started).toHaveLength(1);
    expect(device.started[0]!.when).toBeCloseTo(10.02 + 4000 / 48_000, 9);
    expect(device.started[0]).toMatchObject({ offset: 0.5, duration: 0.5 });
    const mix = mixOf(
      [
        { ...sound, gain: 2 },
        { ...sound, gain: 0 },
      ],
      0,
      48_000,
    );
    expect([mix[3999], mix[4000], mix[27_999], mix[28_000]].map((value) => Math.round(value! * 1000) / 1000)).toEqual([0, 0.5, 1, 0]);
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
    player.setScene([wholeSound(buffer(10), 0)], rate, true);
    await waking;
    expect(awake).toBe(true);
  });

  it('plays slow sound by the same clock, from its first piece on: at half speed a second of it is half a second of the scene', async () => {
    const { player, device } = opened([{ ...wholeSound(buffer(96_000), 0), gain: 0 }]);
    player.play({ fromFrame: 0, toFrame: 24, loop: false, slowness: 2 });
    expect(player.maybeFrameHeard()).toBe(0);
    await settled();
    const start = device.started[0]!.when;
    const whens = device.started.map(({ when }) => when);
    expect([...whens].sort((a, b) => a - b)).toEqual(whens);
    device.currentTime = start + 1.001;
    expect(player.maybeFrameHeard()).toBe(12);
    device.currentTime = start + 2.01;
    expect(player.maybeFrameHeard()).toBeUndefined();
  });

  it('moves what is shown with slow sound that comes late', async () => {
    const { player, device } = opened([{ ...wholeSound(buffer(960_000), 0), gain: 0 }]);
    let come = (): void => undefined;
    player.play({ fromFrame: 0, toFrame: 240, loop: false, slowness: 2 });
    // The first piece comes; the clock then runs on without the next.
    mayCome = new Promise((resolve) => (come = resolve));
    await settled();
    const start = device.started[0]!.when;
    device.currentTime = start + 5;
    come();
    await settled();
    const late = device.started[1]!.when;
    expect(late).toBeGreaterThan(start + 5);
    device.currentTime = late;
    // The first piece was 0.15 s of the scene.
    expect(player.maybeFrameHeard()).toBe(3);
  });

  it('waits out the gap of a loop on its last frame, and begins the next round exactly after it', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.play({ fromFrame: 0, toFrame: 24, loop: true, gapSeconds: 0.5 });
    const start = device.started[0]!.when;
    device.currentTime = start + 1.25;
    expect(player.maybeFrameHeard()).toBe(23);
    device.currentTime = start + 1.51;
    expect(player.maybeFrameHeard()).toBe(0);
    expect(device.started[1]!.when).toBeCloseTo(start + 1.5, 6);
    device.currentTime = start + 2.001;
    expect(player.maybeFrameHeard()).toBe(12);
  });

  it('lets as many frames be heard at a step as are set', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    player.scrub(4, 3);
    expect(device.started[0]!.samples![5000]).toBe(8000 + 5001);
    expect(device.started[0]!.duration).toBeCloseTo(3 / 24, 6);
  });

  it('counts the delay of the headphones in', () => {
    const { player, device } = opened([wholeSound(buffer(96_000), 0)]);
    changeSoundSettings({ outputDelayMs: 250 });
    player.play({ fromFrame: 0, toFrame: 48, loop: false });
    device.currentTime = device.started[0]!.when + 0.7501;
    expect(player.maybeFrameHeard()).toBe(12);
    changeSoundSettings({ outputDelayMs: 0 });
  });

  it('mixes what is heard of a stretch, recordings over one another added', () => {
    const ramp = (value: number): AudioBuffer =>
      ({ length: 4000, getChannelData: () => new Float32Array(4000).fill(value) }) as unknown as AudioBuffer;
    const mix = mixOf([wholeSound(ramp(0.25), 0), wholeSound(ramp(0.5), 2000)], 0, 8000);
    expect(mix).toHaveLength(8000);
    expect([mix[0], mix[1999], mix[2000], mix[3999], mix[4000], mix[5999], mix[6000]]).toEqual([0.25, 0.25, 0.75, 0.75, 0.5, 0.5, 0]);
  });
});

describe('the clap test', () => {
  it('shuts the hands when the clap is heard, and opens them between', () => {
    expect(handsAt(3, 0)).toBe(1);
    expect(handsAt(3.2, 0.2)).toBeCloseTo(1, 6);
    expect(handsAt(3.5, 0)).toBe(0);
    expect(handsAt(2.85, 0)).toBeCloseTo(0.5, 6);
  });
});

describe('what is kept of the sound settings', () => {
  it('is kept in the browser', () => {
    changeSoundSettings({ scrubFrames: 3 });
    expect(JSON.parse(localStorage.getItem('zest-sound')!)).toMatchObject({ scrubFrames: 3 });
    changeSoundSettings({ scrubFrames: 1 });
  });
});
