/** One stretch of frames laid along x: both directions of the mapping in one object. */
export interface TimeScale {
  readonly fromFrame: number;
  readonly toFrame: number;
  /** Pixels a frame. */
  readonly perFrame: number;
  /** x in pixels of a frame's left edge; fractions of a frame are allowed. */
  x(frame: number): number;
  /** The whole frame under x, kept inside the stretch. */
  frame(x: number): number;
}

/** x of a frame's edge may round to just below it; this much of a frame still counts as inside. */
const EDGE = 1e-9;

/**
 * @param left x of `fromFrame`'s left edge, in pixels
 * @example timeScale(10, 20, 46, 12).x(11) // 58
 */
export function timeScale(fromFrame: number, toFrame: number, left: number, perFrame: number): TimeScale {
  return {
    fromFrame,
    toFrame,
    perFrame,
    x: (frame) => left + (frame - fromFrame) * perFrame,
    frame: (x) => Math.min(toFrame - 1, Math.max(fromFrame, fromFrame + Math.floor((x - left) / perFrame + EDGE))),
  };
}
