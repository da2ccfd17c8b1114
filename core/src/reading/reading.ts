/**
 * A reading: the words and phonemes of one recording in time. Samples at 48 000 Hz from
 * the recording's start, half-open `[from, to)`. Silence is not listed. This is also the
 * JSON that `zest read` prints and `zest key` takes.
 */
import { maybePhoneme } from '../phonetics/phonemes.js';
import { NOISES, type NotSpeech } from './noises.js';
import { SAMPLE_RATE } from '../time/frameRate.js';

export interface ReadWord {
  readonly text: string;
  readonly from: number;
  readonly to: number;
  /** 0 to 1: how sure the reading is that this word was said here. */
  readonly confidence: number;
  /** Its sounds were guessed from its spelling. */
  readonly guessed?: true;
  /** Set or accepted by hand: no reading moves it. */
  readonly inked?: true;
}

export interface ReadPhoneme {
  /** ARPAbet without a stress digit. */
  readonly symbol: string;
  readonly stress?: 0 | 1 | 2;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
  /** Index into `words`, or null for a sound that no word explains. */
  readonly word: number | null;
  /** Set by hand, or of a word that is. */
  readonly inked?: true;
}

export interface Reading {
  readonly sampleRate: number;
  readonly durationSamples: number;
  readonly words: readonly ReadWord[];
  readonly phonemes: readonly ReadPhoneme[];
  readonly warnings: readonly string[];
  /** Where something is heard that is not speech, or not the script's: music, an effect. Sorted. */
  readonly notSpeech?: readonly NotSpeech[];
}

/** The reading of a part of a recording as one of the whole: times counted from the whole's start. */
export function readingWithin(reading: Reading, fromSample: number, durationSamples: number): Reading {
  const later = <T extends { readonly from: number; readonly to: number }>(item: T): T => ({
    ...item,
    from: item.from + fromSample,
    to: item.to + fromSample,
  });
  return {
    ...reading,
    durationSamples,
    words: reading.words.map(later),
    phonemes: reading.phonemes.map(later),
    ...(reading.notSpeech ? { notSpeech: reading.notSpeech.map(later) } : {}),
  };
}

const wholeSpan = (item: { from: unknown; to: unknown }): boolean =>
  Number.isInteger(item.from) && Number.isInteger(item.to) && (item.from as number) >= 0 && (item.from as number) < (item.to as number);

/** What is wrong with a reading, as sentences; empty when nothing is. Anything may be passed. */
export function checkReading(candidate: unknown): string[] {
  const reading = candidate as Partial<Reading> | null;
  if (!reading || typeof reading !== 'object' || !Array.isArray(reading.words) || !Array.isArray(reading.phonemes)) {
    return ['This is not a reading: it must have words and phonemes. Make one with zest read, or see docs/formats.md.'];
  }
  const faults: string[] = [];
  if (reading.sampleRate !== SAMPLE_RATE)
    faults.push(`The reading counts ${String(reading.sampleRate)} samples a second. It must count 48000.`);
  if (!Number.isInteger(reading.durationSamples) || (reading.durationSamples ?? 0) <= 0)
    faults.push('The reading needs durationSamples, a whole number above 0.');
  reading.words.forEach((word: Partial<ReadWord> | null, index: number) => {
    if (!word || typeof word.text !== 'string' || !wholeSpan(word as ReadWord))
      faults.push(`Word ${index} needs a text, and from before to in whole samples.`);
  });
  const isNoise = (span: NotSpeech): boolean => wholeSpan(span) && (span.kind === undefined || NOISES.includes(span.kind));
  if (reading.notSpeech !== undefined && !(Array.isArray(reading.notSpeech) && reading.notSpeech.every(isNoise)))
    faults.push(
      `notSpeech must be a list of spans, each with from before to in whole samples, and a kind among ${NOISES.join(', ')} if any; leave it out when there are none.`,
    );
  let end = 0;
  reading.phonemes.forEach((phoneme: Partial<ReadPhoneme> | null, index: number) => {
    if (!phoneme || typeof phoneme.symbol !== 'string' || !maybePhoneme(phoneme.symbol)) {
      faults.push(`Phoneme ${index} is “${String(phoneme?.symbol)}”, which is not ARPAbet without a stress digit.`);
    } else if (!wholeSpan(phoneme as ReadPhoneme) || phoneme.from! < end) {
      faults.push(`Phoneme ${index} (${phoneme.symbol}) must start before it ends, and not before the one before it ends.`);
    } else {
      end = phoneme.to!;
      if (typeof reading.durationSamples === 'number' && end > reading.durationSamples)
        faults.push(`Phoneme ${index} (${phoneme.symbol}) ends after the recording does.`);
      if (phoneme.word !== null && !reading.words![phoneme.word as number])
        faults.push(`Phoneme ${index} (${phoneme.symbol}) belongs to word ${String(phoneme.word)}, which is not there.`);
    }
  });
  return faults;
}
