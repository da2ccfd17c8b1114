/**
 * At which playback speed a voice fits a model of adult voices. A shorter vocal tract
 * raises every formant by the same factor; played that much slower the voice is as the
 * model knows it (vocal tract length normalisation; L. Lee and R. Rose, 1996). Speakers
 * with higher voices have shorter tracts: in the classic measurements of vowels women speak
 * 1.7 times as high as men with formants 1.15 to 1.2 times as high, children 2 times and 1.3
 * times (G. Peterson and H. Barney, 1952; the factors from memory), so formants go with
 * about the cube root of pitch.
 */
const EXPONENT = 1 / 3;
/** A voice this high, in Hz, fits as it is. On two labelled voices of 92 and 172 Hz boundaries fit best at 0.92 and 1.15 times the speed. */
const FITS_AT = 110;
/** Speeds go in steps, so that the taps of a resampling are few. */
const STEP = 0.05;
export const SPEED_LIMITS = { slowest: 0.85, fastest: 1.9 } as const;

export function roundedSpeed(speed: number): number {
  const limited = Math.min(SPEED_LIMITS.fastest, Math.max(SPEED_LIMITS.slowest, speed));
  return Math.round(Math.round(limited / STEP) * STEP * 100) / 100;
}

/**
 * @param pitch in Hz; undefined when it is not known
 * @returns how many times slower to play the voice
 * @example speedForPitch(172) // 1.15
 */
export function speedForPitch(pitch: number | undefined): number {
  return pitch === undefined ? 1 : roundedSpeed((pitch / FITS_AT) ** EXPONENT);
}
