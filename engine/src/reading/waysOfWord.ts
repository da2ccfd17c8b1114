/**
 * One word read again in its own span: each way it may be said is aligned to what is heard
 * there, and nothing beside it is listened to. A word takes some tens of milliseconds a way.
 */
import {
  arpabetSymbol,
  evenly,
  floatsOf16Bit,
  inAccent,
  isPlainAccent,
  isRefusal,
  maybeArpabet,
  nearestEnglish,
  RECOGNISER_RATE,
  refineBoundaries,
  resample,
  SAMPLE_RATE,
  scriptWords,
  speedForPitch,
  voicePitch,
  type Refusal,
  type ScriptLanguage,
  type Span,
  type StressedSymbol,
  type Truth,
  type WaySource,
  type WordWay,
} from '@zest-jaw/core';
import { atSpeed, heardAt, wordsOf } from './alignStretch.js';
import { arpabetOfFrench } from './frenchPhonemes.js';
import { maybeGuess, maybeSoundsOf, stressOf } from './pronounce.js';
import type { AlignedSegment, Recogniser } from './recogniser.js';
import { tokenOf, type Speech } from './vocabulary.js';

export interface AskedWord {
  readonly text: string;
  /** Its sounds as somebody typed them; aligned before any other way. */
  readonly sounds?: readonly StressedSymbol[] | undefined;
  /** Samples of the recording. */
  readonly span: Span;
  readonly spelling: ScriptLanguage;
}

/** More ways tell an animator no more. */
const MOST_WAYS = 8;
/** Heard on both sides to tell how high the voice is, in samples at 48 000 Hz: a second and a half. */
const VOICE_AROUND = 1.5 * SAMPLE_RATE;
/** Longer than this is no word, in seconds. */
const LONGEST_SECONDS = 8;

interface Way {
  readonly source: WaySource;
  readonly token: string;
  /** ARPAbet with stress; undefined for a word that the recogniser knows in symbols of its own. */
  readonly sounds?: readonly StressedSymbol[];
}

const stressed = (spoken: string, symbols: readonly string[]): StressedSymbol[] => {
  const stresses = stressOf(spoken, symbols);
  return symbols.map((symbol, index) => ({ symbol, ...(stresses[index] === undefined ? {} : { stress: stresses[index] }) }));
};

/** Each way the words of a text may be said one after another, the likeliest first. */
function waysOf(recogniser: Recogniser, { text, sounds: typed, spelling }: AskedWord, { pronunciations, accent }: Speech): Way[] | Refusal {
  const token = (sounds: readonly StressedSymbol[]): string => tokenOf(recogniser, [sounds.map(({ symbol }) => symbol)]);
  const ways: Way[] = typed && typed.length > 0 ? [{ source: 'typed', token: token(typed), sounds: typed }] : [];
  const written = scriptWords(text, spelling);
  if (written.length === 0)
    return ways.length > 0 ? ways : { refusal: `“${text}” has no word in it. Type the word as it is spoken, or its sounds.` };
  if (recogniser.language !== 'en') {
    const [word, ...others] = written;
    if (recogniser.maybePronunciation(word!.spoken) !== undefined && others.length === 0)
      return [...ways, { source: 'dictionary', token: word!.spoken }];
    return ways.length > 0 ? ways : { refusal: `“${text}” is not a word of the dictionary. Write its sounds.` };
  }
  let said: { readonly source: WaySource; readonly sounds: readonly StressedSymbol[] }[] = [{ source: 'dictionary', sounds: [] }];
  for (const word of written) {
    const own = word.sounds ? [word.sounds] : pronunciations.get(word.spoken);
    const known = maybeSoundsOf(word.spoken);
    const guess = known ? undefined : maybeGuess(word.spoken);
    const spoken = known && (isPlainAccent(accent) ? known : inAccent(known, accent));
    const each: typeof said = [
      ...(own ?? []).map((way) => ({ source: 'production' as const, sounds: stressed(word.spoken, way) })),
      ...(spoken ?? []).map((way) => ({ source: 'dictionary' as const, sounds: stressed(word.spoken, way) })),
      ...(guess ? [{ source: 'spelling' as const, sounds: guess }] : []),
    ];
    if (each.length === 0) return ways.length > 0 ? ways : { refusal: `“${word.text}” cannot be said by its spelling. Write its sounds.` };
    said = said
      .flatMap((before) =>
        each.map(({ source, sounds }) => ({
          source: before.sounds.length === 0 || source !== 'dictionary' ? source : before.source,
          sounds: [...before.sounds, ...sounds],
        })),
      )
      .slice(0, MOST_WAYS);
  }
  const seen = new Set(ways.map((way) => way.token));
  for (const { source, sounds } of said) {
    const own = token(sounds);
    if (!seen.has(own)) ways.push({ source, token: own, sounds });
    seen.add(own);
  }
  return ways.slice(0, MOST_WAYS);
}

