/**
 * Puts what the recogniser returned into a reading: words with their phonemes, seconds to
 * samples at 48 000 Hz, silence left out. Where the recogniser gives silence to the end of
 * a stop or the start of a word, the loudness of the recording trims it.
 */
import { maybeArpabet, nearestEnglish } from '../phonetics/phonemes.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import type { Span } from '../time/span.js';
import type { ReadPhoneme, ReadWord, Reading } from './reading.js';

/** One aligned phoneme in the recogniser's own symbols. Seconds from the recording's start. */
export interface AlignedPhoneme {
  readonly symbol: string;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** 0 to 1. */
  readonly confidence: number;
}

/** One aligned word; `text` is null for a stretch of sounds that no word explains. */
export interface AlignedWord {
  readonly text: string | null;
  readonly confidence: number;
  readonly phonemes: readonly AlignedPhoneme[];
  /** Its sounds were guessed from its spelling. */
  readonly guessed?: true;
  /** The ways it may be said that have sounds English lacks: the recogniser was given the nearest it has. */
  readonly ways?: readonly (readonly string[])[];
}

/** How the recogniser's symbols become ARPAbet; undefined for silence and noise. */
export type SymbolMap = (symbol: string) => string | undefined;

export function arpabetSymbol(symbol: string): string | undefined {
  return maybeArpabet(symbol)?.symbol;
}

/** The symbols of a word as it was written, where the recogniser found the nearest of each; else as they were found. */
function asWritten(symbols: readonly string[], ways: AlignedWord['ways'] = []): readonly string[] {
  return (
    ways.find((way) => way.length === symbols.length && way.every((symbol, index) => nearestEnglish(symbol) === symbols[index])) ?? symbols
  );
}

/**
 * @param durationSamples at 48 000 Hz; nothing ends after it
 * @param notSpeech samples at 48 000 Hz
 */
export function assembleReading(
  aligned: readonly AlignedWord[],
  durationSamples: number,
  toArpabet: SymbolMap,
  warnings: readonly string[],
  notSpeech: readonly Span[] = [],
): Reading {
  const words: ReadWord[] = [];
  const phonemes: ReadPhoneme[] = [];
  let end = 0;
  for (const word of aligned) {
    const index = word.text === null ? null : words.length;
    const first = phonemes.length;
    const heard = word.phonemes.flatMap((phoneme) => {
      const symbol = toArpabet(phoneme.symbol);
      return symbol ? [{ phoneme, symbol }] : [];
    });
    const written = asWritten(
      heard.map(({ symbol }) => symbol),
      word.ways,
    );
    for (const [at, { phoneme }] of heard.entries()) {
      const symbol = written[at]!;
      const from = Math.max(end, Math.round(phoneme.fromSeconds * SAMPLE_RATE));
      const to = Math.min(durationSamples, Math.round(phoneme.toSeconds * SAMPLE_RATE));
      if (to <= from) continue;
      const stress = maybeArpabet(phoneme.symbol)?.stress;
      phonemes.push({ symbol, ...(stress === undefined ? {} : { stress }), from, to, confidence: phoneme.confidence, word: index });
      end = to;
    }
    if (word.text === null) continue;
    const spoken = phonemes.slice(first);
    if (spoken.length > 0)
      words.push({
        text: word.text,
        from: spoken[0]!.from,
        to: spoken.at(-1)!.to,
        confidence: word.confidence,
        ...(word.guessed ? { guessed: true as const } : {}),
      });
  }
  return { sampleRate: SAMPLE_RATE, durationSamples, words, phonemes, warnings, ...(notSpeech.length > 0 ? { notSpeech } : {}) };
}
