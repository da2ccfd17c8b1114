/**
 * Numbered pictures: one a frame, and a plan of which frames share a picture, so that each
 * distinct one is rendered once. A base name has no digit, so that the four-digit number
 * after it can always be told from it.
 */
import type { ChartDocument } from '../chart/chart.js';
import { lookIndexAt, lookOf, maybeDrawing } from '../chart/chart.js';
import { faceToSvg } from '../chart/headToSvg.js';
import { MOUTH_BOX } from '../draw/mouthFigure.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { exposuresOfTrack } from '../scene/exposures.js';

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

/** What one frame shows: a drawing, and which of its looks. */
export interface FrameLook {
  readonly chartId: string;
  readonly drawing: string;
  readonly look: number;
}

/**
 * One frame's picture as SVG on a transparent ground. Without a head the mouth fills the
 * picture, every drawing with its cross in the same place.
 *
 * @param shown undefined for a frame with no mouth: the picture is empty, or the head alone
 * @param hrefOf the bytes of a picture as a data URI, by content hash
 */
export function pictureSvg(
  chart: ChartDocument,
  shown: Pick<FrameLook, 'drawing' | 'look'> | undefined,
  { width, height, withHead }: Pick<PictureOptions, 'width' | 'height'> & { readonly withHead: boolean },
  hrefOf: (hash: string) => string = () => '',
): string {
  const drawing = shown && maybeDrawing(chart, shown.drawing);
  const head = withHead ? chart.head[0] : undefined;
  const { x, y, width: across, height: down } = head ? { x: 0, y: 0, ...head } : MOUTH_BOX;
  const inner = faceToSvg(head ? chart : { ...chart, head: [] }, drawing, drawing && lookOf(drawing, shown.look), {
    idPrefix: 'mouth',
    hrefOf: ({ picture }) => hrefOf(picture),
    hrefOfHash: hrefOf,
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${x} ${y} ${across} ${down}" preserveAspectRatio="xMidYMid meet">${inner}</svg>`;
}

/** What each frame of a track shows, undefined where nothing is exposed. Shape: one entry a frame. */
export function looksOfFrames(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
): (FrameLook | undefined)[] {
  const { lengthFrames } = sceneSettings(scene);
  const frames = new Array<FrameLook | undefined>(lengthFrames).fill(undefined);
  for (const { from, to, drawing: id } of exposuresOfTrack(scene, trackId)) {
    const { chartId } = chartStretchAt(scene, trackId, from)!;
    const chart = charts.get(chartId);
    const drawing = chart && maybeDrawing(chart, id);
    for (let frame = from; frame < Math.min(to, lengthFrames); frame++)
      frames[frame] = { chartId, drawing: id, look: drawing ? lookIndexAt(drawing, frame, from) : 0 };
  }
  return frames;
}
