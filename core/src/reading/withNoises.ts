/** Noises of a mouth put into a reading: marked as no speech, with what the mouth does while they last. */
import { RECOGNISER_RATE } from '../audio/truth.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { overlaps, without, type Span } from '../time/span.js';
import type { HeardNoise } from './hearNoises.js';
import { soundsOfNoise, type NotSpeech } from './noises.js';
import type { Reading, ReadPhoneme } from './reading.js';

/** How sure the sounds of a noise are: they are proposed. */
const PROPOSED = 0.6;
/** No sound is shorter, in samples: a hundredth of a second. */
const SHORTEST = SAMPLE_RATE / 100;

const UP = SAMPLE_RATE / RECOGNISER_RATE;
const up = ({ from, to }: Span, most: number): Span => ({ from: Math.round(from * UP), to: Math.min(most, Math.round(to * UP)) });

/**
 * @param noises samples at the recogniser's rate, sorted
 */
export function withNoises(reading: Reading, noises: readonly HeardNoise[]): Reading {
  if (noises.length === 0) return reading;
  const most = reading.durationSamples;
  const marks = noises.map((noise): NotSpeech & Pick<HeardNoise, 'pulses'> => ({
    ...up(noise, most),
    kind: noise.kind,
    ...(noise.pulses && { pulses: noise.pulses.map((pulse) => up(pulse, most)) }),
  }));
  const made = marks.flatMap(({ pulses, kind, from, to }) => soundsOfNoise(kind!, { from, to }, pulses));
  const sounds = made
    .filter((sound) => sound.to - sound.from >= SHORTEST && !reading.phonemes.some((read) => overlaps(read, sound)))
    .map(({ symbol, from, to }): ReadPhoneme => ({ symbol, from, to, confidence: PROPOSED, word: null }));
  const others = (reading.notSpeech ?? []).flatMap((span) =>
    marks.reduce<NotSpeech[]>((left, by) => left.flatMap((part) => without(part, by)), [span]),
  );
  return {
    ...reading,
    phonemes: [...reading.phonemes, ...sounds].sort((a, b) => a.from - b.from),
    notSpeech: [...others, ...marks.map(({ pulses: _, ...mark }) => mark)].sort((a, b) => a.from - b.from),
  };
}
