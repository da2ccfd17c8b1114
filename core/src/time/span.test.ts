/** Spans against the sets of whole numbers they stand for. */
import fc from 'fast-check';
import { joined, maybeCutTo, overlapOf, overlaps, spansWithin, without, type Span } from '../index.js';

const anySpan = fc
  .tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 9 }))
  .map(([from, length]): Span => ({ from, to: from + length }));
const anyFull = anySpan.filter(({ from, to }) => from < to);
const sorted = fc.array(anyFull, { maxLength: 20 }).map((spans) => [...spans].sort((a, b) => a.from - b.from));
const members = (...spans: readonly Span[]): number[] =>
  [...new Set(spans.flatMap(({ from, to }) => Array.from({ length: Math.max(0, to - from) }, (_, index) => from + index)))].sort(
    (a, b) => a - b,
  );
const shared = (a: Span, b: Span): number[] => members(a).filter((at) => members(b).includes(at));

it('overlap where they share a member, by as many as they share', () => {
  fc.assert(
    fc.property(anyFull, anyFull, (a, b) => {
      expect(overlaps(a, b)).toBe(shared(a, b).length > 0);
      expect(Math.max(0, overlapOf(a, b))).toBe(shared(a, b).length);
    }),
  );
});

it('are cut to what they share, and what is taken out leaves the rest', () => {
  fc.assert(
    fc.property(anyFull, anySpan, (a, b) => {
      const cut = maybeCutTo(a, b);
      expect(cut ? members(cut) : []).toEqual(shared(a, b));
      expect(members(...without(a, b))).toEqual(members(a).filter((at) => !members(b).includes(at)));
      expect(without(a, b).every(({ from, to }) => from < to)).toBe(true);
    }),
  );
  expect(maybeCutTo({ from: 0, to: 9, drawing: 'drop' }, { from: 2, to: 4 })).toEqual({ from: 2, to: 4, drawing: 'drop' });
});

it('joined have the same members, and gaps between', () => {
  fc.assert(
    fc.property(sorted, (spans) => {
      const all = joined(spans);
      expect(members(...all)).toEqual(members(...spans));
      for (let index = 1; index < all.length; index++) expect(all[index]!.from).toBeGreaterThan(all[index - 1]!.to);
    }),
  );
});

it('within a part are found by bisection as by asking each', () => {
  fc.assert(
    fc.property(sorted, anyFull, (spans, part) => expect(spansWithin(spans, part)).toEqual(spans.filter((span) => overlaps(span, part)))),
  );
});
