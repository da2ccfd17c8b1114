/** Loudness of frames in decibels, brought between a floor and a peak. */

/** The quietest tenth of what is heard is its floor, the loudest fiftieth its peak. */
const FLOOR_SHARE = 0.1;
const PEAK_SHARE = 0.98;
/** Nothing softer is heard, in decibels below full scale. */
const HEARD_DB = -70;
/** A floor and a peak are at least so far apart, in decibels. */
const LEAST_RANGE = 6;

export interface LoudnessRange {
  readonly floorDb: number;
  readonly peakDb: number;
}

/** The range of a recording by itself. Shape in: a level a frame, in dBFS. */
export function rangeOfLoudness(levels: Float32Array): LoudnessRange {
  const heard = [...levels].filter((level) => level > HEARD_DB).sort((a, b) => a - b);
  if (heard.length === 0) return { floorDb: HEARD_DB, peakDb: HEARD_DB + LEAST_RANGE };
  const at = (share: number): number => heard[Math.min(heard.length - 1, Math.floor(share * heard.length))]!;
  const floorDb = at(FLOOR_SHARE);
  return { floorDb, peakDb: Math.max(at(PEAK_SHARE), floorDb + LEAST_RANGE) };
}

/** 0 at the floor and below, 1 at the peak and above. Shape as it came. */
export function betweenFloorAndPeak(levels: Float32Array, { floorDb, peakDb }: LoudnessRange): Float32Array {
  return levels.map((level) => Math.min(1, Math.max(0, (level - floorDb) / Math.max(1, peakDb - floorDb))));
}
