/** Reads recordings in a thread of its own; the model is opened once a language and kept warm. */
import type { MessagePort } from 'node:worker_threads';
import {
  readingWithin,
  truthOfWave,
  waysByWord,
  type Accent,
  type Pronunciation,
  type Reading,
  type Refusal,
  type ScriptLanguage,
  type TimedLine,
  type WordWay,
} from '@zest-jaw/core';
import { openRecogniser, readTrack, waysOfWord, type AskedWord, type Language, type Recogniser } from '@zest-jaw/engine';

export interface ReadTask {
  /** A 48 kHz wave file. */
  readonly wave: Uint8Array;
  /** Absent when nobody wrote down what is said. */
  readonly script: string | undefined;
  readonly language: ScriptLanguage;
  /** The part of the recording that is heard, in samples. */
  readonly fromSample: number;
  readonly toSample: number;
  readonly pronunciations: readonly Pronunciation[];
  readonly accent: Accent;
  /** In the place of the script; samples of the recording. */
  readonly lines?: readonly TimedLine[] | undefined;
  /** Told `[done, doing]`; absent when nobody listens. */
  readonly progress?: MessagePort;
}

const recognisers = new Map<Language, Promise<Recogniser>>();

/** A script in IPA is read by the English model: its sounds are the nearest to most. */
const modelOf = (language: ScriptLanguage): Language => (language === 'fr' ? 'fr' : 'en');

function recogniserOf(language: Language): Promise<Recogniser> {
  let opening = recognisers.get(language);
  if (!opening) recognisers.set(language, (opening = openRecogniser(language)));
  return opening;
}

export default async function read({
  wave,
  script,
  language,
  fromSample,
  toSample,
  pronunciations,
  accent,
  lines,
  progress,
}: ReadTask): Promise<Reading | Refusal> {
  progress?.postMessage([0.02, 'Opening the recogniser']);
  const recogniser = await recogniserOf(modelOf(language));
  const truth = truthOfWave(wave);
  if ('refusal' in truth) return truth;
  const heard = { samples: truth.samples.subarray(fromSample, toSample) };
  const report = (done: number, doing: string): void => progress?.postMessage([done, doing]);
  const heardLines = lines?.map((line) => ({ ...line, fromSample: line.fromSample - fromSample, toSample: line.toSample - fromSample }));
  const speech = { pronunciations: waysByWord(pronunciations), accent, spelling: language, lines: heardLines };
  const reading = await readTrack(recogniser, heard, script, report, speech);
  return 'refusal' in reading ? reading : readingWithin(reading, fromSample, truth.samples.length);
}

export interface WaysTask {
  /** 48 kHz, from some way before the word to some way after it. */
  readonly samples: Int16Array;
  /** Where the word lies in them. */
  readonly asked: AskedWord;
  readonly pronunciations: readonly Pronunciation[];
  readonly accent: Accent;
}

/** The ways one word may be said where it is. */
export async function ways({ samples, asked, pronunciations, accent }: WaysTask): Promise<readonly WordWay[] | Refusal> {
  const recogniser = await recogniserOf(modelOf(asked.spelling));
  return waysOfWord(recogniser, { samples }, asked, { pronunciations: waysByWord(pronunciations), accent });
}
