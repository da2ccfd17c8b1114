/**
 * A built head: a plain stand-in for a character that has no head drawing yet. Its chin
 * follows the jaw. Drawn in a square of 400 units, the mouth's cross at (200, 262).
 */
import type { FigurePath } from './mouthFigure.js';

/** Each number from 0 to 1; colours are `#rrggbb`. */
export interface HeadShape {
  /** From a narrow head to a wide one. */
  readonly breadth: number;
  /** From a pointed chin to a square one. */
  readonly chin: number;
  readonly cheeks: number;
  readonly eyeSize: number;
  /** From close together to far apart. */
  readonly eyeSpacing: number;
  readonly nose: number;
  readonly ears: number;
  readonly skin: string;
  readonly line: string;
}

export const BUILT_HEAD_SIZE = 400;
export const BUILT_HEAD_MOUTH = { x: 200, y: 262, scale: 1.25, angle: 0 } as const;
/** How far the chin goes down when the mouth is as open as the chart goes. */
const CHIN_TRAVEL = 34;

export const PLAIN_HEAD: HeadShape = {
  breadth: 0.5,
  chin: 0.5,
  cheeks: 0.4,
  eyeSize: 0.5,
  eyeSpacing: 0.5,
  nose: 0.4,
  ears: 0.4,
  skin: '#f0c08e',
  line: '#33202f',
};

const NUMBERS = ['breadth', 'chin', 'cheeks', 'eyeSize', 'eyeSpacing', 'nose', 'ears'] as const;

export function maybeFaultOfHeadShape(shape: HeadShape): string | undefined {
  if (!shape || typeof shape !== 'object') return 'shape';
  for (const key of NUMBERS) if (typeof shape[key] !== 'number' || !(shape[key] >= 0 && shape[key] <= 1)) return key;
  return (['skin', 'line'] as const).find((key) => !/^#[0-9a-f]{6}$/i.test(String(shape[key])));
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
const n = (value: number): string => String(Math.round(value * 10) / 10);

/** Both of a pair, left and right of the middle. */
const pair = (make: (side: -1 | 1) => FigurePath[]): FigurePath[] => [...make(-1), ...make(1)];

const ellipse = (x: number, y: number, rx: number, ry: number): string =>
  `M${n(x - rx)} ${n(y)}A${n(rx)} ${n(ry)} 0 1 0 ${n(x + rx)} ${n(y)}A${n(rx)} ${n(ry)} 0 1 0 ${n(x - rx)} ${n(y)}Z`;

/** Where a pair of eyes is: both alike, left and right of `x`. Lengths in the head's units. */
export interface EyesPlace {
  readonly x: number;
  readonly y: number;
  /** From the middle between them to the middle of one. */
  readonly apart: number;
  /** Half their width, half their height. */
  readonly across: number;
  readonly tall: number;
}

export function eyesOfShape(shape: HeadShape): EyesPlace {
  const across = mix(13, 27, shape.eyeSize);
  return { x: 200, y: 162, apart: mix(34, 66, shape.eyeSpacing), across, tall: across * 1.14 };
}

/**
 * The head's paths, back to front.
 *
 * @param jawDrop how far the jaw is down, 0 to 1
 */
export function headFigure(shape: HeadShape, jawDrop: number): FigurePath[] {
  const half = mix(104, 148, shape.breadth);
  const chinHalf = mix(34, 92, shape.chin);
  const cheek = half + mix(-6, 16, shape.cheeks);
  const chinY = 346 + CHIN_TRAVEL * jawDrop;
  const outline = { stroke: shape.line, strokeWidth: 6 };
  const face =
    `M200 52C${n(200 + half * 0.72)} 52 ${n(200 + half)} 108 ${n(200 + half)} 176` +
    `C${n(200 + cheek)} 232 ${n(200 + cheek * 0.92)} 276 ${n(200 + chinHalf + 22)} ${n(chinY - 34)}` +
    `C${n(200 + chinHalf)} ${n(chinY)} ${n(200 - chinHalf)} ${n(chinY)} ${n(200 - chinHalf - 22)} ${n(chinY - 34)}` +
    `C${n(200 - cheek * 0.92)} 276 ${n(200 - cheek)} 232 ${n(200 - half)} 176C${n(200 - half)} 108 ${n(200 - half * 0.72)} 52 200 52Z`;
  const ear = mix(12, 34, shape.ears);
  const { apart, across: eye, tall } = eyesOfShape(shape);
  const nose = mix(7, 22, shape.nose);
  return [
    ...pair((side) => [{ path: ellipse(200 + side * (half + ear * 0.3), 186, ear, ear * 1.3), fill: shape.skin, ...outline }]),
    { path: face, fill: shape.skin, ...outline },
    ...pair((side) => [
      { path: ellipse(200 + side * apart, 162, eye, tall), fill: '#fffdf6', stroke: shape.line, strokeWidth: 4.5 },
      { path: ellipse(200 + side * apart, 166, eye * 0.42, eye * 0.5), fill: shape.line },
    ]),
    {
      path: `M${n(200 - nose * 0.7)} 212C${n(200 - nose)} ${n(212 + nose)} ${n(200 + nose)} ${n(212 + nose)} ${n(200 + nose * 0.7)} 212`,
      ...outline,
      strokeWidth: 4.5,
    },
  ];
}
