/**
 * Marking by ear: what is heard, written down at its frame, and turned into a reading. The
 * whole job can be done without the recogniser, before it, after it or instead of it.
 */
import { putsOf, type Patch, type PutOp } from '../document/patch.js';
import { isVowel, type StressedSymbol } from '../phonetics/phonemes.js';
import { maybeHeardSounds } from '../phonetics/spelledSounds.js';
import type { Reading, ReadPhoneme, ReadWord } from '../reading/reading.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { frameAtSample, sampleAtFrame } from '../time/samples.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { clipStart } from './clipPlace.js';
import { sceneSettings, type Clip, type EarMark, type SceneDocument } from './sceneDocument.js';

export const MAX_MARK_LETTERS = 40;

/** What stands for silence. */
export const SILENCE_MARK = '–';

/** A sound that nothing ends lasts no longer than this, in seconds (common practice, no source). */
const LONGEST_SOUND = 0.35;
/** A pause shorter than this, in seconds, is no silence worth a mark. */
const SHORTEST_SILENCE = 0.1;
/** A vowel takes so many times the share of a consonant in a word. */
const VOWEL_SHARE = 2;

const put = (before: EarMark | null, after: EarMark | null): PutOp => putsOf<SceneDocument>()('marks', before, after);

const marksOf = (scene: SceneDocument, characterId: string): readonly EarMark[] =>
  scene.marks.filter((mark) => mark.characterId === characterId);

/** A dash of any kind is silence. */
const cleaned = (text: string): string => (/^[-–—]+$/.test(text.trim()) ? SILENCE_MARK : text.trim().slice(0, MAX_MARK_LETTERS));

/** Writes down what is heard at a frame; a mark that is there is written over. */
export function putEarMark(
  scene: SceneDocument,
  { characterId, frame, text }: { characterId: string; frame: number; text: string },
  newId: IdSource,
): Patch | Refusal {
  const { lengthFrames } = sceneSettings(scene);
  if (cleaned(text) === '') return { refusal: 'Type what you hear: a word, or a sound such as ee, mm or sh.' };
  if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames)
    return { refusal: `Frame ${frame} is outside the scene, which has ${lengthFrames} frames.` };
  const there = marksOf(scene, characterId).find((mark) => mark.frame === frame) ?? null;
  const after: EarMark = { id: there?.id ?? newId(), characterId, frame, text: cleaned(text) };
  return { id: newId(), reason: 'mark.put', ops: there && there.text === after.text ? [] : [put(there, after)] };
}

/** Moves a mark to another frame, not past its neighbours. */
export function moveEarMark(scene: SceneDocument, id: string, frame: number, newId: IdSource): Patch | Refusal {
  const mark = scene.marks.find((candidate) => candidate.id === id);
  if (!mark) return { refusal: 'That ear mark is no longer there.' };
  const own = marksOf(scene, mark.characterId);
  const place = own.indexOf(mark);
  const least = (own[place - 1]?.frame ?? -1) + 1;
  const most = (own[place + 1]?.frame ?? sceneSettings(scene).lengthFrames) - 1;
  const kept = Math.max(least, Math.min(most, Math.round(frame)));
  return { id: newId(), reason: 'mark.move', ops: kept === mark.frame ? [] : [put(mark, { ...mark, frame: kept })] };
}

export function removeEarMark(scene: SceneDocument, id: string, newId: IdSource): Patch | Refusal {
  const mark = scene.marks.find((candidate) => candidate.id === id);
  return mark ? { id: newId(), reason: 'mark.remove', ops: [put(mark, null)] } : { refusal: 'That ear mark is no longer there.' };
}

/** Makes one mark of two that follow one another: where the first is, with what both say. */
export function mergeEarMarks(scene: SceneDocument, id: string, newId: IdSource): Patch | Refusal {
  const mark = scene.marks.find((candidate) => candidate.id === id);
  if (!mark) return { refusal: 'That ear mark is no longer there.' };
  const own = marksOf(scene, mark.characterId);
  const next = own[own.indexOf(mark) + 1];
  if (!next) return { refusal: 'There is no ear mark after this one to merge it with.' };
  const text = cleaned(`${mark.text}${next.text}`);
  return { id: newId(), reason: 'mark.merge', ops: [put(mark, { ...mark, text }), put(next, null)] };
}

/** The words among the marks of a character, whose pronunciation must be found. */
export function wordsOfMarks(scene: SceneDocument, characterId: string): string[] {
  const words = marksOf(scene, characterId).filter(({ text }) => text !== SILENCE_MARK && !maybeHeardSounds(text));
  return [...new Set(words.map(({ text }) => text))];
}

