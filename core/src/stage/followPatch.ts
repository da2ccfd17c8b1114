/** A marked patch followed from picture to picture by normalised cross-correlation. */
import type { Box } from '../draw/art.js';
import { valueAt, type GreyPicture } from './picture.js';

/** Where the patch is: how far its corner has come from where it was marked, in pixels, and how alike it looks, −1 to 1. */
export interface Followed {
  readonly x: number;
  readonly y: number;
  readonly likeness: number;
}

export const FOLLOW_LIMITS = { leastSide: 6, mostSide: 400, reach: 48, leastLikeness: 0.7 } as const;
/** Pixels between those looked at first, in the patch and between places. */
const COARSE = 2;
/** Of a patch that is flat nothing can be told. */
const LEAST_DEVIATION = 1e-3;

/** A patch cut out, its mean taken away, scaled to unit length; undefined where it is flat. */
interface Template {
  readonly width: number;
  readonly height: number;
  readonly values: Float64Array;
  readonly step: number;
}

/** Values of a rectangle on every so many pixels. Shape: rows × columns. */
function sampled(picture: GreyPicture, { x, y, width, height }: Box, step: number): Float64Array {
  const [columns, rows] = [Math.ceil(width / step), Math.ceil(height / step)];
  const within = (value: number, size: number): number => Math.max(0, Math.min(size - 1, value));
  return Float64Array.from({ length: columns * rows }, (_, index) =>
    valueAt(picture, within(x + (index % columns) * step, picture.width), within(y + Math.floor(index / columns) * step, picture.height)),
  );
}

function maybeTemplate(picture: GreyPicture, patch: Box, step: number): Template | undefined {
  const values = sampled(picture, patch, step);
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  let power = 0;
  for (let index = 0; index < values.length; index++) {
    values[index] = values[index]! - mean;
    power += values[index]! ** 2;
  }
  const length = Math.sqrt(power);
  if (length / Math.sqrt(values.length) < LEAST_DEVIATION) return undefined;
  return { width: patch.width, height: patch.height, step, values: values.map((value) => value / length) };
}

/**
 * The normalised cross-correlation of a template with the picture at a whole pixel: J. P. Lewis, “Fast Normalized
 * Cross-Correlation”, Vision Interface 1995, equation 2 (from memory).
 */
function likenessAt({ width, values }: GreyPicture, template: Template, x: number, y: number): number {
  const { step } = template;
  const [columns, rows] = [Math.ceil(template.width / step), Math.ceil(template.height / step)];
  let [sum, squares, product] = [0, 0, 0];
  for (let row = 0; row < rows; row++) {
    let at = (y + row * step) * width + x;
    const first = row * columns;
    for (let column = 0; column < columns; column++, at += step) {
      const value = values[at]!;
      sum += value;
      squares += value * value;
      product += value * template.values[first + column]!;
    }
  }
  const count = columns * rows;
  const power = squares - (sum * sum) / count;
  return power <= LEAST_DEVIATION ** 2 * count ? 0 : product / Math.sqrt(power);
}

/** The top of the parabola through three neighbours, −0.5 to 0.5 of the middle one. */
function peakOf(before: number, here: number, after: number): number {
  const bend = before - 2 * here + after;
  return bend >= 0 ? 0 : Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / bend));
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly likeness: number;
}

/** The likest place about a point, on every second pixel first, then to a fraction of one. */
function bestPlace(picture: GreyPicture, coarse: Template, fine: Template, about: { readonly x: number; readonly y: number }): Place {
  const { reach } = FOLLOW_LIMITS;
  const [most, lowest] = [picture.width - fine.width, picture.height - fine.height];
  const within = (value: number, limit: number): number => Math.max(0, Math.min(limit, Math.round(value)));
  const search = (template: Template, centre: { x: number; y: number }, far: number, step: number): Place => {
    let best: Place = { x: within(centre.x, most), y: within(centre.y, lowest), likeness: -1 };
    for (let y = within(centre.y - far, lowest); y <= within(centre.y + far, lowest); y += step)
      for (let x = within(centre.x - far, most); x <= within(centre.x + far, most); x += step) {
        const likeness = likenessAt(picture, template, x, y);
        if (likeness > best.likeness) best = { x, y, likeness };
      }
    return best;
  };
  const near = search(fine, search(coarse, about, reach, COARSE), COARSE, 1);
  const at = (dx: number, dy: number): number => {
    const [x, y] = [near.x + dx, near.y + dy];
    return x < 0 || y < 0 || x > most || y > lowest ? -1 : likenessAt(picture, fine, x, y);
  };
  return {
    x: near.x + peakOf(at(-1, 0), near.likeness, at(1, 0)),
    y: near.y + peakOf(at(0, -1), near.likeness, at(0, 1)),
    likeness: near.likeness,
  };
}

/** What is wrong with a patch on a picture, as a sentence; undefined when nothing is. */
export function maybeFaultOfPatch({ width, height }: Pick<GreyPicture, 'width' | 'height'>, patch: Box): string | undefined {
  const { leastSide, mostSide } = FOLLOW_LIMITS;
  if (patch.width < leastSide || patch.height < leastSide)
    return `The patch is ${patch.width} by ${patch.height} pixels. Mark one of at least ${leastSide} by ${leastSide}.`;
  if (patch.width > mostSide || patch.height > mostSide)
    return `The patch is ${patch.width} by ${patch.height} pixels. Mark one of at most ${mostSide} by ${mostSide}.`;
  if (patch.x < 0 || patch.y < 0 || patch.x + patch.width > width || patch.y + patch.height > height)
    return 'The patch reaches over the edge of the picture. Mark one that lies on it.';
  return undefined;
}

/**
 * Follows a patch that was marked on a picture. It is looked for as it was there, so that what is found does not creep; where it
 * has changed too much for that, as it was last.
 *
 * @param patch on the first picture; see {@link maybeFaultOfPatch}
 * @returns a function that is given the next picture and answers where the patch is, or that it is lost
 * @throws RangeError when the patch is flat, or not on the picture
 */
export function openFollower(first: GreyPicture, patch: Box): (next: GreyPicture) => Followed | 'lost' {
  const fault = maybeFaultOfPatch(first, patch);
  if (fault) throw new RangeError(fault);
  const templatesOf = (picture: GreyPicture, { x, y }: { readonly x: number; readonly y: number }): Template[] | undefined => {
    const found = [COARSE, 1].map((step) => maybeTemplate(picture, { ...patch, x, y }, step));
    return found.every((one) => one !== undefined) ? found : undefined;
  };
  const marked = templatesOf(first, patch);
  if (!marked) throw new RangeError('The patch is of one tone: nothing on it can be followed. Mark one with a spot or an edge on it.');
  let last: { readonly x: number; readonly y: number } = patch;
  let drift = { x: 0, y: 0 };
  let recent = marked;
  return (next) => {
    const about = { x: last.x + drift.x, y: last.y + drift.y };
    const [coarse, fine] = marked;
    let found = bestPlace(next, coarse!, fine!, about);
    if (found.likeness < FOLLOW_LIMITS.leastLikeness) {
      const [coarseNow, fineNow] = recent;
      found = bestPlace(next, coarseNow!, fineNow!, about);
    }
    if (found.likeness < FOLLOW_LIMITS.leastLikeness) return 'lost';
    drift = { x: found.x - last.x, y: found.y - last.y };
    last = found;
    recent = templatesOf(next, found) ?? recent;
    return { x: found.x - patch.x, y: found.y - patch.y, likeness: found.likeness };
  };
}
