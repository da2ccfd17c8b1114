/**
 * Playing the scene's recordings. The audio clock is the only clock: the frame shown is the
 * frame heard, whatever the screen manages to paint. One `AudioContext` at 48 000 Hz for
 * the whole page.
 */
import { frameAtSample, framePositionOfSample, SAMPLE_RATE, sampleAtFrame, type FrameRate } from '@zest-jaw/core';
import { mixOf, type PlacedSound } from './mix.js';
import { goingOn, heardAt, lengthOfRound, soundsFrom, startOf, type Rounds } from './rounds.js';
import { soundSettings } from './soundSettings.js';
import { FADE, openVoice, type Voice } from './voice.js';

/** Makes sound so many times as long, as it comes. */
export interface SlowSource {
  /** The next of the slow sound made of these samples, all there is to come when they are the last. */
  push(samples: Float32Array, isLast: boolean): Promise<Float32Array<ArrayBuffer>>;
  close(): void;
}
export type OpenSlow = (factor: number) => SlowSource;

export interface PlayRange {
  readonly fromFrame: number;
  /** Not included. */
  readonly toFrame: number;
  readonly loop: boolean;
  /** The frame the first round begins with; the first one without it. */
  readonly firstFrame?: number;
  /** Silence between two rounds of a loop, in seconds. */
  readonly gapSeconds?: number;
  /** How many times as long it takes as at full speed; 1 without it. */
  readonly slowness?: number;
}

export interface HeardWhen {
  readonly round: number;
  readonly position: number;
}

