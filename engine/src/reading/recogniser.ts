/**
 * The recogniser: words that are known to be said are aligned by the acoustic model itself; words that may be said, and
 * syllables, are looked for by soundswallower, opened where it is wanted and kept warm. Everything it returns or throws is
 * turned into plain values here, because its errors print its whole source and a search that fails comes back empty
 * without one.
 */
import { pathToFileURL } from 'node:url';
import {
  type AlignedPhoneme,
  type Extent,
  PHONEMES,
  pronunciationsOf,
  RECOGNISER_RATE,
  syllableGrammar,
  type SyllableGrammar,
} from '@zest-jaw/core';
import type createModule from 'soundswallower';
import type { Decoder, Segment, SoundSwallowerModule } from 'soundswallower';

import { maybeAlignWords } from './alignWords.js';
import { endingInQuiet } from './endsInQuiet.js';
import { acousticModel, dictionary, dictionaryText, MODEL_FOLDER, MODEL_OF, RECOGNISER_ENTRY, type Language } from './modelFiles.js';

/**
 * Widths of the searches. Loose and by syllables there are so many ways that only the likely ones are followed:
 * the same answers as with wide beams, four times as fast. By syllables a thousand states a
 * frame and beams of 1e-30 find the same groups as three thousand and 1e-48 (72.7 % of the
 * frames of every third labelled line) in half the time; narrower ones fail on some lines,
 * which are then heard as before. A heavy language weight keeps unexplained sounds from
 * taking the place of words.
 */
const SEARCHES = {
  loose: { beam: 1e-48, wbeam: 1e-29, pbeam: 1e-48, maxhmmpf: 2000, lw: 30 },
  syllables: { beam: 1e-30, wbeam: 1e-20, pbeam: 1e-30, maxhmmpf: 1000, lw: 1, wip: 0.3 },
  'wider syllables': { beam: 1e-48, wbeam: 1e-29, pbeam: 1e-48, maxhmmpf: 3000, lw: 1, wip: 0.3 },
} as const;
type Search = keyof typeof SEARCHES;

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
  /** Words that may or may not have been said, with any sounds between them. */
  maybeAlignLoosely(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
  /** Any syllables of English, for a line without a script. */
  maybeAlignSyllables(samples16k: Float32Array): Promise<AlignedSegment[] | undefined>;
  /** The recogniser gave way: open another. */
  isBroken(): boolean;
  close(): void;
}

let modulePromise: Promise<SoundSwallowerModule> | undefined;

/** A word that may be left out: nine times in ten it is said. A sound that no word explains is rare. From the design's measurements. */
const SAID = 0.9;
const UNEXPLAINED = 0.02;

async function loadModule(): Promise<SoundSwallowerModule> {
  const loaded = (await import(pathToFileURL(RECOGNISER_ENTRY).href)) as { default: typeof createModule };
  const options = { modelBase: `${MODEL_FOLDER}/`, print: () => undefined, printErr: () => undefined };
  return loaded.default(options as never);
}

