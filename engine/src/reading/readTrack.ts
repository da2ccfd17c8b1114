/**
 * Reads one recording into words and phonemes. It is cut at pauses into stretches that fit
 * the recogniser; each takes from the script the words that it holds, or is read by
 * syllables where there is no script. What was found is put together with its boundaries
 * moved to where the sound changes, as a reading at 48 000 Hz.
 */
import {
  arpabetSymbol,
  assembleReading,
  cutAtPauses,
  factsOfClip,
  floatsOf16Bit,
  hearNoises,
  joined,
  MAX_SCRIPT_LETTERS,
  peakLevel,
  PLAIN_ACCENT,
  RECOGNISER_RATE,
  refineBoundaries,
  SAMPLE_RATE,
  scriptWords,
  outsideOf,
  placesOfWords,
  SILENT_BELOW_DB,
  steadySound,
  speedForPitch,
  truthForRecogniser,
  voicePitch,
  withNoises,
  type AlignedWord,
  type Reading,
  type Span,
  type TimedLine,
  type ScriptLanguage,
  type Truth,
  type Refusal,
} from '@zest-jaw/core';
import { alignStretch, atSpeed, heardAt, mostWords, wordsOf } from './alignStretch.js';
import { arpabetOfFrench } from './frenchPhonemes.js';
import { stressOf } from './pronounce.js';
import { mapOnce } from './mapOnce.js';
import { isSoundWord } from './alignWords.js';
import type { AlignedSegment, Recogniser, SpokenPlace } from './recogniser.js';
import { vocabularyOf, type KnownWord, type Speech } from './vocabulary.js';

/** A share of the work done, 0 to 1, and what is being done, for the user. */
export type ReportProgress = (done: number, doing: string) => void;

export interface ReadOptions extends Partial<Speech> {
  /** How the script is spelled: in the recogniser's language, or in IPA. */
  readonly spelling?: ScriptLanguage;
  /** Lines with times in the place of the script: each word is looked for around its own; samples of what is heard. */
  readonly lines?: readonly TimedLine[] | undefined;
}

/** The longest stretch read at once, in seconds: more exhausts the recogniser's memory. */
const LONGEST_STRETCH = 20;
/** Nothing shorter between two sounds that are not speech is read, in seconds. */
const SHORTEST_STRETCH = 0.2;
/** A reading less sure than this, over its time, gets a warning; from 48 labelled lines and wrong scripts. */
const DOUBTFUL = 0.88;
/**
 * Sounds less sure than this in the mean are not speech. Of four labelled voices, clean, raised, in noise, by telephone and over music,
 * no line is less sure than 0.958, and none of ten voices made by formants, whispers among them, less than 0.948; a made melody, chords,
 * an engine, a whistle and steady noise are 0.927 to 0.937 sure, bursts of noise and bells more than that. The model of French
 * is less sure of all of it: 0.934 of French made by formants, 0.90 of chords and an engine.
 */
const NOT_SPEECH = { en: 0.94, fr: 0.92 } as const;

/**
 * A stop after silence has no audible closure. Its lips meet for some 70 ms, as in the middle of a
 * phrase, and its voice begins some 60 ms after it opens, or at once when it is voiced (L. Lisker and
 * A. Abramson, "A cross-language study of voicing in initial stops", 1964; the figures from memory). In seconds.
 */
const AFTER_SILENCE = { voiceless: 0.13, voiced: 0.08 } as const;
const VOICELESS_STOP = /^(P|T|K|CH|pp|tt|kk)$/;
const VOICED_STOP = /^(B|D|G|JH|bb|dd|gg)$/;

const seconds = (samples: number): number => samples / RECOGNISER_RATE;

function laterBy(segments: readonly AlignedSegment[], by: number): AlignedSegment[] {
  const moved = <T extends { fromSeconds: number; toSeconds: number }>(span: T): T => ({
    ...span,
    fromSeconds: span.fromSeconds + by,
    toSeconds: span.toSeconds + by,
  });
  return segments.map((segment) => ({ ...moved(segment), phonemes: segment.phonemes.map(moved) }));
}

