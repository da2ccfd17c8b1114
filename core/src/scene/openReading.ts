/** The reading of one clip taken hold of: its words and sounds by id, and what makes the scene's into it. */
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { scriptWith } from './scriptEdits.js';
import type { Clip, SceneDocument, ScenePhoneme, SceneWord } from './sceneDocument.js';

const put = putsOf<SceneDocument>();

/** No sound is shorter: a hundredth of a second, in samples. */
export const SHORTEST_SOUND = SAMPLE_RATE / 100;
export const GONE: Refusal = { refusal: 'That word or sound is no longer in the reading. Take hold of another.' };

/** Words and sounds of one clip, to be changed. */
export interface OpenReading {
  clip: Clip;
  readonly words: Map<string, SceneWord>;
  readonly sounds: Map<string, ScenePhoneme>;
}

export function openReading(scene: SceneDocument, clipId: string): OpenReading | undefined {
  const clip = scene.clips.find(({ id }) => id === clipId);
  return (
    clip && {
      clip,
      words: new Map(scene.words.filter((word) => word.clip === clipId).map((word) => [word.id, word])),
      sounds: new Map(scene.phonemes.filter((sound) => sound.clip === clipId).map((sound) => [sound.id, sound])),
    }
  );
}

export const inOrder = <T extends { readonly fromSample: number }>(records: Iterable<T>): T[] =>
  [...records].sort((a, b) => a.fromSample - b.fromSample);

export const soundsOf = ({ sounds }: OpenReading, word: string): ScenePhoneme[] =>
  inOrder([...sounds.values()].filter((sound) => sound.word === word));

/** What makes the scene's reading of a clip into the open one; sounds that are gone are played no longer. */
export function patchOf(
  scene: SceneDocument,
  { clip, words, sounds }: OpenReading,
  { reason, refusal }: { readonly reason: Reason; readonly refusal: string },
  newId: IdSource,
): Patch | Refusal {
  const changed = <T extends SceneWord | ScenePhoneme>(
    records: readonly T[],
    after: ReadonlyMap<string, T>,
    change: (before: T | null, after: T | null) => PatchOp,
  ): PatchOp[] => {
    const old = new Map(records.filter((record) => record.clip === clip.id).map((record) => [record.id, record]));
    return [
      ...[...after.values()].flatMap((record) => {
        const was = old.get(record.id) ?? null;
        return was && sameJson(was, record) ? [] : [change(was, record)];
      }),
      ...[...old.values()].flatMap((record) => (after.has(record.id) ? [] : [change(record, null)])),
    ];
  };
  const before = scene.clips.find(({ id }) => id === clip.id)!;
  const ops = [
    ...(sameJson(before, clip) ? [] : [put('clips', before, clip)]),
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
export function placeWord(open: OpenReading, word: SceneWord, fromSample: number, toSample: number): void {
  const was = word.toSample - word.fromSample;
  const at = (sample: number): number => fromSample + Math.round(((sample - word.fromSample) * (toSample - fromSample)) / was);
  open.words.set(word.id, { ...word, fromSample, toSample, inked: true });
  for (const sound of soundsOf(open, word.id))
    open.sounds.set(sound.id, { ...sound, fromSample: at(sound.fromSample), toSample: at(sound.toSample), inked: true });
}

/** A word's ends are those of its first and last sound. */
export function fitWord(open: OpenReading, id: string | null): void {
  const word = id === null ? undefined : open.words.get(id);
  if (!word) return;
  const own = soundsOf(open, word.id);
  if (own.length === 0) return;
  open.words.set(word.id, { ...word, fromSample: own[0]!.fromSample, toSample: own.at(-1)!.toSample, inked: true });
}

/** Its words in order, and where one of them stands among them. */
export function inLine(open: OpenReading, id: string): { readonly line: SceneWord[]; readonly at: number } {
  const line = inOrder(open.words.values());
  return { line, at: line.findIndex((word) => word.id === id) };
}

/** The clip's script with what it says of some words written otherwise; `line` is how they were read before. */
export function rewriteScript(open: OpenReading, line: readonly SceneWord[], change: { first: number; last: number; text: string }): void {
  const script = scriptWith(
    open.clip,
    line.map(({ text }) => text),
    change,
  );
  if (script !== open.clip.script) open.clip = { ...open.clip, script };
}

export interface WordAt {
  readonly clip: string;
  readonly id: string;
}
