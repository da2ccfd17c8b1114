/** Sounds of a mouth that are no speech: what they are called, and what a mouth does while they last. */
import { SAMPLE_RATE } from '../time/frameRate.js';
import type { Span } from '../time/span.js';

export const NOISES = ['breath', 'laugh', 'cough', 'hum', 'kiss', 'whistle', 'scream'] as const;
export type NoiseKind = (typeof NOISES)[number];

/** Where something is heard that is not speech, samples of the recording. */
export interface NotSpeech extends Span {
  /** A noise of a mouth; music or an effect where it is missing. */
  readonly kind?: NoiseKind;
  /** Set by hand: no reading changes it. */
  readonly inked?: true;
}

export interface NoiseSound extends Span {
  /** ARPAbet without stress. */
  readonly symbol: string;
}

/** A laugh opens five times a second, and is shut for two fifths of each (common practice, no source). In samples. */
const LAUGH_PERIOD = 0.2 * SAMPLE_RATE;
const LAUGH_SHUT = 0.4;
/** A cough is shut before it bursts open; a kiss is pursed until it parts. Shares of their length. */
const COUGH_SHUT = 0.25;

/**
 * The sounds a mouth plays during a noise, as those of speech that look like it: a breath a little open, a
 * laugh open in pulses, a hum pressed, a kiss and a whistle rounded, a scream wide open (common practice, no source).
 *
 * @param pulses where a laugh is loud, samples of the recording; evenly spaced without them
 */
export function soundsOfNoise(kind: NoiseKind, { from, to }: Span, pulses?: readonly Span[]): NoiseSound[] {
  const through = (symbol: string): NoiseSound[] => [{ symbol, from, to }];
  switch (kind) {
    case 'breath':
      return through('HH');
    case 'hum':
      return through('M');
    case 'kiss':
    case 'whistle':
      return through('UW');
    case 'scream':
      return through('AA');
    case 'cough': {
      const open = from + Math.round((to - from) * COUGH_SHUT);
      return [
        { symbol: 'K', from, to: open },
        { symbol: 'AA', from: open, to },
      ];
    }
    case 'laugh': {
      const count = Math.max(1, Math.round((to - from) / LAUGH_PERIOD));
      const at = (turn: number): number => from + Math.round(((to - from) * turn) / count);
      const loud = pulses ?? Array.from({ length: count }, (_, turn) => ({ from: at(turn + LAUGH_SHUT), to: at(turn + 1) }));
      let end = from;
      return loud.flatMap((pulse) => {
        const shut = pulse.from > end ? [{ symbol: 'HH', from: end, to: pulse.from }] : [];
        end = pulse.to;
        return [...shut, { symbol: 'AA', from: pulse.from, to: pulse.to }];
      });
    }
  }
}
