/**
 * A drawing redrawn by a hand that is never quite the same, so that a held line lives: seeded, so that the same frame always
 * gives the same picture. Twelve redraws a second at 24 frames: common practice, no source.
 */
import type { Art, DrawnArt, Look, Mark } from './art.js';
import { limitsOfParameter, type MouthShape } from './mouthShape.js';
import { seededNumbers } from './seeded.js';

/** How much lines move, 0 to 1. */
export const BOIL_LIMITS = { least: 0.05, most: 1 } as const;

/** Redraws that are gone through in turn; the first is the drawing as it was made. */
export const REDRAWS = 4;
const A_SECOND = 12;

/** How a drawing is redrawn: which of the redraws, and how much its lines move. */
export type Boil = readonly [redraw: number, strength: number];

/** The redraw of a frame; undefined where it is the drawing itself, or nothing boils. */
export function boilAt(strength: number | undefined, frame: number, framesPerSecond: number): Boil | undefined {
  if (strength === undefined) return undefined;
  const redraw = Math.floor(frame / Math.max(1, Math.round(framesPerSecond / A_SECOND))) % REDRAWS;
  return redraw === 0 ? undefined : [redraw, strength];
}

/** A number from a drawing's id and the redraw (FNV-1a, 32 bits, by Fowler, Noll and Vo). */
function seedOf(id: string, redraw: number): number {
  let hash = 0x811c9dc5;
  for (const letter of `${id} ${redraw}`) hash = Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193) >>> 0;
  return hash;
}

/** Most that a point moves at full strength, in units of the chart's square. */
const REACH = 1.3;

/** Moves points smoothly, neighbours alike: lines and the areas between them stay together. */
function field(seed: number, reach: number): (x: number, y: number) => [number, number] {
  const next = seededNumbers(seed);
  const wave = (): ((x: number, y: number) => number) => {
    const [across, down, phase] = [(0.5 + next()) / 9, (0.5 + next()) / 9, next() * 2 * Math.PI];
    return (x, y) => Math.sin(x * across + y * down + phase);
  };
  const waves = [wave(), wave(), wave(), wave()] as const;
  const moved = (value: number): number => Math.round(value * 100) / 100;
  return (x, y) => [
    moved(x + reach * (0.6 * waves[0](x, y) + 0.4 * waves[1](x, -y))),
    moved(y + reach * (0.6 * waves[2](x, y) + 0.4 * waves[3](-x, y))),
  ];
}

function movedMark(mark: Mark, move: (x: number, y: number) => [number, number]): Mark {
  if (mark.kind === 'line') {
    const points: number[] = [];
    for (let at = 0; at < mark.points.length; at += 3) points.push(...move(mark.points[at]!, mark.points[at + 1]!), mark.points[at + 2]!);
    return { ...mark, points };
  }
  const rings = mark.rings.map((ring) => {
    const moved: number[] = [];
    for (let at = 0; at < ring.length; at += 2) moved.push(...move(ring[at]!, ring[at + 1]!));
    return moved;
  });
  return { ...mark, rings };
}

/** Of a built mouth what a hand would draw otherwise, and by how much at full strength. What is shut stays shut. */
const LOOSE: Readonly<Partial<Record<keyof MouthShape, number>>> = { width: 0.08, upperLip: 0.14, lowerLip: 0.14, smile: 0.1, skew: 0.12 };

function movedShape(shape: MouthShape, seed: number, strength: number): MouthShape {
  const next = seededNumbers(seed);
  const moved = { ...shape, jaw: shape.jaw * (1 + 0.12 * strength * (2 * next() - 1)) };
  for (const [key, reach] of Object.entries(LOOSE) as [keyof MouthShape, number][]) {
    const { least, most } = limitsOfParameter(key);
    moved[key] = Math.min(most, Math.max(least, shape[key] + reach * strength * (2 * next() - 1)));
  }
  return { ...moved, jaw: Math.min(1, moved.jaw) };
}

function redrawn(art: Art, seed: number, strength: number, scale: number): Art {
  if (art.kind === 'built') return { ...art, shape: movedShape(art.shape, seed, strength) };
  if (art.kind === 'placed') return art;
  const move = field(seed, (REACH * strength) / scale);
  return { ...art, marks: art.marks.map((mark) => movedMark(mark, move)) } satisfies DrawnArt;
}

const remembered = new WeakMap<Look, Map<string, Look>>();

/**
 * A look as it is redrawn. A placed picture stays as it is.
 *
 * @param id of its drawing
 */
export function boiledLook(look: Look, id: string, boil: Boil | undefined): Look {
  if (!boil || look.art.kind === 'placed') return look;
  const [redraw, strength] = boil;
  let known = remembered.get(look);
  if (!known) remembered.set(look, (known = new Map()));
  const key = `${id} ${redraw} ${strength}`;
  let made = known.get(key);
  if (!made) known.set(key, (made = { ...look, art: redrawn(look.art, seedOf(id, redraw), strength, look.placement.scale) }));
  return made;
}
