/**
 * The reading under the hand: edges of words and sounds moved, words slid, sounds and words
 * split, joined, taken out, put in, said otherwise. What a hand has set is ink, and no reading
 * moves it. Samples are those of the recording; each edit answers with a patch or a refusal.
 */
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import type { StressedSymbol } from '../phonetics/phonemes.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import type { Clip, SceneDocument, ScenePhoneme, SceneWord } from './sceneDocument.js';

const put = putsOf<SceneDocument>();

/** No sound is shorter: a hundredth of a second, in samples. */
export const SHORTEST_SOUND = SAMPLE_RATE / 100;
/** Edges closer than this are one edge, in samples: a sixth of a frame at 24 fps. */
const ONE_EDGE = 333;

const GONE: Refusal = { refusal: 'That word or sound is no longer in the reading. Take hold of another.' };

/** Words and sounds of one clip, to be changed. */
interface OpenReading {
  readonly clip: Clip;
  readonly words: Map<string, SceneWord>;
  readonly sounds: Map<string, ScenePhoneme>;
}

function openReading(scene: SceneDocument, clipId: string): OpenReading | undefined {
  const clip = scene.clips.find(({ id }) => id === clipId);
  return (
    clip && {
      clip,
      words: new Map(scene.words.filter((word) => word.clip === clipId).map((word) => [word.id, word])),
      sounds: new Map(scene.phonemes.filter((sound) => sound.clip === clipId).map((sound) => [sound.id, sound])),
    }
  );
}

const inOrder = <T extends { readonly fromSample: number }>(records: Iterable<T>): T[] =>
  [...records].sort((a, b) => a.fromSample - b.fromSample);

const soundsOf = ({ sounds }: OpenReading, word: string): ScenePhoneme[] =>
  inOrder([...sounds.values()].filter((sound) => sound.word === word));

/** What makes the scene's reading of a clip into the open one; sounds that are gone are played no longer. */
function patchOf(
  scene: SceneDocument,
  { clip, words, sounds }: OpenReading,
  { reason, refusal }: { readonly reason: Reason; readonly refusal: string },
  newId: IdSource,
): Patch | Refusal {
  const changed = <T extends SceneWord | ScenePhoneme>(
    before: readonly T[],
    after: ReadonlyMap<string, T>,
    change: (before: T | null, after: T | null) => PatchOp,
  ): PatchOp[] => {
    const old = new Map(before.filter((record) => record.clip === clip.id).map((record) => [record.id, record]));
    return [
      ...[...after.values()].flatMap((record) => {
        const was = old.get(record.id) ?? null;
        return was && sameJson(was, record) ? [] : [change(was, record)];
      }),
      ...[...old.values()].flatMap((record) => (after.has(record.id) ? [] : [change(record, null)])),
    ];
  };
  const ops = [
    ...changed(scene.words, words, (before, after) => put('words', before, after)),
    ...changed(scene.phonemes, sounds, (before, after) => put('phonemes', before, after)),
  ];
  if (ops.length === 0) return { refusal };
  const lost = new Set(scene.phonemes.filter((sound) => sound.clip === clip.id && !sounds.has(sound.id)).map(({ id }) => id));
  const played = scene.exposures.flatMap((exposure): PatchOp[] => {
    const plays = exposure.plays.filter((sound) => !lost.has(sound));
    return plays.length === exposure.plays.length ? [] : [put('exposures', exposure, { ...exposure, plays })];
  });
  return { id: newId(), reason, ops: [...ops, ...(lost.size > 0 ? played : [])] };
}

/** Puts a word somewhere, its sounds in proportion; both are ink. */
function placeWord(open: OpenReading, word: SceneWord, fromSample: number, toSample: number): void {
  const was = word.toSample - word.fromSample;
  const at = (sample: number): number => fromSample + Math.round(((sample - word.fromSample) * (toSample - fromSample)) / was);
  open.words.set(word.id, { ...word, fromSample, toSample, inked: true });
  for (const sound of soundsOf(open, word.id))
    open.sounds.set(sound.id, { ...sound, fromSample: at(sound.fromSample), toSample: at(sound.toSample), inked: true });
}

