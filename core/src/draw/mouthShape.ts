/**
 * A built mouth is a handful of parameters. Its geometry is a continuous function of
 * them with the same points in every drawing, so any two mouths can be blended.
 *
 * Units: one hundredth of a mouth chart's square. The origin is the middle of the upper
 * lip, which hardly moves; y grows downwards, towards the jaw.
 */

/** Each from 0 to 1, except `smile` and `skew`, from −1 to 1. */
export interface MouthShape {
  /** How far the jaw is down. */
  readonly jaw: number;
  /** From a pursed mouth (0) to one as wide as it goes (1). */
  readonly width: number;
  /** Lips rounded. */
  readonly round: number;
  /** How much of the upper lip is turned out and seen. */
  readonly upperLip: number;
  /** How much of the lower lip is turned out and seen. */
  readonly lowerLip: number;
  /** Lips pressed together. */
  readonly press: number;
  /** Lower lip under the upper teeth. */
  readonly bite: number;
  readonly teethUpper: number;
  readonly teethLower: number;
  /** How high the body of the tongue lies. */
  readonly tongue: number;
  /** Tongue tip raised to the ridge behind the teeth. */
  readonly tipUp: number;
  /** Tongue tip out between the teeth. */
  readonly tipOut: number;
  /** Corners up (1) or down (−1). */
  readonly smile: number;
  /** Weight to the left (−1) or the right (1). */
  readonly skew: number;
}

const NEUTRAL: MouthShape = {
  jaw: 0,
  width: 0.55,
  round: 0,
  upperLip: 0,
  lowerLip: 0,
  press: 0,
  bite: 0,
  teethUpper: 0,
  teethLower: 0,
  tongue: 0,
  tipUp: 0,
  tipOut: 0,
  smile: 0.35,
  skew: 0,
};

const shape = (changes: Partial<MouthShape>): MouthShape => ({ ...NEUTRAL, ...changes });

/** One mouth for each sound group of a starter, by the group's id. */
export const STARTER_SHAPES: Readonly<Record<string, MouthShape>> = {
  rest: shape({ smile: 0.55 }),
  press: shape({ width: 0.44, press: 1, upperLip: 0.75, lowerLip: 0.75, smile: 0.1 }),
  bite: shape({ jaw: 0.22, width: 0.52, bite: 1, teethUpper: 1, upperLip: 0.25, lowerLip: 0.25, smile: 0.25 }),
  tip: shape({ jaw: 0.4, width: 0.53, teethUpper: 0.62, tipOut: 1, smile: 0.25 }),
  lift: shape({ jaw: 0.58, width: 0.54, teethUpper: 0.42, tipUp: 1, smile: 0.25 }),
  teeth: shape({ jaw: 0.32, width: 0.7, teethUpper: 0.72, teethLower: 0.95, smile: 0.4 }),
  push: shape({ jaw: 0.36, width: 0.24, round: 0.7, upperLip: 1, lowerLip: 1, teethUpper: 0.62, teethLower: 0.5, smile: 0 }),
  back: shape({ jaw: 0.42, width: 0.5, teethUpper: 0.4, tongue: 0.85, smile: 0.2 }),
  spread: shape({ jaw: 0.32, width: 0.95, teethUpper: 0.72, tongue: 0.35, smile: 0.75 }),
  mid: shape({ jaw: 0.58, width: 0.58, teethUpper: 0.46, tongue: 0.45, smile: 0.3 }),
  drop: shape({ jaw: 1, width: 0.62, teethUpper: 0.44, teethLower: 0.16, tongue: 0.4, smile: 0.2 }),
  ring: shape({ jaw: 0.64, width: 0.3, round: 0.9, upperLip: 1, lowerLip: 1, tongue: 0.3, smile: 0 }),
  pucker: shape({ jaw: 0.28, width: 0.04, round: 1, upperLip: 1, lowerLip: 1, smile: 0 }),
  hiss: shape({ jaw: 0.22, width: 0.78, teethUpper: 0.78, teethLower: 1, smile: 0.5 }),
  tap: shape({ jaw: 0.42, width: 0.6, teethUpper: 0.55, tongue: 0.5, tipUp: 0.55, smile: 0.25 }),
  loose: shape({ jaw: 0.44, width: 0.5, teethUpper: 0.35, tongue: 0.4, smile: 0.15 }),
  curl: shape({ jaw: 0.4, width: 0.22, round: 0.75, upperLip: 0.8, lowerLip: 1, teethUpper: 0.3, tongue: 0.7, smile: 0 }),
};

/** What the sliders and the handles of a built mouth may be set to. */
export function limitsOfParameter(key: keyof MouthShape): { readonly least: number; readonly most: number } {
  return { least: key === 'smile' || key === 'skew' ? -1 : 0, most: 1 };
}

/** The shape a part of the way from `a` (t = 0) to `b` (t = 1). */
export function blendShapes(a: MouthShape, b: MouthShape, t: number): MouthShape {
  const keys = Object.keys(NEUTRAL) as (keyof MouthShape)[];
  return Object.fromEntries(keys.map((key) => [key, a[key] + (b[key] - a[key]) * t])) as unknown as MouthShape;
}

/** The first parameter that is not a number in its range, or undefined when all are. */
export function maybeFaultOfShape(candidate: MouthShape): string | undefined {
  return (Object.keys(NEUTRAL) as (keyof MouthShape)[]).find((key) => {
    const { least, most } = limitsOfParameter(key);
    const value: unknown = candidate[key];
    return typeof value !== 'number' || !(value >= least && value <= most);
  });
}
