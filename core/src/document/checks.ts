/** Small questions asked of records that come from outside. */

/** A finite number from `least` to `most`. */
export function isNumberWithin(value: unknown, least: number, most: number): value is number {
  return typeof value === 'number' && value >= least && value <= most;
}

/** A SHA-256 in hex: how pictures and recordings are referred to. */
export function isHash(value: unknown): value is string {
  return typeof value === 'string' && /^[0-9a-f]{64}$/.test(value);
}
