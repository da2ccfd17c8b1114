/**
 * A reading made again, beside the one a clip has: what would change, by phrase, before any of
 * it is taken. Samples are those of the recording.
 */
import type { Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import type { Reading, ReadPhoneme, ReadWord } from '../reading/reading.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { joined, spansWithin, type Span } from '../time/span.js';
import { takeReading } from './commands.js';
import { readingInPart, readingOfClip, withInkKept, withPartRead, type ClipPart } from './readingParts.js';
import type { SceneDocument } from './sceneDocument.js';

/** A word is the same one when it is written the same and starts within so much of where it did: half a second. */
const SAME_WORD = SAMPLE_RATE / 2;
/** A gap this long in both readings parts two phrases, in samples. */
const PHRASE_GAP = 0.28 * SAMPLE_RATE;

/** What would change in a phrase. */
export interface OfferedPhrase extends ClipPart {
  /** What is said there, as it would be. */
  readonly text: string;
  /** Words that would come, go, or be others. */
  readonly words: number;
  /** Sounds that would come, go, or be others. */
  readonly sounds: number;
  /** Words and sounds that would only move. */
  readonly moved: number;
  /** How far an edge would move at most, in samples. */
  readonly furthest: number;
}

export interface Offered {
  readonly phrases: readonly OfferedPhrase[];
  /** The reading as it would be, ink in its place. */
  readonly reading: Reading;
  /** Words and sounds of it, by index, that would not be as they are. */
  readonly newWords: ReadonlySet<number>;
  readonly newSounds: ReadonlySet<number>;
}

interface Change extends Span {
  readonly kind: 'words' | 'sounds' | 'moved';
  readonly furthest: number;
}

const movedBy = (before: Span, after: Span): number => Math.max(Math.abs(before.from - after.from), Math.abs(before.to - after.to));
const around = (a: Span, b: Span): Span => ({ from: Math.min(a.from, b.from), to: Math.max(a.to, b.to) });

/** Those of two sorted lists that are the same but for where they lie, by index: the nearest in order. */
function pairsOf<T extends Span>(before: readonly T[], after: readonly T[], isSame: (a: T, b: T) => boolean): Map<number, number> {
  const pairs = new Map<number, number>();
  let next = 0;
  after.forEach((one, index) => {
    for (let at = next; at < before.length && before[at]!.from <= one.from + SAME_WORD; at++) {
      if (before[at]!.from < one.from - SAME_WORD || !isSame(before[at]!, one)) continue;
      pairs.set(index, at);
      next = at + 1;
      return;
    }
  });
  return pairs;
}

function changesOf<T extends Span>(
  before: readonly T[],
  after: readonly T[],
  isSame: (a: T, b: T) => boolean,
  kind: 'words' | 'sounds',
): { changes: Change[]; fresh: Set<number> } {
  const pairs = pairsOf(before, after, isSame);
  const fresh = new Set<number>();
  const changes: Change[] = [];
  after.forEach((one, index) => {
    const was = pairs.get(index);
    const by = was === undefined ? 0 : movedBy(before[was]!, one);
    if (was !== undefined && by === 0) return;
    fresh.add(index);
    changes.push(
      was === undefined ? { from: one.from, to: one.to, kind, furthest: 0 } : { ...around(before[was]!, one), kind: 'moved', furthest: by },
    );
  });
  const kept = new Set(pairs.values());
  before.forEach(({ from, to }, index) => {
    if (!kept.has(index)) changes.push({ from, to, kind, furthest: 0 });
  });
  return { changes, fresh };
}

const isSameWord = (a: ReadWord, b: ReadWord): boolean => a.text === b.text;
const isSameSound = (a: ReadPhoneme, b: ReadPhoneme): boolean => a.symbol === b.symbol;

/** Stretches between pauses that both readings have. */
function phrasesOf(readings: readonly Reading[]): Span[] {
  const heard = readings.flatMap(({ phonemes }) => phonemes.map(({ from, to }) => ({ from, to: to + PHRASE_GAP })));
  return joined(heard.sort((a, b) => a.from - b.from)).map(({ from, to }) => ({ from, to: to - PHRASE_GAP }));
}

/** What a reading would change of the one a clip has; nothing where it is no longer in the scene. */
export function offeredChanges(scene: SceneDocument, clipId: string, anew: Reading): Offered | undefined {
  const clip = scene.clips.find(({ id }) => id === clipId);
  // Another recording is in its place by now.
  if (!clip || clip.lengthSamples !== anew.durationSamples) return undefined;
  const before = readingOfClip(scene, clip);
  const reading = withInkKept(before, anew);
  const words = changesOf(before.words, reading.words, isSameWord, 'words');
  const sounds = changesOf(before.phonemes, reading.phonemes, isSameSound, 'sounds');
  const changes = [...words.changes, ...sounds.changes].sort((a, b) => a.from - b.from);
  const phrases = phrasesOf([before, reading]).flatMap((phrase): OfferedPhrase[] => {
    const own = spansWithin(changes, phrase);
    if (own.length === 0) return [];
    const count = (kind: Change['kind']): number => own.filter((change) => change.kind === kind).length;
    return [
      {
        fromSample: Math.max(0, Math.round(phrase.from - PHRASE_GAP / 2)),
        toSample: Math.min(clip.lengthSamples, Math.round(phrase.to + PHRASE_GAP / 2)),
        text: spansWithin(reading.words, phrase)
          .map(({ text }) => text)
          .join(' '),
        words: count('words'),
        sounds: count('sounds'),
        moved: count('moved'),
        furthest: own.reduce((most, { furthest }) => Math.max(most, furthest), 0),
      },
    ];
  });
  return { phrases, reading, newWords: words.fresh, newSounds: sounds.fresh };
}

/** Takes a reading that was made again, all of it or a phrase. */
export function takeOffered(
  scene: SceneDocument,
  clipId: string,
  anew: Reading,
  part: ClipPart | undefined,
  newId: IdSource,
): Patch | Refusal {
  const clip = scene.clips.find(({ id }) => id === clipId);
  if (!clip) return { refusal: 'That recording is no longer in the scene.' };
  const before = readingOfClip(scene, clip);
  return takeReading(scene, clipId, part ? withPartRead(before, part, readingInPart(anew, part)) : anew, newId);
}
