/** Pictures of a stage: laid over one another, taken by the practice camera, held against what was asked for. */
import type { Raster } from '../picture/raster.js';
import { baseOf, laidOver } from './align.js';
import { greyOf, halved, softened, valueAt, type GreyPicture } from './picture.js';
import { chance, mouthReallyOn, seenByCamera, USUAL_CONDITIONS, type StageConditions } from './practiceCamera.js';
import { doubtedShots, openMouthChecker, type TakenPicture } from './rightMouth.js';

const [WIDTH, HEIGHT] = [320, 180];

/** A puppet: a head with eyes on a wall, and a mouth so wide and so open, with or without teeth. */
function puppet([across, open, teeth]: readonly [across: number, open: number, teeth: boolean]): Raster {
  const pixels = new Uint8ClampedArray(WIDTH * HEIGHT * 4);
  const isIn = (x: number, y: number, atX: number, atY: number, rx: number, ry: number): boolean =>
    ((x - atX) / rx) ** 2 + ((y - atY) / ry) ** 2 < 1;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      let colour = [60 + x / 6, 90 + y / 4, 100];
      if (isIn(x, y, 160, 90, 70, 80)) colour = [225, 205, 180];
      if (isIn(x, y, 132, 62, 11, 14) || isIn(x, y, 190, 60, 12, 13)) colour = [30, 30, 40];
      if (isIn(x, y, 160, 122, across, open)) colour = teeth && y < 122 ? [250, 248, 240] : [90, 30, 40];
      pixels.set([...colour, 255], (y * WIDTH + x) * 4);
    }
  return { width: WIDTH, height: HEIGHT, pixels };
}

const MOUTHS: Readonly<Record<string, Raster>> = {
  rest: puppet([22, 3, false]),
  wide: puppet([32, 9, true]),
  open: puppet([24, 18, false]),
  round: puppet([11, 11, false]),
  teeth: puppet([26, 8, true]),
};
const TRAY = Object.keys(MOUTHS);
const CALM: StageConditions = { ...USUAL_CONDITIONS, hands: 0, mistakes: 0 };

const grey = (values: number[], width: number): GreyPicture => ({
  width,
  height: values.length / width,
  values: Float32Array.from(values),
});

describe('grey pictures', () => {
  it('weigh colours as ITU-R BT.601 does, and shrink by means', () => {
    const of = (red: number, green: number, blue: number): Raster => ({
      width: 2,
      height: 1,
      pixels: Uint8ClampedArray.from([red, green, blue, 255, red, green, blue, 255]),
    });
    expect(greyOf(of(255, 0, 0)).values[0]).toBeCloseTo(76.245, 3);
    expect(greyOf(of(0, 255, 0)).values[0]).toBeCloseTo(149.685, 3);
    expect(greyOf(of(0, 0, 255)).values[0]).toBeCloseTo(29.07, 3);
    expect(greyOf({ ...of(0, 0, 0), pixels: Uint8ClampedArray.from([0, 0, 0, 255, 255, 255, 255, 255]) }, 1)).toEqual(grey([127.5], 1));
  });

  it('are halved, softened and looked at between their pixels; outside there is nothing', () => {
    expect(halved(grey([0, 4, 8, 12, 0, 4, 8, 12], 4)).values).toEqual(Float32Array.from([2, 10]));
    expect(softened(grey([0, 0, 0, 0, 16, 0, 0, 0, 0], 3)).values[4]).toBe(4);
    expect(valueAt(grey([0, 10, 20, 30], 2), 0.5, 0.5)).toBe(15);
    expect(valueAt(grey([0, 10, 20, 30], 2), -0.1, 0)).toBeNaN();
  });
});

