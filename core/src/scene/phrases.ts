/**
 * The scene cut into systems for the bar sheet: each row one stretch of the scene that
 * fits its width, broken at a pause where there is one, else between words; never inside
 * a word.
 */
import type { Span } from '../time/span.js';

/** A row: its whole frames, and where exactly its words begin and end, up to a frame past them, so that no word is cut. */
export interface SystemStretch extends Span {
  readonly wordsFrom: number;
  readonly wordsTo: number;
}

/** Costs of a row: being there at all, ending where nobody pauses, and the square of the share of it left empty. */
const ROW_COST = 0.6;
const CUT_COST = 0.7;

interface Break {
  readonly at: number;
  /** Where the words part, fractions of a frame allowed. */
  readonly exact: number;
  readonly isPause: boolean;
}

const pauseAt = (at: number): Break => ({ at, exact: at, isPause: true });

/** Where a row may end between two words: in a pause soon after the one, or shortly before the other so that its lead and breath are with it. */
function breaksInGap(before: number, after: number, pauseFrames: number): Break[] {
  const gap = after - before;
  if (gap < pauseFrames) return [{ at: Math.floor(after - gap / 2), exact: after - gap / 2, isPause: false }];
  const margin = Math.min(pauseFrames / 2, gap / 2);
  return [...new Set([Math.ceil(before + margin), Math.floor(after - margin)])].map((at) => ({ at, exact: at, isPause: true }));
}

function breaksBetween(words: readonly Span[], lengthFrames: number, pauseFrames: number): Break[] {
  const opening = words[0] && words[0].from >= pauseFrames ? [pauseAt(Math.floor(words[0].from - pauseFrames / 2))] : [];
  const between = words.slice(1).flatMap((word, index) => breaksInGap(words[index]!.to, word.from, pauseFrames));
  return [...opening, ...between].filter(({ at }) => at > 0 && at < lengthFrames);
}

/** Rows of at most `mostFrames` where no word boundary helps: a silence or one endless word. */
function withRoom(breaks: readonly Break[], lengthFrames: number, mostFrames: number): Break[] {
  const filled: Break[] = [pauseAt(0)];
  for (const next of [...breaks, pauseAt(lengthFrames)]) {
    while (next.at - filled.at(-1)!.at > mostFrames) filled.push({ ...pauseAt(filled.at(-1)!.at + mostFrames), isPause: false });
    if (next.at > filled.at(-1)!.at) filled.push(next);
  }
  return filled;
}

export interface Systems {
  readonly stretches: readonly SystemStretch[];
  /** Lower is better set; comparable between different `mostFrames`. */
  readonly cost: number;
}

/**
 * The cheapest way to set a scene in rows, found exactly by dynamic programming over the
 * places where a row may end, as a paragraph is set in lines.
 *
 * @param words sorted, in frames
 * @param mostFrames most frames a row holds
 * @param pauseFrames a gap between words at least this long is a pause
 * @returns stretches that cover `[0, lengthFrames)` without a gap
 */
export function cutIntoSystems(words: readonly Span[], lengthFrames: number, mostFrames: number, pauseFrames: number): Systems {
  const breaks = withRoom(breaksBetween(words, lengthFrames, pauseFrames), lengthFrames, mostFrames);
  const best: { cost: number; from: number }[] = [{ cost: 0, from: -1 }];
  let earliest = 0;
  for (let end = 1; end < breaks.length; end++) {
    const { at, isPause } = breaks[end]!;
    while (at - breaks[earliest]!.at > mostFrames) earliest += 1;
    const row = ROW_COST + (isPause ? 0 : CUT_COST);
    let [least, from] = [Number.POSITIVE_INFINITY, earliest];
    for (let start = earliest; start < end; start++) {
      const before = breaks[start]!.at;
      const empty = 1 - (at - before) / mostFrames;
      // Rows before this one, all of them full, and this one: the later it starts the more they cost.
      if (ROW_COST * Math.ceil(before / mostFrames) + row + empty * empty > least) break;
      const cost = best[start]!.cost + row + empty * empty;
      if (cost <= least) [least, from] = [cost, start];
    }
    best[end] = { cost: least, from };
  }
  const stretches: SystemStretch[] = [];
  for (let end = breaks.length - 1; end > 0; end = best[end]!.from) {
    const [start, stop] = [breaks[best[end]!.from]!, breaks[end]!];
    stretches.unshift({ from: start.at, to: stop.at, wordsFrom: start.exact, wordsTo: stop.exact });
  }
  return { stretches, cost: best.at(-1)!.cost };
}
