/**
 * Playing the scene's recordings. The audio clock is the only clock: the frame shown is the
 * frame heard, whatever the screen manages to paint. One `AudioContext` at 48 000 Hz for
 * the whole page.
 */
import { frameAtSample, SAMPLE_RATE, sampleAtFrame, type FrameRate } from '@zest-jaw/core';

/** A decoded recording and the scene sample it starts at. */
export interface PlacedSound {
  readonly atSample: number;
  readonly buffer: AudioBuffer;
}

export interface PlayRange {
  readonly fromFrame: number;
  /** Not included. */
  readonly toFrame: number;
  readonly loop: boolean;
}

export interface Player {
  /** Opens the sound device and waits for the recordings; must first be called from a key press or a click. */
  wake(): Promise<void>;
  decode(bytes: ArrayBuffer): Promise<AudioBuffer>;
  /** Says what sounds where. Until `isWhole`, playing waits: a line that has not arrived yet must not play as silence. */
  setScene(sounds: readonly PlacedSound[], frameRate: FrameRate, isWhole: boolean): void;
  play(range: PlayRange): void;
  stop(): void;
  isPlaying(): boolean;
  /** The frame being heard now; undefined when nothing plays or the range is over. */
  maybeFrameHeard(): number | undefined;
  /** Lets one frame be heard. */
  scrub(frame: number): void;
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
  let sounds: readonly PlacedSound[] = [];
  let frameRate: FrameRate = { num: 24, den: 1 };
  let playing: { range: PlayRange; startedAt: number; sources: AudioBufferSourceNode[] } | undefined;
  let scrubbing: AudioBufferSourceNode[] = [];
  let isWhole = false;
  let waiting: (() => void)[] = [];

  /** Starts every recording's part of a stretch of the scene. */
  const startSounds = (fromSample: number, toSample: number, when: number, into: AudioNode): AudioBufferSourceNode[] =>
    sounds.flatMap(({ atSample, buffer }) => {
      const first = Math.max(fromSample, atSample);
      const last = Math.min(toSample, atSample + buffer.length);
      if (first >= last) return [];
      const source = device().createBufferSource();
      source.buffer = buffer;
      source.connect(into);
      source.start(when + (first - fromSample) / SAMPLE_RATE, (first - atSample) / SAMPLE_RATE, (last - first) / SAMPLE_RATE);
      return [source];
    });

  const halt = (sources: readonly AudioBufferSourceNode[]): void => {
    for (const source of sources) {
      source.stop();
      source.disconnect();
    }
  };

  /** Seconds until what the context plays now leaves the loudspeaker. */
  const latency = (): number => device().outputLatency || device().baseLatency || 0;

  const samplesOf = ({ fromFrame, toFrame }: PlayRange): [number, number] => [
    sampleAtFrame(frameRate, fromFrame),
    sampleAtFrame(frameRate, toFrame),
  ];

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
      const [from, to] = samplesOf(range);
      const context = device();
      const startedAt = context.currentTime + START_AFTER;
      playing = { range, startedAt, sources: startSounds(from, to, startedAt, context.destination) };
    },
    stop: () => {
      if (playing) halt(playing.sources);
      playing = undefined;
    },
    isPlaying: () => playing !== undefined,
    maybeFrameHeard: () => {
      if (!playing) return undefined;
      const context = device();
      const [from, to] = samplesOf(playing.range);
      const heard = from + Math.floor(Math.max(0, context.currentTime - playing.startedAt - latency()) * SAMPLE_RATE);
      if (heard < to) return frameAtSample(frameRate, heard);
      if (!playing.range.loop) return undefined;
      // The next round starts where this one ended, so that a loop keeps its length exactly.
      playing.startedAt += (to - from) / SAMPLE_RATE;
      playing.sources = startSounds(from, to, Math.max(playing.startedAt, context.currentTime), context.destination);
      return playing.range.fromFrame;
    },
    scrub: (frame) => {
      halt(scrubbing);
      const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
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
    close: () => {
      void opened?.close();
      opened = undefined;
    },
  };
}
