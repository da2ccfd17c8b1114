/** In-betweens of two drawings: either drawing at the ends, lines matched by their shape, and words where they cannot be made. */
import fc from 'fast-check';
import {
  AS_IT_IS,
  blendShapes,
  canMix,
  drawingsIn,
  isMade,
  isRefusal,
  madeOf,
  maybeDrawing,
  measureLook,
  mixId,
  mixOfLooks,
  pictureSvg,
  PUSH_LIMITS,
  pushId,
  sharesOf,
  STARTER_SHAPES,
  withDrawings,
  writtenNumber,
  type DrawnArt,
  type FillMark,
  type LineMark,
  type Look,
} from '../index.js';
import { TEST_CHART } from '../testing/testPatch.js';

const built = (group: string): Look => ({ art: { kind: 'built', shape: STARTER_SHAPES[group]! }, placement: AS_IT_IS });
const line = (points: number[], size = 2): LineMark => ({ id: 'l', kind: 'line', points, size, colour: '#102030' });
const ring = (points: number[], colour = '#000000'): FillMark => ({ id: 'f', kind: 'fill', rings: [points], colour });
const drawn = (...marks: DrawnArt['marks'][number][]): Look => ({ art: { kind: 'drawn', marks }, placement: AS_IT_IS });
const mixed = (a: Look, b: Look, share: number): Look => {
  const look = mixOfLooks(a, b, share);
  if (isRefusal(look)) throw new Error(look.refusal);
  return look;
};
const marksOf = ({ art }: Look): DrawnArt['marks'] => (art as DrawnArt).marks;

const aShare = fc.integer({ min: 1, max: 99 }).map((percent) => percent / 100);
const aLine = fc
  .array(fc.tuple(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -40, max: 40 })), { minLength: 2, maxLength: 30 })
  .map((points) => line(points.flatMap(([x, y]) => [x, y, 1])));

describe('a mix', () => {
  it('at 0 and at 1 is either drawing itself', () => {
    for (const [a, b] of [
      [built('rest'), built('drop')],
      [drawn(line([0, 0, 1, 9, 9, 1])), drawn(line([5, 5, 0.5, 6, 9, 1]))],
    ] as const) {
      expect(mixOfLooks(a, b, 0)).toBe(a);
      expect(mixOfLooks(a, b, 1)).toBe(b);
    }
  });

  it('of built mouths is their parameters a share of the way', () => {
    expect(mixed(built('rest'), built('drop'), 0.3).art).toEqual({
      kind: 'built',
      shape: blendShapes(STARTER_SHAPES['rest']!, STARTER_SHAPES['drop']!, 0.3),
    });
  });

  it('of lines stays in the box around both, whatever number of points they have', () => {
    fc.assert(
      fc.property(aLine, aLine, aShare, (a, b, share) => {
        const [mark] = marksOf(mixed(drawn(a), drawn(b), share)) as [LineMark];
        expect(mark.points).toHaveLength(Math.max(a.points.length, b.points.length));
        for (const [axis, least, most] of [0, 1].map((at) => {
          const all = [...a.points, ...b.points].filter((_, index) => index % 3 === at);
          return [at, Math.min(...all), Math.max(...all)] as const;
        }))
          for (const value of mark.points.filter((_, index) => index % 3 === axis)) {
            expect(value).toBeGreaterThanOrEqual(least - 1e-9);
            expect(value).toBeLessThanOrEqual(most + 1e-9);
          }
      }),
    );
  });

  it('takes a line that was drawn from its other end the right way round, and a ring by its nearest corner', () => {
    const right = line([0, 0, 1, 10, 0, 1, 20, 0, 1]);
    const left = line([20, 4, 1, 10, 4, 1, 0, 4, 1]);
    expect((marksOf(mixed(drawn(right), drawn(left), 0.5))[0] as LineMark).points).toEqual([0, 2, 1, 10, 2, 1, 20, 2, 1]);
    const square = ring([0, 0, 10, 0, 10, 10, 0, 10]);
    const same = ring([10, 10, 0, 10, 0, 0, 10, 0], '#204060');
    const [between] = marksOf(mixed(drawn(square), drawn(same), 0.5)) as [FillMark];
    expect(between.rings[0]).toEqual([0, 0, 10, 0, 10, 10, 0, 10]);
    expect(between.colour).toBe('#102030');
  });

  it('takes each where its own registration puts it', () => {
    const a = drawn(line([0, 0, 1, 10, 0, 1]));
    const b: Look = { ...drawn(line([0, 0, 1, 5, 0, 1], 1)), placement: { x: 0, y: 8, scale: 2 } };
    const look = mixed(a, b, 0.5);
    expect(look.placement).toEqual(AS_IT_IS);
    expect(marksOf(look)).toEqual([line([0, 4, 1, 10, 4, 1])]);
  });

  it('of other makes, or of other lines, is refused in words', () => {
    const two = drawn(line([0, 0, 1, 1, 1, 1]), ring([0, 0, 1, 0, 1, 1]));
    for (const [a, b, why] of [
      [built('rest'), two, /built and the other is drawn/],
      [two, drawn(line([0, 0, 1, 1, 1, 1])), /2 lines and areas, the other with 1/],
      [two, drawn(ring([0, 0, 1, 0, 1, 1]), line([0, 0, 1, 1, 1, 1])), /in another order/],
    ] as const) {
      expect(canMix(a, b)).toBe(false);
      expect(mixOfLooks(a, b, 0.5)).toEqual({ refusal: expect.stringMatching(why) });
    }
  });
});