/** Sounds laid out over a span, vowels twice as long as consonants. Times in samples. */
function laidOut(symbols: readonly StressedSymbol[], from: number, to: number, word: number | null): ReadPhoneme[] {
  const share = ({ symbol }: StressedSymbol): number => (isVowel(symbol) ? VOWEL_SHARE : 1);
  const whole = symbols.reduce((sum, symbol) => sum + share(symbol), 0);
  let before = 0;
  return symbols.map((symbol) => {
    const start = from + Math.round(((to - from) * before) / whole);
    before += share(symbol);
    const { stress } = symbol;
    return {
      symbol: symbol.symbol,
      ...(stress === undefined ? {} : { stress }),
      from: start,
      to: from + Math.round(((to - from) * before) / whole),
      confidence: 1,
      word,
    };
  });
}

/**
 * The reading that a character's marks make of a clip. A mark lasts until the next one, but
 * no longer than its sounds may; what lies outside the clip is left out.
 *
 * @param pronunciations the sounds of each word among the marks; a word without any is left
 * out, with a warning
 */
export function readingOfMarks(
  scene: SceneDocument,
  clip: Clip,
  pronunciations: ReadonlyMap<string, readonly StressedSymbol[]>,
): Reading | Refusal {
  const { frameRate } = sceneSettings(scene);
  const marks = marksOf(scene, clip.characterId);
  const start = clipStart(scene, clip);
  const words: ReadWord[] = [];
  const phonemes: ReadPhoneme[] = [];
  const warnings: string[] = [];
  marks.forEach((mark, index) => {
    if (mark.text === SILENCE_MARK) return;
    const sounds = maybeHeardSounds(mark.text);
    const symbols = sounds ?? pronunciations.get(mark.text) ?? [];
    if (symbols.length === 0) {
      warnings.push(`“${mark.text}” could not be pronounced and is left out. Write its sounds: ee, mm, sh, or in IPA.`);
      return;
    }
    const from = Math.max(clip.fromSample, sampleAtFrame(frameRate, mark.frame) - start);
    const next = marks[index + 1];
    const longest = from + Math.round(symbols.length * LONGEST_SOUND * SAMPLE_RATE);
    const to = Math.min(clip.toSample, longest, next ? sampleAtFrame(frameRate, next.frame) - start : longest);
    // Too short for its sounds to have a sample each, or outside the clip.
    if (to - from < symbols.length * 2) return;
    if (!sounds) words.push({ text: mark.text, from, to, confidence: 1 });
    phonemes.push(...laidOut(symbols, from, to, sounds ? null : words.length - 1));
  });
  if (phonemes.length === 0)
    return { refusal: warnings[0] ?? 'There are no ear marks in this clip yet. Press M where you hear something, and type what it is.' };
  return { sampleRate: SAMPLE_RATE, durationSamples: clip.lengthSamples, words, phonemes, warnings };
}

/**
 * Marks made of what was read of a clip, to be mended by ear: each word where it begins,
 * sounds that no word explains, and silence where nobody speaks for a while. Marks that are
 * there stay as they are.
 */
export function copyReadingToMarks(scene: SceneDocument, clip: Clip, newId: IdSource): Patch | Refusal {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const start = clipStart(scene, clip);
  const taken = new Set(marksOf(scene, clip.characterId).map(({ frame }) => frame));
  const ops: PutOp[] = [];
  const mark = (sample: number, text: string): void => {
    const frame = frameAtSample(frameRate, start + sample);
    if (frame < 0 || frame >= lengthFrames || taken.has(frame)) return;
    taken.add(frame);
    ops.push(put(null, { id: newId(), characterId: clip.characterId, frame, text: text.slice(0, MAX_MARK_LETTERS) }));
  };
  const words = scene.words.filter((word) => word.clip === clip.id);
  const alone = scene.phonemes.filter((phoneme) => phoneme.clip === clip.id && phoneme.word === null);
  const heard = [
    ...words.map(({ text, fromSample, toSample }) => ({ text, fromSample, toSample })),
    ...alone.map(({ symbol, fromSample, toSample }) => ({ text: symbol, fromSample, toSample })),
  ].sort((a, b) => a.fromSample - b.fromSample);
  heard.forEach(({ text, fromSample, toSample }, index) => {
    mark(fromSample, text);
    const next = heard[index + 1]?.fromSample ?? clip.toSample;
    if (next - toSample > SHORTEST_SILENCE * SAMPLE_RATE) mark(toSample, SILENCE_MARK);
  });
  return ops.length > 0
    ? { id: newId(), reason: 'mark.copy', ops }
    : { refusal: 'Nothing has been read here yet that could be copied. Press M where you hear something, and type what it is.' };
}