export interface Player {
  /** Opens the sound device and waits for the recordings; must first be called from a key press or a click. */
  wake(): Promise<void>;
  decode(bytes: ArrayBuffer): Promise<AudioBuffer>;
  /** Says what sounds where. Until `isWhole`, playing waits: a line that has not arrived yet must not play as silence. */
  setScene(sounds: readonly PlacedSound[], frameRate: FrameRate, isWhole: boolean): void;
  play(range: PlayRange): void;
  /** Goes on playing with other ends or at another speed, from what is heard now. */
  goOn(range: PlayRange): void;
  bufferOf(samples: Float32Array<ArrayBuffer>): AudioBuffer;
  stop(): void;
  isPlaying(): boolean;
  /** The frame being heard now; undefined when nothing plays or the range is over. */
  maybeFrameHeard(): number | undefined;
  /**
   * What was heard at a time of the page's clock, such as that of an event: how often the range had begun before, and
   * the scene frame with its fraction. Undefined when nothing plays.
   */
  maybeHeardWhen(performanceMs: number): HeardWhen | undefined;
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
/** The same for a scrubbed frame: it is to be heard at the press. */
const SCRUB_AFTER = 0.004;
/** How far ahead sound is laid, in seconds: timers of a page in the background come once a second. */
const AHEAD = 2.5;
/** How often what lies ahead is looked after, in milliseconds. */
const LOOK_EVERY_MS = 100;
/** The sound a slow piece is made of, in seconds; the first one is short so that it is heard at once. */
const SLOW_PIECE = { first: 0.15, others: 0.5 };

/** The device's own account of what leaves it may differ from the clock by so much; more is a mistake of the device, in seconds. */
const TRUSTED_WITHIN = 0.05;

/** What is playing: what sounds when, and how much of it has been laid. */
interface Playing {
  readonly range: PlayRange;
  /** One a round: each fades at its ends. */
  voices: Voice[];
  readonly slow: SlowSource | undefined;
  /** Undefined until the first of a slow sound is there. */
  rounds: Rounds | undefined;
  /** The round laid last. */
  laid: number;
}

export function openPlayer(openSlow?: OpenSlow): Player {
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
  let playing: Playing | undefined;
  let scrubbing: Voice | undefined;
  let looking: ReturnType<typeof setInterval> | undefined;
  let isWhole = false;
  let waiting: (() => void)[] = [];

  /** Starts every recording's part of a stretch of the scene. */
  const startSounds = (fromSample: number, toSample: number, when: number, voice: Voice): void => {
    for (const sound of sounds) {
      const { atSample, buffer, gain } = sound;
      const first = Math.max(fromSample, atSample);
      const last = Math.min(toSample, atSample + sound.toSample - sound.fromSample);
      if (first >= last || gain === 0) continue;
      const source = device().createBufferSource();
      source.buffer = buffer;
      if (gain === 1) source.connect(voice.into);
      else {
        const raised = device().createGain();
        raised.gain.value = gain;
        source.connect(raised).connect(voice.into);
      }
      const offset = (sound.fromSample + first - atSample) / SAMPLE_RATE;
      source.start(when + (first - fromSample) / SAMPLE_RATE, offset, (last - first) / SAMPLE_RATE);
      voice.add(source);
    }
  };

  const bufferOf = (samples: Float32Array<ArrayBuffer>): AudioBuffer => {
    const buffer = device().createBuffer(1, Math.max(1, samples.length), SAMPLE_RATE);
    buffer.copyToChannel(samples, 0);
    return buffer;
  };

  const now = (): number => Math.round(device().currentTime * SAMPLE_RATE);
  const soon = (): number => now() + Math.round(START_AFTER * SAMPLE_RATE);

  /** Lays the rounds of sound at its own speed that begin before the horizon. */
  const layAhead = (): void => {
    if (!playing?.rounds || playing.slow) return;
    const { rounds } = playing;
    playing.voices = playing.voices.filter((voice) => !voice.isGone());
    const horizon = now() + AHEAD * SAMPLE_RATE;
    while (soundsFrom(rounds, playing.laid + 1) <= horizon && (rounds.loop || playing.laid < 0)) {
      const round = (playing.laid += 1);
      const [starts, ends] = [soundsFrom(rounds, round), startOf(rounds, round) + lengthOfRound(rounds)];
      const voice = openVoice(out(), starts / SAMPLE_RATE);
      startSounds(round === 0 ? rounds.firstSample : rounds.from, rounds.to, starts / SAMPLE_RATE, voice);
      voice.end(ends / SAMPLE_RATE - FADE);
      playing.voices.push(voice);
    }
  };

  const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

  /** Makes slow sound piece by piece, a little ahead of what is heard, for as long as this is what plays. */
  const laySlowly = async (mine: Playing, begin: (at: number) => Rounds): Promise<void> => {
    const { range } = mine;
    const slowness = range.slowness!;
    const [from, to] = samplesOf(range);
    for (let round = 0; mine === playing && (round === 0 || range.loop); round += 1) {
      const slow = round === 0 ? mine.slow! : openSlow!(slowness);
      const first = round === 0 ? sampleAtFrame(frameRate, range.firstFrame ?? range.fromFrame) : from;
      let made = 0;
      let voice: Voice | undefined;
      for (let at = first; at < to && mine === playing;) {
        const seconds = at === first ? SLOW_PIECE.first : SLOW_PIECE.others;
        const end = Math.min(to, at + Math.round(seconds * SAMPLE_RATE));
        const piece = await slow.push(mixOf(sounds, at, end), end === to);
        if (mine !== playing) break;
        at = end;
        mine.rounds ??= begin(soon());
        // Sound that comes too late to be heard in its place moves everything after it, and what is shown with it.
        const late = now() - (soundsFrom(mine.rounds, round) + made);
        if (late > 0) mine.rounds = { ...mine.rounds, startsAt: mine.rounds.startsAt + late + Math.round(START_AFTER * SAMPLE_RATE) };
        if (!voice) {
          voice = openVoice(out(), soundsFrom(mine.rounds, round) / SAMPLE_RATE);
          mine.voices = [...mine.voices.filter((one) => !one.isGone()), voice];
        }
        if (piece.length > 0) {
          const source = device().createBufferSource();
          source.buffer = bufferOf(piece);
          source.connect(voice.into);
          source.start((soundsFrom(mine.rounds, round) + made) / SAMPLE_RATE);
          voice.add(source);
        }
        made += piece.length;
        if (end === to) voice.end((soundsFrom(mine.rounds, round) + made) / SAMPLE_RATE - FADE);
        const aheadSeconds = (soundsFrom(mine.rounds, round) + made - now()) / SAMPLE_RATE;
        if (aheadSeconds > AHEAD) await rest((aheadSeconds - AHEAD / 2) * 1000);
      }
      slow.close();
    }
  };

  const samplesOf = ({ fromFrame, toFrame }: PlayRange): [number, number] => [
    sampleAtFrame(frameRate, fromFrame),
    sampleAtFrame(frameRate, toFrame),
  ];

  /** Lets go of what plays. */
  const halt = (at?: number): void => {
    for (const voice of playing?.voices ?? []) voice.end(at);
    playing?.slow?.close();
    playing = undefined;
    clearInterval(looking);
  };

  /** Plays a range, its first round beginning as it is told. */
  const begin = (range: PlayRange, roundsFrom: (at: number) => Rounds, at: number): void => {
    const slow = (range.slowness ?? 1) === 1 ? undefined : openSlow?.(range.slowness!);
    playing = {
      range,
      voices: [],
      slow,
      rounds: slow ? undefined : roundsFrom(at),
      laid: -1,
    };
    // What ends under way is not a fault: nothing is heard of it any more.
    if (slow) void laySlowly(playing, roundsFrom).catch(() => undefined);
    else {
      layAhead();
      clearInterval(looking);
      looking = setInterval(layAhead, LOOK_EVERY_MS);
    }
  };

  /** What sounds when, if the first round begins with its first frame at a sample of the device. */
  const roundsOf = (range: PlayRange, at: number): Rounds => {
    const [from, to] = samplesOf(range);
    const firstSample = sampleAtFrame(frameRate, range.firstFrame ?? range.fromFrame);
    const slowness = range.slowness ?? 1;
    return {
      from,
      to,
      loop: range.loop,
      slowness,
      gap: Math.round((range.gapSeconds ?? 0) * SAMPLE_RATE),
      firstSample,
      startsAt: at - Math.round((firstSample - from) * slowness),
    };
  };

  /** Seconds until what the context plays now leaves the loudspeaker. */
  const latency = (): number => (device().outputLatency || device().baseLatency || 0) + soundSettings.getState().outputDelayMs / 1000;

  /** What left the loudspeaker at a time of the page's clock, on the device's clock, in seconds. */
  const leftAt = (performanceMs: number): number => {
    const byClock = device().currentTime - latency() + (performanceMs - performance.now()) / 1000;
    // The clock moves in steps as long as the device's buffer; its account of its output does not.
    const { contextTime = 0, performanceTime = 0 } = device().getOutputTimestamp?.() ?? {};
    const byOutput = contextTime + (performanceMs - performanceTime) / 1000 - soundSettings.getState().outputDelayMs / 1000;
    return performanceTime > 0 && Math.abs(byOutput - byClock) < TRUSTED_WITHIN ? byOutput : byClock;
  };

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
      halt();
      scrubbing?.end();
      begin(range, (at) => roundsOf(range, at), soon());
    },
    goOn: (range) => {
      const before = playing?.rounds;
      if (!before) {
        halt();
        begin(range, (at) => roundsOf(range, at), soon());
        return;
      }
      const at = soon();
      const [from, to] = samplesOf(range);
      const slowness = range.slowness ?? 1;
      if (slowness === 1) {
        // The new sound takes over from the old one at the very sample the old one had come to.
        const next = goingOn(before, at, { from, to, slowness, gap: Math.round((range.gapSeconds ?? 0) * SAMPLE_RATE) });
        halt(at / SAMPLE_RATE);
        begin(range, () => next, at);
        return;
      }
      const heard = heardAt(before, at);
      const sample = heard.kind === 'sound' ? Math.min(to - 1, Math.max(from, heard.sample)) : from;
      const first = { ...range, firstFrame: Math.min(range.toFrame - 1, Math.max(range.fromFrame, frameAtSample(frameRate, sample))) };
      halt();
      begin(first, (start) => roundsOf(first, start), at);
    },
    stop: () => halt(),
    isPlaying: () => playing !== undefined,
    maybeFrameHeard: () => {
      if (!playing) return undefined;
      const { range, rounds } = playing;
      if (!rounds) return range.firstFrame ?? range.fromFrame;
      layAhead();
      const heard = heardAt(rounds, Math.floor((device().currentTime - latency()) * SAMPLE_RATE));
      if (heard.kind === 'before') return frameAtSample(frameRate, rounds.firstSample);
      if (heard.kind === 'sound') return frameAtSample(frameRate, heard.sample);
      return heard.kind === 'gap' ? Math.max(range.fromFrame, range.toFrame - 1) : undefined;
    },
    maybeHeardWhen: (performanceMs) => {
      const rounds = playing?.rounds;
      if (!rounds) return undefined;
      const position = (sample: number): number => framePositionOfSample(frameRate, sample);
      const heard = heardAt(rounds, Math.floor(leftAt(performanceMs) * SAMPLE_RATE));
      if (heard.kind === 'before') return { round: 0, position: position(rounds.firstSample) };
      if (heard.kind === 'sound') return { round: heard.round, position: position(heard.sample) };
      return { round: heard.kind === 'gap' ? heard.round : 0, position: position(rounds.to) };
    },
    bufferOf,
    scrub: (frame, frames = 1) => {
      scrubbing?.end();
      const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + frames)];
      const at = device().currentTime + SCRUB_AFTER;
      // On a busy machine it begins later than it was to: its fade is in its samples, not at a time that may be over.
      scrubbing = openVoice(out(), null);
      const heard = new Float32Array(mixOf(sounds, from, to));
      const rise = Math.min(heard.length, Math.round(FADE * SAMPLE_RATE));
      for (let index = 0; index < rise; index++) heard[index]! *= index / rise;
      const source = device().createBufferSource();
      source.buffer = bufferOf(heard);
      source.connect(scrubbing.into);
      source.start(at, 0, (to - from) / SAMPLE_RATE);
      scrubbing.add(source);
      scrubbing.end(at + (to - from) / SAMPLE_RATE - FADE);
    },
    hush: (isHushed) => {
      out().gain.setTargetAtTime(isHushed ? 0 : 1, device().currentTime, FADE / 3);
    },
    frameSeconds: () => frameRate.den / frameRate.num,
    device,
    maybeHeardSince: () => (playing?.rounds ? soundsFrom(playing.rounds, 0) / SAMPLE_RATE + latency() : undefined),
    close: () => {
      halt();
      void opened?.close();
      opened = undefined;
    },
  };
}
