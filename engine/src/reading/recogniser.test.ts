/** Words that may not have been said, and sounds without words, on labelled lines of two voices (see the fixtures' own notes). */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { matchSymbols, maybeArpabet, truthForRecogniser, truthOfWave, type Truth } from '@zest-jaw/core';
import { isSoundWord, wordOfSound } from './alignWords.js';
import { openRecogniser, type AlignedSegment } from './recogniser.js';

const SPEECH = join(__dirname, '../../../core/fixtures/speech');
const sentences = readFileSync(join(SPEECH, 'sentences.txt'), 'utf8').trim().split('\n');
const heard = (name: string): Float32Array => truthForRecogniser(truthOfWave(readFileSync(join(SPEECH, `${name}.wav`))) as Truth);
const wordsIn = (line: number): string[] => sentences[line]!.toLowerCase().match(/[a-z']+/g)!;
const labelsOf = (name: string): string[] =>
  readFileSync(join(SPEECH, `${name}.lab`), 'utf8')
    .trim()
    .split('\n')
    .map((row) => row.split('\t')[2]!)
    .filter((symbol) => symbol !== 'pau')
    .map((symbol) => maybeArpabet(symbol)!.symbol);
const named = (segments: readonly AlignedSegment[] | undefined): AlignedSegment[] =>
  (segments ?? []).filter(({ word }) => word !== undefined);
const isWord = ({ word }: AlignedSegment): boolean => !isSoundWord(word!);

const LINES = [0, 3, 6].flatMap((line) => ['slt', 'kal16'].map((voice) => ({ line, name: `${voice}-0${line}` })));

describe.each(LINES)('loosely, $name', ({ line, name }) => {
  const words = wordsIn(line);

  it('all words that are said are found, each as the one that was asked for', async () => {
    const recogniser = await openRecogniser('en');
    const found = named(await recogniser.maybeAlignLoosely(heard(name), words)).filter(isWord);
    expect(found.map(({ index }) => index)).toEqual([...words.keys()]);
    expect(found.map(({ word }) => word)).toEqual(words);
  });

  it('words that are not said are left out, and what is said in their place is heard as sounds', async () => {
    const recogniser = await openRecogniser('en');
    const middle = Math.floor(words.length / 2);
    const asked = words.toSpliced(middle, 2, 'xylophone', 'archbishop', 'umbrellas');
    const found = named(await recogniser.maybeAlignLoosely(heard(name), asked));
    expect(found.filter(isWord).map(({ word }) => word)).toEqual(words.toSpliced(middle, 2));
    const before = found.findLastIndex(({ index }) => index !== undefined && index < middle);
    expect(found.slice(before + 1).findIndex(isWord)).toBeGreaterThan(1);
  });
});

it('a word that is said is not looked for outside of its place', async () => {
  const recogniser = await openRecogniser('en');
  const words = wordsIn(3);
  const [early, all] = [
    { fromSeconds: 0, toSeconds: 0.05 },
    { fromSeconds: 0, toSeconds: 60 },
  ];
  const last = words.length - 1;
  const places = words.map((_, index) => (index === last ? early : all));
  const found = named(await recogniser.maybeAlignLoosely(heard('slt-03'), words, places)).filter(isWord);
  expect(found.map(({ index }) => index)).toEqual([...words.keys()].slice(0, last));
});

it('two in three sounds of a line without a script are heard as what they are', async () => {
  const recogniser = await openRecogniser('en');
  let [same, all] = [0, 0];
  for (const { name } of LINES) {
    const labels = labelsOf(name);
    const sounds = named(await recogniser.maybeHearSounds(heard(name))).flatMap(({ phonemes }) => phonemes.map(({ symbol }) => symbol));
    same += matchSymbols(sounds, labels).filter(([one, other]) => sounds[one] === labels[other]).length;
    all += labels.length;
    // No more are heard than there are, give or take a fifth.
    expect(Math.abs(sounds.length - labels.length) / labels.length).toBeLessThan(0.2);
  }
  expect(same / all).toBeGreaterThan(2 / 3);
});

it('sounds that no word explains are words by their own name', async () => {
  const recogniser = await openRecogniser('en');
  expect(wordOfSound('UW')).toBe('phoneme_uw');
  expect(recogniser.maybePronunciation(wordOfSound('UW'))).toBe('UW');
  expect(['phoneme_uw', 'stamp'].map(isSoundWord)).toEqual([true, false]);
});
