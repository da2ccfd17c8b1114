/** What is heard in each frame of a picture: how loud it is, and how much of it is hiss. */
import type { FrameRate } from '../time/frameRate.js';
import { sampleAtFrame } from '../time/samples.js';
import { decibels } from './loudness.js';
import { waveBlocks } from './peaks.js';

/** A value a frame. */
export interface HeardFrames {
  /** Decibels below full scale; −120 where nothing is. */
  readonly levels: Float32Array;
  /** 0 (voice) to 1 (hiss). */
  readonly hiss: Float32Array;
}

/** @returns shape: lengthFrames each */
export function heardFrames(samples48k: Float32Array, frameRate: FrameRate, lengthFrames: number): HeardFrames {
  const levels = new Float32Array(lengthFrames).fill(-120);
  const hiss = new Float32Array(lengthFrames);
  for (let frame = 0; frame < lengthFrames; frame++) {
    const span = samples48k.subarray(sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1));
    if (span.length === 0) break;
    const block = waveBlocks(span, span.length);
    levels[frame] = decibels(Math.sqrt(block.power[0]!));
    hiss[frame] = block.hiss[0]!;
  }
  return { levels, hiss };
}
