/** Readings put where their clips are: samples counted from the scene's frame 0. What is trimmed away is left out. */
import type { RuledPhrase, SceneSound } from '../keying/keyingJob.js';
import type { NoiseKind } from '../reading/noises.js';
import { clipStart } from './clipPlace.js';
import type { Clip, SceneDocument } from './sceneDocument.js';

export interface PlacedSound extends SceneSound {
  readonly id: string;
  readonly word: string | null;
  readonly confidence: number;
}

export interface PlacedWord {
  readonly id: string;
  readonly clip: string;
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
  readonly guessed: boolean;
  /** Set or accepted by hand. */
  readonly inked: boolean;
}

interface Place {
  readonly start: number;
  readonly clip: Clip;
}

function placesOfClips(scene: Pick<SceneDocument, 'settings' | 'clips'>): Map<string, Place> {
  return new Map(scene.clips.map((clip) => [clip.id, { start: clipStart(scene, clip), clip }]));
}

/** A span of a recording in the scene, cut to what is heard of it; undefined when nothing is. */
function placed({ start, clip }: Place, fromSample: number, toSample: number): { from: number; to: number } | undefined {
  const [from, to] = [Math.max(fromSample, clip.fromSample), Math.min(toSample, clip.toSample)];
  return from < to ? { from: start + from, to: start + to } : undefined;
}

/** Spans sorted by start, where a later one waits for the earlier to end; one that is covered wholly is left out. */
function oneAfterAnother<T extends { readonly from: number; readonly to: number }>(sorted: readonly T[]): T[] {
  let end = 0;
  const spans: T[] = [];
  for (const span of sorted) {
    if (span.to <= end) continue;
    spans.push(span.from >= end ? span : { ...span, from: end });
    end = span.to;
  }
  return spans;
}

/** Sorted by start; as it is where it is sorted already, as the records of a clip are. */
function sortedByStart<T extends { readonly from: number }>(spans: T[]): T[] {
  const isSorted = spans.every((span, index) => index === 0 || spans[index - 1]!.from <= span.from);
  return isSorted ? spans : spans.sort((a, b) => a.from - b.from);
}

/** The sounds one character makes, sorted; where two of its clips overlap, the later sound waits for the earlier to end. */
export function placedSounds(scene: SceneDocument, characterId: string): PlacedSound[] {
  const places = placesOfClips(scene);
  const sounds: PlacedSound[] = [];
  for (const { id, word, symbol, stress, confidence, clip, fromSample, toSample } of scene.phonemes) {
    const place = places.get(clip);
    if (place?.clip.characterId !== characterId) continue;
    const span = placed(place, fromSample, toSample);
    if (!span) continue;
    const { from, to } = span;
    sounds.push(stress === undefined ? { id, word, symbol, confidence, from, to } : { id, word, symbol, stress, confidence, from, to });
  }
  return oneAfterAnother(sortedByStart(sounds));
}

/** The words of the scene, or of one character, sorted by start. */
export function placedWords(scene: Pick<SceneDocument, 'settings' | 'clips' | 'words'>, characterId?: string): PlacedWord[] {
  const places = placesOfClips(scene);
  const words: PlacedWord[] = [];
  for (const { id, text, clip, fromSample, toSample, confidence, guessed = false, inked = false } of scene.words) {
    const place = places.get(clip);
    if (!place || (characterId !== undefined && place.clip.characterId !== characterId)) continue;
    const span = placed(place, fromSample, toSample);
    if (!span) continue;
    const { from, to } = span;
    // What a hand has set is sure.
    words.push({ id, clip, text, confidence: inked ? 1 : confidence, guessed: guessed && !inked, inked, from, to });
  }
  return sortedByStart(words);
}

/** Where one character is keyed by other rules than its track's, sorted; where two of its clips overlap, the later one waits. */
export function placedPhrases(scene: SceneDocument, characterId: string): RuledPhrase[] {
  const phrases = [...placesOfClips(scene).values()]
    .filter(({ clip }) => clip.characterId === characterId)
    .flatMap((place) =>
      (place.clip.phrases ?? []).flatMap(({ from, to, rules }) => {
        const span = placed(place, from, to);
        return span ? [{ ...span, rules }] : [];
      }),
    )
    .sort((a, b) => a.from - b.from);
  return oneAfterAnother(phrases);
}

/** Where the recordings of one character are not speech, sorted by start. */
export function placedNotSpeech(
  scene: SceneDocument,
  characterId: string,
): { readonly from: number; readonly to: number; readonly kind?: NoiseKind }[] {
  return [...placesOfClips(scene).values()]
    .filter(({ clip }) => clip.characterId === characterId)
    .flatMap((place) =>
      (place.clip.notSpeech ?? []).flatMap(({ from, to, kind }) => {
        const span = placed(place, from, to);
        return span ? [{ ...span, ...(kind && { kind }) }] : [];
      }),
    )
    .sort((a, b) => a.from - b.from);
}
