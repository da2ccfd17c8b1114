/**
 * Reads one recording into words and phonemes: the script's words are looked up or
 * guessed, aligned to the recording at the playback speed that fits the voice, and put
 * together as a reading at 48 000 Hz.
 */
import {
  arpabetSymbol,
  assembleReading,
  floatsOf16Bit,
  MAX_SCRIPT_LETTERS,
  peakLevel,
  RECOGNISER_RATE,
  resample,
  SAMPLE_RATE,
  scriptWords,
  SILENT_BELOW_DB,
  truthForRecogniser,
  type AlignedWord,
  type Reading,
  type ScriptWord,
  type Truth,
} from '@zest-jaw/core';
import { arpabetOfFrench } from './frenchPhonemes.js';
import { maybeGuess, stressOf } from './pronounce.js';
import { isPhonemeWord, type AlignedSegment, type Recogniser } from './recogniser.js';

/** A share of the work done, 0 to 1, and what is being done, for the user. */
export type ReportProgress = (done: number, doing: string) => void;

export interface ReadRefusal {
  readonly refusal: string;
}

/** Playback speeds tried for a voice the model does not fit as it is: a cartoon voice reads better slowed down. */
const OTHER_SPEEDS = [1.2, 0.85, 1.4] as const;

/** A reading this sure needs no other speed; one less sure than `DOUBTFUL` gets a warning. Means over time, from 48 labelled lines and wrong scripts. */
const SURE = 0.9;
const DOUBTFUL = 0.88;

/** A stop after silence has no audible closure; labelled speech gives it about this long before it opens, in seconds. */
const CLOSURE_AFTER_SILENCE = 0.13;

interface Attempt {
  readonly segments: readonly AlignedSegment[];
  /** Mean confidence over time, words and silences alike. */
  readonly score: number;
}

function scoreOf(segments: readonly AlignedSegment[]): number {
  let [sum, time] = [0, 1e-9];
  for (const { confidence, fromSeconds, toSeconds } of segments) {
    sum += confidence * (toSeconds - fromSeconds);
    time += toSeconds - fromSeconds;
  }
  return sum / time;
}

function atSpeed(segments: readonly AlignedSegment[], speed: number): AlignedSegment[] {
  const scaled = <T extends { fromSeconds: number; toSeconds: number }>(span: T): T => ({
    ...span,
    fromSeconds: span.fromSeconds * speed,
    toSeconds: span.toSeconds * speed,
  });
  return segments.map((segment) => ({ ...scaled(segment), phonemes: segment.phonemes.map(scaled) }));
}

/** Aligns at normal speed, and at others when that is not sure enough; keeps the surest. */
async function bestAttempt(
  recogniser: Recogniser,
  samples: Float32Array,
  words: readonly string[],
  report: ReportProgress,
): Promise<Attempt | undefined> {
  const attempt = async (speed: number): Promise<Attempt | undefined> => {
    // Played `speed` times slower and told it is still 16 kHz: times come back stretched by `speed`.
    const heard = speed === 1 ? samples : resample(samples, RECOGNISER_RATE, Math.round(RECOGNISER_RATE * speed));
    const segments = await recogniser.maybeAlign(heard, words);
    return segments && { segments: atSpeed(segments, 1 / speed), score: scoreOf(segments) };
  };
  report(0.2, 'Listening for the words');
  let best = await attempt(1);
  if (best && best.score >= SURE) return best;
  for (const [index, speed] of OTHER_SPEEDS.entries()) {
    report(0.4 + index * 0.15, 'Trying the voice at another pitch');
    const other = await attempt(speed);
    if (other && (!best || other.score > best.score)) best = other;
    if (best && best.score >= SURE) break;
  }
  return best;
}

/** The closure of a stop after silence, shortened to what a mouth does. */
function trimmed(segments: readonly AlignedSegment[]): AlignedSegment[] {
  return segments.map((segment, index) => {
    const before = segments[index - 1];
    const [first, ...others] = segment.phonemes;
    if (!segment.word || !first || (before && before.word !== undefined)) return segment;
    const latest = first.toSeconds - CLOSURE_AFTER_SILENCE;
    if (!/^(P|B|T|D|K|G|CH|JH|pp|bb|tt|dd|kk|gg)$/.test(first.symbol) || first.fromSeconds >= latest) return segment;
    return { ...segment, fromSeconds: latest, phonemes: [{ ...first, fromSeconds: latest }, ...others] };
  });
}

