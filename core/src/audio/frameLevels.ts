/** How loud each frame of a picture is. */
import type { FrameRate } from '../time/frameRate.js';
import { sampleAtFrame } from '../time/samples.js';
import { decibels, loudnessOfWindows } from './loudness.js';

/** @returns decibels below full scale, a value a frame; −120 after the recording's end. Shape: lengthFrames. */
export function frameLevels(samples48k: Float32Array, frameRate: FrameRate, lengthFrames: number): Float32Array {
  const levels = new Float32Array(lengthFrames);
  for (let frame = 0; frame < lengthFrames; frame++) {
    const span = samples48k.subarray(sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1));
    levels[frame] = span.length === 0 ? -120 : decibels(loudnessOfWindows(span, span.length)[0]!);
  }
  return levels;
}
