/** Held lines that live: the same each time, only so far, and what is shut stays shut. */
import { createHash } from 'node:crypto';
import fc from 'fast-check';
import {
  boilAt,
  boiledLook,
  keyOfLook,
  looksOfFrames,
  lookToSvg,
  measureLook,
  plannedPictures,
  REDRAWS,
  seenOf,
  setBoil,
  starterChart,
  starterParts,
  STARTER_STYLES,
  type ChartDocument,
  type Drawing,
} from '../index.js';
import { spokenScene } from '../testing/spokenScene.js';
import { countedIds, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const CHART = starterChart('Test', 'brush');
const EYES = { x: 200, y: 162, apart: 50, across: 20, tall: 23, lid: '#f0c08e', brow: '#33202f', hang: 0.2 };
const ALL: readonly (readonly [ChartDocument, Drawing])[] = [
  CHART,
  ...starterParts('Test', STARTER_STYLES['brush']!, EYES).map(({ chart }) => chart),
].flatMap((chart) => chart.drawings.map((drawing) => [chart, drawing] as const));

describe('a drawing that boils', () => {
  it('is redrawn in the same way on every machine', () => {
    const pictures = ALL.flatMap(([chart, drawing]) =>
      [1, 2, 3].map((redraw) => lookToSvg(chart.settings[0]!.style, boiledLook(drawing, drawing.id, [redraw, 0.5]), { idPrefix: 'b' })),
    );
    expect(new Set(pictures).size).toBe(pictures.length);
    // Taken on x86-64 with Node 20.
    expect(createHash('sha256').update(pictures.join('\n')).digest('hex')).toBe(
      '26eae03a33a58b5531b278e9924411717347b63264d9d10e22ae701f2fae1044',
    );
  });

  it('moves no point of a line further than its strength lets it, and keeps how hard the pen was pressed', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ALL),
        fc.integer({ min: 1, max: 3 }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        ([, drawing], redraw, strength) => {
          const { art } = boiledLook(drawing, drawing.id, [redraw, strength]);
          if (art.kind !== 'drawn' || drawing.art.kind !== 'drawn') return;
          art.marks.forEach((mark, index) => {
            const before = (drawing.art as typeof art).marks[index]!;
            const numbers = mark.kind === 'line' ? mark.points : mark.rings.flat();
            const old = before.kind === 'line' ? before.points : before.rings.flat();
            expect(numbers).toHaveLength(old.length);
            numbers.forEach((value, at) => {
              if (mark.kind === 'line' && at % 3 === 2) expect(value).toBe(old[at]);
              else expect(Math.abs(value - old[at]!)).toBeLessThanOrEqual(1.3 * strength + 0.006);
            });
          });
        },
      ),
    );
  });

  it('leaves lips that meet together, and every number of a shape in its limits', () => {
    for (const drawing of CHART.drawings) {
      for (const redraw of [1, 2, 3]) {
        const boiled = boiledLook(drawing, drawing.id, [redraw, 1]);
        if (boiled.art.kind !== 'built' || drawing.art.kind !== 'built') throw new Error('A starter is built.');
        if (drawing.art.shape.jaw === 0) expect(boiled.art.shape.jaw).toBe(0);
        expect(Math.abs(measureLook(boiled).opening - measureLook(drawing).opening)).toBeLessThan(
          0.18 * Math.max(8, measureLook(drawing).opening),
        );
        for (const [key, value] of Object.entries(boiled.art.shape)) {
          expect(value).toBeGreaterThanOrEqual(key === 'smile' || key === 'skew' ? -1 : 0);
          expect(value).toBeLessThanOrEqual(1);
        }
      }
    }
  });

  it('is itself without a boil; the same redraw is the same look', () => {
    const [drawing] = CHART.drawings;
    expect(seenOf(drawing!, 0, undefined)).toBe(drawing);
    expect(seenOf(drawing!, 0, [2, 0.4])).toBe(seenOf(drawing!, 0, [2, 0.4]));
  });
});

describe('a lane that boils', () => {
  it('is redrawn twelve times a second, at any rate', () => {
    const redraws = (fps: number): (number | undefined)[] => Array.from({ length: 10 }, (_, frame) => boilAt(0.5, frame, fps)?.[0]);
    expect(redraws(24)).toEqual([undefined, undefined, 1, 1, 2, 2, 3, 3, undefined, undefined]);
    expect(redraws(12)).toEqual([undefined, 1, 2, 3, undefined, 1, 2, 3, undefined, 1]);
    expect(boilAt(undefined, 3, 24)).toBeUndefined();
  });

  it('gives a held mouth its redraws in turn, in pictures too; a still one none; and it is taken back', () => {
    const plain = spokenScene();
    const boiling = testPatch(plain, setBoil(plain, 'mouth1', 0.5, countedIds('b')));
    const hold = plain.exposures.reduce((longest, one) => (one.to - one.from > longest.to - longest.from ? one : longest));
    const kinds = (scene: typeof plain): number =>
      new Set(looksOfFrames(scene, 'mouth1', TEST_CHARTS).slice(hold.from, hold.to).map(keyOfLook)).size;
    expect([kinds(plain), kinds(boiling)]).toEqual([1, REDRAWS]);
    const pictures = (scene: typeof plain): number =>
      plannedPictures(looksOfFrames(scene, 'mouth1', TEST_CHARTS), TEST_CHARTS, { firstNumber: 0, which: 'changes' }).length;
    expect(pictures(boiling)).toBeGreaterThan(pictures(plain) * 2);
    expect(testPatch(boiling, setBoil(boiling, 'mouth1', null, countedIds('n')))).toEqual(plain);
    expect(setBoil(plain, 'mouth1', 2, countedIds('r'))).toHaveProperty('refusal');
  });
});
