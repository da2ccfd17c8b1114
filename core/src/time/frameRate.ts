/**
 * A frame rate is a rational number of frames a second, so that 29.97 is exactly
 * 30000/1001 and no frame drifts. Sound is counted in samples at 48 000 Hz, which
 * gives a whole number of samples per frame at 24, 25, 30, 12 and 15 fps.
 */

/** Frames a second as a fraction, e.g. `{num: 30000, den: 1001}` for 29.97. */
export interface FrameRate {
  readonly num: number;
  readonly den: number;
}

/** Samples a second of everything Zest Jaw keeps and plays. */
export const SAMPLE_RATE = 48_000;

/** The slowest and the fastest rate accepted, in frames a second. */
export const FRAME_RATE_LIMITS = { slowest: 1, fastest: 120 } as const;

/** The rates offered first, in frames a second: film, PAL and NTSC television, and replacement animation. */
export const USUAL_FRAME_RATES: readonly FrameRate[] = [
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30, den: 1 },
  { num: 24_000, den: 1001 },
  { num: 30_000, den: 1001 },
  { num: 12, den: 1 },
  { num: 15, den: 1 },
];

/** The NTSC rates are written 23.976, 29.97 and 59.94 but mean n·1000/1001 (SMPTE ST 12-1). */
const NTSC_SPELLINGS: Readonly<Record<string, FrameRate>> = {
  '23.976': { num: 24_000, den: 1001 },
  '23.98': { num: 24_000, den: 1001 },
  '29.97': { num: 30_000, den: 1001 },
  '59.94': { num: 60_000, den: 1001 },
};

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

/** True for a fraction of whole positive numbers inside {@link FRAME_RATE_LIMITS}. */
export function isFrameRate(rate: FrameRate): boolean {
  const { num, den } = rate;
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || num <= 0 || den <= 0) return false;
  if (num > 1e6 || den > 1e4) return false;
  const framesPerSecond = num / den;
  return framesPerSecond >= FRAME_RATE_LIMITS.slowest && framesPerSecond <= FRAME_RATE_LIMITS.fastest;
}

/**
 * Reads `"24"`, `"29.97"`, `"30000/1001"` or `"12.5"`; undefined when it is not a rate.
 *
 * @example maybeFrameRate('29.97') // { num: 30000, den: 1001 }
 */
export function maybeFrameRate(text: string): FrameRate | undefined {
  const trimmed = text.trim().replace(/\s*fps$/i, '');
  const ntsc = NTSC_SPELLINGS[trimmed];
  if (ntsc) return ntsc;
  const match = /^(\d{1,6})(?:\.(\d{1,3}))?(?:\s*\/\s*(\d{1,4}))?$/.exec(trimmed);
  if (!match) return undefined;
  const decimals = match[2] ?? '';
  if (decimals && match[3]) return undefined;
  const num = Number(match[1] + decimals);
  const den = match[3] ? Number(match[3]) : 10 ** decimals.length;
  const divisor = greatestCommonDivisor(num, den) || 1;
  const rate = { num: num / divisor, den: den / divisor };
  return isFrameRate(rate) ? rate : undefined;
}

/** `24`, `29.97` or `23.976`: as it is spoken, without the unit. */
export function formatFrameRate(rate: FrameRate): string {
  for (const [spelling, known] of Object.entries(NTSC_SPELLINGS)) {
    if (spelling !== '23.98' && known.num === rate.num && known.den === rate.den) return spelling;
  }
  return rate.den === 1 ? String(rate.num) : String(Number((rate.num / rate.den).toFixed(3)));
}

export function sameFrameRate(a: FrameRate, b: FrameRate): boolean {
  return a.num * b.den === b.num * a.den;
}

/** Frames a second as a plain number, for drawing and for words; never for keeping time. */
export function framesPerSecond(rate: FrameRate): number {
  return rate.num / rate.den;
}