describe('laying a picture over another', () => {
  it('takes away where the camera crept, turned and came nearer, and what the light did, whatever mouth is on', () => {
    const steady = { ...CALM, noise: 0 };
    const still = { ...steady, drift: 0, flicker: 0 };
    const base = greyOf(seenByCamera(MOUTHS['rest']!, still, 5, 0));
    for (const count of [0, 40, 90]) {
      const seen = greyOf(seenByCamera(MOUTHS['open']!, { ...steady, drift: 12, flicker: 0.1 }, 5, count));
      const laid = laidOver(baseOf(base), seen);
      const wanted = softened(greyOf(seenByCamera(MOUTHS['open']!, still, 5, 0)));
      const far = (picture: GreyPicture): number => {
        // Away from the borders, where one sees what the other does not.
        const away: number[] = [];
        for (let y = 20; y < HEIGHT - 20; y++)
          for (let x = 30; x < WIDTH - 30; x++) away.push(Math.abs(picture.values[y * WIDTH + x]! - wanted.values[y * WIDTH + x]!));
        return away.sort((a, b) => a - b)[Math.floor(away.length * 0.95)]!;
      };
      expect(far(laid)).toBeLessThan(far(softened(seen)) / 2);
      expect(far(laid)).toBeLessThan(5);
    }
  });

  it('leaves a picture of nothing as it is', () => {
    const blank = grey(new Array<number>(32 * 18).fill(50), 32);
    expect(laidOver(baseOf(blank), blank).values[200]).toBe(50);
  });
});

describe('the practice camera', () => {
  it('sees the same for the same seed and count, and never quite the same twice', () => {
    const seen = (seed: number, count: number): Raster => seenByCamera(MOUTHS['rest']!, USUAL_CONDITIONS, seed, count);
    expect(seen(3, 7)).toEqual(seen(3, 7));
    expect(seen(3, 7).pixels).not.toEqual(seen(3, 8).pixels);
    expect(seen(3, 7).pixels).not.toEqual(seen(4, 7).pixels);
  });

  it('has the noise that is asked for', () => {
    const flat: Raster = { width: 200, height: 100, pixels: new Uint8ClampedArray(200 * 100 * 4).fill(126) };
    const { pixels } = seenByCamera(flat, { ...CALM, noise: 6, drift: 0, flicker: 0 }, 1, 0);
    const middle: number[] = [];
    // In the middle, where the light has hardly fallen off: shot noise is 1 at 126 of 180 and 0.3 at least.
    for (let y = 40; y < 60; y++) for (let x = 80; x < 120; x++) middle.push(pixels[(y * 200 + x) * 4]!);
    const mean = middle.reduce((sum, value) => sum + value, 0) / middle.length;
    const spread = Math.sqrt(middle.reduce((sum, value) => sum + (value - mean) ** 2, 0) / middle.length);
    expect(spread).toBeGreaterThan(5);
    expect(spread).toBeLessThan(7);
  });

  it('has a hand in it when it is told to', () => {
    const [bare, hand] = [false, true].map((withHand) => seenByCamera(MOUTHS['rest']!, { ...CALM, noise: 0 }, 9, 3, withHand).pixels);
    let differs = 0;
    for (let at = 0; at < bare!.length; at += 4) if (Math.abs(bare![at]! - hand![at]!) > 8) differs += 1;
    expect(differs / (WIDTH * HEIGHT)).toBeGreaterThan(0.02);
    expect(differs / (WIDTH * HEIGHT)).toBeLessThan(0.5);
  });

  it('puts on another mouth as often as it is told, and of all kinds', () => {
    const really = Array.from({ length: 4000 }, (_, nth) => mouthReallyOn('open', 'wide', TRAY, { mistakes: 0.1 }, 11, nth));
    const wrong = really.filter((mouth) => mouth !== 'open');
    expect(wrong.length / really.length).toBeGreaterThan(0.08);
    expect(wrong.length / really.length).toBeLessThan(0.12);
    expect(new Set(wrong).size).toBe(TRAY.length - 1);
    expect(mouthReallyOn('open', 'wide', ['open'], { mistakes: 1 }, 1, 1)).toBe('open');
    expect(mouthReallyOn('open', 'wide', TRAY, { mistakes: 0 }, 1, 1)).toBe('open');
  });

  it('throws its dice evenly', () => {
    const throws = Array.from({ length: 5000 }, (_, count) => chance(77, count, 3));
    for (let tenth = 0; tenth < 10; tenth++) {
      const here = throws.filter((value) => Math.floor(value * 10) === tenth).length;
      expect(here).toBeGreaterThan(420);
      expect(here).toBeLessThan(580);
    }
  });
});

