/**
 * Recordings cut where time is put in or taken out: what is heard before it, and what is heard
 * after it, as clips of their own, each with its part of the reading and of the line. Parts of
 * one recording that come to lie end to end become one again.
 */
import { sameJson } from '../document/documentKind.js';
import { putsOf, type PutOp } from '../document/patch.js';
import type { IdSource } from '../document/refusal.js';
import { maybeCutTo, type Span } from '../time/span.js';
import { sampleAtFrame } from '../time/samples.js';
import { sceneSettings, type Clip, type SceneDocument, type ScenePhoneme, type SceneWord } from './sceneDocument.js';

const put = putsOf<SceneDocument>();

/** A part of a clip, by the samples of its recording, and the frame at which it is heard. */
export interface ClipPiece extends Span {
  readonly atFrame: number;
}

type ReadingOf = Pick<SceneDocument, 'clips' | 'words' | 'phonemes'>;

/** A clip with the words and sounds that were read in it. */
interface CutClip {
  readonly clip: Clip;
  readonly words: readonly SceneWord[];
  readonly phonemes: readonly ScenePhoneme[];
}

const cutClipOf = (scene: ReadingOf, clip: Clip): CutClip => ({
  clip,
  words: scene.words.filter((word) => word.clip === clip.id),
  phonemes: scene.phonemes.filter((phoneme) => phoneme.clip === clip.id),
});

/** A clip with another part of its recording heard. Lists that it does not have it does not get. */
function clipWith(clip: Clip, { from, to, atFrame }: ClipPiece, side: Span): Clip {
  const { phrases, notSpeech, ...rest } = clip;
  const own = <S extends Span>(spans: readonly S[]): S[] => spans.flatMap((span) => maybeCutTo(span, side) ?? []);
  return {
    ...rest,
    fromSample: from,
    toSample: to,
    atFrame,
    ...(phrases && { phrases: own(phrases) }),
    ...(notSpeech && { notSpeech: own(notSpeech) }),
  };
}

/** The line in two, where so many words have been said; as near as its own words tell. */
function scriptInTwo(script: string, said: number, ofWords: number): readonly [string, string] {
  const starts = [...script.matchAll(/\S*[\p{L}\p{N}]\S*/gu)].map(({ index }) => index);
  const at = starts[ofWords === starts.length ? said : Math.round((said * starts.length) / Math.max(1, ofWords))];
  return at === undefined ? [script, ''] : [script.slice(0, at), script.slice(at)];
}

/**
 * A clip in two. Whatever lies before the second piece stays with the first; what lies across
 * its start is cut there, and is in both.
 */
function inTwo({ clip, words, phonemes }: CutClip, [first, second]: readonly [ClipPiece, ClipPiece], newId: IdSource): CutClip[] {
  const cut = second.from;
  const id = newId();
  const before = words.filter((word) => word.fromSample < cut);
  const isWordCut = before.some((word) => word.toSample > cut);
  const [script] = scriptInTwo(clip.script, before.length, words.length);
  const [, rest] = scriptInTwo(clip.script, isWordCut ? before.length - 1 : before.length, words.length);
  const halves = new Map<string, string>();
  const earlier = <T extends SceneWord | ScenePhoneme>(records: readonly T[]): T[] =>
    records.filter(({ fromSample }) => fromSample < cut).map((record) => (record.toSample > cut ? { ...record, toSample: cut } : record));
  const later = <T extends SceneWord | ScenePhoneme>(records: readonly T[]): T[] =>
    records
      .filter(({ toSample }) => toSample > cut)
      .map((record) => {
        if (record.fromSample >= cut) return { ...record, clip: id };
        const half = newId();
        halves.set(record.id, half);
        return { ...record, id: half, clip: id, fromSample: cut };
      });
  const laterWords = later(words);
  const there = new Set(laterWords.map((word) => word.id));
  const wordOf = (word: string | null): string | null => {
    if (word === null) return null;
    const half = halves.get(word) ?? word;
    return there.has(half) ? half : null;
  };
  return [
    { clip: { ...clipWith(clip, first, { from: 0, to: cut }), script }, words: earlier(words), phonemes: earlier(phonemes) },
    {
      clip: { ...clipWith(clip, second, { from: cut, to: clip.lengthSamples }), id, script: rest },
      words: laterWords,
      phonemes: later(phonemes).map((phoneme) => ({ ...phoneme, word: wordOf(phoneme.word) })),
    },
  ];
}

/** Two parts of a line as one; a word that is in both is said once. */
function scriptAsOne(a: string, b: string, sharesWord: boolean): string {
  for (let shared = Math.min(a.length, b.length); sharesWord && shared > 0; shared--)
    if (a.endsWith(b.slice(0, shared))) return a + b.slice(shared);
  return a === '' || b === '' || /\s$/.test(a) ? a + b : `${a} ${b}`;
}

/** Spans that meet at a cut, and are otherwise the same, as one. */
function metAt<S extends Span>(a: readonly S[] | undefined, b: readonly S[] | undefined, cut: number): S[] | undefined {
  if (!a || !b) return a || b ? [...(a ?? []), ...(b ?? [])] : undefined;
  const [last, next] = [a.at(-1), b[0]];
  const isOne = last?.to === cut && next?.from === cut && sameJson({ ...last, from: 0, to: 0 }, { ...next, from: 0, to: 0 });
  return isOne ? [...a.slice(0, -1), { ...last, to: next.to }, ...b.slice(1)] : [...a, ...b];
}