/** Makes sure the recogniser knows every word; returns what is to be said about it, or why it cannot be done. */
function teachWords(recogniser: Recogniser, words: readonly ScriptWord[]): string[] | ReadRefusal {
  const guessed: string[] = [];
  for (const { spoken, text } of words) {
    if (recogniser.maybePronunciation(spoken)) continue;
    const symbols = recogniser.language === 'en' ? maybeGuess(spoken) : undefined;
    if (!symbols) {
      const language = recogniser.language === 'en' ? 'English' : 'French';
      return { refusal: `“${text}” is not a word of the ${language} dictionary. Check its spelling, or write it as it sounds.` };
    }
    recogniser.addWord(spoken, symbols.map((symbol) => symbol.symbol).join(' '));
    guessed.push(text);
  }
  return guessed.length > 0 ? [`Pronunciation guessed from spelling: ${[...new Set(guessed)].join(', ')}. Listen to it again.`] : [];
}

function wordsOf(segments: readonly AlignedSegment[], script: readonly ScriptWord[], withStress: boolean): AlignedWord[] {
  let next = 0;
  return segments.flatMap((segment): AlignedWord[] => {
    if (segment.word === undefined) return [];
    if (isPhonemeWord(segment.word)) return [{ text: null, confidence: segment.confidence, phonemes: segment.phonemes }];
    const text = script[next]?.text ?? segment.word;
    next += 1;
    const stresses = withStress
      ? stressOf(
          segment.word,
          segment.phonemes.map((phoneme) => phoneme.symbol),
        )
      : [];
    const phonemes = segment.phonemes.map((phoneme, index) => ({ ...phoneme, symbol: `${phoneme.symbol}${stresses[index] ?? ''}` }));
    return [{ text, confidence: segment.confidence, phonemes }];
  });
}

function refuseSilence(truth: Truth): ReadRefusal | undefined {
  const level = peakLevel(floatsOf16Bit(truth.samples), SAMPLE_RATE);
  if (level >= SILENT_BELOW_DB) return undefined;
  return {
    refusal: `This recording is silent: nothing in it is louder than ${Math.round(level)} dB, and speech is above ${SILENT_BELOW_DB}. Record it again, or raise its level.`,
  };
}

/**
 * Reads a recording.
 *
 * @param script the line as it is spoken; undefined reads sounds without words
 * @returns the reading, or a refusal with a sentence for the user
 */
export async function readTrack(
  recogniser: Recogniser,
  truth: Truth,
  script: string | undefined,
  report: ReportProgress = () => undefined,
): Promise<Reading | ReadRefusal> {
  const silent = refuseSilence(truth);
  if (silent) return silent;
  report(0.05, 'Preparing the recording');
  const samples = truthForRecogniser(truth);
  if (script === undefined) return readSounds(recogniser, truth, samples, report);
  if (script.length > MAX_SCRIPT_LETTERS)
    return {
      refusal: `The script has ${script.length} letters. It may have ${MAX_SCRIPT_LETTERS}: leave out what this recording does not say.`,
    };
  const words = scriptWords(script, recogniser.language);
  if (words.length === 0)
    return { refusal: 'The script has no words in it. Type the line as it is spoken; directions in brackets are not read.' };
  const taught = teachWords(recogniser, words);
  if ('refusal' in taught) return taught;
  const best = await bestAttempt(
    recogniser,
    samples,
    words.map((word) => word.spoken),
    report,
  );
  const count = words.length === 1 ? 'The word of the script' : `The ${words.length} words of the script`;
  if (!best)
    return {
      refusal: `${count} could not be found in this recording. Check that the script is what is said, and that the recording is whole.`,
    };
  report(0.95, 'Putting the reading together');
  const warnings = [...taught];
  if (best.score < DOUBTFUL)
    warnings.push('The script and the recording do not fit well. Check that the script is what is said, then read the track again.');
  const toArpabet = recogniser.language === 'en' ? arpabetSymbol : arpabetOfFrench;
  return assembleReading(wordsOf(trimmed(best.segments), words, recogniser.language === 'en'), truth.samples.length, toArpabet, warnings);
}

async function readSounds(
  recogniser: Recogniser,
  truth: Truth,
  samples: Float32Array,
  report: ReportProgress,
): Promise<Reading | ReadRefusal> {
  if (recogniser.language !== 'en') return { refusal: 'Reading without a script works for English only. Type the line as it is spoken.' };
  report(0.2, 'Listening for sounds');
  const segments = await recogniser.maybeAlignPhonemes(samples);
  if (!segments) return { refusal: 'No speech could be made out in this recording. Type the line as it is spoken and read it again.' };
  return assembleReading(wordsOf(segments, [], false), truth.samples.length, arpabetSymbol, [
    'Read without a script: there are sounds but no words, and more of them are wrong than with a script.',
  ]);
}
