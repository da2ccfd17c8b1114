/** All that is heard in a scene as one sound, to the sample: as long as the scene, each recording where it lies. */
import { clipGains, clipStart } from '../scene/clipPlace.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { sampleAtFrame } from '../time/samples.js';

/**
 * @param soundOf the recording of a hash, 16 bits at 48 000 Hz; undefined for one that is not there
 * @returns mono at 48 000 Hz, −1 to 1; what is louder than full scale where several speak at once is cut
 */
export function sceneSound(scene: SceneDocument, soundOf: (hash: string) => Int16Array | undefined): Float32Array<ArrayBuffer> {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const mixed = new Float32Array(sampleAtFrame(frameRate, lengthFrames));
  const gains = clipGains(scene.clips);
  for (const clip of scene.clips) {
    const samples = soundOf(clip.audio);
    const gain = (gains.get(clip.id) ?? 0) / 32_768;
    if (!samples || gain === 0) continue;
    const start = clipStart(scene, clip);
    const first = Math.max(clip.fromSample, -start);
    const last = Math.min(clip.toSample, samples.length, mixed.length - start);
    for (let index = first; index < last; index++) mixed[start + index]! += samples[index]! * gain;
  }
  for (let index = 0; index < mixed.length; index++) mixed[index] = Math.max(-1, Math.min(1, mixed[index]!));
  return mixed;
}
