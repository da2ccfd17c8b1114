/** Parts of a clip read again: which part of the script each is, and a new reading put in the place of the old. */
import { scriptOfWords } from '../reading/scriptOfWords.js';
import { scriptWords } from '../reading/scriptWords.js';
import type { Reading, ReadPhoneme } from '../reading/reading.js';
import type { NotSpeech } from '../reading/noises.js';
import type { Clip, SceneDocument } from './sceneDocument.js';
import { overlapOf, without, type Span } from '../time/span.js';
import { SAMPLE_RATE } from '../time/frameRate.js';

/** Samples of the recording, half-open. */
export interface ClipPart {
  readonly fromSample: number;
  readonly toSample: number;
}

/** A shorter part between two words that were set holds no word, in samples. */
const SHORTEST_PART = Math.round(0.15 * SAMPLE_RATE);

/** Heard on both sides of a part, so that its first and last sounds are whole. */
const MARGIN = Math.round(0.12 * SAMPLE_RATE);

/** What is read of a clip, from the scene's records. */
export function readingOfClip(scene: SceneDocument, clip: Clip): Reading {
  const words = scene.words.filter((word) => word.clip === clip.id);
  const index = new Map(words.map((word, at) => [word.id, at]));
  return {
    sampleRate: SAMPLE_RATE,
    durationSamples: clip.lengthSamples,
    words: words.map(({ text, fromSample, toSample, confidence, guessed, inked }) => ({
      text,
      from: fromSample,
      to: toSample,
      confidence,
      ...(guessed ? { guessed } : {}),
      ...(inked ? { inked } : {}),
    })),
    phonemes: scene.phonemes
      .filter((phoneme) => phoneme.clip === clip.id)
      .map(({ symbol, stress, fromSample, toSample, confidence, word, inked }) => ({
        symbol,
        ...(stress === undefined ? {} : { stress }),
        from: fromSample,
        to: toSample,
        confidence,
        word: word === null ? null : (index.get(word) ?? null),
        ...(inked ? { inked } : {}),
      })),
    warnings: [],
    ...(clip.notSpeech ? { notSpeech: clip.notSpeech } : {}),
  };
}

/** The phrase around a part: out to where the words before and after it end and begin, less a margin, and what the script says there. */
export function partOfScript(reading: Reading, clip: Clip, part: ClipPart): { readonly part: ClipPart; readonly script: string } {
  // Where nothing was read, `last` comes before `first`: the part lies between the two.
  const first = reading.words.filter((word) => word.to <= part.fromSample).length;
  const last = reading.words.filter((word) => word.from < part.toSample).length - 1;
  const inside = reading.words.slice(first, last + 1);
  const before = reading.words[first - 1]?.to ?? clip.fromSample;
  const after = reading.words[last + 1]?.from ?? clip.toSample;
  const written = scriptWords(clip.script, clip.language);
  // As the script has it now, which may have been mended since.
  const { from, to } = scriptOfWords(
    written.map((word) => word.text),
    reading.words.map((word) => word.text),
    first,
    last,
  );
  return {
    script: written
      .slice(from, to)
      .map((word) => word.text)
      .join(' '),
    part: {
      fromSample: Math.max(before, Math.min(part.fromSample, (inside[0]?.from ?? part.fromSample) - MARGIN)),
      toSample: Math.min(after, Math.max(part.toSample, (inside.at(-1)?.to ?? part.toSample) + MARGIN)),
    },
  };
}

/** A reading with a part of it read anew; what lies outside stays as it is. */
export function withPartRead(reading: Reading, { fromSample, toSample }: ClipPart, anew: Reading): Reading {
  const stays = (item: { readonly from: number; readonly to: number }): boolean => item.to <= fromSample || item.from >= toSample;
  const words = [
    ...reading.words.map((word, index) => ({ word, source: reading, index })).filter(({ word }) => stays(word)),
    ...anew.words.map((word, index) => ({ word, source: anew, index })),
  ].sort((a, b) => a.word.from - b.word.from);
  const place = new Map(words.map(({ source, index }, at) => [`${source === anew}${index}`, at]));
  const phonemesOf = (source: Reading, list: readonly ReadPhoneme[]): ReadPhoneme[] =>
    list.map((phoneme) => ({ ...phoneme, word: phoneme.word === null ? null : (place.get(`${source === anew}${phoneme.word}`) ?? null) }));
  const phonemes = [...phonemesOf(reading, reading.phonemes.filter(stays)), ...phonemesOf(anew, anew.phonemes)].sort(
    (a, b) => a.from - b.from,
  );
  // A stretch that reaches into the part keeps what lies outside it.
  const outside = (reading.notSpeech ?? []).flatMap((span) => without(span, { from: fromSample, to: toSample }));
  const notSpeech = [...outside, ...(anew.notSpeech ?? [])].sort((a, b) => a.from - b.from);
  const { notSpeech: _, ...whole } = reading;
  return {
    ...whole,
    words: words.map(({ word }) => word),
    phonemes,
    warnings: anew.warnings,
    ...(notSpeech.length > 0 ? { notSpeech } : {}),
  };
}

