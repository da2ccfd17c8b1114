/** How loud a speaker is in each frame, from recordings as they were decoded. */
import { waveBlocks, wavePyramid } from '../audio/peaks.js';
import { HEARD_BLOCK, maybeHeard } from '../scene/heardScene.js';
import type { SceneDocument } from '../scene/sceneDocument.js';

const FULL_SCALE = 32_768;

/**
 * @param soundOf the samples of a recording at 48 000 Hz, by its hash
 * @returns decibels below full scale, a value a frame; undefined where nothing is known of what the speaker says
 */
export function laneLevels(
  scene: SceneDocument,
  characterId: string,
  soundOf: (hash: string) => Int16Array | undefined,
): Float32Array | undefined {
  return maybeHeard(scene, characterId, (hash) => {
    const samples = soundOf(hash);
    return (
      samples &&
      wavePyramid(
        waveBlocks(
          Float32Array.from(samples, (value) => value / FULL_SCALE),
          HEARD_BLOCK,
        ),
      )
    );
  })?.levels;
}
