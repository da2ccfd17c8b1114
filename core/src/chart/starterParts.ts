/** Brows, lids and eyes to begin with, drawn for the eyes of a head in the finish of its mouths. */
import { AS_IT_IS, type FillMark, type LineMark, type Mark } from '../draw/art.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import { KEYCAPS, PLAIN_DRAWING, type ChartDocument, type Drawing } from './chart.js';
import { eyesOfShape, type EyesPlace } from '../draw/headShape.js';
import type { ChartHead, HeadPart } from './head.js';

/** The eyes of a head: both alike, left and right of `x`. Lengths in the head's units, colours `#rrggbb`. */
export interface HeadEyes extends EyesPlace {
  /** Of the iris; none for eyes that are a dot. */
  readonly iris?: string;
  /** Of the lids, mostly the skin’s. */
  readonly lid: string;
  /** Of brows and lines. */
  readonly brow: string;
  /** How far the lids hang over open eyes, 0 to 1. */
  readonly hang: number;
}

export interface StarterPart {
  readonly part: Omit<HeadPart, 'id' | 'chartId'>;
  readonly chart: ChartDocument;
}

/** Where the eyes are on the square of a part's chart: its middle, and how far one is from it. */
const SQUARE = { y: 20, apart: 30 } as const;
const RING = 28;

type Draw = (side: -1 | 1) => readonly Mark[];

const round = (value: number): number => Math.round(value * 100) / 100;

function fill(id: string, ring: readonly number[], colour: string): FillMark {
  return { id, kind: 'fill', rings: [ring.map(round)], colour };
}

/** A line through points, pressed as hard at each as is said. */
function line(id: string, points: readonly (readonly [x: number, y: number, pressure: number])[], size: number, colour: string): LineMark {
  return { id, kind: 'line', points: points.flat().map(round), size: round(size), colour };
}

/** An ellipse, or the part of it between two heights (−1 its top, 1 its foot). */
function ellipse(x: number, y: number, across: number, tall: number, from = -1, to = 1): number[] {
  const ring: number[] = [];
  const [top, foot] = [Math.asin(from), Math.asin(to)];
  for (let step = 0; step <= RING / 2; step++) {
    const angle = top + ((foot - top) * step) / (RING / 2);
    ring.push(x + across * Math.cos(angle), y + tall * Math.sin(angle));
  }
  for (let step = RING / 2; step >= 0; step--) {
    const angle = top + ((foot - top) * step) / (RING / 2);
    ring.push(x - across * Math.cos(angle), y + tall * Math.sin(angle));
  }
  return ring;
}

/** A line along an ellipse, from one angle to another in quarters of a turn (0 right, 1 foot). */
function arc(x: number, y: number, across: number, tall: number, from: number, to: number): [number, number, number][] {
  return Array.from({ length: 15 }, (_, step) => {
    const angle = ((from + ((to - from) * step) / 14) * Math.PI) / 2;
    return [x + across * Math.cos(angle), y + tall * Math.sin(angle), 0.5];
  });
}

function chartOf(name: string, style: MouthStyle, drawings: readonly (readonly [label: string, draw: Draw])[]): ChartDocument {
  return {
    settings: [{ id: 'chart', name, style, part: true }],
    head: [],
    groups: [],
    drawings: drawings.map(([label, draw], index): Drawing => ({
      ...PLAIN_DRAWING,
      id: label.toLowerCase().replaceAll(' ', '-'),
      number: index + 1,
      place: index,
      label,
      keycap: KEYCAPS[index] ?? '',
      groups: [],
      art: { kind: 'drawn', marks: [...draw(-1), ...draw(1)] },
      placement: AS_IT_IS,
    })),
  };
}

/**
 * The further parts of a face. Back to front: eyes, lids, brows.
 *
 * @param name whose they are, at the head of each chart's name
 */
