/** A patch followed over pictures made with a known path, under noise, other light, a hand before it, and where there is nothing to follow. */
import { FOLLOW_LIMITS, maybeFaultOfPatch, openFollower } from './followPatch.js';
import type { GreyPicture } from './picture.js';
import { chance } from './practiceCamera.js';

const [WIDTH, HEIGHT] = [240, 160];
const PATCH = { x: 60, y: 50, width: 28, height: 28 };

/** A head of blotches that has come so far, on a wall of its own, seen with noise and in some light. */
function seen(
  [dx, dy]: readonly [number, number],
  { seed = 1, noise = 4, light = 1, lift = 0 }: { seed?: number; noise?: number; light?: number; lift?: number } = {},
): GreyPicture {
  const values = new Float32Array(WIDTH * HEIGHT);
  const blotch = (x: number, y: number): number =>
    110 + 45 * Math.sin(x / 5.3 + 1.7 * Math.sin(y / 7.1)) + 35 * Math.sin(y / 4.1 + x / 11.3) + 20 * Math.sin((x - y) / 3.7);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [hx, hy] = [x - dx, y - dy];
      const isHead = ((hx - 74) / 40) ** 2 + ((hy - 64) / 46) ** 2 < 1;
      const value = isHead ? blotch(hx, hy) : 80 + 25 * Math.sin(x / 17) + 15 * Math.sin(y / 9);
      const grain = (chance(seed, y * WIDTH + x, 1) + chance(seed, y * WIDTH + x, 2) - 1) * noise * 2.4;
      values[y * WIDTH + x] = value * light + lift + grain;
    }
  return { width: WIDTH, height: HEIGHT, values };
}

/** A head that nods and sways, by fractions of a pixel. */
const PATH = Array.from({ length: 25 }, (_, index): readonly [number, number] => [
  34 * Math.sin(index / 4) + 0.37 * index,
  12 * Math.sin(index / 2.5),
]);

const farthest = (found: readonly { readonly x: number; readonly y: number }[]): number =>
  Math.max(...found.map(({ x, y }, index) => Math.hypot(x - (PATH[index]![0] - PATH[0]![0]), y - (PATH[index]![1] - PATH[0]![1]))));

function followAll(pictures: readonly GreyPicture[]): { points: { x: number; y: number }[]; lostAt: number | undefined } {
  const follow = openFollower(pictures[0]!, PATCH);
  const points = [{ x: 0, y: 0 }];
  for (const [index, picture] of pictures.entries()) {
    if (index === 0) continue;
    const found = follow(picture);
    if (found === 'lost') return { points, lostAt: index };
    points.push(found);
  }
  return { points, lostAt: undefined };
}

describe('a patch is followed', () => {
  it('along a made path, within a pixel of it on every picture, whatever the noise', () => {
    for (const noise of [0, 4, 10]) {
      const { points, lostAt } = followAll(PATH.map((at, index) => seen(at, { seed: index + 1, noise })));
      expect(lostAt).toBeUndefined();
      expect(points).toHaveLength(PATH.length);
      expect(farthest(points)).toBeLessThan(1);
    }
  });

  it('in light that goes down to half and is lifted: a product of lengths one is the same for each', () => {
    const pictures = PATH.map((at, index) => seen(at, { seed: index + 1, light: 1 - index / 50, lift: index }));
    expect(farthest(followAll(pictures).points)).toBeLessThan(1);
  });

  it('and is told to be lost where a hand covers it, not before', () => {
    const covered = 9;
    const pictures = PATH.map((at, index) => {
      const picture = seen(at, { seed: index + 1 });
      return index < covered ? picture : { ...picture, values: picture.values.map((_, pixel) => 150 + 40 * chance(7, pixel, index)) };
    });
    const { points, lostAt } = followAll(pictures);
    expect(lostAt).toBe(covered);
    expect(farthest(points)).toBeLessThan(1);
  });

  it('and is told to be lost where it jumps further than is looked', () => {
    const { reach } = FOLLOW_LIMITS;
    expect(openFollower(seen([0, 0]), PATCH)(seen([reach + 40, 0], { seed: 2 }))).toBe('lost');
  });
});

describe('a patch that cannot be followed', () => {
  const size = { width: WIDTH, height: HEIGHT };

  it('is told: too small, too large, over the edge', () => {
    expect(maybeFaultOfPatch(size, PATCH)).toBeUndefined();
    expect(maybeFaultOfPatch(size, { ...PATCH, width: 3 })).toMatch(/3 by 28 pixels\. Mark one of at least 6 by 6/);
    expect(maybeFaultOfPatch({ width: 900, height: 900 }, { ...PATCH, width: 500 })).toMatch(/at most 400/);
    expect(maybeFaultOfPatch(size, { ...PATCH, x: 230 })).toMatch(/over the edge/);
    expect(() => openFollower(seen([0, 0]), { ...PATCH, x: -2 })).toThrow(/over the edge/);
  });

  it('is told: of one tone', () => {
    const flat = { width: WIDTH, height: HEIGHT, values: new Float32Array(WIDTH * HEIGHT).fill(90) };
    expect(() => openFollower(flat, PATCH)).toThrow(/one tone/);
  });
});
