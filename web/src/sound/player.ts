/**
 * Playing the scene's recordings. The audio clock is the only clock: the frame shown is the
 * frame heard, whatever the screen manages to paint. One `AudioContext` at 48 000 Hz for
 * the whole page.
 */
import { frameAtSample, SAMPLE_RATE, sampleAtFrame, type FrameRate } from '@zest-jaw/core';
import { soundSettings } from './soundSettings.js';

/** A decoded recording, the part of it that is heard, and the scene sample at which that part starts. */
export interface PlacedSound {
  readonly atSample: number;
  readonly buffer: AudioBuffer;
  /** `[fromSample, toSample)` of the recording. */
  readonly fromSample: number;
  readonly toSample: number;
  /** A factor; 0 is silent. */
  readonly gain: number;
}

/** A recording heard whole, as it is. */
export function wholeSound(buffer: AudioBuffer, atSample: number): PlacedSound {
  return { atSample, buffer, fromSample: 0, toSample: buffer.length, gain: 1 };
}

export interface PlayRange {
  readonly fromFrame: number;
  /** Not included. */
  readonly toFrame: number;
  readonly loop: boolean;
  /** Silence between two rounds of a loop, in seconds. */
  readonly gapSeconds?: number;
  /** Slow sound at its own pitch, made from this stretch of the scene; its length says how slow. */
  readonly slow?: AudioBuffer;
}

export interface Player {
  /** Opens the sound device and waits for the recordings; must first be called from a key press or a click. */
  wake(): Promise<void>;
  decode(bytes: ArrayBuffer): Promise<AudioBuffer>;
  /** Says what sounds where. Until `isWhole`, playing waits: a line that has not arrived yet must not play as silence. */
  setScene(sounds: readonly PlacedSound[], frameRate: FrameRate, isWhole: boolean): void;
  play(range: PlayRange): void;
  /** The sound of a stretch of the scene, mixed, to be made slow. Shape: samples at 48 000 Hz, mono. */
  mixOf(fromFrame: number, toFrame: number): Float32Array;
  bufferOf(samples: Float32Array<ArrayBuffer>): AudioBuffer;
  stop(): void;
  isPlaying(): boolean;
  /** The frame being heard now; undefined when nothing plays or the range is over. */
  maybeFrameHeard(): number | undefined;
  /** Lets a frame be heard, and as many after it as asked for. */
  scrub(frame: number, frames?: number): void;
  /** Plays on unheard, for recording in a quiet room. */
  hush(isHushed: boolean): void;
  /** Seconds a frame lasts. */
  frameSeconds(): number;
  /** The sound device, open: for recording beside playing. */
  device(): AudioContext;
  /** When, on the device's clock, the frame played first is heard; undefined when nothing plays. */
  maybeHeardSince(): number | undefined;
  close(): void;
}

/** Between asking for sound and its start, in seconds, so that every source starts on time. */
const START_AFTER = 0.02;
/** Fade at both ends of a scrubbed frame, in seconds: long enough not to click. */
const FADE = 0.004;

