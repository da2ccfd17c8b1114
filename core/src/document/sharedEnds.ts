/**
 * How many items two lists share at their beginning, and how many of the rest at their end: the very same ones.
 *
 * @example sharedEnds(['a', 'b', 'c'], ['a', 'x', 'c']) // { head: 1, tail: 1 }
 */
export function sharedEnds(one: readonly unknown[], other: readonly unknown[]): { readonly head: number; readonly tail: number } {
  const most = Math.min(one.length, other.length);
  let head = 0;
  while (head < most && one[head] === other[head]) head += 1;
  let tail = 0;
  while (tail < most - head && one[one.length - 1 - tail] === other[other.length - 1 - tail]) tail += 1;
  return { head, tail };
}
