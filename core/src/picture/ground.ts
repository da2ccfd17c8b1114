/**
 * Ground and figure. The ground of a picture is what is transparent, or, on a photograph
 * or a scan, what has the colour of the picture's edge and can be reached from it: white
 * teeth inside a line on white paper belong to the figure.
 */
import { emptyMask, type Mask, type Raster } from './raster.js';

/** Less opaque than this is empty, 0 to 255. */
const OPAQUE = 24;
/** Colours closer than this to the paper are paper: the distance of two colours, 0 to 441. */
const PAPER = 48;
/** On noisy paper more is: this many times what all but one in a hundred pixels of the edge lie off, but no more than `MOST`. */
const NOISY = { times: 1.25, most: 110 } as const;
/** Of the edge every so many-th pixel is enough to know how the light falls. */
const EDGE_PIXELS = 2000;

function colourDistance(a: readonly number[], pixels: Raster['pixels'], at: number): number {
  return Math.hypot(a[0]! - pixels[at]!, a[1]! - pixels[at + 1]!, a[2]! - pixels[at + 2]!);
}

/** Pixels reached from the starts through allowed ones, four ways. */
export function flooded({ width, height, bits: allowed }: Mask, starts: readonly number[]): Mask {
  const reached = emptyMask(width, height);
  const waiting = starts.filter((at) => allowed[at] && !reached.bits[at] && (reached.bits[at] = 1));
  while (waiting.length > 0) {
    const at = waiting.pop()!;
    const x = at % width;
    for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width]) {
      if (next < 0 || next >= allowed.length || !allowed[next] || reached.bits[next]) continue;
      reached.bits[next] = 1;
      waiting.push(next);
    }
  }
  return reached;
}

