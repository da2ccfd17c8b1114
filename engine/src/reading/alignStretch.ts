/**
 * One stretch of a recording, short enough for the recogniser: the words of the script
 * aligned to it strictly, at the playback speed that fits the voice; where that is doubtful
 * loosely, with words left out and sounds between them, and what was found strictly again.
 */
import { loudnessOfWindows, RECOGNISER_RATE, resample, roundedSpeed, type Extent } from '@zest-jaw/core';
import { mapOnce } from './mapOnce.js';
import { isSoundWord } from './alignWords.js';
import type { AlignedSegment, Recogniser, SpokenPlace } from './recogniser.js';

/** How much slower, and then faster, a voice is played next when it does not fit: a cartoon voice reads better slowed down. */
const SPEED_STEP = 1.15;
const STEPS = { slower: 3, faster: 2 } as const;

/** A twentieth of a second at the recogniser's rate. */
const WINDOW = RECOGNISER_RATE / 20;

/**
 * A voice fits when the surer words of a stretch are this sure in the mean. It only says when it is worth
 * trying: at the speed their pitch asks for 48 labelled lines of four voices are 0.992 to 0.999 sure in the mean of a voice,
 * the least of them 0.977; the same raised by six semitones with their length kept 0.954 to 0.982. Whether another speed is
 * better, comparing tells.
 */
const FITS = 0.985;
/** The share of words, the surest first, that speak for a voice: a word in five that was not said must not count. */
const SPEAKS_FOR_VOICE = 0.7;
/**
 * Another speed is better when it is surer by this much. A plain voice is surest at the speed its pitch asks for: 15 %
 * slower or faster it is less so by 0.003 to 0.024, in the mean of each of four voices.
 */
const SURER_BY = { slower: 0.004, faster: 0.004 } as const;
/** One less sure at every speed is read loosely. */
const POOR = 0.8;
/** On clean labelled lines one word in a hundred is less sure than this; of words that were not said more than half are. */
const SURE_WORD = 0.845;
/**
 * Words are left out only when they were less sure than this in the mean. On every second line of four voices with one word
 * in five wrong it loses 1 of 340 words that were said and leaves out 44 of 76 that were not. Leaving out more costs more of
 * what was said, and that is worse: a word too many is seen and struck, one too few is missed.
 */
const LEFT_OUT_BELOW = 0.88;
/** One as sure as this is never left out. */
const NEVER_LEFT_OUT = 0.94;
/** A word that was not said stands out among the others by this much; a voice the model does not fit is unsure throughout. */
const STANDS_OUT = 0.09;
/** Sure words on each side of a doubtful one that are looked for again with it. */
const WORDS_AROUND = 2;
/** Words that may be in a stretch beyond those a strict reading found there. */
const LIKELY_PAST = 8;
/** Lone sounds between words are breath and noise. */
const LEAST_SOUNDS = 2;

export interface Alignment {
  readonly segments: readonly AlignedSegment[];
  /** Mean confidence over time, words and silences alike. */
  readonly score: number;
  readonly speed: number;
  /** Words of the script that were found, by their index, in order. */
  readonly found: readonly number[];
}

/** Told what is being tried, for the user. */
export type ReportTry = (doing: string) => void;

/** The mean confidence of the surer words, 0 to 1: what is said of the voice by words that were said. */
function fitOf(segments: readonly AlignedSegment[]): number {
  const sorted = wordsOf(segments)
    .map((word) => word.confidence)
    .sort((a, b) => b - a);
  const count = Math.max(1, Math.round(sorted.length * SPEAKS_FOR_VOICE));
  return sorted.slice(0, count).reduce((sum, confidence) => sum + confidence, 0) / count;
}

function scoreOf(segments: readonly AlignedSegment[]): number {
  let [sum, time] = [0, 1e-9];
  for (const { confidence, fromSeconds, toSeconds } of segments) {
    sum += confidence * (toSeconds - fromSeconds);
    time += toSeconds - fromSeconds;
  }
  return sum / time;
}

