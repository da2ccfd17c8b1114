/** What is asked of the keying, and what it answers. */
import type { Span } from '../time/span.js';
import type { ChartDocument } from '../chart/chart.js';
import type { FrameRate } from '../time/frameRate.js';
import type { KeyingRules } from './rules.js';

/** A sound of the scene; samples at 48 000 Hz counted from the scene's frame 0. */
export interface SceneSound {
  readonly symbol: string;
  readonly stress?: 0 | 1 | 2;
  readonly from: number;
  readonly to: number;
}

/** Frames the animator has decided. */
export interface InkedSpan extends Span {
  readonly drawing: string;
}

export interface KeyedExposure extends Span {
  readonly drawing: string;
  /** The sound group it was chosen for. */
  readonly group: string;
  /** Indexes of the sounds it plays. */
  readonly plays: readonly number[];
}

export interface NotShown {
  readonly sound: number;
  readonly symbol: string;
  /** Why, as a sentence. */
  readonly reason: string;
  /** The sound that took its frames; null when ink did, or the scene's end. */
  readonly collidedWith: number | null;
}

export interface Keyed {
  /** Sorted; together with the ink they cover the scene. */
  readonly exposures: readonly KeyedExposure[];
  readonly notShown: readonly NotShown[];
}

/** A stretch of the scene keyed by rules of its own; samples at 48 000 Hz counted from the scene's frame 0. */
export interface RuledPhrase {
  readonly from: number;
  readonly to: number;
  readonly rules: KeyingRules;
  /** How loud each frame of the scene is between its own floor and peak, where they are not those of the job; shape: lengthFrames. */
  readonly loudness?: Float32Array;
}

export interface KeyingJob {
  /** Sorted by `from`. */
  readonly sounds: readonly SceneSound[];
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  /** The number shown for frame 0, in what is said of frames; left out they are counted from 0, and that is said. */
  readonly firstFrame?: number;
  readonly chart: ChartDocument;
  readonly rules: KeyingRules;
  /** Sorted and disjoint; the rules of the job hold everywhere else. */
  readonly phrases?: readonly RuledPhrase[];
  readonly ink?: readonly InkedSpan[];
  /** How loud each frame of the scene is, 0 (the clip's floor) to 1 (its peak); shape: lengthFrames. */
  readonly loudness?: Float32Array;
  /** How much of each frame is hiss, 0 to 1; shape: lengthFrames. */
  readonly hiss?: Float32Array;
}
