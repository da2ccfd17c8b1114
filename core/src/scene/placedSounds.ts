/** Readings put where their clips are: samples counted from the scene's frame 0. */
import type { SceneSound } from '../keying/keySounds.js';
import { sampleAtFrame } from '../time/samples.js';
import { sceneSettings, type SceneDocument, type SceneWord } from './sceneDocument.js';

export interface PlacedSound extends SceneSound {
  readonly id: string;
  readonly word: string | null;
  readonly confidence: number;
}

export interface PlacedWord {
  readonly id: string;
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
}

function clipStarts(scene: SceneDocument): Map<string, { start: number; characterId: string }> {
  const { frameRate } = sceneSettings(scene);
  return new Map(scene.clips.map((clip) => [clip.id, { start: sampleAtFrame(frameRate, clip.atFrame), characterId: clip.characterId }]));
}

/** The sounds one character makes, sorted; where two of its clips overlap, the later sound waits for the earlier to end. */
export function placedSounds(scene: SceneDocument, characterId: string): PlacedSound[] {
  const starts = clipStarts(scene);
  const sounds = scene.phonemes
    .filter((phoneme) => starts.get(phoneme.clip)?.characterId === characterId)
    .map(({ id, word, symbol, stress, confidence, clip, fromSample, toSample }) => {
      const { start } = starts.get(clip)!;
      return { id, word, symbol, ...(stress === undefined ? {} : { stress }), confidence, from: start + fromSample, to: start + toSample };
    })
    .sort((a, b) => a.from - b.from);
  let end = 0;
  return sounds.flatMap((sound) => {
    const from = Math.max(sound.from, end);
    if (from >= sound.to) return [];
    end = sound.to;
    return [{ ...sound, from }];
  });
}

/** The words of the scene, sorted by start. */
export function placedWords(scene: SceneDocument): PlacedWord[] {
  const starts = clipStarts(scene);
  return scene.words
    .map(({ id, text, clip, fromSample, toSample, confidence }: SceneWord) => {
      const start = starts.get(clip)?.start ?? 0;
      return { id, text, confidence, from: start + fromSample, to: start + toSample };
    })
    .sort((a, b) => a.from - b.from);
}
