/** Pictures with known answers: made by hand, pixel by pixel. */
import fc from 'fast-check';
import {
  cropped,
  figureOf,
  gridCells,
  inReadingOrder,
  maskOfRings,
  maybeBoxOfMask,
  maybePaperColour,
  measureLook,
  measurePicture,
  rasterOfMarks,
  separateFigures,
  shrunk,
  withoutPaper,
  AS_IT_IS,
  type DrawnArt,
  type Raster,
} from '../index.js';

type Colour = readonly [number, number, number, number];
const CLEAR: Colour = [0, 0, 0, 0];
const WHITE: Colour = [255, 255, 255, 255];
const DARK: Colour = [60, 20, 30, 255];
const LIP: Colour = [217, 120, 92, 255];

/** A picture from a rule that says the colour of each pixel. */
function made(width: number, height: number, colourAt: (x: number, y: number) => Colour): Raster {
  const pixels = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) pixels.set(colourAt(x + 0.5, y + 0.5), (y * width + x) * 4);
  return { width, height, pixels };
}

const inEllipse = (x: number, y: number, cx: number, cy: number, rx: number, ry: number): boolean =>
  ((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 <= 1;

/** A mouth of lips around a dark opening, teeth down to `teeth` of its height. */
function mouth(halfWidth: number, halfHeight: number, teeth: number, ground: Colour = CLEAR): Raster {
  return made(220, 180, (x, y) => {
    if (inEllipse(x, y, 110, 90, halfWidth, halfHeight)) return y < 90 - halfHeight + teeth * 2 * halfHeight ? WHITE : DARK;
    return inEllipse(x, y, 110, 90, halfWidth + 10, halfHeight + 10) ? LIP : ground;
  });
}

describe('measuring a picture', () => {
  it.each([
    [70, 50, 0],
    [70, 20, 0],
    [40, 40, 0],
    [90, 60, 0],
  ])('finds an opening of half width %d and half height %d', (halfWidth, halfHeight) => {
    const { opening, width, teeth, darkness } = measurePicture(mouth(halfWidth, halfHeight, 0));
    expect(Math.abs(opening - 2 * halfHeight)).toBeLessThanOrEqual(2);
    expect(Math.abs(width - 2 * (halfWidth + 10))).toBeLessThanOrEqual(2);
    expect(teeth).toBeLessThan(0.02);
    expect(darkness).toBeGreaterThan(0.95);
  });

  it.each([0.25, 0.5])('finds teeth over %d of the opening', (share) => {
    const { opening, teeth, darkness } = measurePicture(mouth(80, 50, share));
    expect(Math.abs(opening - 100)).toBeLessThanOrEqual(3);
    // The share of an ellipse's area above a chord: exact for half, less than the height's for a quarter.
    const exact = share === 0.5 ? 0.5 : 0.1955;
    expect(teeth).toBeCloseTo(exact, 1);
    expect(darkness).toBeCloseTo(1 - exact, 1);
  });

  it('is not opened by a line: shut lips measure nothing', () => {
    const line = made(200, 100, (_, y) => (Math.abs(y - 50) < 2.5 ? DARK : CLEAR));
    expect(measurePicture(line)).toEqual({ opening: 0, width: 200, teeth: 0, darkness: 0 });
    const pressed = made(200, 100, (x, y) => (Math.abs(y - 50) < 2 ? DARK : inEllipse(x, y, 100, 50, 80, 20) ? LIP : CLEAR));
    expect(measurePicture(pressed).opening).toBe(0);
  });

  it('is the same on paper as on nothing, and at four times the size', () => {
    const [clear, paper] = [measurePicture(mouth(70, 40, 0.3)), measurePicture(mouth(70, 40, 0.3, [240, 236, 226, 255]))];
    expect(paper.opening).toBe(clear.opening);
    expect(paper.teeth).toBeCloseTo(clear.teeth, 2);
    const large = made(880, 720, (x, y) => {
      if (inEllipse(x, y, 440, 360, 280, 160)) return DARK;
      return inEllipse(x, y, 440, 360, 320, 200) ? LIP : CLEAR;
    });
    expect(measurePicture(large).opening / 4).toBeCloseTo(80, -0.7);
  });

  it('of an empty picture is all nothing', () =>
    expect(measurePicture(made(30, 30, () => CLEAR))).toEqual({ opening: 0, width: 0, teeth: 0, darkness: 0 }));
});

describe('measuring a mouth that is all outline', () => {
  const LINE: Colour = [24, 22, 26, 255];
  const SKIN: Colour = [240, 200, 170, 255];
  const isRing = (x: number, y: number, rx: number, ry: number, thick: number, cy = 90): boolean =>
    inEllipse(x, y, 110, cy, rx, ry) && !inEllipse(x, y, 110, cy, rx - thick, ry - thick);
  /** Lines on a ground, with something or nothing inside. */
  const lines = (ground: Colour, isLine: (x: number, y: number) => boolean, inside = ground): Raster =>
    made(220, 180, (x, y) => {
      if (isLine(x, y)) return LINE;
      return inEllipse(x, y, 110, 90, 80, 40) ? inside : ground;
    });
  const within = (x: number, y: number): boolean => inEllipse(x, y, 110, 90, 80, 40);

  describe.each([
    ['nothing', CLEAR],
    ['paper', WHITE],
  ])('on %s', (_, ground) => {
    it.each([3, 6])('with lines of %i pixels: a bare inside, or one of one colour, is an opening, not teeth', (thick) => {
      for (const inside of [ground, SKIN]) {
        const measures = measurePicture(lines(ground, (x, y) => isRing(x, y, 80, 40, thick), inside));
        expect(measures).toEqual({ opening: 80 - 2 * thick, width: 160, teeth: 0, darkness: 1 });
      }
    });

    it.each([3, 6])('with lines of %i pixels: unfilled lips are no opening', (thick) => {
      const around = measurePicture(lines(ground, (x, y) => isRing(x, y, 80, 40, thick) || isRing(x, y, 60, 22, thick)));
      expect(Math.abs(around.opening - (44 - 2 * thick))).toBeLessThanOrEqual(1);
      const shut = measurePicture(lines(ground, (x, y) => isRing(x, y, 80, 40, thick) || (within(x, y) && Math.abs(y - 90) < thick / 2)));
      expect(shut.opening).toBe(0);
      // Two arcs that meet at the corners, and a lens between them.
      const lens = (x: number, y: number, ry: number): boolean => Math.abs(Math.abs(y - 90) - ry * (1 - ((x - 110) / 70) ** 2)) < thick / 2;
      const open = measurePicture(lines(ground, (x, y) => isRing(x, y, 80, 40, thick) || (Math.abs(x - 110) < 70 && lens(x, y, 16))));
      expect(Math.abs(open.opening - (32 - thick))).toBeLessThanOrEqual(2);
    });

    it.each([3, 6])('with lines of %i pixels: upper teeth, a tongue, clenched teeth', (thick) => {
      const line = (at: number) => (x: number, y: number) => isRing(x, y, 80, 40, thick) || (within(x, y) && Math.abs(y - at) < thick / 2);
      const upper = measurePicture(lines(ground, line(72)));
      expect(upper.opening).toBe(80 - 2 * thick);
      expect(upper.teeth).toBeGreaterThan(0.1);
      expect(upper.darkness).toBeGreaterThan(0.6);
      const tongue = measurePicture(
        lines(ground, (x, y) => isRing(x, y, 80, 40, thick) || (within(x, y) && isRing(x, y, 50, 30, thick, 135))),
      );
      expect([tongue.opening, tongue.teeth]).toEqual([80 - 2 * thick, 0]);
      expect(tongue.darkness).toBeGreaterThan(0.75);
      expect(tongue.darkness).toBeLessThan(0.95);
      const bars = (x: number, y: number): boolean => within(x, y) && Math.abs((x % 20) - 10) < thick / 2;
      const clenched = measurePicture(lines(ground, (x, y) => line(90)(x, y) || bars(x, y)));
      expect(clenched.teeth).toBeGreaterThan(0.8);
      expect(clenched.darkness).toBe(0);
      const square = (x: number, y: number): boolean => Math.abs(x - 110) < 70 && Math.abs(y - 90) < 30;
      const isSquare = (x: number, y: number): boolean =>
        square(x, y) && !(Math.abs(x - 110) < 70 - thick && Math.abs(y - 90) < 30 - thick);
      const block = measurePicture(
        made(220, 180, (x, y) => (isSquare(x, y) || (square(x, y) && Math.abs(y - 90) < thick / 2) ? LINE : ground)),
      );
      expect(block.opening).toBe(60 - 2 * thick);
      expect(block.teeth).toBeGreaterThan(0.8);
    });
  });

  it('is nothing where there is only a line: straight, or a smile', () => {
    const smile = lines(WHITE, (x, y) => Math.abs(Math.hypot(x - 110, y - 20) - 100) < 3 && y > 70);
    expect(measurePicture(smile).opening).toBe(0);
  });

  it('has teeth where white was painted inside', () => {
    const { teeth } = measurePicture(lines(CLEAR, (x, y) => isRing(x, y, 80, 40, 4), WHITE));
    expect(teeth).toBeGreaterThan(0.95);
  });
});

describe('measuring a thin dark gap', () => {
  const inBlock = (x: number, y: number, bottom: number): boolean => Math.abs(x - 110) < 70 && y >= 60 && y < bottom;

  it.each([4, 8, 12, 20])('of %i pixels under the teeth', (gap) => {
    const picture = made(220, 180, (x, y) => {
      if (inBlock(x, y, 100 + gap)) return y < 100 ? WHITE : DARK;
      return inEllipse(x, y, 110, 90, 95, 60) ? LIP : CLEAR;
    });
    const { opening, teeth, darkness } = measurePicture(picture);
    expect(opening).toBe(40 + gap);
    expect(teeth).toBeCloseTo(40 / (40 + gap), 1);
    expect(darkness).toBeCloseTo(gap / (40 + gap), 1);
  });

  it.each([4, 8])('of %i pixels inside a line of three, which is no gap itself', (gap) => {
    const inLine = (x: number, y: number, bottom: number): boolean => Math.abs(x - 110) < 73 && y >= 57 && y < bottom + 3;
    const of = (height: number): Raster =>
      made(220, 180, (x, y) => (inBlock(x, y, 100) ? WHITE : inLine(x, y, 100 + height) ? DARK : CLEAR));
    expect(measurePicture(of(gap))).toMatchObject({ opening: 40 + gap });
    expect(measurePicture(of(0))).toMatchObject({ opening: 40, darkness: 0 });
  });

  it.each([4, 8])('of %i pixels between upper and lower teeth', (gap) => {
    const picture = made(220, 180, (x, y) => {
      if (inBlock(x, y, 100 + gap)) return y < 85 || y >= 85 + gap ? WHITE : DARK;
      return inEllipse(x, y, 110, 90, 95, 60) ? LIP : CLEAR;
    });
    const { opening, darkness } = measurePicture(picture);
    expect(opening).toBe(40 + gap);
    expect(darkness).toBeCloseTo(gap / (40 + gap), 1);
  });
});

describe('ground and figure', () => {
  it('leaves white teeth inside a line on white paper to the figure', () => {
    const teeth = made(100, 80, (x, y) => {
      const edge = inEllipse(x, y, 50, 40, 40, 25);
      return edge && !inEllipse(x, y, 50, 40, 36, 21) ? DARK : WHITE;
    });
    expect(maybePaperColour(teeth)).toEqual([255, 255, 255]);
    const figure = figureOf(teeth);
    expect(figure.bits[40 * 100 + 50]).toBe(1);
    expect(figure.bits[2]).toBe(0);
    const bare = withoutPaper(teeth);
    expect([bare.pixels[3], bare.pixels[(40 * 100 + 50) * 4 + 3]]).toEqual([0, 255]);
  });

  it('crops outside a picture into nothing, and shrinks without darkening an edge', () => {
    const part = cropped(
      made(10, 10, () => LIP),
      { x: -2, y: -2, width: 5, height: 5 },
    );
    expect([part.pixels[3], part.pixels[(2 * 5 + 2) * 4 + 3]]).toEqual([0, 255]);
    const half = shrunk(
      made(4, 4, (x) => (x < 1 ? LIP : CLEAR)),
      2,
    );
    expect([...half.pixels.subarray(0, 4)]).toEqual([217, 120, 92, 127]);
  });
});

describe('many mouths on one picture', () => {
  const spots = [
    [40, 44, 26, 6],
    [130, 40, 24, 22],
    [220, 46, 26, 12],
    [42, 130, 20, 30],
    [128, 134, 26, 8],
    [221, 128, 22, 24],
  ] as const;
  const sheet = made(270, 180, (x, y) => {
    const spot = spots.find(([cx, cy, rx, ry]) => inEllipse(x, y, cx, cy, rx, ry));
    return spot ? (inEllipse(x, y, spot[0], spot[1], spot[2] * 0.6, spot[3] * 0.6) ? DARK : LIP) : WHITE;
  });

  it('are found one by one, in reading order, whatever their heights', () => {
    const boxes = separateFigures(sheet);
    expect(boxes).toHaveLength(6);
    boxes.forEach((box, index) => {
      const [cx, cy, rx, ry] = spots[index]!;
      expect(Math.abs(box.x + box.width / 2 - cx)).toBeLessThanOrEqual(1.5);
      expect(Math.abs(box.y + box.height / 2 - cy)).toBeLessThanOrEqual(1.5);
      expect(Math.abs(box.width - 2 * rx)).toBeLessThanOrEqual(2);
      expect(Math.abs(box.height - 2 * ry)).toBeLessThanOrEqual(2);
    });
  });

  it('keeps a stray dot with the mouth it is near, and takes no dust for a mouth', () => {
    const dotted = made(200, 100, (x, y) => {
      if (inEllipse(x, y, 50, 50, 30, 20) || inEllipse(x, y, 150, 50, 30, 20) || inEllipse(x, y, 50, 71, 2, 1)) return LIP;
      return inEllipse(x, y, 100, 8, 1.2, 1.2) ? LIP : CLEAR;
    });
    expect(separateFigures(dotted)).toHaveLength(2);
  });

  it('cells of a grid tile the picture', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 900 }),
        fc.integer({ min: 8, max: 900 }),
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 1, max: 8 }),
        (width, height, columns, rows) => {
          const cells = gridCells(width, height, columns, rows);
          expect(cells).toHaveLength(columns * rows);
          expect(cells.reduce((sum, cell) => sum + cell.width * cell.height, 0)).toBe(width * height);
        },
      ),
    );
  });

  it('reading order keeps every box and goes left to right in a row', () => {
    const box = fc.record({
      x: fc.integer({ min: 0, max: 900 }),
      y: fc.integer({ min: 0, max: 900 }),
      width: fc.integer({ min: 5, max: 60 }),
      height: fc.integer({ min: 5, max: 60 }),
    });
    fc.assert(
      fc.property(fc.array(box, { maxLength: 30 }), (boxes) => {
        const ordered = inReadingOrder(boxes);
        expect(ordered).toHaveLength(boxes.length);
        for (const one of boxes) expect(ordered).toContain(one);
      }),
    );
  });
});

