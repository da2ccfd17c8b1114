/**
 * Numbered pictures: one a frame, and a plan of which frames share a picture, so that each
 * distinct one is rendered once. A base name has no digit, so that the four-digit number
 * after it can always be told from it.
 */
import type { ChartDocument } from '../chart/chart.js';
import { maybeDrawing } from '../chart/chart.js';
import { figureToSvg } from '../draw/figureToSvg.js';
import { MOUTH_BOX, mouthFigure } from '../draw/mouthFigure.js';

export interface PictureOptions {
  /** Letters, spaces, `-` and `_`; no digits. */
  readonly baseName: string;
  /** Number of the first picture, 0 to 9999. */
  readonly firstNumber: number;
  /** Pixels. */
  readonly width: number;
  readonly height: number;
}

export const PICTURE_LIMITS = { least: 16, most: 4096, lastNumber: 9999 } as const;

/** What is wrong with the options for a number of frames, as sentences; empty when nothing is. */
export function checkPictureOptions({ baseName, firstNumber, width, height }: PictureOptions, frames: number): string[] {
  const faults: string[] = [];
  const { least, most, lastNumber } = PICTURE_LIMITS;
  if (!/^[\p{L}_-]([\p{L} _-]{0,38}[\p{L}_-])?$/u.test(baseName)) {
    faults.push(
      `“${baseName}” cannot name the pictures. A base name has 1 to 40 letters, spaces, - or _, and no digits, because the picture's number follows it.`,
    );
  }
  if (!Number.isInteger(firstNumber) || firstNumber < 0 || firstNumber > lastNumber)
    faults.push(`The first number is ${firstNumber}. It must be a whole number from 0 to ${lastNumber}.`);
  else if (firstNumber + frames - 1 > lastNumber)
    faults.push(
      `${frames} pictures from ${firstNumber} would pass ${lastNumber}, the last number with four digits. Start at ${Math.max(0, lastNumber - frames + 1)} or below.`,
    );
  for (const [name, value] of [
    ['width', width],
    ['height', height],
  ] as const) {
    if (!Number.isInteger(value) || value < least || value > most)
      faults.push(`The ${name} is ${value} pixels. It may be ${least} to ${most}.`);
  }
  return faults;
}

/** `bramble` and 7 → `bramble0007.png`. */
export function pictureName(baseName: string, number: number): string {
  return `${baseName}${String(number).padStart(4, '0')}.png`;
}

/** A head behind the mouth: its SVG, its size in its own units, and where the mouth's cross sits on it. */
export interface Head {
  readonly svg: string;
  readonly width: number;
  readonly height: number;
  readonly mouth: { readonly x: number; readonly y: number; readonly scale: number; readonly angle: number };
}

const fitted = (width: number, height: number, viewBox: string, inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${viewBox}" preserveAspectRatio="xMidYMid meet">${inner}</svg>`;

/** The mouth's placement on a head as an SVG transform. */
export function mouthTransform({ x, y, scale, angle }: Head['mouth']): string {
  return `translate(${x} ${y}) rotate(${angle}) scale(${scale})`;
}

/**
 * One frame's picture as SVG on a transparent ground. Without a head the mouth fills the
 * picture, every drawing with its cross in the same place.
 *
 * @param drawingId undefined for a frame with no mouth: the picture is empty, or the head alone
 */
export function pictureSvg(
  chart: ChartDocument,
  drawingId: string | undefined,
  options: Pick<PictureOptions, 'width' | 'height'>,
  head?: Head,
): string {
  const drawing = drawingId === undefined ? undefined : maybeDrawing(chart, drawingId);
  const style = chart.settings[0]!.style;
  const mouth = drawing ? figureToSvg(mouthFigure(drawing.shape, style), 'mouth') : '';
  if (!head) {
    const { x, y, width, height } = MOUTH_BOX;
    return fitted(options.width, options.height, `${x} ${y} ${width} ${height}`, mouth);
  }
  const inner = head.svg.replace(/^[\s\S]*?<svg[^>]*>/, '').replace(/<\/svg>\s*$/, '');
  return fitted(
    options.width,
    options.height,
    `0 0 ${head.width} ${head.height}`,
    `${inner}<g transform="${mouthTransform(head.mouth)}">${mouth}</g>`,
  );
}

/** The drawing of each frame, undefined where nothing is exposed. Shape: one entry a frame. */
export function drawingOfEachFrame(
  exposures: readonly { from: number; to: number; drawing: string }[],
  lengthFrames: number,
): (string | undefined)[] {
  const frames = new Array<string | undefined>(lengthFrames).fill(undefined);
  for (const { from, to, drawing } of exposures) frames.fill(drawing, from, Math.min(to, lengthFrames));
  return frames;
}
