/**
 * Microphones: those of this computer, and a practice one that ships with the application
 * and says a line of its own over the quiet of a room, for where there is none.
 */
import type { Reading } from '@zest-jaw/core';

export interface MicrophoneChoice {
  readonly id: string;
  readonly name: string;
}

export const PRACTICE_MICROPHONE: MicrophoneChoice = { id: 'practice', name: 'Practice microphone' };

/** Twenty milliseconds or so of what a microphone hears. */
export interface HeardPiece {
  readonly samples: Float32Array;
  /** When its first sample was heard, in seconds of the device's clock. */
  readonly since: number;
  /** Its loudest sample, 0 to 1. */
  readonly peak: number;
}

export interface Microphone {
  /** Keeps what is heard from now on. */
  begin(): void;
  /** What was kept, and when on the device's clock its first sample was heard. Shape: samples at the device's rate, mono. */
  end(): { samples: Float32Array<ArrayBuffer>; since: number };
  close(): void;
}

/** The microphones to choose from, the practice one last. Real ones have names only once one may be listened to. */
export async function microphoneChoices(): Promise<MicrophoneChoice[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? [];
  const real = devices.filter((device) => device.kind === 'audioinput' && device.deviceId !== '');
  return [...real.map((device, index) => ({ id: device.deviceId, name: device.label || `Microphone ${index + 1}` })), PRACTICE_MICROPHONE];
}

/** What the practice microphone says, to be written under its take. */
export async function practiceLine(): Promise<string> {
  const { words } = (await (await fetch('/try-out/line.json')).json()) as Reading;
  return words.map((word) => word.text).join(' ');
}

/** The quiet of a room: about 60 decibels below full scale, so that the meter shows that it is on. */
const ROOM_LEVEL = 0.0018;

function roomTone(context: AudioContext): AudioBufferSourceNode {
  const buffer = context.createBuffer(1, context.sampleRate, context.sampleRate);
  const samples = buffer.getChannelData(0);
  let state = 31_337;
  for (let index = 0; index < samples.length; index++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    samples[index] = (state / 2_147_483_648 - 1) * ROOM_LEVEL;
  }
  const source = context.createBufferSource();
  source.buffer = buffer;
  source.loop = true;
  return source;
}

interface Source {
  readonly node: AudioNode;
  begin(): void;
  close(): void;
}

async function practiceSource(context: AudioContext): Promise<Source> {
  const line = await context.decodeAudioData(await (await fetch('/try-out/line.wav')).arrayBuffer());
  const node = context.createGain();
  const room = roomTone(context);
  room.connect(node);
  room.start();
  let voice: AudioBufferSourceNode | undefined;
  return {
    node,
    begin: () => {
      voice = context.createBufferSource();
      voice.buffer = line;
      voice.connect(node);
      voice.start();
    },
    close: () => {
      room.stop();
      voice?.stop();
      node.disconnect();
    },
  };
}

async function realSource(context: AudioContext, id: string): Promise<Source> {
  // A voice as it is: what cleans a call up would eat its hisses and its ends.
  const audio = { deviceId: { exact: id }, echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio });
  const node = context.createMediaStreamSource(stream);
  return {
    node,
    begin: () => undefined,
    close: () => {
      node.disconnect();
      for (const track of stream.getTracks()) track.stop();
    },
  };
}

/**
 * Opens a microphone. Throws an error with a sentence when it may not be listened to.
 *
 * @param onHeard told of every twenty milliseconds or so
 */
export async function openMicrophone(context: AudioContext, id: string, onHeard: (heard: HeardPiece) => void): Promise<Microphone> {
  await context.audioWorklet.addModule('/practice/take-recorder.js');
  const source = await (id === PRACTICE_MICROPHONE.id ? practiceSource(context) : realSource(context, id)).catch(() => {
    throw new Error(
      'This microphone cannot be listened to. Allow it in the browser, see that nothing else holds it, or choose the practice microphone.',
    );
  });
  const recorder = new AudioWorkletNode(context, 'take-recorder', { channelCount: 1, channelCountMode: 'explicit' });
  // Pulled by the device, unheard: a worklet that nothing asks for does not run everywhere.
  const unheard = context.createGain();
  unheard.gain.value = 0;
  source.node.connect(recorder).connect(unheard).connect(context.destination);
  let kept: Float32Array[] | undefined;
  let since = 0;
  recorder.port.onmessage = ({ data }: MessageEvent<{ since: number; samples: Float32Array }>) => {
    let peak = 0;
    for (const sample of data.samples) peak = Math.max(peak, Math.abs(sample));
    onHeard({ ...data, peak });
    if (!kept) return;
    if (kept.length === 0) since = data.since;
    kept.push(data.samples);
  };
  return {
    begin: () => {
      kept = [];
      source.begin();
    },
    end: () => {
      const pieces = kept ?? [];
      kept = undefined;
      const samples = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
      let at = 0;
      for (const piece of pieces) {
        samples.set(piece, at);
        at += piece.length;
      }
      return { samples, since };
    },
    close: () => {
      recorder.port.onmessage = null;
      recorder.disconnect();
      unheard.disconnect();
      source.close();
    },
  };
}
