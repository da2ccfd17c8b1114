/**
 * Drawings that are in no chart, but made of those that are: an in-between of two, and one that is pushed wider, taller or
 * turned. They are told by an id that says what they are made of, so that whatever shows a drawing by its id shows them too.
 *
 * `mix(a,b,0.5)` is half of the way from `a` to `b`; `push(x,1.2,0.9,5)` is `x` 1.2 times as wide and 0.9 times as tall, turned
 * by 5 degrees about the cross.
 */

/** How a drawing is stretched about the cross: factors, and degrees clockwise. */
export interface Push {
  readonly width: number;
  readonly height: number;
  readonly angle: number;
}

export const PUSH_LIMITS = { least: 0.4, most: 2, angle: 45 } as const;

/** Longest id of a drawing that is made of others. */
export const MADE_LETTERS = 320;

const MIX = /^mix\(([^(),]+),([^(),]+),(0\.\d{1,3})\)$/;
const PUSH = /^push\((.+),([\d.]{1,8}),([\d.]{1,8}),(-?[\d.]{1,8})\)$/;

const rounded = (value: number): number => Math.round(value * 1000) / 1000;

/** A share of the way from one drawing (0) to another (1); either drawing at its end. */
export function mixId(a: string, b: string, share: number): string {
  const part = rounded(share);
  if (part <= 0 || a === b) return a;
  return part >= 1 ? b : `mix(${a},${b},${part})`;
}

const isWithin = ({ width, height, angle }: Push): boolean =>
  [width, height].every((factor) => factor >= PUSH_LIMITS.least && factor <= PUSH_LIMITS.most) && Math.abs(angle) <= PUSH_LIMITS.angle;

/** A drawing pushed; the drawing itself where nothing is changed, and pushed anew where it was pushed before. */
export function pushId(id: string, { width, height, angle }: Push): string {
  const of = madeOf(id).plain;
  const by = [width, height, angle].map(rounded);
  return by[0] === 1 && by[1] === 1 && by[2] === 0 ? of : `push(${of},${by.join(',')})`;
}

/** What a drawing is made of. */
export interface MadeOf {
  /** Its id without a push. */
  readonly plain: string;
  /** Two drawings of the chart and how far it is from the first to the second; undefined for one of the chart. */
  readonly mix: { readonly a: string; readonly b: string; readonly share: number } | undefined;
  readonly push: Push | undefined;
}

/** What an id says: of a drawing of the chart, that it is made of nothing else. */
export function madeOf(id: string): MadeOf {
  const pushed = id.startsWith('push(') ? PUSH.exec(id) : null;
  const by = pushed && { width: Number(pushed[2]), height: Number(pushed[3]), angle: Number(pushed[4]) };
  const push = by && isWithin(by) ? by : undefined;
  const plain = push ? pushed![1]! : id;
  const mixed = plain.startsWith('mix(') ? MIX.exec(plain) : null;
  return { plain, mix: mixed ? { a: mixed[1]!, b: mixed[2]!, share: Number(mixed[3]) } : undefined, push };
}

/** Whether an id is of a drawing made of others, and not of one of a chart. */
export const isMade = (id: string): boolean => {
  const { mix, push } = madeOf(id);
  return mix !== undefined || push !== undefined;
};

/** Whether a drawing of a chart can be made something else of: its id has none of the marks that ids of made ones have. */
export const canBeMadeOf = (id: string): boolean => !/[(),]/.test(id);

/** The drawings of a chart that one is made of, each with its share; they add up to 1. */
export function sharesOf(id: string): readonly (readonly [drawing: string, share: number])[] {
  const { plain, mix } = madeOf(id);
  return mix
    ? [
        [mix.a, 1 - mix.share],
        [mix.b, mix.share],
      ]
    : [[plain, 1]];
}

/** The drawings of a chart that one is made of. @example drawingsIn('mix(a,b,0.5)') // ['a', 'b'] */
export const drawingsIn = (id: string): readonly string[] => sharesOf(id).map(([drawing]) => drawing);

/** The same made of other drawings; undefined where one of them has no other. */
export function withDrawings(id: string, other: (drawing: string) => string | undefined): string | undefined {
  const { plain, mix, push } = madeOf(id);
  const [a, b] = mix ? [other(mix.a), other(mix.b)] : [other(plain)];
  if (a === undefined || (mix && b === undefined)) return undefined;
  const of = mix ? mixId(a, b!, mix.share) : a;
  return push ? pushId(of, push) : of;
}

const FRACTIONS = [
  [1 / 4, '¼'],
  [1 / 3, '⅓'],
  [1 / 2, '½'],
  [2 / 3, '⅔'],
  [3 / 4, '¾'],
] as const;

/** How an in-between is written by the numbers of its two drawings. @example mixInWords('9', '3', 0.5) // '9→3 ½' */
export const mixInWords = (a: string, b: string, share: number): string => `${a}→${b} ${shareInWords(share)}`;

/** How one that is pushed is written. */
export const pushInWords = (number: string): string => `${number}*`;

/** What is written as `mixInWords` writes it: both numbers and the share; undefined for anything else. */
export function maybeMixOfWords(text: string): { readonly a: string; readonly b: string; readonly share: number } | undefined {
  const [, a, b, said] = /^\s*(\d+)\s*→\s*(\d+)\s+(\S.*?)\s*$/.exec(text) ?? [];
  if (a === undefined || b === undefined || said === undefined) return undefined;
  const share = FRACTIONS.find(([, mark]) => mark === said)?.[0] ?? Number(/^(\d{1,2}) ?%$/.exec(said)?.[1]) / 100;
  return share > 0 && share < 1 ? { a, b, share } : undefined;
}

/** @example shareInWords(0.4) // '40 %' */
export function shareInWords(share: number): string {
  const near = FRACTIONS.find(([value]) => Math.abs(value - share) < 0.005);
  return near ? near[1] : `${Math.round(share * 100)} %`;
}
