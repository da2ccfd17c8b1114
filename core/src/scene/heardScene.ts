/**
 * What is heard of the recordings of a scene, frame by frame, from the blocks their waves are
 * drawn from. The page and the server both hear a scene by this, so that a mouth keyed by
 * loudness comes out the same on either.
 */
import type { HeardFrames } from '../audio/frameLevels.js';
import { decibels } from '../audio/loudness.js';
import { meanOfBlocks, type WavePyramid } from '../audio/peaks.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { clipGains } from './clipPlace.js';
import { sceneSettings, type SoundsOf } from './sceneDocument.js';

/** Samples of a block: fine enough for one bar a pixel at the widest frame. */
export const HEARD_BLOCK = 96;
/** Where nothing is heard, in decibels below full scale. */
const NOTHING_DB = -120;

/** A recording's wave and where it is heard, in frames, fractions allowed. */
export interface HeardWave {
  readonly audio: string;
  readonly characterId: string;
  /** Where the recording would start were its head not trimmed. */
  readonly startFrame: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly samplesPerFrame: number;
  /** How loud it is heard, as a factor; 0 when muted. */
  readonly gain: number;
  /** How loud it is to the mouths, which stay when it is muted. */
  readonly mouthGain: number;
  readonly pyramid: WavePyramid;
}

/** A recording's wave by its hash, once it is measured. */
export type PyramidOf = (audio: string) => WavePyramid | undefined;

/** The recordings of a scene where they are heard; those that are not measured yet are left out. */
export function heardWaves(scene: SoundsOf, pyramidOf: PyramidOf): HeardWave[] {
  const { frameRate } = sceneSettings(scene);
  const gains = clipGains(scene.clips);
  const samplesPerFrame = (SAMPLE_RATE * frameRate.den) / frameRate.num;
  return scene.clips.flatMap(({ id, audio, characterId, atFrame, fromSample, toSample, gainDb }): HeardWave[] => {
    const pyramid = pyramidOf(audio);
    if (!pyramid) return [];
    return [
      {
        audio,
        characterId,
        startFrame: atFrame - fromSample / samplesPerFrame,
        fromFrame: atFrame,
        toFrame: atFrame + (toSample - fromSample) / samplesPerFrame,
        samplesPerFrame,
        gain: gains.get(id)!,
        mouthGain: 10 ** (gainDb / 20),
        pyramid,
      },
    ];
  });
}

/** The level of a frame, in decibels below full scale, over all recordings that are heard; undefined where there is none. */
export function maybeLevelAt(
  waves: readonly HeardWave[],
  frame: number,
  gainOf: (wave: HeardWave) => number = (wave) => wave.gain,
): number | undefined {
  let power: number | undefined;
  for (const wave of waves) {
    const { startFrame, fromFrame, toFrame, samplesPerFrame, pyramid } = wave;
    const gain = gainOf(wave);
    const [from, to] = [Math.max(frame, fromFrame), Math.min(frame + 1, toFrame)];
    if (from >= to || gain === 0) continue;
    const perFrame = samplesPerFrame / pyramid.levels[0].samplesPerBlock;
    const [first, last] = [Math.floor((from - startFrame) * perFrame), Math.ceil((to - startFrame) * perFrame)];
    if (last <= 0 || first >= pyramid.levels[0].power.length) continue;
    power = (power ?? 0) + meanOfBlocks(pyramid.levels[0].power, first, last) * gain * gain;
  }
  return power === undefined ? undefined : decibels(Math.sqrt(power));
}

/** How much of a frame is hiss: the mean over its blocks, of the recording that hisses most. */
function hissAt(waves: readonly HeardWave[], frame: number): number {
  let most = 0;
  for (const { startFrame, fromFrame, toFrame, samplesPerFrame, pyramid } of waves) {
    if (frame < fromFrame || frame >= toFrame) continue;
    const [blocks] = pyramid.levels;
    const perFrame = samplesPerFrame / blocks.samplesPerBlock;
    const [first, last] = [Math.floor((frame - startFrame) * perFrame), Math.ceil((frame + 1 - startFrame) * perFrame)];
    most = Math.max(most, meanOfBlocks(blocks.hiss, first, last));
  }
  return most;
}

/**
 * What the mouths of one speaker hear in each frame. Shape: lengthFrames.
 *
 * @returns undefined for a speaker who is not heard, and before all of its recordings are measured
 */
export function maybeHeard(scene: SoundsOf, characterId: string, pyramidOf: PyramidOf): HeardFrames | undefined {
  const clips = scene.clips.filter((clip) => clip.characterId === characterId);
  const own = heardWaves({ ...scene, clips }, pyramidOf);
  if (own.length === 0 || own.length < clips.length) return undefined;
  const { lengthFrames } = sceneSettings(scene);
  const [levels, hiss] = [new Float32Array(lengthFrames), new Float32Array(lengthFrames)];
  for (let frame = 0; frame < lengthFrames; frame++) {
    levels[frame] = maybeLevelAt(own, frame, (wave) => wave.mouthGain) ?? NOTHING_DB;
    hiss[frame] = hissAt(own, frame);
  }
  return { levels, hiss };
}