export function starterParts(name: string, style: MouthStyle, eyes: HeadEyes): StarterPart[] {
  const scale = eyes.apart / SQUARE.apart;
  const [across, tall] = [eyes.across / scale, eyes.tall / scale];
  const { weight, teeth: white } = style;
  const ink = eyes.brow;
  const { y, apart } = SQUARE;
  // As thin as the line of the mouths is on the head, or a little thicker: eyes are small.
  const thin = Math.max(1.4, weight * 0.5);
  const at = { x: eyes.x, y: eyes.y - y * scale, scale, angle: 0 };
  const eye =
    (right: number, down: number): Draw =>
    (side) => {
      const x = side * apart;
      const [toX, toY] = [x + right * across * 0.42, y + down * tall * 0.42];
      const pupil = Math.min(across, tall) * (eyes.iris ? 0.3 : 0.42);
      return [
        fill(`white${side}`, ellipse(x, y, across, tall), white),
        line(`rim${side}`, arc(x, y, across, tall, 0, 4), thin, ink),
        ...(eyes.iris ? [fill(`iris${side}`, ellipse(toX, toY, pupil * 1.75, pupil * 1.75), eyes.iris)] : []),
        fill(`pupil${side}`, ellipse(toX, toY, pupil, pupil * 1.06), ink),
        fill(`glint${side}`, ellipse(toX + pupil * 0.38, toY - pupil * 0.42, pupil * 0.34, pupil * 0.34), white),
      ];
    };
  /** How far down the upper lid is and how far up the lower one, in heights of the eye (−1 top, 1 foot). */
  const lids =
    (upper: number, lower: number): Draw =>
    (side) => {
      const x = side * apart;
      const [wide, high] = [across + thin * 0.6, tall + thin * 0.6];
      const marks: Mark[] = [];
      if (upper >= 1) {
        const [half, low] = [wide * 0.94, y + high * 0.3];
        const lash = [-1, -0.6, -0.2, 0.2, 0.6, 1].map((share): [number, number, number] => [
          x + half * share,
          low + high * 0.42 * (1 - share * share),
          0.6,
        ]);
        return [
          fill(`upper${side}`, ellipse(x, y, wide, high), eyes.lid),
          line(`arch${side}`, arc(x, y, wide, high, 0, 4), thin, ink),
          line(`lash${side}`, lash, thin * 1.5, ink),
        ];
      }
      const edge = (at: number, bow: number): [number, number, number][] => {
        const half = (across - thin * 0.4) * Math.sqrt(Math.max(0, 1 - at * at));
        return [-1, -0.5, 0, 0.5, 1].map((share) => [x + half * share, y + high * at + bow * (1 - share * share), 0.5]);
      };
      if (upper > -1) marks.push(fill(`upper${side}`, ellipse(x, y, wide, high, -1, upper), eyes.lid));
      if (lower < 1) marks.push(fill(`lower${side}`, ellipse(x, y, wide, high, lower, 1), eyes.lid));
      if (upper > -1) marks.push(line(`lash${side}`, edge(upper, tall * 0.1), thin * 1.3, ink));
      if (lower < 1 && lower > upper) marks.push(line(`rim${side}`, edge(lower, -tall * 0.06), thin, ink));
      const foot = (Math.asin(lower) * 2) / Math.PI;
      if (lower < 1) marks.push(line(`foot${side}`, arc(x, y, across, tall, foot, 2 - foot), thin, ink));
      // Along the eye's rim, from one end of the lid to the other.
      const ends = (Math.asin(Math.max(-0.7, upper)) * 2) / Math.PI;
      marks.push(line(`arch${side}`, arc(x, y, across, tall, 2 - ends, 4 + ends), thin, ink));
      return marks;
    };
  const open = -1 + eyes.hang;
  /** How far up each end of a brow is, its inner and its outer, in heights of the eye. */
  const brow =
    (inner: number, outer: number, other: readonly [number, number] = [inner, outer]): Draw =>
    (side) => {
      const [inside, outside] = side < 0 ? [inner, outer] : other;
      const top = y - tall * 1.45;
      const x = (share: number): number => side * (apart - across * 0.75 + share * across * 1.6);
      const height = (share: number): number => top - tall * (inside + (outside - inside) * share + 0.32 * Math.sin(Math.PI * share));
      const points = [0, 0.25, 0.5, 0.75, 1].map((share): [number, number, number] => [x(share), height(share), share > 0.8 ? 0.25 : 0.6]);
      return [line(`brow${side}`, points, Math.max(3.2, thin * 2.2), eyes.brow)];
    };
  return [
    {
      part: { name: 'Eyes', order: 10, at },
      chart: chartOf(`${name}, eyes`, style, [
        ['Ahead', eye(0, 0)],
        ['Left', eye(-1, 0)],
        ['Right', eye(1, 0)],
        ['Up', eye(0, -1)],
        ['Down', eye(0, 1)],
        ['Up left', eye(-0.75, -0.75)],
        ['Up right', eye(0.75, -0.75)],
      ]),
    },
    {
      part: { name: 'Lids', order: 20, at },
      chart: chartOf(`${name}, lids`, style, [
        ['Open', lids(open, 1)],
        ['Half', lids(0.05, 1)],
        ['Shut', lids(1, 1)],
        ['Wide', lids(-1, 1)],
        ['Narrow', lids(-0.25, 0.45)],
        ['Smiling', lids(open, 0.35)],
      ]),
    },
    {
      part: { name: 'Brows', order: 30, at },
      chart: chartOf(`${name}, brows`, style, [
        ['Level', brow(0, 0)],
        ['Up', brow(0.6, 0.55)],
        ['Down', brow(-0.4, 0.1)],
        ['Worried', brow(0.6, -0.15)],
        ['Cross', brow(-0.6, 0.35)],
        ['Sly', brow(-0.35, 0, [0.5, 0.75])],
      ]),
    },
  ];
}

/** A part whose one drawing is empty, in the middle of a head above its mouth. */
export function emptyPart(owner: string, name: string, style: MouthStyle, head: ChartHead): StarterPart {
  const at = { x: head.mouth.x, y: head.mouth.y * 0.6, scale: head.mouth.scale, angle: 0 };
  return { part: { name, order: 40, at }, chart: chartOf(`${owner}, ${name.toLowerCase()}`, style, [[name, () => []]]) };
}

/** Where the eyes of a head are: those of a built one, and of a picture where most are. What is wrong is moved by hand. */
export function eyesOfHead(head: ChartHead): HeadEyes {
  const { art, width, height, mouth } = head;
  const plain = { brow: '#33202f', lid: '#e8b88a', hang: 0.15 };
  if (art.kind === 'built') return { ...plain, ...eyesOfShape(art.shape), lid: art.shape.skin, brow: art.shape.line };
  const across = width * 0.06;
  return { ...plain, x: mouth.x, y: mouth.y - height * 0.24, apart: width * 0.14, across, tall: across * 1.14 };
}