/** The closure of a stop after silence, shortened to what a mouth does. */
function trimmed(segments: readonly AlignedSegment[]): AlignedSegment[] {
  return segments.map((segment, index) => {
    const before = segments[index - 1];
    const [first, ...others] = segment.phonemes;
    if (!segment.word || !first || (before && before.word !== undefined)) return segment;
    if (!VOICELESS_STOP.test(first.symbol) && !VOICED_STOP.test(first.symbol)) return segment;
    const latest = first.toSeconds - (VOICED_STOP.test(first.symbol) ? AFTER_SILENCE.voiced : AFTER_SILENCE.voiceless);
    if (first.fromSeconds >= latest) return segment;
    return { ...segment, fromSeconds: latest, phonemes: [{ ...first, fromSeconds: latest }, ...others] };
  });
}

/** Every boundary moved to where the sound changes. */
function refined(samples: Float32Array, segments: readonly AlignedSegment[]): AlignedSegment[] {
  const sounds = refineBoundaries(
    samples,
    segments.flatMap((segment) => (segment.word === undefined ? [] : segment.phonemes)),
  );
  let next = 0;
  return segments.flatMap((segment) => {
    if (segment.word === undefined) return [];
    const phonemes = segment.phonemes.map(() => sounds[next++]!);
    return phonemes.length === 0
      ? []
      : [{ ...segment, phonemes, fromSeconds: phonemes[0]!.fromSeconds, toSeconds: phonemes.at(-1)!.toSeconds }];
  });
}

/** Segments as words with their text and stress; `script` gives each found word of the script in order. */
function namedWords(segments: readonly AlignedSegment[], script: readonly KnownWord[], isEnglish: boolean): AlignedWord[] {
  let next = 0;
  return segments.map((segment): AlignedWord => {
    if (isSoundWord(segment.word!)) return { text: null, confidence: segment.confidence, phonemes: segment.phonemes };
    const word = script[next];
    next += 1;
    const symbols = segment.phonemes.map((phoneme) => phoneme.symbol);
    const stresses = isEnglish ? stressOf(word?.spoken ?? segment.word!, symbols) : [];
    const phonemes = segment.phonemes.map((phoneme, index) => ({ ...phoneme, symbol: `${phoneme.symbol}${stresses[index] ?? ''}` }));
    return {
      text: word?.text ?? segment.word!,
      confidence: segment.confidence,
      phonemes,
      ...(word?.guessed ? { guessed: true as const } : {}),
      ...(word?.ways ? { ways: word.ways } : {}),
    };
  });
}

const clock = (at: number): string => `${Math.floor(at / 60)}:${String(Math.floor(at % 60)).padStart(2, '0')}`;

/** Spans at the recogniser's rate as spans of the recording. */
function inTruth(spans: readonly Span[], truth: Truth): Span[] {
  const up = SAMPLE_RATE / RECOGNISER_RATE;
  return [...spans]
    .sort((a, b) => a.from - b.from)
    .map(({ from, to }) => ({ from: Math.round(from * up), to: Math.min(truth.samples.length, Math.round(to * up)) }));
}

interface Found {
  readonly segments: AlignedSegment[];
  readonly words: KnownWord[];
  readonly missed: KnownWord[];
  readonly silent: Span[];
  readonly score: number;
}

/** What may be speech, in stretches that fit the recogniser, and what never lets up. */
function stretchesOf(samples: Float32Array, noises: readonly Span[] = []): { stretches: Span[]; steady: Span[] } {
  const steady = steadySound(samples, RECOGNISER_RATE);
  const apart = joined([...steady, ...noises].sort((a, b) => a.from - b.from));
  const stretches = outsideOf(apart, samples.length, SHORTEST_STRETCH * RECOGNISER_RATE).flatMap(({ from, to }) =>
    cutAtPauses(samples.subarray(from, to), RECOGNISER_RATE, LONGEST_STRETCH).map((span) => ({
      from: from + span.from,
      to: from + span.to,
    })),
  );
  return { stretches, steady };
}

/** A place within a stretch, in its own seconds. */
const placeWithin =
  (stretch: Span) =>
  ({ from, to }: Span): SpokenPlace => ({ fromSeconds: seconds(from - stretch.from), toSeconds: seconds(to - stretch.from) });

/**
 * Aligns a script to a recording, stretch by stretch, each beginning with the word after the last one found.
 *
 * @param places where each word may lie, one object for the words of a line, samples at the recogniser's rate; anywhere without them
 */