/** The part of a reading that lies in a part of its clip: words and sounds that reach over an end are cut off there. */
export function readingInPart(reading: Reading, { fromSample, toSample }: ClipPart): Reading {
  const cut = <T extends { readonly from: number; readonly to: number }>(item: T): T => ({
    ...item,
    from: Math.max(item.from, fromSample),
    to: Math.min(item.to, toSample),
  });
  const isInside = (item: { readonly from: number; readonly to: number }): boolean => item.from < toSample && item.to > fromSample;
  const kept = reading.words.map((word, index) => ({ word, index })).filter(({ word }) => isInside(word));
  const place = new Map(kept.map(({ index }, at) => [index, at]));
  return {
    ...reading,
    words: kept.map(({ word }) => cut(word)),
    phonemes: reading.phonemes
      .filter(isInside)
      .map((phoneme) => ({ ...cut(phoneme), word: phoneme.word === null ? null : (place.get(phoneme.word) ?? null) })),
  };
}

/**
 * A new reading with what a hand has set of the old one in its place: a word that lies mostly
 * where one was set gives way to it, others are cut off at its edges.
 */
export function withInkKept(old: Reading, anew: Reading): Reading {
  const ink = old.words.flatMap((word, index) => (word.inked ? [{ word, index }] : []));
  // Sounds that no word explains are set by themselves.
  const lone = old.phonemes.filter(({ word, inked }) => word === null && inked);
  const marked = (old.notSpeech ?? []).filter(({ inked }) => inked);
  if (ink.length === 0 && lone.length === 0 && marked.length === 0) return anew;
  const spans: readonly Span[] = [...ink.map(({ word }) => word), ...marked];
  const isKept = (word: Reading['words'][number]): boolean =>
    !spans.some((span) => overlapOf(span, word) * 2 > Math.min(word.to - word.from, span.to - span.from));
  const cut = <S extends Span>(span: S, by: readonly Span[]): S | undefined =>
    by.reduce<S[]>((parts, set) => parts.flatMap((part) => without(part, set)), [span]).sort((a, b) => b.to - b.from - (a.to - a.from))[0];
  const words = [
    ...anew.words.flatMap((word, index) => {
      const left = !word.inked && isKept(word) ? cut(word, spans) : undefined;
      return left ? [{ word: left, source: anew, index }] : [];
    }),
    ...ink.map(({ word, index }) => ({ word, source: old, index })),
  ].sort((a, b) => a.word.from - b.word.from);
  const place = new Map(words.map(({ source, index }, at) => [`${source === old}${index}`, at]));
  const sounds = [
    ...anew.phonemes.flatMap((sound) => {
      const at = sound.word === null ? null : place.get(`false${sound.word}`);
      const left = at === undefined ? undefined : cut(sound, [...spans, ...lone]);
      return left ? [{ ...left, word: at ?? null }] : [];
    }),
    ...old.phonemes.flatMap((sound) => {
      const at = sound.word === null ? undefined : place.get(`true${sound.word}`);
      return at === undefined ? [] : [{ ...sound, word: at }];
    }),
    ...lone,
  ].sort((a, b) => a.from - b.from);
  const notSpeech = [
    ...(anew.notSpeech ?? []).flatMap((span) =>
      marked.reduce<NotSpeech[]>((left, by) => left.flatMap((part) => without(part, by)), [span]),
    ),
    ...marked,
  ];
  return {
    ...anew,
    words: words.map(({ word }) => word),
    phonemes: sounds,
    ...(notSpeech.length > 0 ? { notSpeech: notSpeech.sort((a, b) => a.from - b.from) } : {}),
  };
}

/**
 * The parts of a clip that are to be read, so that nothing a hand has set is read again.
 *
 * @param wanted all of what is heard without it
 * @returns undefined where all of it may be read as one
 */
export function partsBesideInk(scene: SceneDocument, clip: Clip, wanted?: readonly ClipPart[]): readonly ClipPart[] | undefined {
  const lone = scene.phonemes.filter((sound) => sound.clip === clip.id && sound.word === null && sound.inked);
  const marked = (clip.notSpeech ?? []).filter(({ inked }) => inked).map(({ from, to }) => ({ fromSample: from, toSample: to }));
  const ink = [...scene.words.filter((word) => word.clip === clip.id && word.inked), ...lone, ...marked];
  if (ink.length === 0) return wanted;
  const parts = (wanted ?? [clip]).map(({ fromSample, toSample }) => ({ from: fromSample, to: toSample }));
  return ink
    .reduce<Span[]>((left, word) => left.flatMap((part) => without(part, { from: word.fromSample, to: word.toSample })), parts)
    .filter(({ from, to }) => to - from >= SHORTEST_PART)
    .map(({ from, to }) => ({ fromSample: from, toSample: to }));
}