describe('an id of a drawing made of others', () => {
  it('says what it is made of, and survives being taken apart', () => {
    fc.assert(
      fc.property(
        aShare,
        fc.integer({ min: PUSH_LIMITS.least * 100, max: PUSH_LIMITS.most * 100 }),
        fc.integer({ min: -45, max: 45 }),
        (share, percent, angle) => {
          const push = { width: percent / 100, height: 1, angle };
          const id = pushId(mixId('drop', 'press', share), push);
          expect(madeOf(id).mix).toEqual({ a: 'drop', b: 'press', share });
          expect(madeOf(id).push).toEqual(push.width === 1 && angle === 0 ? undefined : push);
          expect(drawingsIn(id)).toEqual(['drop', 'press']);
          expect(sharesOf(id).reduce((sum, [, part]) => sum + part, 0)).toBeCloseTo(1);
          expect(withDrawings(id, (one) => one)).toBe(id);
        },
      ),
    );
  });

  it('is the drawing itself where nothing is made of it', () => {
    expect(mixId('a', 'b', 0)).toBe('a');
    expect(mixId('a', 'b', 1)).toBe('b');
    expect(mixId('a', 'a', 0.5)).toBe('a');
    expect(pushId('push(a,1.2,1,0)', { width: 1, height: 1, angle: 0 })).toBe('a');
    for (const odd of ['a', 'mix(a,b)', 'mix(a,b,1.5)', 'push(a,9,1,0)', 'mix(a,b,0.5', '']) expect(isMade(odd)).toBe(false);
  });

  it('made of other drawings it is a mix of those; of the same twice, that one', () => {
    expect(withDrawings('mix(a,b,0.25)', (one) => `${one}2`)).toBe('mix(a2,b2,0.25)');
    expect(withDrawings('push(mix(a,b,0.25),1.2,1,0)', () => 'c')).toBe('push(c,1.2,1,0)');
    expect(withDrawings('mix(a,b,0.25)', (one) => (one === 'a' ? 'c' : undefined))).toBeUndefined();
  });
});

describe('a chart', () => {
  const drop = maybeDrawing(TEST_CHART, 'drop')!;
  const rest = maybeDrawing(TEST_CHART, 'rest')!;

  it('makes drawings of its own by their ids, the same each time', () => {
    const between = maybeDrawing(TEST_CHART, 'mix(rest,drop,0.5)')!;
    expect(between).toBe(maybeDrawing(TEST_CHART, 'mix(rest,drop,0.5)'));
    expect(between.label).toBe('Rest to Drop ½');
    expect(writtenNumber(between)).toBe(`${rest.number}→${drop.number} ½`);
    expect(between.groups).toEqual([]);
    const opening = measureLook(between).opening;
    expect(opening).toBeGreaterThan(measureLook(rest).opening);
    expect(opening).toBeLessThan(measureLook(drop).opening);
    expect(maybeDrawing(TEST_CHART, 'mix(rest,gone,0.5)')).toBeUndefined();
  });

  it('pushed, one is as much taller as it is pushed, and keeps what it plays', () => {
    const tall = maybeDrawing(TEST_CHART, 'push(drop,1,1.5,0)')!;
    expect(measureLook(tall).opening).toBeCloseTo(1.5 * measureLook(drop).opening);
    expect(tall.groups).toEqual(drop.groups);
    const size = { width: 100, height: 100, withHead: false };
    expect(pictureSvg(TEST_CHART, { drawing: tall.id, look: 0 }, size)).toContain('scale(1 1.5)');
  });
});
