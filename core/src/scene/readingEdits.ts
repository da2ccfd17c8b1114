/**
 * Edges of words and sounds under the hand, words slid and stretched. What a hand has set is ink,
 * and no reading moves it. Samples are those of the recording; each edit answers with a patch or a refusal.
 */
import type { Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import {
  fitWord,
  GONE,
  inOrder,
  openReading,
  patchOf,
  placeWord,
  SHORTEST_SOUND,
  soundsOf,
  type OpenReading,
  type WordAt,
} from './openReading.js';
import type { SceneDocument, ScenePhoneme, SceneWord } from './sceneDocument.js';

/** Edges closer than this are one edge, in samples: a sixth of a frame at 24 fps. */
const ONE_EDGE = 333;

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

/**
 * Puts some words that follow one another somewhere else, everything between them in proportion: slid
 * where it is as long as before, else stretched. They stay between the words beside them.
 */
export function placeWords(
  scene: SceneDocument,
  {
    clip,
    ids,
    fromSample,
    toSample,
  }: { readonly clip: string; readonly ids: readonly string[]; readonly fromSample: number; readonly toSample: number },
  newId: IdSource,
): Patch | Refusal {
  const open = openReading(scene, clip);
  const all = open ? inOrder(open.words.values()) : [];
  const chosen = all.filter(({ id }) => ids.includes(id));
  const [first, last] = [chosen[0], chosen.at(-1)];
  if (!open || !first || !last) return GONE;
  const before = all[all.indexOf(first) - 1]?.toSample ?? 0;
  const after = all[all.indexOf(last) + 1]?.fromSample ?? open.clip.lengthSamples;
  const isSlid = toSample - fromSample === last.toSample - first.fromSample;
  const least = isSlid ? toSample - fromSample : Math.ceil(chosen.reduce((sum, word) => sum + leastOf(open, word), 0));
  if (after - before < least) return { refusal: 'There is no room for these words. Move an edge of the word beside them first.' };
  const by = isSlid ? Math.max(before - fromSample, Math.min(0, after - toSample)) : 0;
  const [from, to] = isSlid ? [fromSample + by, toSample + by] : [Math.max(before, fromSample), Math.min(after, toSample)];
  const factor = (to - from) / (last.toSample - first.fromSample);
  if (to - from < least) return { refusal: 'These words cannot be shorter: their shortest sound would be under a hundredth of a second.' };
  const at = (sample: number): number => from + Math.round((sample - first.fromSample) * factor);
  const shortest = Math.min(...chosen.flatMap((word) => soundsOf(open, word.id)).map((sound) => sound.toSample - sound.fromSample));
  if (factor < 1 && shortest * factor < SHORTEST_SOUND)
    return { refusal: 'These words cannot be shorter: their shortest sound would be under a hundredth of a second.' };
  // By where each was, so that what touched touches.
  for (const word of chosen) placeWord(open, word, at(word.fromSample), at(word.toSample));
  const refusal = 'They are there already.';
  return patchOf(scene, open, { reason: isSlid ? 'reading.slide' : 'reading.stretch', refusal }, newId);
}