/** Times as they are in the recording, of a stretch that was heard at another speed. */
export function atSpeed(segments: readonly AlignedSegment[], speed: number): AlignedSegment[] {
  const scaled = <T extends { fromSeconds: number; toSeconds: number }>(span: T): T => ({
    ...span,
    fromSeconds: span.fromSeconds / speed,
    toSeconds: span.toSeconds / speed,
  });
  return segments.map((segment) => ({ ...scaled(segment), phonemes: segment.phonemes.map(scaled) }));
}

/** Nobody says more words a second, counted over a stretch, and a few more may be in it than its length says. */
const MOST_WORDS_A_SECOND = 6;
const WORDS_TO_SPARE = 8;

/** How many words a stretch can hold. */
export function mostWords(samples: Float32Array): number {
  return Math.ceil((samples.length / RECOGNISER_RATE) * MOST_WORDS_A_SECOND) + WORDS_TO_SPARE;
}

/** Played so many times slower and told it is still 16 kHz. */
export function heardAt(samples: Float32Array, speed: number): Float32Array {
  return speed === 1 ? samples : resample(samples, RECOGNISER_RATE, Math.round(RECOGNISER_RATE * speed));
}

export function wordsOf(segments: readonly AlignedSegment[]): AlignedSegment[] {
  return segments.filter((segment) => segment.word !== undefined);
}

/** Places as they are in what is heard at a speed, from some time of the stretch on. */
function placesAt(places: readonly SpokenPlace[] | undefined, speed: number, from = 0): SpokenPlace[] | undefined {
  const heardAfter = (seconds: number): number => (seconds - from) * speed;
  return (
    places && mapOnce(places, ({ fromSeconds, toSeconds }) => ({ fromSeconds: heardAfter(fromSeconds), toSeconds: heardAfter(toSeconds) }))
  );
}

/** Which of the words asked for were found; strictly and without places, they are from the first on. */
const foundIn = (segments: readonly AlignedSegment[]): number[] => wordsOf(segments).map(({ index }, at) => index ?? at);

/** A word is not said where everything is this far below the loudest twentieth of a second of the stretch, in power: 40 dB. */
const SILENT_WORD = 1e-4;

/** Words that were laid on silence are not sure at all: a strict alignment has to put each of them somewhere. */
function withoutSilentWords(segments: readonly AlignedSegment[], samples: Float32Array): readonly AlignedSegment[] {
  const loudness = loudnessOfWindows(samples, WINDOW);
  const loudest = loudness.reduce((most, level) => Math.max(most, level), 0);
  return segments.map((segment) => {
    if (segment.word === undefined) return segment;
    const at = (seconds: number): number => Math.floor((seconds * RECOGNISER_RATE) / WINDOW);
    const own = loudness.slice(at(segment.fromSeconds), at(segment.toSeconds) + 1);
    const isSilent = own.every((level) => level * level < SILENT_WORD * loudest * loudest);
    return isSilent ? { ...segment, confidence: 0 } : segment;
  });
}

/** Aligns words at the speed that fits best: the first one if that is sure, else by steps to where it is surest. */
async function alignStrictly(
  recogniser: Recogniser,
  samples: Float32Array,
  tokens: readonly string[],
  extent: Extent,
  firstSpeed: number,
  report: ReportTry,
  places: readonly SpokenPlace[] | undefined,
): Promise<Alignment | undefined> {
  const attempt = async (speed: number): Promise<Alignment | undefined> => {
    const heard = heardAt(samples, speed);
    const there = placesAt(places, speed);
    const segments = await (extent === 'all'
      ? recogniser.maybeAlign(heard, tokens, there)
      : recogniser.maybeAlignFirst(heard, tokens, there));
    if (!segments) return undefined;
    const told = withoutSilentWords(atSpeed(segments, speed), samples);
    return { segments: told, score: scoreOf(told), speed, found: foundIn(told) };
  };
  let best = await attempt(firstSpeed);
  const tried = new Set([firstSpeed]);
  const climb = async (factor: number, steps: number, surerBy: number): Promise<void> => {
    for (let step = 1; step <= steps && !(best && fitOf(best.segments) >= FITS); step++) {
      const speed = roundedSpeed(firstSpeed * factor ** step);
      if (tried.has(speed)) return;
      report('Trying the voice at another pitch');
      tried.add(speed);
      const other = await attempt(speed);
      if (best && (!other || fitOf(other.segments) <= fitOf(best.segments) + surerBy)) return;
      best = other ?? best;
    }
  };
  const first = best;
  await climb(SPEED_STEP, STEPS.slower, SURER_BY.slower);
  // Where slower is better, faster is not.
  if (!best || best === first) await climb(1 / SPEED_STEP, STEPS.faster, SURER_BY.faster);
  return best;
}

