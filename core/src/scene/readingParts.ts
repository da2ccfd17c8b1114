/** Parts of a clip read again: which part of the script each is, and a new reading put in the place of the old. */
import { scriptOfWords } from '../reading/scriptOfWords.js';
import { scriptWords } from '../reading/scriptWords.js';
import type { Reading, ReadPhoneme } from '../reading/reading.js';
import type { Clip, SceneDocument } from './sceneDocument.js';
import { SAMPLE_RATE } from '../time/frameRate.js';

/** Samples of the recording, half-open. */
export interface ClipPart {
  readonly fromSample: number;
  readonly toSample: number;
}

/** Heard on both sides of a part, so that its first and last sounds are whole. */
const MARGIN = Math.round(0.12 * SAMPLE_RATE);

/** What is read of a clip, from the scene's records. */
export function readingOfClip(scene: SceneDocument, clip: Clip): Reading {
  const words = scene.words.filter((word) => word.clip === clip.id);
  const index = new Map(words.map((word, at) => [word.id, at]));
  return {
    sampleRate: SAMPLE_RATE,
    durationSamples: clip.lengthSamples,
    words: words.map(({ text, fromSample, toSample, confidence, guessed }) => ({
      text,
      from: fromSample,
      to: toSample,
      confidence,
      ...(guessed ? { guessed } : {}),
    })),
    phonemes: scene.phonemes
      .filter((phoneme) => phoneme.clip === clip.id)
      .map(({ symbol, stress, fromSample, toSample, confidence, word }) => ({
        symbol,
        ...(stress === undefined ? {} : { stress }),
        from: fromSample,
        to: toSample,
        confidence,
        word: word === null ? null : (index.get(word) ?? null),
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
  const outside = (reading.notSpeech ?? []).flatMap(({ from, to }) =>
    [
      { from, to: Math.min(to, fromSample) },
      { from: Math.max(from, toSample), to },
    ].filter((span) => span.from < span.to),
  );
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