/** Makes a plain share of a fit: of 72 words of two voices their own way fits by 88 % in the middle, another word by 44 %. */
const FIT_SCALE = 5;

/** How well a way fits all of its span: the mean logarithm of how sure its sounds and silences are, over their time. */
function fitOf(segments: readonly AlignedSegment[]): number {
  let [sum, seconds] = [0, 0];
  for (const { confidence, fromSeconds, toSeconds } of segments) {
    sum += Math.log(Math.max(1e-6, confidence)) * (toSeconds - fromSeconds);
    seconds += toSeconds - fromSeconds;
  }
  return Math.exp((FIT_SCALE * sum) / Math.max(0.01, seconds));
}

/**
 * The ways a word may be said where it is, the one that fits best first.
 *
 * @param speech the production's own words and the speaker's accent
 * @returns a refusal where the text is no word and no sounds are given, or where the span holds none
 */
export async function waysOfWord(recogniser: Recogniser, truth: Truth, asked: AskedWord, speech: Speech): Promise<WordWay[] | Refusal> {
  const { from, to } = asked.span;
  if (to - from > LONGEST_SECONDS * SAMPLE_RATE)
    return { refusal: `A word is at most ${LONGEST_SECONDS} seconds long. Make it shorter, or read its phrase again.` };
  const ways = waysOf(recogniser, asked, speech);
  if (isRefusal(ways)) return ways;
  const at16 = (first: number, last: number): Float32Array =>
    resample(floatsOf16Bit(truth.samples.subarray(Math.max(0, first), last)), SAMPLE_RATE, RECOGNISER_RATE);
  const samples = at16(from, to);
  const speed = speedForPitch(voicePitch(at16(from - VOICE_AROUND, to + VOICE_AROUND)));
  const heard = heardAt(samples, speed);
  const toArpabet = recogniser.language === 'en' ? arpabetSymbol : arpabetOfFrench;
  const found: WordWay[] = [];
  for (const { source, token, sounds } of ways) {
    const aligned = (await recogniser.maybeAlignCut(heard, [token])) ?? (await recogniser.maybeAlign(heard, [token]));
    const [word] = aligned ? wordsOf(atSpeed(aligned, speed)) : [];
    if (!aligned || !word) {
      if (sounds) found.push({ source, fit: null, sounds: evenly(sounds, from, to) });
      continue;
    }
    const parts = refineBoundaries(samples, word.phonemes).flatMap((part, index) => {
      const heard = toArpabet(part.symbol);
      const own = sounds?.[index]?.symbol;
      const symbol = own !== undefined && nearestEnglish(own) === heard ? own : heard;
      const stress = sounds?.[index]?.stress ?? maybeArpabet(part.symbol)?.stress;
      return symbol ? [{ ...part, symbol, ...(stress === undefined ? {} : { stress }) }] : [];
    });
    const starts = parts.map((part, index) => (index === 0 ? from : from + Math.round(part.fromSeconds * SAMPLE_RATE)));
    found.push({
      source,
      fit: fitOf(aligned),
      sounds: parts.map(({ symbol, stress, confidence }, index) => ({
        symbol,
        ...(stress === undefined ? {} : { stress }),
        fromSample: starts[index]!,
        toSample: starts[index + 1] ?? to,
        confidence,
      })),
    });
  }
  // What was typed stays first; of the others the one that fits best does.
  return found.sort((a, b) => Number(b.source === 'typed') - Number(a.source === 'typed') || (b.fit ?? -1) - (a.fit ?? -1));
}
