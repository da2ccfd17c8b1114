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

/** The ground of a picture. */
export function groundOf(raster: Raster): Mask {
  const { width, height, pixels } = raster;
  const paper = maybePaperColour(raster);
  const empty = emptyMask(width, height);
  const { bits } = empty;
  for (let at = 0, opacity = 3; at < bits.length; at++, opacity += 4) if (pixels[opacity]! < OPAQUE) bits[at] = 1;
  if (!paper) return empty;
  for (let at = 0; at < bits.length; at++) if (!bits[at] && colourDistance(paper, pixels, at * 4) < PAPER) bits[at] = 1;
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