/** A word's ends are those of its first and last sound. */
function fitWord(open: OpenReading, id: string | null): void {
  const word = id === null ? undefined : open.words.get(id);
  if (!word) return;
  const own = soundsOf(open, word.id);
  if (own.length === 0) return;
  open.words.set(word.id, { ...word, fromSample: own[0]!.fromSample, toSample: own.at(-1)!.toSample, inked: true });
}

export interface EdgeMove {
  readonly clip: string;
  /** Of a word, or of a sound. */
  readonly id: string;
  readonly edge: 'from' | 'to';
  readonly toSample: number;
  /** The neighbour stays where it is, and a gap opens; else it gives way. */
  readonly opensGap: boolean;
}

/** What lies beyond an edge, and whether it gives way when that is moved: it does where it touches, unless a gap is to open. */
function beside<T extends SceneWord | ScenePhoneme>(
  sorted: readonly T[],
  one: T,
  edge: EdgeMove['edge'],
  opensGap: boolean,
): { readonly other: T | undefined; readonly gives: boolean } {
  const other = sorted[sorted.findIndex(({ id }) => id === one.id) + (edge === 'from' ? -1 : 1)];
  const gap = !other ? Number.POSITIVE_INFINITY : edge === 'from' ? one.fromSample - other.toSample : other.fromSample - one.toSample;
  return { other, gives: !opensGap && Math.abs(gap) <= ONE_EDGE };
}

/** The least a word can be squeezed to with its sounds in proportion, in samples: as long as it is where one of them is as short as may be. */
function leastOf(open: OpenReading, word: SceneWord): number {
  const length = word.toSample - word.fromSample;
  const shortest = Math.min(length, ...soundsOf(open, word.id).map((sound) => sound.toSample - sound.fromSample));
  // A sample more for the rounding of both its ends.
  return Math.min(length, Math.ceil((length * (SHORTEST_SOUND + 1)) / shortest));
}

/**
 * Moves an edge of a word: its sounds keep their proportions, and a neighbour that touches gives
 * way with its own. As far as leaves every sound a hundredth of a second.
 */
export function moveWordEdge(scene: SceneDocument, { clip, id, edge, toSample, opensGap }: EdgeMove, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const { other, gives } = beside(inOrder(open.words.values()), word, edge, opensGap);
  const own = leastOf(open, word);
  if (edge === 'from') {
    const least = other ? (gives ? other.fromSample + leastOf(open, other) : other.toSample) : 0;
    const at = Math.min(word.toSample - own, Math.max(least, toSample));
    placeWord(open, word, at, word.toSample);
    if (gives && other) placeWord(open, other, other.fromSample, at);
  } else {
    const most = other ? (gives ? other.toSample - leastOf(open, other) : other.fromSample) : open.clip.lengthSamples;
    const at = Math.max(word.fromSample + own, Math.min(most, toSample));
    placeWord(open, word, word.fromSample, at);
    if (gives && other) placeWord(open, other, at, other.toSample);
  }
  return patchOf(scene, open, { reason: 'reading.edge', refusal: 'The edge is there already.' }, newId);
}

/** Moves an edge of a sound; a sound that touches gives way, and so do the ends of their words. */
export function moveSoundEdge(scene: SceneDocument, { clip, id, edge, toSample, opensGap }: EdgeMove, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const sound = open?.sounds.get(id);
  if (!open || !sound) return GONE;
  const { other, gives } = beside(inOrder(open.sounds.values()), sound, edge, opensGap);
  if (edge === 'from') {
    const least = other ? (gives ? other.fromSample + SHORTEST_SOUND : other.toSample) : 0;
    const at = Math.min(sound.toSample - SHORTEST_SOUND, Math.max(least, toSample));
    open.sounds.set(sound.id, { ...sound, fromSample: at, inked: true });
    if (gives && other) open.sounds.set(other.id, { ...other, toSample: at, inked: true });
  } else {
    const most = other ? (gives ? other.toSample - SHORTEST_SOUND : other.fromSample) : open.clip.lengthSamples;
    const at = Math.max(sound.fromSample + SHORTEST_SOUND, Math.min(most, toSample));
    open.sounds.set(sound.id, { ...sound, toSample: at, inked: true });
    if (gives && other) open.sounds.set(other.id, { ...other, fromSample: at, inked: true });
  }
  fitWord(open, sound.word);
  if (gives && other) fitWord(open, other.word);
  return patchOf(scene, open, { reason: 'reading.edge', refusal: 'The edge is there already.' }, newId);
}

