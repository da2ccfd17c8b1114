/**
 * SMPTE timecode, HH:MM:SS:FF. At 29.97 and 59.94 it is drop-frame, written with a
 * semicolon before the frames: the numbers :00 and :01 (:00 to :03 at 59.94) are left
 * out at the start of every minute that is not a multiple of ten, so that timecode
 * keeps up with the clock. No frame is dropped, only numbers (SMPTE ST 12-1:2014, 5.2.2).
 */
import type { FrameRate } from './frameRate.js';

/** Frame numbers counted to a second of timecode: 30 at 29.97. */
export function nominalFramesPerSecond(rate: FrameRate): number {
  return Math.round(rate.num / rate.den);
}

/** Numbers left out a minute: 2 at 29.97, 4 at 59.94, none elsewhere (23.976 has no drop-frame form). */
function droppedPerMinute(rate: FrameRate): number {
  const nominal = nominalFramesPerSecond(rate);
  return rate.den === 1001 && nominal % 30 === 0 ? nominal / 15 : 0;
}

/** Whether timecode leaves numbers out at this rate. */
export const hasDropFrame = (rate: FrameRate): boolean => droppedPerMinute(rate) > 0;

const twoDigits = (value: number): string => String(value).padStart(2, '0');

/**
 * Timecode of the frame counted from 0.
 *
 * @param drop false for a timecode that leaves no number out, and so falls behind the clock
 * @example formatTimecode({ num: 30000, den: 1001 }, 1800) // '00:01:00;02'
 */
export function formatTimecode(rate: FrameRate, frame: number, drop = true): string {
  const nominal = nominalFramesPerSecond(rate);
  const dropped = drop ? droppedPerMinute(rate) : 0;
  let counted = frame;
  if (dropped > 0) {
    const perMinute = nominal * 60 - dropped;
    const perTenMinutes = perMinute * 10 + dropped;
    const tens = Math.floor(frame / perTenMinutes);
    const within = frame % perTenMinutes;
    const minutesDropping = within < nominal * 60 ? 0 : 1 + Math.floor((within - nominal * 60) / perMinute);
    counted = frame + dropped * (9 * tens + minutesDropping);
  }
  const frames = counted % nominal;
  const seconds = Math.floor(counted / nominal);
  const separator = dropped > 0 ? ';' : ':';
  return (
    [Math.floor(seconds / 3600) % 24, Math.floor(seconds / 60) % 60, seconds % 60].map(twoDigits).join(':') + separator + twoDigits(frames)
  );
}

/**
 * The frame, counted from 0, that a timecode names; undefined for a timecode that does
 * not exist at this rate (a frame past the second's last, or a dropped number).
 */
export function maybeFrameOfTimecode(rate: FrameRate, timecode: string): number | undefined {
  const match = /^(\d{2}):([0-5]\d):([0-5]\d)[:;](\d{2})$/.exec(timecode.trim());
  if (!match) return undefined;
  const [hours, minutes, seconds, frames] = match.slice(1).map(Number) as [number, number, number, number];
  const nominal = nominalFramesPerSecond(rate);
  const dropped = droppedPerMinute(rate);
  if (frames >= nominal) return undefined;
  if (dropped > 0 && seconds === 0 && frames < dropped && minutes % 10 !== 0) return undefined;
  const totalMinutes = hours * 60 + minutes;
  const counted = (totalMinutes * 60 + seconds) * nominal + frames;
  return counted - dropped * (totalMinutes - Math.floor(totalMinutes / 10));
}
