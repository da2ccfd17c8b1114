/**
 * The recogniser: soundswallower's acoustic models, opened once a language and kept warm.
 * It aligns words to a recording; everything it returns or throws is turned into plain
 * values here, because its errors print its whole source and an alignment that fails
 * comes back empty without one.
 */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { pathToFileURL } from 'node:url';
import { type AlignedPhoneme, PHONEMES, pronunciationsOf, RECOGNISER_RATE, syllableGrammar, type SyllableGrammar } from '@zest-jaw/core';
import type createModule from 'soundswallower';
import type { Decoder, Segment, SoundSwallowerModule } from 'soundswallower';

import { endingInQuiet } from './endsInQuiet.js';

export type Language = 'en' | 'fr';

const MODEL_OF: Readonly<Record<Language, string>> = { en: 'en-us', fr: 'fr-fr' };

/**
 * Widths of the search. Strict: wide enough that a line does not fail, then wider still.
 * Loose and by syllables there are so many ways that only the likely ones are followed:
 * the same answers as with wide beams, four times as fast. By syllables a thousand states a
 * frame and beams of 1e-30 find the same groups as three thousand and 1e-48 (72.7 % of the
 * frames of every third labelled line) in half the time; narrower ones fail on some lines,
 * which are then heard as before. A heavy language weight keeps unexplained sounds from
 * taking the place of words.
 */
const SEARCHES = {
  strict: { beam: 1e-80, wbeam: 1e-60, pbeam: 1e-80 },
  wider: { beam: 1e-100, wbeam: 1e-100, pbeam: 1e-100 },
  loose: { beam: 1e-48, wbeam: 1e-29, pbeam: 1e-48, maxhmmpf: 2000, lw: 30 },
  syllables: { beam: 1e-30, wbeam: 1e-20, pbeam: 1e-30, maxhmmpf: 1000, lw: 1, wip: 0.3 },
  'wider syllables': { beam: 1e-48, wbeam: 1e-29, pbeam: 1e-48, maxhmmpf: 3000, lw: 1, wip: 0.3 },
} as const;
type Search = keyof typeof SEARCHES;

/** A word or a silence as it was aligned; seconds. */
export interface AlignedSegment {
  /** The dictionary's word without its variant number; undefined for silence and noise. */
  readonly word: string | undefined;
  readonly confidence: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly phonemes: readonly AlignedPhoneme[];
}

export interface Recogniser {
  readonly language: Language;
  /** A dictionary pronunciation in the model's own symbols; undefined when the word is not in it. */
  maybePronunciation(word: string): string | undefined;
  /** A word by its sounds, in each of the ways it may be said; the model's own symbols with spaces between. */
  addWord(word: string, ...pronunciations: readonly string[]): void;
  /** Words in this order, with optional silence between them; undefined when no path fits the recording. */
  maybeAlign(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
  /** Words that fill all of what is heard, cut off from what lies around it: nothing is added at its end. */
  maybeAlignCut(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
  /** As many of the words, from the first on, as the recording holds. */
  maybeAlignFirst(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
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
  const entry = createRequire(import.meta.url).resolve('soundswallower');
  const loaded = (await import(pathToFileURL(entry).href)) as { default: typeof createModule };
  const options = { modelBase: `${dirname(entry)}/model/`, print: () => undefined, printErr: () => undefined };
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

/** Opens a recogniser; the module is loaded once a thread, and again after it has given way. */
export async function openRecogniser(language: Language): Promise<Recogniser> {
  const soundswallower = await (modulePromise ??= loadModule());
  const decoders = new Map<Search, Promise<Decoder>>();
  const added: [string, string][] = [];
  let broken = false;
  const open = async (search: Search): Promise<Decoder> => {
    const decoder = new soundswallower.Decoder({
      hmm: soundswallower.get_model_path(MODEL_OF[language]),
      loglevel: 'FATAL',
      samprate: RECOGNISER_RATE,
      ...SEARCHES[search],
    });
    await decoder.initialize();
    if (added.length > 0) decoder.add_words(...added);
    return decoder;
  };
  const decoderOf = (search: Search): Promise<Decoder> => {
    let decoder = decoders.get(search);
    if (!decoder) decoders.set(search, (decoder = open(search)));
    return decoder;
  };
  const strict = await decoderOf('strict');
  const add = (...words: [string, string][]): void => {
    added.push(...words);
    for (const decoder of decoders.values()) void decoder.then((opened) => opened.add_words(...words));
  };

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
    // What lies in the quiet that was added is no part of the recording.
    maybeHear(decoder, endingInQuiet(samples), prepare)?.flatMap((segment) => maybeWithin(segment, samples.length / RECOGNISER_RATE));
  const search = async (samples: Float32Array, prepare: (decoder: Decoder) => void): Promise<AlignedSegment[] | undefined> => {
    const found = maybeSearch(strict, samples, prepare) ?? maybeSearch(await decoderOf('wider'), samples, prepare);
    if (found) broken = false;
    return found;
  };
  let sounds = false;
  /** Each sound of English as a word of its own. */
  const teachSounds = (): void => {
    if (!sounds) add(...ENGLISH_PHONEMES.map((symbol) => [PHONEME_WORD + symbol.toLowerCase(), symbol] as [string, string]));
    sounds = true;
  };
  let syllables: SyllableGrammar | undefined;

  return {
    language,
    maybePronunciation: (word) => strict.lookup_word(word) ?? undefined,
    addWord: (word, ...pronunciations) => {
      strict.add_words(...variantsOf(word, pronunciations));
      added.push(...variantsOf(word, pronunciations));
      for (const [name, decoder] of decoders)
        if (name !== 'strict') void decoder.then((opened) => opened.add_words(...variantsOf(word, pronunciations)));
    },
    maybeAlign: (samples, words) => search(samples, (decoder) => decoder.set_align_text(words.join(' '))),
    maybeAlignCut: (samples, words) => {
      const found = maybeHear(strict, samples, (decoder) => decoder.set_align_text(words.join(' ')));
      if (found) broken = false;
      return Promise.resolve(found);
    },
    maybeAlignFirst: (samples, words) => search(samples, (decoder) => decoder.set_grammar(firstWordsGrammar(words))),
    maybeAlignLoosely: async (samples, words) => {
      teachSounds();
      return maybeSearch(await decoderOf('loose'), samples, (decoder) => decoder.set_grammar(looseGrammar(words)));
    },
    maybeAlignSyllables: async (samples) => {
      const { words, grammar } = (syllables ??= syllableGrammar(englishDictionary()));
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

/** The pronunciations of the model's English dictionary, read once. */
let english: readonly (readonly string[])[] | undefined;
function englishDictionary(): readonly (readonly string[])[] {
  const entry = createRequire(import.meta.url).resolve('soundswallower');
  english ??= pronunciationsOf(readFileSync(`${dirname(entry)}/model/en-us/dict.txt`, 'utf8'));
  return english;
}

const PHONEME_WORD = 'phoneme_';
const ENGLISH_PHONEMES = PHONEMES.map((phoneme) => phoneme.symbol);

/** `a [ b [ c ] ]`: the first words, as many as are there. */
export function firstWordsGrammar(words: readonly string[]): string {
  const [first, ...others] = words;
  return `#JSGF V1.0; grammar first; public <line> = ${first} ${others.map((word) => `[ ${word}`).join(' ')} ${others.map(() => ']').join(' ')};`;
}

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
