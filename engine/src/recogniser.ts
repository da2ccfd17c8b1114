/**
 * The recogniser: soundswallower's acoustic models, opened once a language and kept warm.
 * It aligns words to a recording; everything it returns or throws is turned into plain
 * values here, because its errors print its whole source and an alignment that fails
 * comes back empty without one.
 */
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { pathToFileURL } from 'node:url';
import { type AlignedPhoneme, RECOGNISER_RATE } from '@zest-jaw/core';
import type createModule from 'soundswallower';
import type { Decoder, Segment, SoundSwallowerModule } from 'soundswallower';

export type Language = 'en' | 'fr';

const MODEL_OF: Readonly<Record<Language, string>> = { en: 'en-us', fr: 'fr-fr' };

/** Widths of the search: wide enough that a line does not fail, then wider still. */
const BEAMS = [
  { beam: 1e-80, wbeam: 1e-60, pbeam: 1e-80 },
  { beam: 1e-100, wbeam: 1e-100, pbeam: 1e-100 },
] as const;

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
  addWord(word: string, pronunciation: string): void;
  /** Words in this order, with optional silence between them; undefined when no path fits the recording. */
  maybeAlign(samples16k: Float32Array, words: readonly string[]): Promise<AlignedSegment[] | undefined>;
  /** Any phonemes in any order, for a line without a script. */
  maybeAlignPhonemes(samples16k: Float32Array): Promise<AlignedSegment[] | undefined>;
  close(): void;
}

let modulePromise: Promise<SoundSwallowerModule> | undefined;

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

/** Opens a recogniser; the module is loaded once a thread. */
export async function openRecogniser(language: Language): Promise<Recogniser> {
  const soundswallower = await (modulePromise ??= loadModule());
  const open = async (beams: (typeof BEAMS)[number]): Promise<Decoder> => {
    const decoder = new soundswallower.Decoder({
      hmm: soundswallower.get_model_path(MODEL_OF[language]),
      loglevel: 'FATAL',
      samprate: RECOGNISER_RATE,
      ...beams,
    });
    await decoder.initialize();
    return decoder;
  };
  const decoder = await open(BEAMS[0]);
  const added: [string, string][] = [];
  let wider: Promise<Decoder> | undefined;
  const openWider = async (): Promise<Decoder> => {
    const opened = await open(BEAMS[1]);
    for (const word of added) opened.add_words(word);
    return opened;
  };

  const maybeSearch = (candidate: Decoder, samples: Float32Array, prepare: (decoder: Decoder) => void): AlignedSegment[] | undefined => {
    try {
      prepare(candidate);
      candidate.start();
      candidate.process_audio(samples, false, true);
      candidate.stop();
      const segments = candidate.get_alignment({ align_level: 1 }).w ?? [];
      return segments.length > 0 ? segments.map(segmentOf) : undefined;
    } catch {
      // An impossible path surfaces as a JSON or a WebAssembly error whose text is the module's source: not worth passing on.
      return undefined;
    }
  };
  const search = async (samples: Float32Array, prepare: (decoder: Decoder) => void): Promise<AlignedSegment[] | undefined> =>
    maybeSearch(decoder, samples, prepare) ?? maybeSearch(await (wider ??= openWider()), samples, prepare);

  return {
    language,
    maybePronunciation: (word) => decoder.lookup_word(word) ?? undefined,
    addWord: (word, pronunciation) => {
      added.push([word, pronunciation]);
      decoder.add_words([word, pronunciation]);
      void wider?.then((opened) => opened.add_words([word, pronunciation]));
    },
    maybeAlign: (samples, words) => search(samples, (candidate) => candidate.set_align_text(words.join(' '))),
    maybeAlignPhonemes: (samples) => search(samples, (candidate) => candidate.set_grammar(phonemeLoop(candidate))),
    close: () => {
      decoder.delete();
      void wider?.then((opened) => opened.delete());
    },
  };
}

const PHONEME_WORD = 'phoneme_';
const ENGLISH_PHONEMES = 'AA AE AH AO AW AY B CH D DH EH ER EY F G HH IH IY JH K L M N NG OW OY P R S SH T TH UH UW V W Y Z ZH'.split(' ');

/** A grammar that hears any string of phonemes, each one a word of its own. */
function phonemeLoop(decoder: Decoder): string {
  const words = ENGLISH_PHONEMES.map((symbol) => [PHONEME_WORD + symbol.toLowerCase(), symbol] as [string, string]);
  if (!decoder.lookup_word(words[0]![0])) decoder.add_words(...words);
  return `#JSGF V1.0; grammar sounds; public <line> = ( ${words.map(([word]) => word).join(' | ')} )+ ;`;
}

/** True for the stand-in words of {@link Recogniser.maybeAlignPhonemes}. */
export function isPhonemeWord(word: string): boolean {
  return word.startsWith(PHONEME_WORD);
}
