/** The files of the recogniser's models, as its package brings them: sounds of a language and its dictionary. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { readAcousticModel, type AcousticModel } from '@zest-jaw/core';

export type Language = 'en' | 'fr';

export const MODEL_OF: Readonly<Record<Language, string>> = { en: 'en-us', fr: 'fr-fr' };

const entry = createRequire(import.meta.url).resolve('soundswallower');

/** The package's own file that is loaded. */
export const RECOGNISER_ENTRY = entry;
export const MODEL_FOLDER = join(dirname(entry), 'model');

const fileOf = (language: Language, name: string): Buffer => readFileSync(join(MODEL_FOLDER, MODEL_OF[language], name));

/** Each is read once a thread. */
const models = new Map<Language, AcousticModel>();
const dictionaries = new Map<Language, ReadonlyMap<string, string>>();

export function acousticModel(language: Language): AcousticModel {
  let model = models.get(language);
  if (!model) {
    model = readAcousticModel({
      mdef: fileOf(language, 'mdef'),
      means: fileOf(language, 'means'),
      variances: fileOf(language, 'variances'),
      sendump: fileOf(language, 'sendump'),
      transitions: fileOf(language, 'transition_matrices'),
    });
    models.set(language, model);
  }
  return model;
}

/** The text of a language's dictionary: a word and its sounds a line, a word's further ways as `word(2)`. */
export function dictionaryText(language: Language): string {
  return fileOf(language, 'dict.txt').toString('utf8');
}

/** A word's sounds, with spaces between, by the word. */
export function dictionary(language: Language): ReadonlyMap<string, string> {
  let words = dictionaries.get(language);
  if (!words) {
    words = new Map(
      dictionaryText(language)
        .split('\n')
        .flatMap((line) => {
          const [, word, sounds] = /^(\S+)\s+(.*\S)\s*$/.exec(line) ?? [];
          return word && sounds ? [[word, sounds] as const] : [];
        }),
    );
    dictionaries.set(language, words);
  }
  return words;
}