/** Words and sounds in order, lone sounds left out. */
function withoutLoneSounds(segments: readonly AlignedSegment[]): AlignedSegment[] {
  const found = wordsOf(segments);
  const isSound = (index: number): boolean => index >= 0 && index < found.length && isSoundWord(found[index]!.word!);
  return found.filter((_, index) => {
    if (!isSound(index)) return true;
    let [first, last] = [index, index];
    while (isSound(first - 1)) first -= 1;
    while (isSound(last + 1)) last += 1;
    return last - first + 1 >= LEAST_SOUNDS;
  });
}

const meanOf = (segments: readonly AlignedSegment[]): number =>
  segments.reduce((sum, segment) => sum + segment.confidence, 0) / Math.max(1, segments.length);

/** Words of a stretch that are looked for loosely, `[first, last)`, and where in the recording. */
interface Region {
  readonly first: number;
  readonly last: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** The doubtful words with those around them; regions that meet are one. */
function regionsOf(words: readonly AlignedSegment[], isDoubtful: (word: AlignedSegment) => boolean, lengthSeconds: number): Region[] {
  const spans: { first: number; last: number }[] = [];
  words.forEach((word, index) => {
    if (!isDoubtful(word)) return;
    const [first, last] = [Math.max(0, index - WORDS_AROUND), Math.min(words.length, index + WORDS_AROUND + 1)];
    const before = spans.at(-1);
    if (before && first <= before.last) before.last = last;
    else spans.push({ first, last });
  });
  return spans.map(({ first, last }) => ({
    first,
    last,
    // Half the pause before and after belongs to it; all of it at the ends.
    fromSeconds: first === 0 ? 0 : (words[first - 1]!.toSeconds + words[first]!.fromSeconds) / 2,
    toSeconds: last === words.length ? lengthSeconds : (words[last - 1]!.toSeconds + words[last]!.fromSeconds) / 2,
  }));
}

/** What is said somewhere: words of the script by their index, and sounds that no word explains. */
interface Said {
  readonly token: string;
  readonly index: number | undefined;
}

/** What a stretch holds, as it is looked for. */
interface Asked {
  readonly tokens: readonly string[];
  readonly places: readonly SpokenPlace[] | undefined;
  readonly speed: number;
}

/**
 * What is said of the tokens wanted, by their index, with words left out and sounds between; undefined when no word was
 * found.
 *
 * @param heard what is heard from some second of the stretch on
 */
async function maybeSaid(
  recogniser: Recogniser,
  heard: Float32Array,
  { tokens, places, speed }: Asked,
  wanted: readonly number[],
  fromSeconds: number,
): Promise<Said[] | undefined> {
  const loose = await recogniser.maybeAlignLoosely(
    heard,
    wanted.map((index) => tokens[index]!),
    placesAt(places && wanted.map((index) => places[index]!), speed, fromSeconds),
  );
  const found = loose && withoutLoneSounds(loose);
  if (!found || found.every(({ word }) => isSoundWord(word!))) return undefined;
  return found.map(({ word, index }) => ({ token: word!, index: index === undefined ? undefined : wanted[index] }));
}

/** Aligns what was found loosely once more, strictly. Sounds between words are where the word before them is. */
async function alignSaid(
  recogniser: Recogniser,
  heard: Float32Array,
  said: readonly Said[],
  { places, speed }: Asked,
): Promise<Alignment | undefined> {
  let nearest = said.find(({ index }) => index !== undefined)?.index;
  const own = places && said.map(({ index }) => places[(nearest = index ?? nearest)!]!);
  const segments = await recogniser.maybeAlign(
    heard,
    said.map(({ token }) => token),
    placesAt(own, speed),
  );
  if (!segments) return undefined;
  return {
    segments: atSpeed(segments, speed),
    score: scoreOf(segments),
    speed,
    found: foundIn(segments).flatMap((at) => said[at]!.index ?? []),
  };
}

/**
 * Looks for what was said and what was not around each doubtful word of a strict alignment,
 * and aligns all again. Words are left out only where they were doubtful, and where that
 * makes the rest surer.
 */
async function mendLoosely(
  recogniser: Recogniser,
  samples: Float32Array,
  { tokens, places }: Omit<Asked, 'speed'>,
  extent: Extent,
  strict: Alignment,
  isDoubtful: (word: AlignedSegment) => boolean,
): Promise<Alignment | undefined> {
  const words = wordsOf(strict.segments);
  const said: Said[] = strict.found.map((index) => ({ token: tokens[index]!, index }));
  const past = (strict.found.at(-1) ?? -1) + 1;
  const asked: Asked = { tokens, places, speed: strict.speed };
  const heard = heardAt(samples, strict.speed);
  const rate = RECOGNISER_RATE * strict.speed;
  let isChanged = false;
  // From the last to the first, so that what is put in moves nothing that is still to come.
  for (const region of regionsOf(words, isDoubtful, samples.length / RECOGNISER_RATE).reverse()) {
    const isEnd = region.last === words.length && extent === 'first';
    const wanted = strict.found.slice(region.first, region.last);
    if (isEnd) wanted.push(...tokens.slice(past, past + LIKELY_PAST).map((_, index) => past + index));
    const part = heard.subarray(Math.floor(region.fromSeconds * rate), Math.ceil(region.toSeconds * rate));
    const found = await maybeSaid(recogniser, part, asked, wanted, region.fromSeconds);
    const kept = new Set(found?.map(({ index }) => index));
    const dropped = words.slice(region.first, region.last).filter((_, at) => !kept.has(wanted[at]));
    if (!found || dropped.length === 0 || meanOf(dropped) >= LEFT_OUT_BELOW || dropped.some((word) => word.confidence >= NEVER_LEFT_OUT))
      continue;
    said.splice(region.first, region.last - region.first, ...found);
    isChanged = true;
  }
  if (!isChanged) return undefined;
  const again = await alignSaid(recogniser, heard, said, asked);
  return again && meanOf(wordsOf(again.segments).filter((word) => !isSoundWord(word.word!))) > meanOf(words) ? again : undefined;
}

/**
 * Aligns the words of a stretch.
 *
 * @param firstSpeed the playback speed to begin with: the one that fitted the stretch before
 * @param places where each word may be said, in seconds of the stretch; a line that is not said in its own is not found
 * @returns undefined when none of them can be found
 */
export async function alignStretch(
  recogniser: Recogniser,
  samples: Float32Array,
  tokens: readonly string[],
  extent: Extent,
  firstSpeed: number,
  report: ReportTry,
  places?: readonly SpokenPlace[],
): Promise<Alignment | undefined> {
  const strict = await alignStrictly(recogniser, samples, tokens, extent, firstSpeed, report, places);
  const words = strict ? wordsOf(strict.segments) : [];
  const least = Math.min(SURE_WORD, meanOf(words) - STANDS_OUT);
  const isPoor = !strict || words.length === 0 || strict.score < POOR;
  if (!isPoor && words.every((word) => word.confidence >= least)) return strict;
  // More words than anybody says in the time are another script: looking for each of them would take minutes.
  if (tokens.length > mostWords(samples)) return isPoor ? undefined : strict;
  report('Looking for what was said and what was not');
  if (strict && words.length > 0)
    return (
      (await mendLoosely(recogniser, samples, { tokens, places }, extent, strict, (word) => isPoor || word.confidence < least)) ?? strict
    );
  const heard = heardAt(samples, firstSpeed);
  const asked: Asked = { tokens, places, speed: firstSpeed };
  const said = await maybeSaid(recogniser, heard, asked, [...tokens.keys()], 0);
  return (said && (await alignSaid(recogniser, heard, said, asked))) ?? strict;
}
