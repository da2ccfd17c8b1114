/**
 * What a drawing is made of. Three kinds: built from parameters, drawn with a pen, or a
 * placed picture. Art has units of its own (a picture's are its pixels); a placement takes
 * them to the chart's square, whose origin is the middle of the upper lip.
 */
import type { Push } from './madeDrawings.js';
import type { MouthStyle } from './mouthFigure.js';
import type { Point } from './mouthGeometry.js';
import { maybeFaultOfShape, type MouthShape } from './mouthShape.js';
import type { MouthMeasures } from './measures.js';
import { isHash, isNumberWithin } from '../document/checks.js';

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A mouth from parameters, in the chart's own units. */
export interface BuiltArt {
  readonly kind: 'built';
  readonly shape: MouthShape;
  /** Where this mouth is finished otherwise than its chart. */
  readonly style?: Partial<MouthStyle>;
}

/** A pen line: x, y and pressure (0 to 1) of each point, one after the other. */
export interface LineMark {
  readonly id: string;
  readonly kind: 'line';
  readonly points: readonly number[];
  /** Width at full pressure. */
  readonly size: number;
  readonly colour: string;
}

/** A filled area: closed rings of x, y one after the other; a ring inside another is a hole. */
export interface FillMark {
  readonly id: string;
  readonly kind: 'fill';
  readonly rings: readonly (readonly number[])[];
  readonly colour: string;
}

export type Mark = LineMark | FillMark;

/** A picture to draw over. It is never handed on. */
export interface Reference {
  /** Content hash. */
  readonly picture: string;
  /** Where it lies in the chart's units. */
  readonly box: Box;
  /** 0 to 1. */
  readonly opacity: number;
}

/** A mouth drawn with the pen, back to front, in the chart's own units. */
export interface DrawnArt {
  readonly kind: 'drawn';
  readonly marks: readonly Mark[];
  readonly reference?: Reference;
}

/** A picture, in its own pixels. */
export interface PlacedArt {
  readonly kind: 'placed';
  /** Content hash of the picture. */
  readonly picture: string;
  /** Content hash of a small copy for cards and the tray. */
  readonly preview: string;
  readonly width: number;
  readonly height: number;
  /** The part of the picture that is not empty ground. */
  readonly ink: Box;
  /** Where its top left corner was on the page it was cut from, in the page's pixels. */
  readonly page?: Point;
  /** Measured from the picture; lengths in its pixels. */
  readonly measures: MouthMeasures;
}

export type Art = BuiltArt | DrawnArt | PlacedArt;

/** Takes a point of the art to the chart: `p · scale + (x, y)`. */
export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** One picture of a mouth, registered. */
export interface Look {
  readonly art: Art;
  readonly placement: Placement;
  /** The middle of the upper lip in the art's units, where the animator has marked it. */
  readonly cross?: Point;
  /** Stretched and turned about the cross, of a drawing made so for some frames; no chart keeps it. */
  readonly push?: Push;
}

export const AS_IT_IS: Placement = { x: 0, y: 0, scale: 1 };

/** The most a drawn mouth may hold. */
export const DRAWN_LIMITS = { marks: 600, numbers: 150_000 } as const;

/** How far registration may move and scale. */
export const PLACEMENT_LIMITS = { offset: 5000, leastScale: 0.002, mostScale: 50 } as const;

const COLOUR = /^#[0-9a-f]{6}$/i;

function maybeFaultOfMark(mark: Mark): string | undefined {
  const isList = (numbers: unknown): boolean => Array.isArray(numbers) && numbers.every((value) => isNumberWithin(value, -1000, 1000));
  if (!mark || typeof mark.id !== 'string' || !COLOUR.test(mark.colour)) return 'a mark without an id or a colour';
  if (mark.kind === 'line')
    return isList(mark.points) && mark.points.length % 3 === 0 && mark.points.length > 0 && isNumberWithin(mark.size, 0.1, 40)
      ? undefined
      : 'a line whose points or width are out of range';
  if (mark.kind !== 'fill') return 'a mark that is neither line nor fill';
  const isRing = (ring: readonly number[]): boolean => isList(ring) && ring.length % 2 === 0 && ring.length >= 6;
  return Array.isArray(mark.rings) && mark.rings.length > 0 && mark.rings.every(isRing) ? undefined : 'a fill without an outline';
}

