/** Words of a reading under the hand: joined, split, put in, taken out, said otherwise, accepted. */
import type { Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import type { StressedSymbol } from '../phonetics/phonemes.js';
import { evenly, type TimedSymbol } from '../reading/wordWays.js';
import { overlaps, type Span } from '../time/span.js';
import { scriptWithWordAfter } from './scriptEdits.js';
import {
  GONE,
  inLine,
  inOrder,
  rewriteScript,
  openReading,
  patchOf,
  SHORTEST_SOUND,
  soundsOf,
  type OpenReading,
  type WordAt,
} from './openReading.js';
import type { SceneDocument, ScenePhoneme, SceneWord } from './sceneDocument.js';

/** Joins a word with the next one: one word with the sounds of both, written together. */
export function joinWords(scene: SceneDocument, { clip, id }: WordAt, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const { line, at } = inLine(open, id);
  const next = line[at + 1];
  if (!next) return { refusal: 'No word follows this one.' };
  rewriteScript(open, line, { first: at, last: at + 1, text: word.text + next.text });
  for (const sound of soundsOf(open, next.id)) open.sounds.set(sound.id, { ...sound, word: id, inked: true });
  open.words.delete(next.id);
  open.words.set(id, { ...word, text: word.text + next.text, toSample: next.toSample, inked: true });
  return patchOf(scene, open, { reason: 'reading.join', refusal: 'Nothing changes.' }, newId);
}

/** Splits a word before one of its sounds; the text is cut where the letters are nearest in proportion. */
export function splitWord(
  scene: SceneDocument,
  { clip, id, atSample }: WordAt & { readonly atSample: number },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const own = soundsOf(open, id);
  const distance = (sound: ScenePhoneme): number => Math.abs(sound.fromSample - atSample);
  const first = own
    .slice(1)
    .reduce<ScenePhoneme | undefined>((best, sound) => (best && distance(best) <= distance(sound) ? best : sound), undefined);
  if (!first || word.text.length < 2) return { refusal: `“${word.text}” is one sound, or one letter, and cannot be in two.` };
  const share = (first.fromSample - word.fromSample) / (word.toSample - word.fromSample);
  const letters = Math.min(word.text.length - 1, Math.max(1, Math.round(word.text.length * share)));
  const { line, at } = inLine(open, id);
  rewriteScript(open, line, { first: at, last: at, text: `${word.text.slice(0, letters)} ${word.text.slice(letters)}` });
  const second: SceneWord = { ...word, id: newId(), text: word.text.slice(letters), fromSample: first.fromSample, inked: true };
  open.words.set(second.id, second);
  open.words.set(id, { ...word, text: word.text.slice(0, letters), toSample: first.fromSample, inked: true });
  for (const sound of own)
    open.sounds.set(sound.id, { ...sound, word: sound.fromSample >= first.fromSample ? second.id : id, inked: true });
  return patchOf(scene, open, { reason: 'reading.split', refusal: 'Nothing changes.' }, newId);
}

/** Sounds as they lie in a word, each at least a hundredth of a second; evenly where nothing is known of where they lie. */
function placedIn({ fromSample, toSample }: SceneWord, sounds: readonly (StressedSymbol | TimedSymbol)[]): readonly TimedSymbol[] {
  const timed = sounds.filter((sound): sound is TimedSymbol => 'fromSample' in sound);
  if (timed.length < sounds.length || timed[0]!.fromSample !== fromSample || timed.at(-1)!.toSample !== toSample)
    return evenly(sounds, fromSample, toSample);
  const starts = timed.map((sound) => sound.fromSample);
  // From the front they are kept apart from the one before, from the back from what is still to come.
  for (let index = 1; index < starts.length; index++) starts[index] = Math.max(starts[index]!, starts[index - 1]! + SHORTEST_SOUND);
  for (let index = starts.length - 1, end = toSample; index > 0; end = starts[index]!, index--)
    starts[index] = Math.min(starts[index]!, end - SHORTEST_SOUND);
  return timed.map((sound, index) => ({ ...sound, fromSample: starts[index]!, toSample: starts[index + 1] ?? toSample }));
}

/** Gives a word its sounds, in ink. */
function sayIn(open: OpenReading, word: SceneWord, sounds: readonly (StressedSymbol | TimedSymbol)[], newId: IdSource): void {
  for (const { symbol, stress, fromSample, toSample } of placedIn(word, sounds)) {
    const sound: ScenePhoneme = {
      id: newId(),
      clip: word.clip,
      word: word.id,
      symbol,
      ...(stress === undefined ? {} : { stress }),
      fromSample,
      toSample,
      confidence: 1,
      inked: true,
    };
    open.sounds.set(sound.id, sound);
  }
}

export interface NewWord {
  readonly clip: string;
  readonly text: string;
  readonly sounds: readonly (StressedSymbol | TimedSymbol)[];
  readonly fromSample: number;
  readonly toSample: number;
}

/** The room between two words at a place, as much of it as is wanted: where a word can be put in; undefined inside a word. */
export function maybeRoomAt(scene: SceneDocument, clipId: string, atSample: number, most: number): Span | undefined {
  const open = openReading(scene, clipId);
  if (!open) return undefined;
  const line = inOrder(open.words.values());
  if (line.some(({ fromSample, toSample }) => fromSample <= atSample && toSample > atSample)) return undefined;
  const from = line.findLast(({ toSample }) => toSample <= atSample)?.toSample ?? open.clip.fromSample;
  const to = line.find(({ fromSample }) => fromSample > atSample)?.fromSample ?? open.clip.toSample;
  const start = Math.max(from, Math.min(atSample, to - most));
  return { from: start, to: Math.min(to, start + most) };
}

/** Puts a word in where none is, with its sounds; the script says it after the word before it. */
export function insertWord(scene: SceneDocument, { clip, text, sounds, fromSample, toSample }: NewWord, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open) return GONE;
  const said = text.trim();
  if (said === '' || said.length > 200 || sounds.length === 0)
    return { refusal: 'A word has 1 to 200 letters, and sounds. Type what is said.' };
  const span = { from: Math.max(0, fromSample), to: Math.min(open.clip.lengthSamples, toSample) };
  const line = inOrder(open.words.values());
  const inTheWay = line.find((word) => overlaps(span, { from: word.fromSample, to: word.toSample }));
  if (inTheWay) return { refusal: `“${inTheWay.text}” is read there. Put a word in between two others, or say what that one is.` };
  if (span.to - span.from < sounds.length * SHORTEST_SOUND)
    return { refusal: `There is no room for ${sounds.length} sounds. Move an edge of the word beside it first.` };
  const at = line.findLastIndex((word) => word.toSample <= span.from);
  const script = scriptWithWordAfter(
    open.clip,
    line.map((word) => word.text),
    at,
    said,
  );
  open.clip = { ...open.clip, script };
  const word: SceneWord = { id: newId(), clip, text: said, fromSample: span.from, toSample: span.to, confidence: 1, inked: true };
  open.words.set(word.id, word);
  for (const [id, sound] of open.sounds) {
    // What was heard there as no word is this one's now.
    if (sound.word === null && overlaps(span, { from: sound.fromSample, to: sound.toSample })) open.sounds.delete(id);
  }
  sayIn(open, word, sounds, newId);
  return patchOf(scene, open, { reason: 'reading.insert', refusal: 'Nothing changes.' }, newId);
}

