/** What the mouths of one speaker of a scene hear, in a thread of its own: measuring a long recording takes seconds. */
import {
  floatsOf16Bit,
  HEARD_BLOCK,
  maybeHeard,
  truthOfWave,
  waveBlocks,
  wavePyramid,
  type HeardFrames,
  type SceneDocument,
  type WavePyramid,
} from '@zest-jaw/core';

export interface HearTask {
  readonly scene: SceneDocument;
  readonly characterId: string;
  /** The speaker's recordings as 48 kHz wave files, by hash. */
  readonly waves: ReadonlyMap<string, Uint8Array>;
}

export default function hear({ scene, characterId, waves }: HearTask): HeardFrames | undefined {
  const pyramids = new Map<string, WavePyramid>();
  for (const [hash, wave] of waves) {
    const truth = truthOfWave(wave);
    if ('samples' in truth) pyramids.set(hash, wavePyramid(waveBlocks(floatsOf16Bit(truth.samples), HEARD_BLOCK)));
  }
  return maybeHeard(scene, characterId, (audio) => pyramids.get(audio));
}
