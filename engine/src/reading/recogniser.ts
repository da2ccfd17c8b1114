/** The recogniser: words and sounds looked for by the acoustic model itself, with what it has been taught of words. */
import { RECOGNISER_RATE, soundLoop, type AlignedPhoneme, type Extent, type SoundLoop } from '@zest-jaw/core';

import { maybeAlignLoosely, maybeAlignWords, maybeHearSounds, wordOfSound, type SpokenWord } from './alignWords.js';
import { endingInQuiet } from './endsInQuiet.js';
import { acousticModel, dictionary, type Language } from './modelFiles.js';

/** A word or a silence as it was aligned; seconds. */
export interface AlignedSegment {
  /** The dictionary's word without its variant number; undefined for silence and noise. */
  readonly word: string | undefined;
  /** Which of the words asked for it is, where that is known. */
  readonly index?: number | undefined;
  readonly confidence: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly phonemes: readonly AlignedPhoneme[];
}

/** Where a word may be said; one object for the words of a line. Seconds of what is heard. */
export interface SpokenPlace {
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

export interface Recogniser {
  readonly language: Language;
  /** A dictionary pronunciation in the model's own symbols; undefined when the word is not in it. */
  maybePronunciation(word: string): string | undefined;
  /** A word by its sounds, in each of the ways it may be said; the model's own symbols with spaces between. */
  addWord(word: string, ...pronunciations: readonly string[]): void;
  /**
   * Words in this order, with optional silence between them; undefined when no path fits the recording. With places, each
   * in its own, and no word of a line that is not said there.
   */
  maybeAlign(samples16k: Float32Array, words: readonly string[], places?: readonly SpokenPlace[]): Promise<AlignedSegment[] | undefined>;
  /** Words that fill all of what is heard, cut off from what lies around it: nothing is added at its end. */
  maybeAlignCut(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
  /** As many of the words, from the first on, as the recording holds. */
  maybeAlignFirst(
    samples16k: Float32Array,
    words: readonly string[],
    places?: readonly SpokenPlace[],
  ): Promise<AlignedSegment[] | undefined>;
  /** Words that may or may not have been said, with any sounds between them, each as a word of its own. */
  maybeAlignLoosely(
    samples16k: Float32Array,
    words: readonly string[],
    places?: readonly SpokenPlace[],
  ): Promise<AlignedSegment[] | undefined>;
  /** Any sounds, for a line without a script. */
  maybeHearSounds(samples16k: Float32Array): Promise<AlignedSegment[] | undefined>;
}

/** A segment cut off at the end of what was heard; nothing where it begins after it. */
function maybeWithin(segment: AlignedSegment, lengthSeconds: number): AlignedSegment[] {
  if (segment.toSeconds <= lengthSeconds) return [segment];
  const cut = <T extends { fromSeconds: number; toSeconds: number }>(spans: readonly T[]): T[] =>
    spans.flatMap((span) => (span.fromSeconds < lengthSeconds ? [{ ...span, toSeconds: Math.min(span.toSeconds, lengthSeconds) }] : []));
  return cut([{ ...segment, phonemes: cut(segment.phonemes) }]);
}

/** Each is made once a thread, where sounds without words are first looked for. */
const loops = new Map<Language, SoundLoop>();

function loopOf(language: Language): SoundLoop {
  let loop = loops.get(language);
  if (!loop) {
    const model = acousticModel(language);
    const numbers = new Map(model.sounds.map((sound, number) => [sound, number]));
    const words = [...dictionary(language).values()].map((sounds) => sounds.split(' ').flatMap((sound) => numbers.get(sound) ?? []));
    loops.set(language, (loop = soundLoop(model, words)));
  }
  return loop;
}

/** Opens a recogniser; its model and dictionary are read once a thread. */
export async function openRecogniser(language: Language): Promise<Recogniser> {
  const model = acousticModel(language);
  const known = dictionary(language);
  const taught = new Map<string, readonly string[]>();
  const waysOf = (word: string): readonly string[] => {
    const own = taught.get(word);
    if (own) return own;
    const ways: string[] = [];
    for (let way = known.get(word); way !== undefined; way = known.get(`${word}(${ways.length + 1})`)) ways.push(way);
    return ways;
  };
  const spoken = (words: readonly string[]): SpokenWord[] =>
    words.map((word) => ({ word, ways: waysOf(word).map((way) => way.split(' ')) }));
  /** What lies in the quiet that is added is no part of the recording. */
  const inQuiet = async (
    samples: Float32Array,
    hear: (heard: Float32Array) => AlignedSegment[] | undefined,
  ): Promise<AlignedSegment[] | undefined> =>
    hear(endingInQuiet(samples))?.flatMap((segment) => maybeWithin(segment, samples.length / RECOGNISER_RATE));
  const align =
    (extent: Extent): Recogniser['maybeAlign'] =>
    (samples, words, places) =>
      inQuiet(samples, (heard) => maybeAlignWords(model, heard, spoken(words), { extent, places }));
  for (const symbol of model.sounds) taught.set(wordOfSound(symbol), [symbol]);

  return {
    language,
    maybePronunciation: (word) => waysOf(word)[0],
    addWord: (word, ...pronunciations) => void taught.set(word, pronunciations),
    maybeAlign: align('all'),
    maybeAlignCut: async (samples, words) => maybeAlignWords(model, samples, spoken(words), { extent: 'all' }),
    maybeAlignFirst: align('first'),
    maybeAlignLoosely: (samples, words, places) =>
      inQuiet(samples, (heard) => maybeAlignLoosely(model, loopOf(language), heard, spoken(words), places)),
    maybeHearSounds: (samples) => inQuiet(samples, (heard) => maybeHearSounds(model, loopOf(language), heard)),
  };
}
