/** What was keyed by hand beside the crib: where they differ, how much is the same, and how far the hand is early or late. */

interface HeldDrawing {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
}

export interface CribComparison {
  /** Frames keyed by hand. */
  readonly frames: number;
  /** Share of them with the same drawing as the crib, 0 to 1; 1 when there are none. */
  readonly same: number;
  /** Starts that have a start of the same drawing near them in the crib. */
  readonly matched: number;
  /** Their mean distance, in frames; positive when the hand is later. */
  readonly meanOffset: number;
  /** Frames keyed by hand that differ, as spans, in order. */
  readonly differs: readonly { readonly from: number; readonly to: number }[];
}

/** A start further away than this is another one, in frames. */
const NEAR = 6;

/**
 * @param hand exposures keyed by hand, sorted and disjoint; the frames between them are not compared
 * @param crib exposures that cover the scene, sorted
 */
export function compareWithCrib(hand: readonly HeldDrawing[], crib: readonly HeldDrawing[]): CribComparison {
  let [frames, same] = [0, 0];
  const differs: { from: number; to: number }[] = [];
  const offsets: number[] = [];
  for (const { from, to, drawing } of hand) {
    frames += to - from;
    for (const planned of crib) {
      const [start, end] = [Math.max(from, planned.from), Math.min(to, planned.to)];
      if (start >= end) continue;
      if (planned.drawing === drawing) same += end - start;
      else if (differs.at(-1)?.to === start) differs.at(-1)!.to = end;
      else differs.push({ from: start, to: end });
    }
    const near = crib.filter((planned) => planned.drawing === drawing).map((planned) => from - planned.from);
    const offset = near.reduce((best, away) => (Math.abs(away) < Math.abs(best) ? away : best), Infinity);
    if (Math.abs(offset) <= NEAR) offsets.push(offset);
  }
  return {
    frames,
    same: frames === 0 ? 1 : same / frames,
    matched: offsets.length,
    meanOffset: offsets.length === 0 ? 0 : offsets.reduce((sum, offset) => sum + offset, 0) / offsets.length,
    differs,
  };
}
