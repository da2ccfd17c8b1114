/** Frames of a scene as samples of a recording in it, as far as that is heard. */
import { clipStart, sampleAtFrame, sceneSettings, type Clip, type ClipPart, type SceneDocument } from '@zest-jaw/core';
import type { Span } from '@zest-jaw/core';

export function partOfClip(scene: SceneDocument, clip: Clip, { from, to }: Span): ClipPart {
  const { frameRate } = sceneSettings(scene);
  const start = clipStart(scene, clip);
  const within = (sample: number): number => Math.min(clip.toSample, Math.max(clip.fromSample, sample));
  return { fromSample: within(sampleAtFrame(frameRate, from) - start), toSample: within(sampleAtFrame(frameRate, to) - start) };
}