/** Two parts of one recording that lie end to end, as one clip again. */
function joinedClips(a: CutClip, b: CutClip): CutClip {
  const cut = a.clip.toSample;
  const [lastWord, firstWord] = [a.words.findLast((word) => word.fromSample < cut), b.words.find((word) => word.toSample > cut)];
  const isOneWord = lastWord && firstWord && lastWord.toSample === cut && firstWord.fromSample === cut && lastWord.text === firstWord.text;
  const words = [
    ...a.words
      .filter((word) => word.fromSample < cut)
      .map((word) => (isOneWord && word === lastWord ? { ...word, toSample: firstWord.toSample } : word)),
    ...b.words.filter((word) => word.toSample > cut && !(isOneWord && word === firstWord)).map((word) => ({ ...word, clip: a.clip.id })),
  ];
  const [lastSound, firstSound] = [a.phonemes.findLast((one) => one.fromSample < cut), b.phonemes.find((one) => one.toSample > cut)];
  const isOneSound =
    lastSound && firstSound && lastSound.toSample === cut && firstSound.fromSample === cut && lastSound.symbol === firstSound.symbol;
  const phonemes = [
    ...a.phonemes
      .filter((one) => one.fromSample < cut)
      .map((one) => (isOneSound && one === lastSound ? { ...one, toSample: firstSound.toSample } : one)),
    ...b.phonemes
      .filter((one) => one.toSample > cut && !(isOneSound && one === firstSound))
      .map((one) => ({ ...one, clip: a.clip.id, word: isOneWord && one.word === firstWord.id ? lastWord.id : one.word })),
  ];
  const { phrases: _, notSpeech: __, ...rest } = a.clip;
  const [phrases, notSpeech] = [metAt(a.clip.phrases, b.clip.phrases, cut), metAt(a.clip.notSpeech, b.clip.notSpeech, cut)];
  const clip = {
    ...rest,
    toSample: b.clip.toSample,
    script: scriptAsOne(a.clip.script, b.clip.script, isOneWord === true),
    ...(phrases && { phrases }),
    ...(notSpeech && { notSpeech }),
  };
  return { clip, words, phonemes };
}

/** Whether one clip goes on where the other ends, in the recording and in the scene. */
function goesOn(scene: SceneDocument, { clip: a }: CutClip, { clip: b }: CutClip): boolean {
  const { frameRate } = sceneSettings(scene);
  const said = ({ audio, characterId, gainDb, muted, soloed, readOf, language }: Clip): unknown => [
    audio,
    characterId,
    gainDb,
    muted,
    soloed,
    readOf,
    language,
  ];
  const gap = sampleAtFrame(frameRate, b.atFrame) - sampleAtFrame(frameRate, a.atFrame) - (a.toSample - a.fromSample);
  // At NTSC rates frames do not begin on samples: one more or less is the same place.
  return a.toSample === b.fromSample && Math.abs(gap) <= 1 && sameJson(said(a), said(b));
}

/**
 * What makes the clips of a scene into pieces of themselves.
 *
 * @param piecesOf what is heard of each clip: one piece or two, in order; none takes it out
 * @returns operations, and the sounds that are gone with their clips
 */
export function cutClips(
  scene: SceneDocument,
  piecesOf: (clip: Clip) => readonly ClipPiece[],
  newId: IdSource,
): { readonly ops: readonly PutOp[]; readonly lost: ReadonlySet<string>; readonly clips: readonly Clip[] } {
  const old = scene.clips.map((clip) => cutClipOf(scene, clip));
  const parts = old
    .flatMap((own): CutClip[] => {
      const [first, second] = piecesOf(own.clip);
      if (!first) return [];
      if (second) return inTwo(own, [first, second], newId);
      return [{ ...own, clip: { ...own.clip, fromSample: first.from, toSample: first.to, atFrame: first.atFrame } }];
    })
    .sort((a, b) => a.clip.atFrame - b.clip.atFrame);
  const whole: CutClip[] = [];
  for (const part of parts) {
    const at = whole.findIndex((one) => goesOn(scene, one, part));
    if (at < 0) whole.push(part);
    else whole[at] = joinedClips(whole[at]!, part);
  }
  const changes = <T extends Clip | SceneWord | ScenePhoneme>(
    before: readonly T[],
    after: readonly T[],
    change: (before: T | null, after: T | null) => PutOp,
  ): PutOp[] => {
    const there = new Map(before.map((record) => [record.id, record]));
    const stays = new Set(after.map((record) => record.id));
    return [
      ...after.flatMap((record) => {
        const was = there.get(record.id) ?? null;
        return was && sameJson(was, record) ? [] : [change(was, record)];
      }),
      ...before.filter((record) => !stays.has(record.id)).map((record) => change(record, null)),
    ];
  };
  const of = <K extends keyof CutClip>(list: readonly CutClip[], key: K): CutClip[K][] => list.map((one) => one[key]);
  const [sounds, left] = [
    of(old, 'phonemes').flat(),
    new Set(
      of(whole, 'phonemes')
        .flat()
        .map(({ id }) => id),
    ),
  ];
  return {
    ops: [
      ...changes(of(old, 'clip'), of(whole, 'clip'), (before, after) => put('clips', before, after)),
      ...changes(of(old, 'words').flat(), of(whole, 'words').flat(), (before, after) => put('words', before, after)),
      ...changes(sounds, of(whole, 'phonemes').flat(), (before, after) => put('phonemes', before, after)),
    ],
    lost: new Set(sounds.filter(({ id }) => !left.has(id)).map(({ id }) => id)),
    clips: of(whole, 'clip'),
  };
}
