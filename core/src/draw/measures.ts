/** What a mouth shows, measured from its parameters. Lengths in the mouth's own units. */
import { mouthGeometry } from './mouthGeometry.js';
import type { MouthShape } from './mouthShape.js';

export interface MouthMeasures {
  /** Height of the opening at the middle. */
  readonly opening: number;
  /** Width of the opening from corner to corner. */
  readonly width: number;
  /** Share of the opening's height that teeth cover, 0 to 1. */
  readonly teeth: number;
}

export function measureShape(shape: MouthShape): MouthMeasures {
  const { top, bottom, halfWidth } = mouthGeometry(shape);
  const opening = bottom - top;
  const upper = Math.min(24, opening * 0.66) * shape.teethUpper;
  const lower = Math.min(20, opening * 0.48) * shape.teethLower;
  return { opening, width: halfWidth * 2, teeth: opening < 2.5 ? 0 : Math.min(1, (upper + lower) / opening) };
}