describe('marks as pixels', () => {
  const square = [0, 0, 10, 0, 10, 10, 0, 10];
  const grid = { box: { x: -5, y: -5, width: 20, height: 20 }, perUnit: 2 };
  const count = (bits: Uint8Array): number => bits.reduce((sum, bit) => sum + bit, 0);

  it('fill exactly the area of a polygon (shoelace formula) to within its edge', () => {
    expect(count(maskOfRings([square], grid, 'even-odd').bits)).toBe(400);
    expect(maybeBoxOfMask(maskOfRings([square], grid, 'winding'))).toEqual({ x: 10, y: 10, width: 20, height: 20 });
  });

  it('tell a hole by the even-odd rule and not by the winding', () => {
    const hole = [2, 2, 8, 2, 8, 8, 2, 8];
    expect(count(maskOfRings([square, hole], grid, 'even-odd').bits)).toBe(400 - 144);
    expect(count(maskOfRings([square, hole], grid, 'winding').bits)).toBe(400);
  });

  it('measure a drawn mouth on the chart’s scale', () => {
    const ring = (rx: number, ry: number): number[] =>
      Array.from({ length: 40 }, (_, step) => [Math.cos((step * Math.PI) / 20) * rx, 20 + Math.sin((step * Math.PI) / 20) * ry]).flat();
    const art: DrawnArt = {
      kind: 'drawn',
      marks: [
        { id: 'a', kind: 'fill', rings: [ring(40, 26)], colour: '#d9785c' },
        { id: 'b', kind: 'fill', rings: [ring(32, 18)], colour: '#561f35' },
      ],
    };
    expect(rasterOfMarks(art, grid).pixels).toHaveLength(40 * 40 * 4);
    const { opening, width } = measureLook({ art, placement: AS_IT_IS });
    expect(Math.abs(opening - 36)).toBeLessThan(2);
    expect(Math.abs(width - 80)).toBeLessThan(2);
    expect(measureLook({ art, placement: { x: 9, y: 9, scale: 2 } }).opening).toBeCloseTo(opening * 2, 6);
  });
});

