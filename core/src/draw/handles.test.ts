/** Handles of built mouths, and the pen: lines, fills, the eraser. */
import fc from 'fast-check';
import {
  dragHandle,
  eraseMarks,
  handlesOfShape,
  headFigure,
  maskOfRings,
  maybeFillAt,
  maybeMarkAt,
  measureShape,
  MOUTH_HANDLES,
  movedMark,
  outlineOfLine,
  pathOfMark,
  PLAIN_HEAD,
  simplifiedRing,
  STARTER_SHAPES,
  type FillMark,
  type LineMark,
} from '../index.js';
import { countedIds } from '../testing/testPatch.js';

const { drop, rest } = STARTER_SHAPES as { drop: (typeof STARTER_SHAPES)[string]; rest: (typeof STARTER_SHAPES)[string] };
const handle = (id: string) => MOUTH_HANDLES.find((candidate) => candidate.id === id)!;

describe('handles', () => {
  it('hide what is inside a shut mouth', () => {
    expect(handlesOfShape(rest).map((one) => one.id)).not.toContain('tongue');
    expect(handlesOfShape(drop).map((one) => one.id)).toContain('tongue');
  });

  it('dragged to where they are change nothing that can be seen', () => {
    for (const one of handlesOfShape(drop)) {
      const after = { ...drop, ...dragHandle(drop, one, one.at(drop)) };
      expect(one.at(after).x).toBeCloseTo(one.at(drop).x, 1);
      expect(one.at(after).y).toBeCloseTo(one.at(drop).y, 1);
    }
  });

  it('bring their point to the pointer, as far as the parameter goes', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 50, noNaN: true }), (y) => {
        const after = { ...drop, ...dragHandle(drop, handle('jaw'), { x: 0, y }) };
        expect(handle('jaw').at(after).y).toBeCloseTo(y, 0);
      }),
    );
    expect(dragHandle(drop, handle('jaw'), { x: 0, y: 900 }).jaw).toBe(1);
    expect(dragHandle(drop, handle('jaw'), { x: 0, y: -900 }).jaw).toBe(0);
    const wide = { ...drop, ...dragHandle(drop, handle('corner'), { x: 44, y: 6 }) };
    expect(measureShape(wide).width).toBeCloseTo(88, 0);
  });
});

const line = (points: number[], size = 2, id = 'l'): LineMark => ({ id, kind: 'line', points, size, colour: '#000000' });
const straight = line([0, 0, 0.5, 40, 0, 0.5]);
const circle = line(
  Array.from({ length: 41 }, (_, step) => [20 * Math.cos((step * Math.PI) / 20), 20 * Math.sin((step * Math.PI) / 20), 0.5]).flat(),
);
const BOX = { x: -40, y: -40, width: 80, height: 80 };

describe('the pen', () => {
  it('is thicker where it is pressed', () => {
    const heightOf = (pressure: number): number => {
      const outline = outlineOfLine({ points: Array.from({ length: 20 }, (_, step) => [step * 3, 0, pressure]).flat(), size: 8 });
      const middle = outline.filter((_, index) => index % 2 === 1 && Math.abs(outline[index - 1]! - 30) < 6);
      return Math.max(...middle) - Math.min(...middle);
    };
    expect(heightOf(1)).toBeGreaterThan(heightOf(0.5));
    expect(heightOf(0.5)).toBeGreaterThan(heightOf(0.1));
    expect(pathOfMark(straight)).toMatch(/^M[\d.\- Q]+Z$/);
  });

  it('is found by a touch, the topmost first, and fills by their inside', () => {
    const fill: FillMark = { id: 'f', kind: 'fill', rings: [[-10, -10, 10, -10, 10, 10, -10, 10]], colour: '#ff0000' };
    expect(maybeMarkAt([fill, straight], 5, 0.4, 1)!.id).toBe('l');
    expect(maybeMarkAt([fill, straight], -5, -5, 1)!.id).toBe('f');
    expect(maybeMarkAt([fill, straight], 30, 20, 1)).toBeUndefined();
    expect(movedMark(movedMark(fill, 3, -2), -3, 2)).toEqual(fill);
  });
});