function segmentOf(segment: Segment): AlignedSegment {
  const isSound = !/^[<[+]/.test(segment.t);
  return {
    word: isSound ? segment.t.replace(/\(\d+\)$/, '') : undefined,
    confidence: segment.p,
    fromSeconds: segment.b,
    toSeconds: segment.b + segment.d,
    phonemes: (segment.w ?? []).map((phoneme) => ({
      symbol: phoneme.t,
      fromSeconds: phoneme.b,
      toSeconds: phoneme.b + phoneme.d,
      confidence: phoneme.p,
    })),
  };
}

/** A segment cut off at the end of what was heard; nothing where it begins after it. */
function maybeWithin(segment: AlignedSegment, lengthSeconds: number): AlignedSegment[] {
  if (segment.toSeconds <= lengthSeconds) return [segment];
  const cut = <T extends { fromSeconds: number; toSeconds: number }>(spans: readonly T[]): T[] =>
    spans.flatMap((span) => (span.fromSeconds < lengthSeconds ? [{ ...span, toSeconds: Math.min(span.toSeconds, lengthSeconds) }] : []));
  return cut([{ ...segment, phonemes: cut(segment.phonemes) }]);
}

/** Opens a recogniser; soundswallower's module is loaded once a thread, and again after it has given way. */
export async function openRecogniser(language: Language): Promise<Recogniser> {
  const model = acousticModel(language);
  const known = dictionary(language);
  const taught = new Map<string, readonly string[]>();
  const decoders = new Map<Search, Promise<Decoder>>();
  let broken = false;
  const open = async (search: Search): Promise<Decoder> => {
    const soundswallower = await (modulePromise ??= loadModule());
    const decoder = new soundswallower.Decoder({
      hmm: soundswallower.get_model_path(MODEL_OF[language]),
      loglevel: 'FATAL',
      samprate: RECOGNISER_RATE,
      ...SEARCHES[search],
    });
    await decoder.initialize();
    const added = [...taught].flatMap(([word, ways]) => variantsOf(word, ways));
    if (added.length > 0) decoder.add_words(...added);
    return decoder;
  };
  const decoderOf = (search: Search): Promise<Decoder> => {
    let decoder = decoders.get(search);
    if (!decoder) decoders.set(search, (decoder = open(search)));
    return decoder;
  };
  const teach = (word: string, ways: readonly string[]): void => {
    taught.set(word, ways);
    for (const decoder of decoders.values()) void decoder.then((opened) => opened.add_words(...variantsOf(word, ways)));
  };
  const waysOf = (word: string): readonly string[] => {
    const own = taught.get(word);
    if (own) return own;
    const ways: string[] = [];
    for (let way = known.get(word); way !== undefined; way = known.get(`${word}(${ways.length + 1})`)) ways.push(way);
    return ways;
  };
  const maybeAlign = (
    heard: Float32Array,
    words: readonly string[],
    extent: Extent,
    places?: readonly SpokenPlace[],
  ): AlignedSegment[] | undefined =>
    maybeAlignWords(
      model,
      heard,
      words.map((word) => ({ word, ways: waysOf(word).map((way) => way.split(' ')) })),
      extent,
      places,
    );
  /** What lies in the quiet that is added is no part of the recording. */
  const inQuiet = (samples: Float32Array, hear: (heard: Float32Array) => AlignedSegment[] | undefined): AlignedSegment[] | undefined =>
    hear(endingInQuiet(samples))?.flatMap((segment) => maybeWithin(segment, samples.length / RECOGNISER_RATE));

  const maybeHear = (decoder: Decoder, samples: Float32Array, prepare: (decoder: Decoder) => void): AlignedSegment[] | undefined => {
    try {
      prepare(decoder);
      decoder.start();
      decoder.process_audio(samples, false, true);
      decoder.stop();
      const segments = decoder.get_alignment({ align_level: 1 }).w ?? [];
      return segments.length > 0 ? segments.map(segmentOf) : undefined;
    } catch (error) {
      // An impossible path surfaces as a JSON or a WebAssembly error whose text is the module's source: not worth passing on.
      if (error instanceof Error && error.name === 'RuntimeError') broken = true;
      return undefined;
    }
  };
  const maybeSearch = (decoder: Decoder, samples: Float32Array, prepare: (decoder: Decoder) => void): AlignedSegment[] | undefined =>
    inQuiet(samples, (heard) => maybeHear(decoder, heard, prepare));
  let sounds = false;
  /** Each sound of English as a word of its own. */
  const teachSounds = (): void => {
    if (!sounds) for (const symbol of ENGLISH_PHONEMES) teach(PHONEME_WORD + symbol.toLowerCase(), [symbol]);
    sounds = true;
  };
  let syllables: SyllableGrammar | undefined;

  return {
    language,
    maybePronunciation: (word) => waysOf(word)[0],
    addWord: (word, ...pronunciations) => teach(word, pronunciations),
    maybeAlign: (samples, words, places) => Promise.resolve(inQuiet(samples, (heard) => maybeAlign(heard, words, 'all', places))),
    maybeAlignCut: (samples, words) => Promise.resolve(maybeAlign(samples, words, 'all')),
    maybeAlignFirst: (samples, words, places) => Promise.resolve(inQuiet(samples, (heard) => maybeAlign(heard, words, 'first', places))),
    maybeAlignLoosely: async (samples, words) => {
      teachSounds();
      return maybeSearch(await decoderOf('loose'), samples, (decoder) => decoder.set_grammar(looseGrammar(words)));
    },
    maybeAlignSyllables: async (samples) => {
      const { words, grammar } = (syllables ??= syllableGrammar(pronunciationsOf(dictionaryText('en'))));
      for (const width of ['syllables', 'wider syllables'] as const) {
        const isNew = !decoders.has(width);
        const decoder = await decoderOf(width);
        if (isNew) decoder.add_words(...words.map(([word, symbols]) => [word, symbols] as [string, string]));
        const found = maybeSearch(decoder, samples, () => decoder.set_grammar(grammar));
        if (!found) continue;
        // It gave way only where it was too narrow.
        broken = false;
        return found;
      }
      return undefined;
    },
    isBroken: () => broken,
    close: () => {
      // One that gave way cannot be taken down either; its memory goes with its module.
      for (const decoder of decoders.values()) void decoder.then((opened) => opened.delete()).catch(() => undefined);
      if (broken) modulePromise = undefined;
    },
  };
}

function variantsOf(word: string, pronunciations: readonly string[]): [string, string][] {
  return pronunciations.map((symbols, index) => [index === 0 ? word : `${word}(${index + 1})`, symbols]);
}

const PHONEME_WORD = 'phoneme_';
const ENGLISH_PHONEMES = PHONEMES.map((phoneme) => phoneme.symbol);

/** Each word said or left out, any sounds before, between and after. */
export function looseGrammar(words: readonly string[]): string {
  const sounds = ENGLISH_PHONEMES.map((symbol) => PHONEME_WORD + symbol.toLowerCase()).join(' | ');
  const line = words.map((word) => `( /${SAID}/ ${word} | /${(1 - SAID).toFixed(2)}/ <NULL> ) <between>`).join(' ');
  return `#JSGF V1.0; grammar loose; <sound> = ${sounds}; <between> = /${1 - UNEXPLAINED}/ <NULL> | /${UNEXPLAINED}/ <sound>+; public <line> = <between> ${line};`;
}

/** True for the stand-in words of sounds that no word explains. */
export function isPhonemeWord(word: string): boolean {
  return word.startsWith(PHONEME_WORD);
}