interface Shot {
  readonly asked: string;
  readonly really?: string;
  readonly hand?: boolean;
}

/** Two pictures of each shot. */
function checkOf(shots: readonly Shot[], against: 'chart' | 'shots', conditions = CALM) {
  const checker = openMouthChecker();
  shots.forEach(({ asked, really = asked, hand = false }, shot) => {
    for (let nth = 0; nth < 2; nth++) {
      const taken: TakenPicture = { picture: 2 * shot + nth, asked, shot };
      checker.add(taken, greyOf(seenByCamera(MOUTHS[really]!, conditions, 21, taken.picture, hand)));
    }
    if (shot === 0 && against === 'chart') for (const mouth of TRAY) checker.draw(mouth, greyOf(MOUTHS[mouth]!));
  });
  return checker.check();
}

const LINE: readonly Shot[] = ['rest', 'open', 'wide', 'round', 'rest', 'teeth', 'open', 'wide', 'rest', 'round', 'teeth', 'open'].map(
  (asked) => ({ asked }),
);
const withShot = (at: number, changes: Partial<Shot>): readonly Shot[] =>
  LINE.map((shot, index) => (index === at ? { ...shot, ...changes } : shot));

describe('was it the right mouth?', () => {
  it.each(['chart', 'shots'] as const)('doubts none of a take that is right, against the %s', (against) => {
    expect(checkOf(LINE, against).doubts).toEqual([]);
  });

  it.each(['chart', 'shots'] as const)('finds a mouth that nobody changed, and names it, against the %s', (against) => {
    const { doubts } = checkOf(withShot(6, { really: 'teeth' }), against);
    expect(doubtedShots(doubts)).toEqual([{ asked: 'open', seems: 'teeth', pictures: [12, 13] }]);
  });

  it.each(['chart', 'shots'] as const)('of two shots of a mouth, doubts the wrong one and not the other, against the %s', (against) => {
    const { doubts } = checkOf(withShot(3, { really: 'open' }), against);
    expect(doubtedShots(doubts)).toEqual([{ asked: 'round', seems: 'open', pictures: [6, 7] }]);
  });

  it('says that something stands before it, and not that it is another', () => {
    // A hand before the mouth: of these, one that covers it.
    const { doubts } = checkOf(
      LINE.map((shot) => ({ ...shot, hand: true })),
      'chart',
    );
    expect(doubts.length).toBeGreaterThan(0);
    expect(doubts.filter(({ seems }) => seems === null).length / doubts.length).toBeGreaterThan(0.7);
  });

  it('says which mouths were put on once, and which it cannot tell apart', () => {
    expect(checkOf(LINE.slice(0, 5), 'shots').alone).toEqual(['open', 'wide', 'round']);
    const checker = openMouthChecker();
    for (const [shot, asked] of ['rest', 'twin', 'open', 'rest', 'twin', 'open'].entries())
      checker.add({ picture: shot, asked, shot }, greyOf(seenByCamera(MOUTHS[asked === 'twin' ? 'rest' : asked]!, CALM, 2, shot, false)));
    const { doubts, alike } = checker.check();
    expect(alike).toEqual([['rest', 'twin']]);
    expect(doubts).toEqual([]);
  });

  it('says nothing of nothing', () => {
    expect(openMouthChecker().check()).toEqual({ doubts: [], alike: [], alone: [] });
  });
});
