/** What a mouth shows, measured from its parameters. Lengths in the mouth's own units. */
import { mouthGeometry } from './mouthGeometry.js';
import type { MouthShape } from './mouthShape.js';

export interface MouthMeasures {
  /** Height of the opening where it is highest. */
  readonly opening: number;
  /** Width of the mouth from corner to corner. */
  readonly width: number;
  /** Share of the opening that teeth cover, 0 to 1. */
  readonly teeth: number;
  /** Share of the opening that is the dark of the mouth, 0 to 1. */
  readonly darkness: number;
}

/** Openings lower than this are a line, not a hole. */
export const SHUT_BELOW = 2.5;

export function measureShape(shape: MouthShape): MouthMeasures {
  const { top, bottom, halfWidth } = mouthGeometry(shape);
  const opening = bottom - top;
  const upper = Math.min(24, opening * 0.66) * shape.teethUpper;
  const lower = Math.min(20, opening * 0.48) * shape.teethLower;
  const isShut = opening < SHUT_BELOW;
  const teeth = isShut ? 0 : Math.min(1, (upper + lower) / opening);
  const tongue = shape.tongue > 0.02 ? 0.2 + 0.42 * shape.tongue : 0;
  const covered = Math.max(tongue, 0.55 * shape.tipUp, 0.4 * shape.tipOut);
  return { opening, width: halfWidth * 2, teeth, darkness: isShut ? 0 : Math.max(0, 1 - teeth) * (1 - Math.min(1, covered)) };
}
