/** The ways a word may be said, each laid on what is heard of it. */
import type { StressedSymbol } from '../phonetics/phonemes.js';

/** Where a way of saying a word comes from: typed, of the production's own words, of the dictionary, or guessed from the spelling. */
export type WaySource = 'typed' | 'production' | 'dictionary' | 'spelling';

export interface TimedSymbol extends StressedSymbol {
  /** Samples of the recording at 48 000 Hz. */
  readonly fromSample: number;
  readonly toSample: number;
  /** 0 to 1. */
  readonly confidence: number;
}

export interface WordWay {
  readonly source: WaySource;
  /** From the word's start to its end, without gaps. */
  readonly sounds: readonly TimedSymbol[];
  /** How well it fits what is heard, 0 to 1; null where it could not be heard in it and its sounds share the time evenly. */
  readonly fit: number | null;
}

/** Sounds that share a span evenly: nothing is known of where one becomes the next. */
export function evenly(sounds: readonly StressedSymbol[], fromSample: number, toSample: number): TimedSymbol[] {
  const at = (index: number): number => fromSample + Math.round(((toSample - fromSample) * index) / sounds.length);
  return sounds.map((sound, index) => ({ ...sound, fromSample: at(index), toSample: at(index + 1), confidence: 1 }));
}
