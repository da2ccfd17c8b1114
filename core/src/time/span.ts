/** Half-open spans `[from, to)`, of frames or of samples, and what is done with them. A span with `to ≤ from` holds nothing. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** Whether two spans share anything. @example overlaps({ from: 0, to: 4 }, { from: 4, to: 9 }) // false */
export function overlaps(a: Span, b: Span): boolean {
  return a.from < b.to && b.from < a.to;
}

/** How much two spans share; below 0 by how far they lie apart. */
export function overlapOf(a: Span, b: Span): number {
  return Math.min(a.to, b.to) - Math.max(a.from, b.from);
}

/** The part of a span inside another; undefined where they share nothing. What else it has is kept. */
export function maybeCutTo<S extends Span>(span: S, within: Span): S | undefined {
  if (!overlaps(span, within)) return undefined;
  if (span.from >= within.from && span.to <= within.to) return span;
  return { ...span, from: Math.max(span.from, within.from), to: Math.min(span.to, within.to) };
}

/** What is left of a span when another is taken out: nothing, one part, or one before and one after. */
export function without<S extends Span>(span: S, taken: Span): S[] {
  if (!overlaps(span, taken)) return span.from < span.to ? [span] : [];
  return [...(span.from < taken.from ? [{ ...span, to: taken.from }] : []), ...(taken.to < span.to ? [{ ...span, from: taken.to }] : [])];
}

/** Spans sorted by start, those that overlap or touch as one. @example joined([{ from: 0, to: 2 }, { from: 1, to: 3 }]) // [{ from: 0, to: 3 }] */
export function joined(sorted: readonly Span[]): Span[] {
  const spans: Span[] = [];
  for (const { from, to } of sorted) {
    const last = spans.at(-1);
    if (last && from <= last.to) spans[spans.length - 1] = { from: last.from, to: Math.max(last.to, to) };
    else spans.push({ from, to });
  }
  return spans;
}

/** How far the spans up to each one reach. */
const reaches = new WeakMap<readonly Span[], Float64Array>();

function reachOf(sorted: readonly Span[]): Float64Array {
  let reach = reaches.get(sorted);
  if (!reach) {
    reach = new Float64Array(sorted.length);
    let most = Number.NEGATIVE_INFINITY;
    for (let index = 0; index < sorted.length; index++) reach[index] = most = Math.max(most, sorted[index]!.to);
    reaches.set(sorted, reach);
  }
  return reach;
}

/** The first index from `low` up to `high` for which a test holds that, once it holds, goes on holding; `high` when it never does. */
function firstIndex(high: number, holds: (index: number) => boolean): number {
  let low = 0;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/**
 * The spans that share something with a part, found by bisection.
 *
 * @param sorted by start; they may overlap. It must not be changed afterwards: what is found out of it is remembered
 */
export function spansWithin<S extends Span>(sorted: readonly S[], { from, to }: Span): S[] {
  const reach = reachOf(sorted);
  const first = firstIndex(sorted.length, (index) => reach[index]! > from);
  const end = firstIndex(sorted.length, (index) => sorted[index]!.from >= to);
  const found: S[] = [];
  for (let index = first; index < end; index++) if (sorted[index]!.to > from) found.push(sorted[index]!);
  return found;
}