export interface WordAt {
  readonly clip: string;
  readonly id: string;
}

/** Slides a word with its sounds, between the words beside it. */
export function slideWord(scene: SceneDocument, { clip, id, by }: WordAt & { readonly by: number }, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const all = inOrder(open.words.values());
  const place = all.findIndex((one) => one.id === id);
  const least = (all[place - 1]?.toSample ?? 0) - word.fromSample;
  const most = (all[place + 1]?.fromSample ?? open.clip.lengthSamples) - word.toSample;
  const room = Math.max(Math.min(0, least), Math.min(Math.max(0, most), Math.round(by)));
  if (room === 0) return { refusal: 'There is no room beside this word. Move an edge of the one beside it first.' };
  placeWord(open, word, word.fromSample + room, word.toSample + room);
  return patchOf(scene, open, { reason: 'reading.slide', refusal: 'It is there already.' }, newId);
}

/** Joins a word with the next one: one word with the sounds of both, written together. */
export function joinWords(scene: SceneDocument, { clip, id }: WordAt, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const all = inOrder(open.words.values());
  const next = all[all.findIndex((one) => one.id === id) + 1];
  if (!next) return { refusal: 'No word follows this one.' };
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
  const second: SceneWord = { ...word, id: newId(), text: word.text.slice(letters), fromSample: first.fromSample, inked: true };
  open.words.set(second.id, second);
  open.words.set(id, { ...word, text: word.text.slice(0, letters), toSample: first.fromSample, inked: true });
  for (const sound of own)
    open.sounds.set(sound.id, { ...sound, word: sound.fromSample >= first.fromSample ? second.id : id, inked: true });
  return patchOf(scene, open, { reason: 'reading.split', refusal: 'Nothing changes.' }, newId);
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
 * A word said otherwise: another text, other sounds in its own span, each as long as the others.
 *
 * @param sounds without any the word keeps those it has
 */
export function retypeWord(
  scene: SceneDocument,
  { clip, id, text, sounds }: WordAt & { readonly text: string; readonly sounds?: readonly StressedSymbol[] },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const word = open?.words.get(id);
  if (!open || !word) return GONE;
  const said = text.trim();
  if (said === '' || said.length > 200) return { refusal: 'A word has 1 to 200 letters. Take it out to have none there.' };
  const { guessed: _, ...plain } = word;
  open.words.set(id, { ...plain, text: said, confidence: 1, inked: true });
  if (sounds && sounds.length > 0) {
    const length = word.toSample - word.fromSample;
    if (length < sounds.length * SHORTEST_SOUND)
      return { refusal: `“${word.text}” is too short for ${sounds.length} sounds. Make it longer first.` };
    for (const sound of soundsOf(open, id)) open.sounds.delete(sound.id);
    const at = (index: number): number => word.fromSample + Math.round((length * index) / sounds.length);
    sounds.forEach(({ symbol, stress }, index) => {
      const made = newId();
      open.sounds.set(made, {
        id: made,
        clip,
        word: id,
        symbol,
        ...(stress === undefined ? {} : { stress }),
        fromSample: at(index),
        toSample: at(index + 1),
        confidence: 1,
        inked: true,
      });
    });
  }
  return patchOf(scene, open, { reason: 'reading.word', refusal: 'It is read so already.' }, newId);
}

/** A sound said otherwise, where it is. */
export function retypeSound(
  scene: SceneDocument,
  { clip, id, symbol }: WordAt & { readonly symbol: string },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const sound = open?.sounds.get(id);
  if (!open || !sound) return GONE;
  if (sound.symbol === symbol && sound.inked) return { refusal: 'It is that sound already.' };
  open.sounds.set(id, { ...sound, symbol, confidence: 1, inked: true });
  const word = sound.word === null ? undefined : open.words.get(sound.word);
  if (word) open.words.set(word.id, { ...word, inked: true });
  return patchOf(scene, open, { reason: 'reading.sound', refusal: 'It is that sound already.' }, newId);
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