export function openPlayer(): Player {
  // Opened when first needed, and again after closing: a device is not held by a page that makes no sound.
  let opened: AudioContext | undefined;
  const device = (): AudioContext => (opened ??= new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: 'interactive' }));
  /** Everything goes through it, so that the scene can play on unheard. */
  let master: GainNode | undefined;
  const out = (): GainNode => {
    if (master?.context !== device()) {
      master = device().createGain();
      master.connect(device().destination);
    }
    return master!;
  };
  let sounds: readonly PlacedSound[] = [];
  let frameRate: FrameRate = { num: 24, den: 1 };
  let playing: { range: PlayRange; startedAt: number; sources: AudioBufferSourceNode[] } | undefined;
  let scrubbing: AudioBufferSourceNode[] = [];
  let isWhole = false;
  let waiting: (() => void)[] = [];

  /** Starts every recording's part of a stretch of the scene. */
  const startSounds = (fromSample: number, toSample: number, when: number, into: AudioNode): AudioBufferSourceNode[] =>
    sounds.flatMap((sound) => {
      const { atSample, buffer, gain } = sound;
      const first = Math.max(fromSample, atSample);
      const last = Math.min(toSample, atSample + sound.toSample - sound.fromSample);
      if (first >= last || gain === 0) return [];
      const source = device().createBufferSource();
      source.buffer = buffer;
      if (gain === 1) source.connect(into);
      else {
        const raised = device().createGain();
        raised.gain.value = gain;
        source.connect(raised).connect(into);
      }
      const offset = (sound.fromSample + first - atSample) / SAMPLE_RATE;
      source.start(when + (first - fromSample) / SAMPLE_RATE, offset, (last - first) / SAMPLE_RATE);
      return [source];
    });

  const samplesOf = ({ fromFrame, toFrame }: PlayRange): [number, number] => [
    sampleAtFrame(frameRate, fromFrame),
    sampleAtFrame(frameRate, toFrame),
  ];

  /** Starts what a range sounds like at its speed. */
  const startRange = (range: PlayRange, when: number): AudioBufferSourceNode[] => {
    const [from, to] = samplesOf(range);
    if (!range.slow) return startSounds(from, to, when, out());
    const source = device().createBufferSource();
    source.buffer = range.slow;
    source.connect(out());
    source.start(when);
    return [source];
  };

  /** How many times as long a range takes as it would at full speed. */
  const slownessOf = (range: PlayRange): number => {
    const [from, to] = samplesOf(range);
    return range.slow ? range.slow.length / Math.max(1, to - from) : 1;
  };

  const halt = (sources: readonly AudioBufferSourceNode[]): void => {
    for (const source of sources) {
      source.stop();
      source.disconnect();
    }
  };

  /** Seconds until what the context plays now leaves the loudspeaker. */
  const latency = (): number => (device().outputLatency || device().baseLatency || 0) + soundSettings.getState().outputDelayMs / 1000;

  return {
    wake: async () => {
      if (device().state !== 'running') await device().resume();
      if (!isWhole) await new Promise<void>((resolve) => waiting.push(resolve));
    },
    decode: (bytes) => device().decodeAudioData(bytes),
    setScene: (placed, rate, whole) => {
      sounds = placed;
      frameRate = rate;
      isWhole = whole;
      if (!whole) return;
      for (const go of waiting) go();
      waiting = [];
    },
    play: (range) => {
      if (playing) halt(playing.sources);
      halt(scrubbing);
      scrubbing = [];
      const startedAt = device().currentTime + START_AFTER;
      playing = { range, startedAt, sources: startRange(range, startedAt) };
    },
    stop: () => {
      if (playing) halt(playing.sources);
      playing = undefined;
    },
    isPlaying: () => playing !== undefined,
    maybeFrameHeard: () => {
      if (!playing) return undefined;
      const context = device();
      const { range } = playing;
      const [from, to] = samplesOf(range);
      const slowness = slownessOf(range);
      const elapsed = Math.max(0, context.currentTime - playing.startedAt - latency());
      const heard = from + Math.floor((elapsed * SAMPLE_RATE) / slowness);
      if (heard < to) return frameAtSample(frameRate, heard);
      if (!range.loop) return undefined;
      // The next round starts where this one ended, so that a loop keeps its length exactly.
      const round = ((to - from) * slowness) / SAMPLE_RATE + (range.gapSeconds ?? 0);
      if (elapsed < round) return Math.max(range.fromFrame, range.toFrame - 1);
      playing.startedAt += round;
      playing.sources = startRange(range, Math.max(playing.startedAt, context.currentTime));
      return playing.range.fromFrame;
    },
    mixOf: (fromFrame, toFrame) => {
      const [from, to] = [sampleAtFrame(frameRate, fromFrame), sampleAtFrame(frameRate, toFrame)];
      const mix = new Float32Array(to - from);
      for (const { atSample, buffer, fromSample, toSample, gain } of sounds) {
        const samples = buffer.getChannelData(0);
        const first = Math.max(from, atSample);
        const last = Math.min(to, atSample + toSample - fromSample);
        if (gain > 0) for (let at = first; at < last; at++) mix[at - from]! += samples[fromSample + at - atSample]! * gain;
      }
      return mix;
    },
    bufferOf: (samples) => {
      const buffer = device().createBuffer(1, Math.max(1, samples.length), SAMPLE_RATE);
      buffer.copyToChannel(samples, 0);
      return buffer;
    },
    scrub: (frame, frames = 1) => {
      halt(scrubbing);
      const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + frames)];
      const length = (to - from) / SAMPLE_RATE;
      const context = device();
      const gain = context.createGain();
      const now = context.currentTime;
      gain.gain.setValueAtTime(0, now);
      gain.gain.linearRampToValueAtTime(1, now + FADE);
      gain.gain.setValueAtTime(1, now + length - FADE);
      gain.gain.linearRampToValueAtTime(0, now + length);
      gain.connect(context.destination);
      scrubbing = startSounds(from, to, now, gain);
    },
    hush: (isHushed) => {
      out().gain.value = isHushed ? 0 : 1;
    },
    frameSeconds: () => frameRate.den / frameRate.num,
    device,
    maybeHeardSince: () => (playing ? playing.startedAt + latency() : undefined),
    close: () => {
      void opened?.close();
      opened = undefined;
    },
  };
}
