/** Sounds of a reading under the hand: said otherwise, split, joined, taken out, put in; pauses, and what is not speech. */
import type { Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { soundsOfNoise, type NoiseKind, type NotSpeech } from '../reading/noises.js';
import { overlaps, without, type Span } from '../time/span.js';
import { fitWord, GONE, inOrder, openReading, patchOf, SHORTEST_SOUND, soundsOf, type OpenReading, type WordAt } from './openReading.js';
import type { SceneDocument } from './sceneDocument.js';

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

/** A sound in two at a place, the later half another sound: how one is put in. */
export function splitSound(
  scene: SceneDocument,
  { clip, id, atSample, symbol }: WordAt & { readonly atSample: number; readonly symbol: string },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const sound = open?.sounds.get(id);
  if (!open || !sound) return GONE;
  if (sound.toSample - sound.fromSample < 2 * SHORTEST_SOUND)
    return { refusal: 'This sound is too short to be two: each would be under a hundredth of a second.' };
  const at = Math.max(sound.fromSample + SHORTEST_SOUND, Math.min(sound.toSample - SHORTEST_SOUND, Math.round(atSample)));
  const { stress: _, ...plain } = sound;
  open.sounds.set(id, { ...sound, toSample: at, inked: true });
  const second = newId();
  open.sounds.set(second, { ...plain, id: second, symbol, fromSample: at, confidence: 1, inked: true });
  fitWord(open, sound.word);
  return patchOf(scene, open, { reason: 'reading.sound', refusal: 'Nothing changes.' }, newId);
}

/** A sound and the next of its word as one: what the first one is, as long as both. */
export function joinSounds(scene: SceneDocument, { clip, id }: WordAt, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const sound = open?.sounds.get(id);
  if (!open || !sound) return GONE;
  const all = inOrder(open.sounds.values());
  const next = all[all.findIndex((one) => one.id === id) + 1];
  if (!next || next.word !== sound.word) return { refusal: 'No sound of this word follows this one. Join the words first.' };
  open.sounds.delete(next.id);
  open.sounds.set(id, { ...sound, toSample: next.toSample, inked: true });
  fitWord(open, sound.word);
  return patchOf(scene, open, { reason: 'reading.sound', refusal: 'Nothing changes.' }, newId);
}

/** Takes a sound out: the one before it in its word, else the one after, lasts through it. With its only sound a word goes too. */
export function deleteSound(scene: SceneDocument, { clip, id }: WordAt, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  const sound = open?.sounds.get(id);
  if (!open || !sound) return GONE;
  open.sounds.delete(id);
  if (sound.word !== null) {
    const own = soundsOf(open, sound.word);
    const before = own.findLast(({ toSample }) => toSample <= sound.fromSample);
    const after = own.find(({ fromSample }) => fromSample >= sound.toSample);
    if (before) open.sounds.set(before.id, { ...before, toSample: sound.toSample, inked: true });
    else if (after) open.sounds.set(after.id, { ...after, fromSample: sound.fromSample, inked: true });
    else open.words.delete(sound.word);
    fitWord(open, sound.word);
  }
  return patchOf(scene, open, { reason: 'reading.sound', refusal: 'Nothing changes.' }, newId);
}

/** Less than this share of a word, left over at the edge of what was selected by frames, goes with the rest of it. */
const SHARD = 0.25;

/** Takes away what was read in some samples; what reaches over an end is cut off there, and a word of which hardly anything is left is gone. */
function clear(open: OpenReading, span: Span): void {
  const touched = new Set<string>();
  for (const [id, sound] of open.sounds) {
    const [longest] = without({ from: sound.fromSample, to: sound.toSample }, span).sort((a, b) => b.to - b.from - (a.to - a.from));
    if (longest?.from === sound.fromSample && longest.to === sound.toSample) continue;
    if (sound.word !== null) touched.add(sound.word);
    if (!longest || longest.to - longest.from < SHORTEST_SOUND) open.sounds.delete(id);
    else open.sounds.set(id, { ...sound, fromSample: longest.from, toSample: longest.to, inked: true });
  }
  for (const id of touched) {
    const own = soundsOf(open, id);
    const word = open.words.get(id)!;
    const left = own.reduce((sum, { fromSample, toSample }) => sum + toSample - fromSample, 0);
    if (left >= SHARD * (word.toSample - word.fromSample)) {
      fitWord(open, id);
      continue;
    }
    for (const sound of own) open.sounds.delete(sound.id);
    open.words.delete(id);
  }
}

export interface ClipSpan extends Span {
  readonly clip: string;
}

const NOTHING_THERE: Refusal = { refusal: 'Select what is no speech first: drag with Shift over its frames.' };

/** A pause where there was something: words and sounds in it go, those at its ends end and begin there. */
export function setPause(scene: SceneDocument, { clip, from, to }: ClipSpan, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open) return GONE;
  clear(open, { from, to });
  return patchOf(scene, open, { reason: 'reading.pause', refusal: 'It is a pause already.' }, newId);
}

/**
 * What is heard in some samples is no speech, whatever is read: marked so, and what its kind of noise
 * does to a mouth in the place of words. No reading takes it for words again.
 *
 * @param kind undefined for music or an effect, which moves no mouth
 */
export function setNotSpeech(
  scene: SceneDocument,
  { clip, from, to, kind }: ClipSpan & { readonly kind?: NoiseKind | undefined },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open) return GONE;
  const span = { from: Math.max(0, Math.round(from)), to: Math.min(open.clip.lengthSamples, Math.round(to)) };
  if (span.to - span.from < SHORTEST_SOUND) return NOTHING_THERE;
  clear(open, span);
  const left = (open.clip.notSpeech ?? []).flatMap((other) => without(other, span));
  const marked: NotSpeech = { ...span, ...(kind && { kind }), inked: true };
  open.clip = { ...open.clip, notSpeech: [...left, marked].sort((a, b) => a.from - b.from) };
  for (const { symbol, from: start, to: end } of kind ? soundsOfNoise(kind, span) : []) {
    const id = newId();
    open.sounds.set(id, { id, clip, word: null, symbol, fromSample: start, toSample: end, confidence: 1, inked: true });
  }
  return patchOf(scene, open, { reason: 'reading.notSpeech', refusal: 'It is marked so already.' }, newId);
}

/** What was marked as no speech is speech after all: the marks that reach into some samples go, with the sounds of their noise. */
export function setSpeech(scene: SceneDocument, { clip, from, to }: ClipSpan, newId: IdSource): Patch | Refusal {
  const open = openReading(scene, clip);
  if (!open) return GONE;
  const marks = open.clip.notSpeech ?? [];
  const gone = marks.filter((mark) => overlaps(mark, { from, to }));
  if (gone.length === 0) return { refusal: 'Nothing here is marked as no speech.' };
  for (const [id, sound] of open.sounds) {
    const place = { from: sound.fromSample, to: sound.toSample };
    if (sound.word === null && gone.some((mark) => mark.kind && overlaps(mark, place))) open.sounds.delete(id);
  }
  const { notSpeech: _, ...rest } = open.clip;
  const kept = marks.filter((mark) => !gone.includes(mark));
  open.clip = kept.length > 0 ? { ...rest, notSpeech: kept } : rest;
  return patchOf(scene, open, { reason: 'reading.speech', refusal: 'Nothing changes.' }, newId);
}