function edgeOf(width: number, height: number): number[] {
  const edge: number[] = [];
  for (let x = 0; x < width; x++) edge.push(x, (height - 1) * width + x);
  for (let y = 1; y < height - 1; y++) edge.push(y * width, y * width + width - 1);
  return edge;
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!;

/** The colour of the paper, when the picture has one: the median of its opaque edge. Undefined on a transparent ground. */
export function maybePaperColour({ width, height, pixels }: Raster): readonly [number, number, number] | undefined {
  const edge = edgeOf(width, height);
  const opaque = edge.filter((at) => pixels[at * 4 + 3]! >= OPAQUE);
  if (opaque.length < edge.length / 2) return undefined;
  const channel = (offset: number): number => median(opaque.map((at) => pixels[at * 4 + offset]!));
  return [channel(0), channel(1), channel(2)];
}

/** Whether a pixel has nothing on it: transparent, or of the paper's colour. */
export function isBare({ pixels }: Raster, pixel: number, paper: readonly number[] | undefined): boolean {
  return pixels[pixel * 4 + 3]! < OPAQUE || (paper !== undefined && colourDistance(paper, pixels, pixel * 4) < PAPER);
}

/** How the light falls on the paper: a quadratic surface for each channel, over x and y from −1 to 1. */
interface Light {
  readonly at: (x: number, y: number) => readonly [number, number, number];
  /** Colours closer than this to it are paper. */
  readonly near: number;
}

/** Solves the normal equations of a least-squares fit by Gauss's elimination; rows as wide as there are unknowns and right sides. */
function solved(rows: number[][], unknowns: number): number[][] {
  for (let pivot = 0; pivot < unknowns; pivot++) {
    let best = pivot;
    for (let row = pivot + 1; row < unknowns; row++) if (Math.abs(rows[row]![pivot]!) > Math.abs(rows[best]![pivot]!)) best = row;
    [rows[pivot], rows[best]] = [rows[best]!, rows[pivot]!];
    const by = rows[pivot]![pivot]! || 1e-9;
    rows[pivot] = rows[pivot]!.map((value) => value / by);
    for (let row = 0; row < unknowns; row++) {
      if (row === pivot) continue;
      const factor = rows[row]![pivot]!;
      if (factor !== 0) rows[row] = rows[row]!.map((value, column) => value - factor * rows[pivot]![column]!);
    }
  }
  return rows.map((row) => row.slice(unknowns));
}

/**
 * The light on the paper, from the picture's edge: even, or falling off to a side or to the
 * corners. Pixels that are no paper, a figure that touches the edge, are left out and the rest
 * fitted again.
 */
function lightOnPaper({ width, height, pixels }: Raster, paper: readonly [number, number, number]): Light {
  const terms = (x: number, y: number): number[] => [1, x, y, x * x, y * y, x * y];
  const edge = edgeOf(width, height);
  const every = Math.max(1, Math.floor(edge.length / EDGE_PIXELS));
  let samples = edge
    .filter((at, index) => index % every === 0 && pixels[at * 4 + 3]! >= OPAQUE)
    .map((at) => ({ at: at * 4, terms: terms((2 * (at % width)) / width - 1, (2 * Math.floor(at / width)) / height - 1) }));
  let colours = [0, 1, 2].map((channel) => [paper[channel]!, 0, 0, 0, 0, 0]);
  const off = (sample: (typeof samples)[number]): number =>
    Math.hypot(
      ...colours.map(
        (fit, channel) => fit.reduce((sum, value, term) => sum + value * sample.terms[term]!, 0) - pixels[sample.at + channel]!,
      ),
    );
  for (let turn = 0; turn < 3 && samples.length > 40; turn++) {
    const rows = Array.from({ length: 6 }, () => new Array<number>(9).fill(0));
    for (const { at, terms: own } of samples)
      for (let row = 0; row < 6; row++) {
        for (let column = 0; column < 6; column++) rows[row]![column]! += own[row]! * own[column]!;
        for (let channel = 0; channel < 3; channel++) rows[row]![6 + channel]! += own[row]! * pixels[at + channel]!;
      }
    const fits = solved(rows, 6);
    colours = [0, 1, 2].map((channel) => fits.map((row) => row[channel]!));
    // What lies far off is no paper: it must not bend the surface.
    const distances = samples.map(off);
    const limit = Math.max(PAPER, 3 * median([...distances]));
    samples = samples.filter((_, index) => distances[index]! <= limit);
  }
  const distances = samples.map(off).sort((a, b) => a - b);
  const usual = distances[Math.floor(distances.length * 0.99)] ?? 0;
  return {
    near: Math.min(NOISY.most, Math.max(PAPER, NOISY.times * usual)),
    at: (x, y) => {
      const own = terms(x, y);
      return [0, 1, 2].map((channel) => colours[channel]!.reduce((sum, value, term) => sum + value * own[term]!, 0)) as [
        number,
        number,
        number,
      ];
    },
  };
}

/** The ground of a picture. */
export function groundOf(raster: Raster): Mask {
  const { width, height, pixels } = raster;
  const paper = maybePaperColour(raster);
  const empty = emptyMask(width, height);
  const { bits } = empty;
  for (let at = 0, opacity = 3; at < bits.length; at++, opacity += 4) if (pixels[opacity]! < OPAQUE) bits[at] = 1;
  if (!paper) return empty;
  const light = lightOnPaper(raster, paper);
  // The light changes slowly: one colour for a square of so many pixels.
  const square = 8;
  for (let top = 0; top < height; top += square)
    for (let left = 0; left < width; left += square) {
      const colour = light.at((2 * (left + square / 2)) / width - 1, (2 * (top + square / 2)) / height - 1);
      for (let y = top; y < Math.min(height, top + square); y++)
        for (let x = left; x < Math.min(width, left + square); x++) {
          const at = y * width + x;
          if (!bits[at] && colourDistance(colour, pixels, at * 4) < light.near) bits[at] = 1;
        }
    }
  return flooded(
    empty,
    edgeOf(width, height).filter((at) => empty.bits[at]),
  );
}

/** Everything that is not ground. */
export function figureOf(raster: Raster): Mask {
  const ground = groundOf(raster);
  const { bits } = ground;
  for (let at = 0; at < bits.length; at++) bits[at]! ^= 1;
  return ground;
}

/** The picture with its paper made transparent, so that it can be laid over a head; the same raster when it has none. */
export function withoutPaper(raster: Raster): Raster {
  if (!maybePaperColour(raster)) return raster;
  const ground = groundOf(raster);
  const pixels = Uint8Array.from(raster.pixels);
  ground.bits.forEach((bit, at) => {
    if (bit) pixels[at * 4 + 3] = 0;
  });
  return { ...raster, pixels };
}