async function findWords(
  recogniser: Recogniser,
  samples: Float32Array,
  script: readonly KnownWord[],
  report: ReportProgress,
  places?: readonly Span[],
): Promise<Found> {
  const { stretches, steady } = stretchesOf(samples);
  const [segments, words, missed, silent]: [AlignedSegment[], KnownWord[], KnownWord[], Span[]] = [[], [], [], [...steady]];
  let [next, speed, sum, time] = [0, speedForPitch(voicePitch(samples)), 0, 1e-9];
  for (const [index, stretch] of stretches.entries()) {
    // What had to be said before this stretch was not heard.
    while (places && next < script.length && places[next]!.to <= stretch.from) missed.push(script[next++]!);
    const remaining = script.slice(next);
    if (remaining.length === 0) break;
    const part = samples.subarray(stretch.from, stretch.to);
    const due = places ? remaining.findIndex((_, at) => places[next + at]!.from >= stretch.to) : -1;
    const most = Math.min(mostWords(part), due < 0 ? Number.POSITIVE_INFINITY : due);
    if (most === 0) {
      silent.push(stretch);
      continue;
    }
    const isLast = index === stretches.length - 1 && remaining.length <= Math.max(most, stretches.length === 1 ? Infinity : 0);
    const wanted = isLast ? remaining : remaining.slice(0, most);
    const done = 0.1 + (0.82 * stretch.from) / samples.length;
    report(done, stretches.length === 1 ? 'Listening for the words' : `${next} of ${script.length} words found`);
    const extent = isLast ? 'all' : 'first';
    const alignment = await alignStretch(
      recogniser,
      part,
      wanted.map((word) => word.token),
      extent,
      speed,
      (doing) => report(done, doing),
      places && mapOnce(places.slice(next, next + wanted.length), placeWithin(stretch)),
    );
    if (!alignment || wordsOf(alignment.segments).length === 0) {
      silent.push(stretch);
      continue;
    }
    speed = alignment.speed;
    const { found } = alignment;
    const isFound = new Set(found.map((at) => wanted[at]!));
    const last = isLast ? wanted.length - 1 : wanted.findLastIndex((word) => isFound.has(word));
    wanted.slice(0, last + 1).forEach((word) => (isFound.has(word) ? words : missed).push(word));
    next += last + 1;
    const length = seconds(part.length);
    sum += alignment.score * length;
    time += length;
    segments.push(...laterBy(alignment.segments, seconds(stretch.from)));
  }
  return { segments, words, missed: [...missed, ...script.slice(next)], silent, score: sum / time };
}

function refuseSilence(truth: Truth): Refusal | undefined {
  const level = peakLevel(floatsOf16Bit(truth.samples), SAMPLE_RATE);
  if (level >= SILENT_BELOW_DB) return undefined;
  return {
    refusal: `This recording is silent: nothing in it is louder than ${Math.round(level)} dB, and speech is above ${SILENT_BELOW_DB}. Record it again, or raise its level.`,
  };
}

const listed = (words: readonly string[]): string => {
  const shown = words.slice(0, 12).join(', ');
  return words.length > 12 ? `${shown} and ${words.length - 12} more` : shown;
};

