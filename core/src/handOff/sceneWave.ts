/** The wave of all that is heard in a scene, so many blocks a frame, to be drawn beside its frames. */
import { clipGains, clipStart } from '../scene/clipPlace.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';

export interface SceneWave {
  readonly blocksPerFrame: number;
  /** −1 to 1. Shape: frames × blocks a frame. */
  readonly lowest: Float32Array;
  readonly highest: Float32Array;
  /** Largest distance from 0. */
  readonly loudest: number;
}

/**
 * @param soundOf the recording of a hash, 16 bits at 48 000 Hz; undefined for one that is not there
 */
export function sceneWave(scene: SceneDocument, soundOf: (hash: string) => Int16Array | undefined, blocksPerFrame: number): SceneWave {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const blocks = lengthFrames * blocksPerFrame;
  const [lowest, highest] = [new Float32Array(blocks), new Float32Array(blocks)];
  const perBlock = SAMPLE_RATE / framesPerSecond(frameRate) / blocksPerFrame;
  const gains = clipGains(scene.clips);
  for (const clip of scene.clips) {
    const samples = soundOf(clip.audio);
    const gain = (gains.get(clip.id) ?? 0) / 32_768;
    if (!samples || gain === 0) continue;
    const start = Math.round(clipStart(scene, clip));
    const first = Math.max(0, Math.floor((start + clip.fromSample) / perBlock));
    const last = Math.min(blocks, Math.ceil((start + clip.toSample) / perBlock));
    for (let block = first; block < last; block++) {
      const from = Math.max(clip.fromSample, Math.round(block * perBlock) - start);
      const to = Math.min(clip.toSample, samples.length, Math.round((block + 1) * perBlock) - start);
      let [low, high] = [0, 0];
      for (let index = from; index < to; index++) {
        const value = samples[index]!;
        if (value < low) low = value;
        else if (value > high) high = value;
      }
      // Two at once are drawn over one another.
      lowest[block] = Math.min(lowest[block]!, low * gain);
      highest[block] = Math.max(highest[block]!, high * gain);
    }
  }
  let loudest = 0;
  for (let block = 0; block < blocks; block++) loudest = Math.max(loudest, highest[block]!, -lowest[block]!);
  return { blocksPerFrame, lowest, highest, loudest };
}
