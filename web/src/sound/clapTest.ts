/** A clap a second, heard and seen: for finding out how late this computer's sound is. */
import { soundSettings } from './soundSettings.js';

export interface ClapTest {
  stop(): void;
}

/** Seconds from clap to clap, and how long the hands take to meet. */
const EVERY = 1;
const CLOSING = 0.3;

/**
 * How far the hands are together at a time, 0 to 1: shut at every clap as it is heard.
 *
 * @param seconds since the first clap was asked for
 */
export function handsAt(seconds: number, delaySeconds: number): number {
  const since = (((seconds - delaySeconds) % EVERY) + EVERY) % EVERY;
  const away = Math.min(since, EVERY - since);
  return Math.max(0, 1 - away / CLOSING);
}

export function clapBuffer(context: AudioContext): AudioBuffer {
  const buffer = context.createBuffer(1, Math.round(context.sampleRate * 0.06), context.sampleRate);
  const samples = buffer.getChannelData(0);
  let state = 22_222;
  for (let index = 0; index < samples.length; index++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    samples[index] = (state / 2_147_483_648 - 1) * 0.5 * Math.exp(-index / (context.sampleRate * 0.008));
  }
  return buffer;
}

/** Starts the claps; `onHands` is told at every picture how far the hands are together. */
export function openClapTest(onHands: (shut: number) => void): ClapTest {
  const context = new AudioContext();
  const buffer = clapBuffer(context);
  const first = context.currentTime + 0.3;
  let asked = 0;
  let request = 0;
  const tick = (): void => {
    // A second ahead is enough to never miss one.
    while (first + asked * EVERY < context.currentTime + EVERY) {
      const source = context.createBufferSource();
      source.buffer = buffer;
      source.connect(context.destination);
      source.start(first + asked * EVERY);
      asked += 1;
    }
    const own = context.outputLatency || context.baseLatency || 0;
    onHands(handsAt(context.currentTime - first, own + soundSettings.getState().outputDelayMs / 1000));
    request = requestAnimationFrame(tick);
  };
  request = requestAnimationFrame(tick);
  return {
    stop: () => {
      cancelAnimationFrame(request);
      void context.close();
    },
  };
}