function maybeFaultOfDrawn({ marks, reference }: DrawnArt): string | undefined {
  if (!Array.isArray(marks)) return 'no list of marks';
  const numbers = (marks as Mark[]).reduce(
    (sum, mark) => sum + (mark.kind === 'line' ? mark.points?.length : mark.rings?.flat().length),
    0,
  );
  if (marks.length > DRAWN_LIMITS.marks || !(numbers <= DRAWN_LIMITS.numbers)) return 'more lines than one mouth may hold';
  if (reference && (!isHash(reference.picture) || !isNumberWithin(reference.opacity, 0, 1))) return 'a reference that is no picture';
  for (const mark of marks as Mark[]) {
    const fault = maybeFaultOfMark(mark);
    if (fault) return fault;
  }
  return undefined;
}

function maybeFaultOfPlaced({ picture, preview, width, height, ink, measures }: PlacedArt): string | undefined {
  if (!isHash(picture) || !isHash(preview)) return 'no picture';
  if (!isNumberWithin(width, 1, 20_000) || !isNumberWithin(height, 1, 20_000)) return 'a picture without a size';
  const lengths = [ink?.x, ink?.y, ink?.width, ink?.height, measures?.opening, measures?.width, measures?.teeth, measures?.darkness];
  return lengths.every((value) => isNumberWithin(value, -20_000, 20_000)) ? undefined : 'a picture that was not measured';
}

function maybeFaultOfArt(art: Art): string | undefined {
  if (!art || typeof art !== 'object') return 'no art';
  if (art.kind === 'placed') return maybeFaultOfPlaced(art);
  if (art.kind === 'drawn') return maybeFaultOfDrawn(art);
  if (art.kind !== 'built') return 'art of an unknown kind';
  if (!art.shape || maybeFaultOfShape(art.shape)) return 'a shape whose numbers are missing or out of range';
  return art.style ? maybeFaultOfStyle(art.style) : undefined;
}

/** What is wrong with a finish, whole or in part. */
export function maybeFaultOfStyle(style: Partial<MouthStyle>): string | undefined {
  for (const [key, value] of Object.entries(style)) {
    if (key === 'weight' ? !isNumberWithin(value, 0, 20) : key === 'rim' ? !isNumberWithin(value, 0, 1) : !COLOUR.test(String(value)))
      return `a finish whose ${key} is “${String(value)}”`;
  }
  return undefined;
}

/** What is wrong with a look, as the end of a sentence (“… has no picture”); undefined when nothing is. */
export function maybeFaultOfLook(look: Look): string | undefined {
  const { offset, leastScale, mostScale } = PLACEMENT_LIMITS;
  const { placement, cross } = look;
  const isPoint = (point: Point | undefined): boolean =>
    !!point && isNumberWithin(point.x, -20_000, 20_000) && isNumberWithin(point.y, -20_000, 20_000);
  if (!placement || !isNumberWithin(placement.x, -offset, offset) || !isNumberWithin(placement.y, -offset, offset))
    return `a place outside −${offset} to ${offset}`;
  if (!isNumberWithin(placement.scale, leastScale, mostScale)) return `a scale outside ${leastScale} to ${mostScale}`;
  if (cross !== undefined && !isPoint(cross)) return 'a cross that is no point';
  return maybeFaultOfArt(look.art);
}

/** The content hashes of every picture a look needs. */
export function picturesOfLook({ art }: Look): string[] {
  if (art.kind === 'placed') return [art.picture, art.preview];
  return art.kind === 'drawn' && art.reference ? [art.reference.picture] : [];
}