describe('separate figures on paper as a camera sees it', () => {
  /** Six discs on paper, the light falling off to a corner, and noise on it. */
  function photographed(fallOff: number, sigma: number): Raster {
    const [width, height] = [600, 400];
    const pixels = new Uint8Array(width * height * 4);
    let state = 7;
    const random = (): number => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state / 4_294_967_296;
    };
    // Three uniform ones are normal enough.
    const noise = (): number => (random() + random() + random() - 1.5) * 2 * sigma;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const light = 1 - (fallOff * (x / width + y / height)) / 2;
        const isDisc = [100, 300, 500].some((cx) => [110, 290].some((cy) => Math.hypot(x - cx, y - cy) < 60));
        const colour = isDisc ? [150, 50, 60] : [236, 230, 218];
        const at = (y * width + x) * 4;
        for (let channel = 0; channel < 3; channel++) pixels[at + channel] = Math.max(0, Math.min(255, colour[channel]! * light + noise()));
        pixels[at + 3] = 255;
      }
    return { width, height, pixels };
  }

  it.each([
    [0, 0],
    [0.3, 0],
    [0, 12],
    [0.3, 12],
    [0.3, 18],
  ])('light that falls off by %f, noise of σ %i', (fallOff, sigma) => {
    const boxes = separateFigures(photographed(fallOff, sigma));
    expect(boxes).toHaveLength(6);
    for (const { width, height } of boxes) {
      expect(Math.abs(width - 120)).toBeLessThan(14);
      expect(Math.abs(height - 120)).toBeLessThan(14);
    }
  });
});