/** Takes a word out with its sounds; what is heard there is a pause. */
export function deleteWord(scene: SceneDocument, { clip, id }: WordAt, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open?.words.has(id)) return GONE;
  for (const sound of soundsOf(open, id)) open.sounds.delete(sound.id);
  open.words.delete(id);
  return patchOf(scene, open, { reason: 'reading.delete', refusal: 'Nothing changes.' }, newId);
}

/**
 * A word said otherwise: another text, other sounds in its own span, where the recogniser heard
 * each, else each as long as the others.
 *
 * The script says it too, where it has the word.
 *
 * @param sounds without any the word keeps those it has
 */
export function retypeWord(
  scene: SceneDocument,
  { clip, id, text, sounds }: WordAt & { readonly text: string; readonly sounds?: readonly (StressedSymbol | TimedSymbol)[] },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const said = text.trim();
  if (said === '' || said.length > 200) return { refusal: 'A word has 1 to 200 letters. Take it out to have none there.' };
  const { guessed: _, ...plain } = word;
  const { line, at } = inLine(open, id);
  if (said !== word.text) rewriteScript(open, line, { first: at, last: at, text: said });
  open.words.set(id, { ...plain, text: said, confidence: 1, inked: true });
  if (sounds && sounds.length > 0) {
    const length = word.toSample - word.fromSample;
    if (length < sounds.length * SHORTEST_SOUND)
      return { refusal: `“${word.text}” is too short for ${sounds.length} sounds. Make it longer first.` };
    for (const sound of soundsOf(open, id)) open.sounds.delete(sound.id);
    sayIn(open, word, sounds, newId);
  }
  return patchOf(scene, open, { reason: 'reading.word', refusal: 'It is read so already.' }, newId);
}

/** Words that somebody has listened to and accepted are ink, with their sounds; or are pencil again. */
export function inkWords(
  scene: SceneDocument,
  { clip, ids, inked }: { readonly clip: string; readonly ids: readonly string[]; readonly inked: boolean },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open) return GONE;
  const set = <T extends SceneWord | ScenePhoneme>(record: T): T => {
    const { inked: _, ...rest } = record;
    return (inked ? { ...record, inked: true } : rest) as T;
  };
  for (const id of ids) {
    const word = open.words.get(id);
    if (!word) continue;
    open.words.set(id, set(word));
    for (const sound of soundsOf(open, id)) open.sounds.set(sound.id, set(sound));
  }
  const refusal = inked ? 'They are accepted already.' : 'They are as they were read.';
  return patchOf(scene, open, { reason: inked ? 'reading.accept' : 'reading.pencil', refusal }, newId);
}
