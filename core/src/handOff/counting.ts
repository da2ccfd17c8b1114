/** How what is handed off counts: from which number, in frames, seconds or timecode. */
import { frameNumber, sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { formatFrameRate, framesPerSecond, type FrameRate } from '../time/frameRate.js';
import { formatTimecode, hasDropFrame } from '../time/timecode.js';

/** The first frame's number: 0, 1, or as the scene counts. */
export type CountsFrom = '0' | '1' | 'scene';
export type CountsIn = 'frames' | 'seconds' | 'timecode';

export interface Counting {
  readonly from: CountsFrom;
  readonly unit: CountsIn;
  /** Timecode that leaves numbers out, where the rate has it; else it counts on. */
  readonly drop: boolean;
}

export const PLAIN_COUNTING: Counting = { from: 'scene', unit: 'frames', drop: true };

/** The number of the first frame. */
export function firstCounted(scene: SceneDocument, { from }: Pick<Counting, 'from'>): number {
  return from === 'scene' ? frameNumber(scene, 0) : Number(from);
}

/** Seconds with six digits: to the microsecond. */
const seconds = (rate: FrameRate, frame: number): string => (frame / framesPerSecond(rate)).toFixed(6);

/** Where a frame is, in text: its number, or its time with the first number counted as so many frames from zero. */
export function counted(scene: SceneDocument, counting: Counting, frame: number): string {
  const { frameRate } = sceneSettings(scene);
  const number = firstCounted(scene, counting) + frame;
  // Seconds are those of the sound: they begin with the scene, whatever its first frame is called.
  if (counting.unit === 'seconds') return seconds(frameRate, frame);
  return counting.unit === 'timecode' ? formatTimecode(frameRate, number, counting.drop) : String(number);
}

/** One line that says how it counts. */
export function countingInWords(scene: SceneDocument, counting: Counting): string {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const [first, last] = [counted(scene, counting, 0), counted(scene, counting, lengthFrames - 1)];
  const rate = `${formatFrameRate(frameRate)} fps`;
  if (counting.unit === 'frames') return `Frames ${first} to ${last} at ${rate}.`;
  if (counting.unit === 'seconds') return `Seconds from the start of the scene, ${first} to ${last}, at ${rate}.`;
  const kind = hasDropFrame(frameRate) ? (counting.drop ? ', drop-frame' : ', non-drop') : '';
  return `Timecode ${first} to ${last} at ${rate}${kind}.`;
}
