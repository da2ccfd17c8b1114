/** How this computer sounds: kept in the browser, for it belongs to the room and not to the scene. */
import { createStore } from 'zustand/vanilla';
import { keep, maybeKept } from '../ui/browserStore.js';

export interface SoundSettings {
  /** Time from the sound leaving this computer to its being heard, in milliseconds: wireless headphones take their time. */
  readonly outputDelayMs: number;
  /** How late this hand presses what it hears, in milliseconds: found by the tap test. */
  readonly reactionMs: number;
  /** Frames heard at a step. */
  readonly scrubFrames: number;
  /** Silence between two rounds of a loop, in seconds. */
  readonly loopGapSeconds: number;
  /** The playhead goes back to where it started when play has come to its end by itself; else it stays there. */
  readonly returnsAfterPlay: boolean;
  /** The loudness is drawn over the wave. */
  readonly showsLoudness: boolean;
}

export const SOUND_LIMITS = { outputDelayMs: 600, reactionMs: 500, scrubFrames: 4, loopGapSeconds: 2 } as const;

const KEY = 'zest-sound';
const PLAIN: SoundSettings = {
  outputDelayMs: 0,
  reactionMs: 0,
  scrubFrames: 1,
  loopGapSeconds: 0,
  returnsAfterPlay: true,
  showsLoudness: false,
};

function kept(): SoundSettings {
  try {
    const read = JSON.parse(maybeKept(KEY) ?? '{}') as Partial<SoundSettings>;
    const number = (value: unknown, most: number, plain: number, least = 0): number =>
      typeof value === 'number' && value >= least && value <= most ? value : plain;
    return {
      outputDelayMs: number(read.outputDelayMs, SOUND_LIMITS.outputDelayMs, PLAIN.outputDelayMs),
      reactionMs: number(read.reactionMs, SOUND_LIMITS.reactionMs, PLAIN.reactionMs),
      scrubFrames: number(read.scrubFrames, SOUND_LIMITS.scrubFrames, PLAIN.scrubFrames, 1),
      loopGapSeconds: number(read.loopGapSeconds, SOUND_LIMITS.loopGapSeconds, PLAIN.loopGapSeconds),
      returnsAfterPlay: read.returnsAfterPlay !== false,
      showsLoudness: read.showsLoudness === true,
    };
  } catch {
    return PLAIN;
  }
}

export const soundSettings = createStore<SoundSettings>(kept);

export function changeSoundSettings(changes: Partial<SoundSettings>): void {
  soundSettings.setState(changes);
  keep(KEY, JSON.stringify(soundSettings.getState()));
}
