/**
 * Handles on a built mouth: points of the drawing that can be taken hold of. Each says where
 * it lies for a shape, and which parameter moves it along and down; dragging looks for the
 * value of that parameter that brings the point to the pointer.
 */
import { mouthGeometry, type Point } from './mouthGeometry.js';
import { limitsOfParameter, type MouthShape } from './mouthShape.js';

export interface MouthHandle {
  readonly id: string;
  /** What it does, for the label. */
  readonly label: string;
  readonly at: (shape: MouthShape) => Point;
  /** Where it is shown beside that point, so that handles of a shut mouth do not lie on one another. */
  readonly beside: Point;
  readonly along?: keyof MouthShape;
  readonly down?: keyof MouthShape;
  /** What is inside can only be taken hold of when the mouth is open. */
  readonly inside: boolean;
}

/** Openings lower than this hide the handles inside, in the mouth's units. */
const OPEN_ENOUGH = 9;

const height = (shape: MouthShape): number => {
  const { top, bottom } = mouthGeometry(shape);
  return bottom - top;
};

export const MOUTH_HANDLES: readonly MouthHandle[] = [
  {
    id: 'corner',
    label: 'Corner: width and smile',
    at: (shape) => mouthGeometry(shape).opening[4],
    beside: { x: 7, y: 0 },
    along: 'width',
    down: 'smile',
    inside: false,
  },
  {
    id: 'jaw',
    label: 'Jaw, and to one side',
    at: (shape) => mouthGeometry(shape).opening[6],
    beside: { x: 0, y: 9 },
    along: 'skew',
    down: 'jaw',
    inside: false,
  },
  { id: 'round', label: 'Rounded', at: (shape) => mouthGeometry(shape).opening[3], beside: { x: 5, y: -7 }, down: 'round', inside: false },
  {
    id: 'upperLip',
    label: 'Upper lip',
    at: (shape) => mouthGeometry(shape).lips[2],
    beside: { x: 0, y: -7 },
    down: 'upperLip',
    inside: false,
  },
  {
    id: 'lowerLip',
    label: 'Lower lip',
    at: (shape) => mouthGeometry(shape).lips[7],
    beside: { x: -6, y: 7 },
    down: 'lowerLip',
    inside: false,
  },
  {
    id: 'teethUpper',
    label: 'Upper teeth',
    at: (shape) => ({ x: -14, y: mouthGeometry(shape).top + Math.min(24, height(shape) * 0.66) * shape.teethUpper }),
    beside: { x: 0, y: 0 },
    down: 'teethUpper',
    inside: true,
  },
  {
    id: 'teethLower',
    label: 'Lower teeth',
    at: (shape) => ({ x: 14, y: mouthGeometry(shape).bottom - Math.min(20, height(shape) * 0.48) * shape.teethLower }),
    beside: { x: 0, y: 0 },
    down: 'teethLower',
    inside: true,
  },
  {
    id: 'tongue',
    label: 'Tongue',
    at: (shape) => ({ x: 0, y: mouthGeometry(shape).bottom - height(shape) * (0.2 + 0.42 * shape.tongue) }),
    beside: { x: 0, y: 0 },
    down: 'tongue',
    inside: true,
  },
];

/** The handles that can be taken hold of on a mouth. */
export function handlesOfShape(shape: MouthShape): readonly MouthHandle[] {
  return height(shape) >= OPEN_ENOUGH ? MOUTH_HANDLES : MOUTH_HANDLES.filter((handle) => !handle.inside);
}

/** Steps of halving: the value is exact to a ten-thousandth. */
const HALVINGS = 16;

/** The value of a parameter, within its limits, that brings a point nearest to a coordinate; the point must go one way as the parameter grows. */
function valueFor(shape: MouthShape, key: keyof MouthShape, coordinate: (shape: MouthShape) => number, target: number): number {
  let { least: low, most: high } = limitsOfParameter(key);
  const at = (value: number): number => coordinate({ ...shape, [key]: value });
  const grows = at(high) > at(low);
  for (let step = 0; step < HALVINGS; step++) {
    const middle = (low + high) / 2;
    if (at(middle) < target === grows) low = middle;
    else high = middle;
  }
  return Math.round(((low + high) / 2) * 1000) / 1000;
}

/**
 * What a drag of a handle to a point changes.
 *
 * @param to where the handle itself, not its mark beside it, is to go
 */
export function dragHandle(shape: MouthShape, handle: MouthHandle, to: Point): Partial<MouthShape> {
  const changes: { -readonly [key in keyof MouthShape]?: number } = {};
  if (handle.down) changes[handle.down] = valueFor(shape, handle.down, (candidate) => handle.at(candidate).y, to.y);
  const moved = { ...shape, ...changes };
  if (handle.along) changes[handle.along] = valueFor(moved, handle.along, (candidate) => handle.at(candidate).x, to.x);
  return changes;
}
