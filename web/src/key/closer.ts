/** Coming closer to the easel, and looking aside, never past its edge. */
import type { Closer } from '../mouth/Easel.js';

export const AS_A_WHOLE: Closer = { scale: 1, x: 0, y: 0 };

const MOST = 12;

/** As far aside as leaves no edge in sight. */
function within({ scale, x, y }: Closer): Closer {
  const most = (scale - 1) / 2;
  const held = (aside: number): number => Math.min(most, Math.max(-most, aside)) + 0;
  return { scale, x: held(x), y: held(y) };
}

/** Closer by a factor about the middle of what is seen. @example closerBy(AS_A_WHOLE, 2).scale // 2 */
export function closerBy({ scale, x, y }: Closer, factor: number): Closer {
  const next = Math.min(MOST, Math.max(1, scale * factor));
  return within({ scale: next, x: (x * next) / scale, y: (y * next) / scale });
}

/** Moved aside, in shares of the easel. */
export function movedBy({ scale, x, y }: Closer, dx: number, dy: number): Closer {
  return within({ scale, x: x + dx, y: y + dy });
}
