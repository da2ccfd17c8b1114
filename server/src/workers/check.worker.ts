/** Counts what the checker finds of a scene that nobody has open, in a thread of its own. */
import {
  checkNotes,
  factsOfClip,
  floatsOf16Bit,
  HEARD_BLOCK,
  maybeHeard,
  notesAside,
  truthOfWave,
  waveBlocks,
  wavePyramid,
  type ChartDocument,
  type CheckLimits,
  type ClipFacts,
  type NoteCounts,
  type SceneDocument,
  type WavePyramid,
} from '@zest-jaw/core';

export interface CheckTask {
  readonly scene: SceneDocument;
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly limits: Partial<CheckLimits>;
  /** Recordings by hash, as wave files. */
  readonly waves: ReadonlyMap<string, Uint8Array>;
}

export default function check({ scene, charts, limits, waves }: CheckTask): Omit<NoteCounts, 'revision'> {
  const pyramids = new Map<string, WavePyramid>();
  const facts = new Map<string, ClipFacts>();
  for (const [hash, wave] of waves) {
    const truth = truthOfWave(wave);
    if (!('samples' in truth)) continue;
    pyramids.set(hash, wavePyramid(waveBlocks(floatsOf16Bit(truth.samples), HEARD_BLOCK)));
    facts.set(hash, factsOfClip(truth));
  }
  const heardOf = (characterId: string) => maybeHeard(scene, characterId, (audio) => pyramids.get(audio));
  const { open } = notesAside(checkNotes({ scene, charts, heardOf, facts, limits }), scene.asides);
  const count = (weight: number): number => open.filter((note) => note.weight === weight).length;
  return { heavy: count(3), seen: count(2), small: count(1), remarks: scene.remarks.filter(({ done }) => !done).length };
}
