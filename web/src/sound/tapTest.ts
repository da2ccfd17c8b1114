/** Twelve claps, not quite evenly apart, for finding out how late a hand presses what it hears. */
import { soundSettings } from './soundSettings.js';
import { clapBuffer } from './clapTest.js';

export const CLAPS = 12;

/** Seconds from clap to clap: so uneven that a hand answers them and does not run ahead of them. */
const APART = { least: 0.85, more: 0.5 } as const;
/** Before the first, in seconds, and after the last. */
const LEAD = 0.8;

/** When each clap sounds, in seconds from the first; the same every time. */
export function clapTimes(): readonly number[] {
  let state = 77_231;
  let at = 0;
  return Array.from({ length: CLAPS }, () => {
    const now = at;
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    at += APART.least + (APART.more * state) / 2 ** 32;
    return now;
  });
}

export interface TapTest {
  /** A hand came down, at a time of the page's clock. */
  tap(performanceMs: number): void;
  stop(): void;
}

/** Starts the claps; `onDone` is told when each was heard and when the hand came down, in milliseconds of the page's clock. */
export function openTapTest(onClap: (heard: number) => void, onDone: (claps: readonly number[], taps: readonly number[]) => void): TapTest {
  const context = new AudioContext();
  const buffer = clapBuffer(context);
  const first = context.currentTime + LEAD;
  const times = clapTimes();
  for (const time of times) {
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start(first + time);
  }
  const own = (): number => context.outputLatency || context.baseLatency || 0;
  const delay = (): number => own() + soundSettings.getState().outputDelayMs / 1000;
  const taps: number[] = [];
  /** When each was heard, by the page's clock: told one by one, for a device that stumbles falls behind that clock. */
  const claps: number[] = [];
  let request = 0;
  const stop = (): void => {
    cancelAnimationFrame(request);
    void context.close();
  };
  const tick = (): void => {
    const since = context.currentTime - first - delay();
    const before = claps.length;
    while (claps.length < times.length && times[claps.length]! <= since)
      claps.push(performance.now() - (since - times[claps.length]!) * 1000);
    if (claps.length !== before) onClap(claps.length);
    if (since < times.at(-1)! + LEAD) {
      request = requestAnimationFrame(tick);
      return;
    }
    onDone(claps, taps);
    stop();
  };
  request = requestAnimationFrame(tick);
  return { tap: (performanceMs) => void taps.push(performanceMs), stop };
}
