/** Where clips lie in the scene, and how loud each is heard. */
import { framesToHold, sampleAtFrame } from '../time/samples.js';
import { sceneSettings, type Clip, type SceneDocument, type SettingsOf } from './sceneDocument.js';

/** What a recording is before it has a place. */
export type Recording = Pick<Clip, 'audio' | 'fileName' | 'lengthSamples'>;

/** Quieter is as good as silent, louder lifts the noise of the room; in decibels. */
export const GAIN_LIMITS = { least: -40, most: 20 } as const;

/** A whole recording as a clip, neither trimmed nor raised nor read. */
export function clipOfRecording(
  clip: Pick<Clip, 'id' | 'characterId' | 'script' | 'language'> & Recording & { readonly atFrame?: number },
): Clip {
  return { atFrame: 0, fromSample: 0, toSample: clip.lengthSamples, gainDb: 0, muted: false, soloed: false, readOf: null, ...clip };
}

/** Where the first sample of the whole recording lies in the scene, in samples; before the scene when its head is trimmed. */
export function clipStart(scene: SettingsOf, clip: Clip): number {
  return sampleAtFrame(sceneSettings(scene).frameRate, clip.atFrame) - clip.fromSample;
}

/** The scene frame after the last one in which a clip is heard. */
export function clipEnd(scene: SettingsOf, clip: Clip): number {
  const { frameRate } = sceneSettings(scene);
  return framesToHold(frameRate, sampleAtFrame(frameRate, clip.atFrame) + clip.toSample - clip.fromSample);
}

/** Clips that are heard past the end of the scene, with how many frames of each. */
export function clipsPastEnd(scene: SceneDocument): { readonly clip: Clip; readonly frames: number }[] {
  const { lengthFrames } = sceneSettings(scene);
  return scene.clips.flatMap((clip) => {
    const frames = clipEnd(scene, clip) - lengthFrames;
    return frames > 0 ? [{ clip, frames }] : [];
  });
}

/** How loud each clip is heard, as a factor, by id; 0 for one that is muted or that others are soloed over. */
export function clipGains(clips: readonly Clip[]): ReadonlyMap<string, number> {
  const soloing = clips.some((clip) => clip.soloed && !clip.muted);
  return new Map(clips.map(({ id, muted, soloed, gainDb }) => [id, muted || (soloing && !soloed) ? 0 : 10 ** (gainDb / 20)]));
}