/** What to know of a reading that has words. */
function warningsOf({ missed, silent, score }: Found, guessed: readonly string[]): string[] {
  const warnings: string[] = [];
  if (guessed.length > 0) warnings.push(`Pronunciation guessed from spelling: ${listed([...new Set(guessed)])}. Listen to it again.`);
  if (missed.length > 0) warnings.push(`Not heard in this recording: ${listed(missed.map((word) => word.text))}.`);
  for (const { from, to } of [...silent].sort((a, b) => a.from - b.from).slice(0, 3))
    warnings.push(
      `Nothing of the script was found from ${clock(seconds(from))} to ${clock(seconds(to))}: music, an effect, or other words.`,
    );
  if (score < DOUBTFUL)
    warnings.push('The script and the recording do not fit well. Check that the script is what is said, then read the track again.');
  return warnings;
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
  { pronunciations = new Map(), accent = PLAIN_ACCENT, spelling = recogniser.language, lines }: ReadOptions = {},
): Promise<Reading | Refusal> {
  const silent = refuseSilence(truth);
  if (silent) return silent;
  report(0.05, 'Preparing the recording');
  const samples = truthForRecogniser(truth);
  if (script === undefined) return readSounds(recogniser, truth, samples, report);
  if (script.length > MAX_SCRIPT_LETTERS)
    return {
      refusal: `The script has ${script.length} letters. It may have ${MAX_SCRIPT_LETTERS}: leave out what this recording does not say.`,
    };
  const written = lines ? lines.flatMap(({ text }) => scriptWords(text, spelling)) : scriptWords(script, spelling);
  if (written.length === 0)
    return { refusal: 'The script has no words in it. Type the line as it is spoken; directions in brackets are not read.' };
  const { words, guessed, unknown } = vocabularyOf(recogniser, written, { pronunciations, accent });
  if (unknown !== undefined) {
    const language = recogniser.language === 'en' ? 'English' : 'French';
    return { refusal: `“${unknown}” is not a word of the ${language} dictionary. Check its spelling, or write it as it sounds.` };
  }
  const down = RECOGNISER_RATE / SAMPLE_RATE;
  const places = lines && mapOnce(placesOfWords(lines, spelling), ({ from, to }) => ({ from: from * down, to: to * down }));
  const found = await findWords(recogniser, samples, words, report, places);
  const count = words.length === 1 ? 'The word of the script' : `The ${words.length} words of the script`;
  if (found.words.length === 0)
    return {
      refusal: `${count} could not be found in this recording. Check that the script is what is said, and that the recording is whole.`,
    };
  report(0.95, 'Putting the reading together');
  const isEnglish = recogniser.language === 'en';
  const named = namedWords(refined(samples, trimmed(found.segments)), found.words, isEnglish);
  const reading = assembleReading(
    named,
    truth.samples.length,
    isEnglish ? arpabetSymbol : arpabetOfFrench,
    warningsOf(found, guessed),
    inTruth(found.silent, truth),
  );

  // Where something was read, and where nothing was found though there is something: words that the script lacks, perhaps.
  const read = reading.phonemes.map(({ from, to }) => ({ from: from * down, to: to * down }));
  const spoken = [...read, ...found.silent].sort((a, b) => a.from - b.from);
  return withNoises(reading, hearNoises(samples, spoken));
}

/** Sounds without words, by syllables. What is not speech is left out and told. */
async function readSounds(recogniser: Recogniser, truth: Truth, samples: Float32Array, report: ReportProgress): Promise<Reading | Refusal> {
  const noises = hearNoises(samples);
  const { stretches, steady } = stretchesOf(samples, noises);
  const speed = speedForPitch(voicePitch(samples));
  const segments: AlignedSegment[] = [];
  const left: Span[] = [...steady];
  for (const stretch of stretches) {
    report(0.1 + (0.82 * stretch.from) / samples.length, 'Listening for sounds');
    const part = samples.subarray(stretch.from, stretch.to);
    const slow = await recogniser.maybeHearSounds(heardAt(part, speed));
    const heard = slow && atSpeed(slow, speed);
    const spoken = heard && wordsOf(heard);
    const mean = spoken ? spoken.reduce((sum, segment) => sum + segment.confidence, 0) / Math.max(1, spoken.length) : 0;
    if (heard && mean >= NOT_SPEECH[recogniser.language]) segments.push(...laterBy(heard, seconds(stretch.from)));
    else left.push(stretch);
  }
  if (segments.length === 0 && noises.length === 0)
    return {
      refusal:
        'No speech could be made out in this recording: it may be music or an effect. Type the line as it is spoken and read it again.',
    };
  report(0.95, 'Putting the reading together');
  const warnings = ['Read without a script: there are sounds but no words, and more of them are wrong than with a script.'];
  if (factsOfClip(truth).ground === 'tones')
    warnings.push(
      'There is music or a hum under the voice: sounds may have been heard in it. Use the dialogue without it if you have that.',
    );
  for (const { from, to } of left.slice(0, 3))
    warnings.push(`From ${clock(seconds(from))} to ${clock(seconds(to))} nobody speaks: music or an effect.`);
  const reading = assembleReading(
    namedWords(refined(samples, trimmed(segments)), [], false),
    truth.samples.length,
    recogniser.language === 'en' ? arpabetSymbol : arpabetOfFrench,
    warnings,
    inTruth(left, truth),
  );
  return withNoises(reading, noises);
}
