import fc from 'fast-check';
import {
  blendShapes,
  figureToSvg,
  measureShape,
  MOUTH_BOX,
  mouthFigure,
  mouthGeometry,
  STARTER_SHAPES,
  STARTER_STYLES,
  type MouthShape,
} from '../index.js';

const style = STARTER_STYLES.brush!;
const unit = fc.double({ min: 0, max: 1, noNaN: true });
const signed = fc.double({ min: -1, max: 1, noNaN: true });
const anyShape: fc.Arbitrary<MouthShape> = fc.record({
  jaw: unit,
  width: unit,
  round: unit,
  upperLip: unit,
  lowerLip: unit,
  press: unit,
  bite: unit,
  teethUpper: unit,
  teethLower: unit,
  tongue: unit,
  tipUp: unit,
  tipOut: unit,
  smile: signed,
  skew: signed,
});

describe('built mouths', () => {
  it('have the same points in every drawing', () => {
    for (const shape of Object.values(STARTER_SHAPES)) {
      expect(mouthGeometry(shape).opening).toHaveLength(8);
      expect(mouthGeometry(shape).lips).toHaveLength(8);
    }
  });

  it('stay inside the box of a chart', () => {
    fc.assert(
      fc.property(anyShape, (shape) => {
        for (const node of [...mouthGeometry(shape).opening, ...mouthGeometry(shape).lips]) {
          expect(node.x).toBeGreaterThan(MOUTH_BOX.x);
          expect(node.x).toBeLessThan(MOUTH_BOX.x + MOUTH_BOX.width);
          expect(node.y).toBeGreaterThan(MOUTH_BOX.y);
          expect(node.y).toBeLessThan(MOUTH_BOX.y + MOUTH_BOX.height);
        }
      }),
    );
  });

  it('keep the upper lip still while the jaw drops', () => {
    const closedTop = mouthGeometry({ ...STARTER_SHAPES.mid!, jaw: 0.3 }).top;
    const openTop = mouthGeometry({ ...STARTER_SHAPES.mid!, jaw: 1 }).top;
    expect(Math.abs(openTop - closedTop)).toBeLessThan(1);
  });

  it('blend from one to the other without a jump', () => {
    const { press, drop } = STARTER_SHAPES as { press: MouthShape; drop: MouthShape };
    expect(blendShapes(press, drop, 0)).toEqual(press);
    expect(blendShapes(press, drop, 1)).toEqual(drop);
    let before = measureShape(press).opening;
    for (let step = 1; step <= 40; step++) {
      const opening = measureShape(blendShapes(press, drop, step / 40)).opening;
      expect(opening - before).toBeGreaterThan(-0.01);
      expect(opening - before).toBeLessThan(6);
      before = opening;
    }
  });

  it('measure as they look: Press shut, Drop widest open, Spread widest, Pucker narrowest', () => {
    const measures = Object.entries(STARTER_SHAPES).map(([id, shape]) => ({ id, ...measureShape(shape) }));
    const by = (key: 'opening' | 'width'): string[] => [...measures].sort((a, b) => a[key] - b[key]).map((entry) => entry.id);
    expect(by('opening').slice(0, 2).sort()).toEqual(['press', 'rest']);
    expect(by('opening').at(-1)).toBe('drop');
    expect(by('width')[0]).toBe('pucker');
    expect(by('width').at(-1)).toBe('spread');
    expect(measures.find((entry) => entry.id === 'teeth')!.teeth).toBeGreaterThan(0.7);
  });

  it('are written as SVG with their clip paths declared once each', () => {
    const svg = figureToSvg(mouthFigure(STARTER_SHAPES.drop!, style), { idPrefix: 'm' });
    const used = [...svg.matchAll(/url\(#(m\d+)\)/g)].map((match) => match[1]);
    expect(used.length).toBeGreaterThan(1);
    for (const id of new Set(used)) expect(svg.split(`id="${id}"`)).toHaveLength(2);
    expect(svg).not.toMatch(/NaN|undefined/);
  });

  it('never write a number that is not one', () => {
    fc.assert(
      fc.property(anyShape, (shape) =>
        expect(figureToSvg(mouthFigure(shape, style), { idPrefix: 'x' })).not.toMatch(/NaN|undefined|Infinity/),
      ),
    );
  });
});
