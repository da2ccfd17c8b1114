/** What each of some objects becomes; one that comes more than once becomes one object, so that it is still known for the same. */
export function mapOnce<T extends object, U>(values: readonly T[], change: (value: T) => U): U[] {
  const known = new Map<T, U>();
  return values.map((value) => {
    if (!known.has(value)) known.set(value, change(value));
    return known.get(value)!;
  });
}