describe('filling', () => {
  it('pours colour to the lines around a point: the area of the circle, to a twentieth', () => {
    const fill = maybeFillAt([circle], { x: 0, y: 0 }, BOX, '#aa0000', 'f')!;
    const bits = maskOfRings(fill.rings, { box: BOX, perUnit: 4 }, 'even-odd').bits.reduce((sum, bit) => sum + bit, 0);
    expect(Math.abs(bits / 16 / (Math.PI * 400) - 1)).toBeLessThan(0.05);
    expect(fill.rings.flat().length).toBeLessThan(400);
  });

  it('leaves an island of lines inside as a hole', () => {
    const island = { ...circle, id: 'i', points: circle.points.map((value, index) => (index % 3 < 2 ? value / 4 : value)) };
    expect(maybeFillAt([circle, island], { x: 12, y: 0 }, BOX, '#aa0000', 'f')!.rings).toHaveLength(2);
  });

  it('refuses an open area and a spot on a line', () => {
    const open = { ...circle, points: circle.points.slice(0, 90) };
    expect(maybeFillAt([open], { x: 0, y: 0 }, BOX, '#aa0000', 'f')).toBeUndefined();
    expect(maybeFillAt([circle], { x: 20, y: 0 }, BOX, '#aa0000', 'f')).toBeUndefined();
    expect(maybeFillAt([circle], { x: 900, y: 0 }, BOX, '#aa0000', 'f')).toBeUndefined();
  });

  it('simplifies a ring to within its tolerance', () => {
    const ring = Array.from({ length: 200 }, (_, step) => [
      Math.cos((step * Math.PI) / 100) * 30,
      Math.sin((step * Math.PI) / 100) * 30,
    ]).flat();
    const simple = simplifiedRing(ring, 0.2);
    expect(simple.length).toBeLessThan(ring.length / 3);
    for (let at = 0; at < simple.length; at += 2) expect(Math.hypot(simple[at]!, simple[at + 1]!)).toBeCloseTo(30, 6);
  });
});

describe('the eraser', () => {
  it('parts a line where it went and leaves the rest', () => {
    const left = eraseMarks([straight], [20, -10, 20, 10], 3, countedIds('e'));
    expect(left).toHaveLength(2);
    const [first, second] = left as [LineMark, LineMark];
    expect(Math.max(...first.points.filter((_, index) => index % 3 === 0))).toBeLessThanOrEqual(17);
    expect(Math.min(...second.points.filter((_, index) => index % 3 === 0))).toBeGreaterThanOrEqual(23);
    expect(new Set(left.map((mark) => mark.id)).size).toBe(2);
  });

  it('does not touch what it does not reach', () => {
    expect(eraseMarks([straight], [20, 30, 30, 30], 3, countedIds())).toEqual([straight]);
    expect(eraseMarks([straight], [0, 0, 40, 0], 5, countedIds())).toEqual([]);
  });

  it('takes what it covered out of a fill, and its holes stay holes', () => {
    const fill: FillMark = {
      id: 'f',
      kind: 'fill',
      rings: [
        [-30, -30, 30, -30, 30, 30, -30, 30],
        [-5, -5, 5, -5, 5, 5, -5, 5],
      ],
      colour: '#ff0000',
    };
    const areaOf = (rings: FillMark['rings']): number =>
      maskOfRings(rings, { box: BOX, perUnit: 2 }, 'even-odd').bits.reduce((sum, bit) => sum + bit, 0) / 4;
    const [after] = eraseMarks([fill], [15, -50, 15, 50], 2, countedIds()) as [FillMark];
    expect(areaOf(fill.rings)).toBe(3500);
    expect(areaOf(after.rings)).toBeLessThan(3500 - 60 * 2);
    expect(areaOf(after.rings)).toBeGreaterThan(3500 - 60 * 6);
    expect(eraseMarks([fill], [90, 90, 95, 95], 2, countedIds())).toEqual([fill]);
  });
});

describe('the built head', () => {
  it('drops its chin with the jaw and never writes a number that is not one', () => {
    const lowest = (drop_: number): number =>
      Math.max(
        ...headFigure(PLAIN_HEAD, drop_).flatMap(({ path }) => [...path.matchAll(/[\d.]+ ([\d.]+)/g)].map((match) => Number(match[1]))),
      );
    expect(lowest(1) - lowest(0)).toBeGreaterThan(20);
    for (const value of [0, 1])
      for (const { path } of headFigure({ ...PLAIN_HEAD, breadth: value, chin: value, cheeks: value, eyeSize: value }, value))
        expect(path).not.toMatch(/NaN|undefined/);
  });
});
