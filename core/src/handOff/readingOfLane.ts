/** What one character says in a scene as a reading of the scene: for labels and captions that count from its start. */
import type { ReadPhoneme, Reading } from '../reading/reading.js';
import { placedSounds, placedWords } from '../scene/placedSounds.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { sampleAtFrame } from '../time/samples.js';

export function readingOfLane(scene: SceneDocument, characterId: string): Reading {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const durationSamples = sampleAtFrame(frameRate, lengthFrames);
  // What is said past the end of the scene is not in it.
  const inScene = <T extends { readonly from: number; readonly to: number }>(spans: readonly T[]): T[] =>
    spans.flatMap((span) => {
      const [from, to] = [Math.max(0, Math.round(span.from)), Math.min(durationSamples, Math.round(span.to))];
      return from < to ? [{ ...span, from, to }] : [];
    });
  const words = inScene(placedWords(scene, characterId));
  const index = new Map(words.map(({ id }, at) => [id, at]));
  return {
    sampleRate: SAMPLE_RATE,
    durationSamples,
    words: words.map(({ text, from, to, confidence }) => ({ text, from, to, confidence })),
    phonemes: inScene(placedSounds(scene, characterId)).map(({ symbol, stress, from, to, confidence, word }): ReadPhoneme => ({
      symbol,
      ...(stress === undefined ? {} : { stress }),
      from,
      to,
      confidence,
      word: index.get(word ?? '') ?? null,
    })),
    warnings: [],
  };
}
