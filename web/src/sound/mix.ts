/** A decoded recording, the part of it that is heard, and the scene sample at which that part starts. */
export interface PlacedSound {
  readonly atSample: number;
  readonly buffer: AudioBuffer;
  /** `[fromSample, toSample)` of the recording. */
  readonly fromSample: number;
  readonly toSample: number;
  /** A factor; 0 is silent. */
  readonly gain: number;
}

/** A recording heard whole, as it is. */
export function wholeSound(buffer: AudioBuffer, atSample: number): PlacedSound {
  return { atSample, buffer, fromSample: 0, toSample: buffer.length, gain: 1 };
}

/** What is heard of a stretch of the scene, `[from, to)` in samples: recordings over one another added. */
export function mixOf(sounds: readonly PlacedSound[], from: number, to: number): Float32Array {
  const mix = new Float32Array(Math.max(0, to - from));
  for (const { atSample, buffer, fromSample, toSample, gain } of sounds) {
    if (gain === 0) continue;
    const samples = buffer.getChannelData(0);
    const first = Math.max(from, atSample);
    const last = Math.min(to, atSample + toSample - fromSample);
    for (let at = first; at < last; at++) mix[at - from]! += samples[fromSample + at - atSample]! * gain;
  }
  return mix;
}
