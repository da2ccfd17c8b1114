/**
 * What a picture of a mouth shows: how far it is open, how wide it is, how much of the
 * opening is teeth and how much is dark.
 *
 * The opening is looked for inside the figure. Dark pixels are the inside of the mouth where
 * they form an area: an erosion by a little more than half a line's width takes drawn lines
 * away, and growing back inside the dark brings the area back whole. Teeth are bright,
 * colourless pixels that touch that area or stand between lines where there is none (teeth
 * shut). The opening is then the tallest stretch, over the columns near the middle, from
 * the first to the last pixel of dark or teeth, with what lies between, and the tongue below:
 * a run of colour under the dark that ends at a line, when more of the figure follows the
 * line, or when it is not the colour that lies above the opening (then it would be the lip).
 *
 * A dark gap too thin to be an area counts when it lies at teeth and is thicker than the line
 * around them. A mouth that is nothing but lines has no dark area: `outlineMouth.ts` tells its
 * areas apart.
 *
 * The method and its thresholds are our own; they were set on the built mouths, whose
 * measures are known.
 */
import type { MouthMeasures } from '../draw/measures.js';
import { figureOf } from './ground.js';
import { eroded, grown } from './morphology.js';
import { maybeOutlineMouth } from './outlineMouth.js';
import { maybeBoxOfMask, shrunk, type Mask, type Raster } from './raster.js';

/** Analysed at no more than this many pixels a side. */
const ANALYSED = 240;
/** Darker than this is the inside of a mouth, or a line: lightness from 0 to 1. */
const DARK = 0.4;
/** Brighter than this, and with less colour than `TOOTH_COLOUR`, is a tooth. */
const TOOTH = 0.78;
const TOOTH_COLOUR = 0.2;
const DARK_LUMINANCE = DARK ** 2.2;
const TOOTH_LUMINANCE = TOOTH ** 2.2;
/** Half the width of the thickest line to be expected, as a share of the figure's width. */
const LINE = 0.045;
/** Colours closer than this are the same: the distance of two colours, 0 to 441. */
const SAME_COLOUR = 60;

/** sRGB values made linear, near enough, by a power of 2.2. */
const LINEAR = Float64Array.from({ length: 256 }, (_, value) => (value / 255) ** 2.2);

/** Relative luminance of an sRGB colour. Rec. 709 weights. */
function luminance(red: number, green: number, blue: number): number {
  return 0.2126 * LINEAR[red]! + 0.7152 * LINEAR[green]! + 0.0722 * LINEAR[blue]!;
}

interface Run {
  readonly from: number;
  readonly to: number;
}

/** The first run of coloured figure from `start` on, past a line, in steps of `by` rows, `least` of them or more; undefined when there is ground first. */
function maybeColouredRun({ figure, dark }: Tones, x: number, start: number, by: 1 | -1, least: number): Run | undefined {
  const { width, height, bits } = figure;
  let y = start;
  while (y >= 0 && y < height && dark[y * width + x]) y += by;
  const from = y;
  while (y >= 0 && y < height && bits[y * width + x] && !dark[y * width + x]) y += by;
  return Math.abs(y - from) >= least ? { from, to: y - by } : undefined;
}

interface Column {
  readonly x: number;
  readonly first: number;
  readonly last: number;
}

type Colour = readonly [number, number, number];

function colourAt({ width, pixels }: Raster, x: number, y: number): Colour {
  const at = (y * width + x) * 4;
  return [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
}

/** The colour of the upper lip: what lies above the opening, where most of it shows. */
function maybeLipColour(small: Raster, tones: Tones, columns: readonly Column[]): Colour | undefined {
  let [longest, colour] = [0, undefined as Colour | undefined];
  for (const { x, first } of columns) {
    const above = maybeColouredRun(tones, x, first - 1, -1, 1);
    const length = above ? Math.abs(above.to - above.from) + 1 : 0;
    if (length > longest) [longest, colour] = [length, colourAt(small, x, (above!.from + above!.to) >> 1)];
  }
  return colour;
}

/** The last row of the tongue below an opening; the opening's own when there is none. */
function endOfTongue(small: Raster, tones: Tones, { x, last }: Column, lip: Colour | undefined): number {
  const below = maybeColouredRun(tones, x, last + 1, 1, 2);
  if (!below || below.to + 1 >= small.height || !tones.dark[(below.to + 1) * small.width + x]) return last;
  if (maybeColouredRun(tones, x, below.to + 1, 1, 2) || !lip) return below.to;
  const run = colourAt(small, x, (below.from + below.to) >> 1);
  return Math.hypot(...lip.map((value, channel) => value - run[channel]!)) < SAME_COLOUR ? last : below.to;
}

interface Tones {
  readonly figure: Mask;
  readonly dark: Uint8Array;
  readonly tooth: Uint8Array;
}

function tonesOf(raster: Raster): Tones {
  const figure = figureOf(raster);
  const dark = new Uint8Array(figure.bits.length);
  const tooth = new Uint8Array(figure.bits.length);
  for (let at = 0; at < dark.length; at++) {
    if (!figure.bits[at]) continue;
    const [red, green, blue] = [raster.pixels[at * 4]!, raster.pixels[at * 4 + 1]!, raster.pixels[at * 4 + 2]!];
    const light = luminance(red, green, blue);
    const colour = (Math.max(red, green, blue) - Math.min(red, green, blue)) / 255;
    if (light < DARK_LUMINANCE) dark[at] = 1;
    else if (light > TOOTH_LUMINANCE && colour < TOOTH_COLOUR) tooth[at] = 1;
  }
  return { figure, dark, tooth };
}

/** How many dark pixels, none of them of the inside, lie in a column from a row on. */
function darkFrom({ figure, dark }: Tones, inside: Uint8Array, x: number, start: number, by: 1 | -1): number {
  const { width, height } = figure;
  let y = start;
  while (y >= 0 && y < height && dark[y * width + x] && !inside[y * width + x]) y += by;
  return Math.abs(y - start);
}

/**
 * A dark gap under teeth or between them, too thin to be an area, is the inside of the mouth
 * all the same when it is plainly thicker than the line above the teeth; added to `inside`.
 */
function addThinGap(tones: Tones, inside: Uint8Array, seenTeeth: Uint8Array): void {
  const { width, height } = tones.figure;
  const above: number[] = [];
  const gaps: { x: number; from: number; thick: number; isBelow: boolean }[] = [];
  for (let x = 0; x < width; x++) {
    for (let y = 1; y < height; y++) {
      const isTooth = seenTeeth[y * width + x];
      const wasTooth = seenTeeth[(y - 1) * width + x];
      if (isTooth && !wasTooth && !inside[(y - 1) * width + x]) {
        const thick = darkFrom(tones, inside, x, y - 1, -1);
        // Between two rows of teeth it is the gap itself.
        if (!seenTeeth[(y - 1 - thick) * width + x]) above.push(thick);
      }
      if (isTooth || !wasTooth || inside[y * width + x]) continue;
      const thick = darkFrom(tones, inside, x, y, 1);
      if (thick > 0) gaps.push({ x, from: y, thick, isBelow: !seenTeeth[(y + thick) * width + x] });
    }
  }
  const line = above.sort((a, b) => a - b)[above.length >> 1] ?? 0;
  for (const isBelow of [true, false]) {
    const own = gaps.filter((gap) => gap.isBelow === isBelow);
    const usual = own.map(({ thick }) => thick).sort((a, b) => a - b)[own.length >> 1] ?? 0;
    if (usual < Math.max(2, 1.6 * line + 1)) continue;
    // The lowest of a gap at the edge of the mouth is its line.
    for (const { x, from, thick } of own) for (let y = from; y < from + thick - (isBelow ? line : 0); y++) inside[y * width + x] = 1;
  }
}

/** The first and the last row of an opening in each of its columns, and how much of it is teeth and dark, in pixels. */
function openingOf({ width, height }: Mask, isTooth: Uint8Array, isDark: Uint8Array, isOpen: (at: number) => unknown) {
  const columns: Column[] = [];
  let [teeth, dark] = [0, 0];
  for (let x = 0; x < width; x++) {
    let [first, last] = [-1, -1];
    for (let y = 0; y < height; y++) {
      const at = y * width + x;
      if (!isOpen(at)) continue;
      if (first < 0) first = y;
      last = y;
      if (isDark[at]) dark += 1;
      else if (isTooth[at]) teeth += 1;
    }
    if (first >= 0) columns.push({ x, first, last });
  }
  return { columns, teeth, dark };
}

/** @returns lengths in the raster's pixels; all 0 for an empty picture */
export function measurePicture(raster: Raster): MouthMeasures {
  const factor = Math.max(1, Math.max(raster.width, raster.height) / ANALYSED);
  const small = shrunk(raster, factor);
  const tones = tonesOf(small);
  const { figure, dark, tooth } = tones;
  const box = maybeBoxOfMask(figure);
  if (!box) return { opening: 0, width: 0, teeth: 0, darkness: 0 };
  const lines: Mask = { ...figure, bits: dark };
  const line = Math.max(1, Math.round(box.width * LINE));
  const core = eroded(lines, line);
  const outline = core.bits.includes(1) ? undefined : maybeOutlineMouth(small, lines, tooth);
  let seen: ReturnType<typeof openingOf>;
  let heightOf = ({ first, last }: Column): number => last - first + 1;
  if (outline) seen = openingOf(figure, outline.teeth.bits, outline.dark.bits, (at) => outline.opening.bits[at]);
  else {
    const inside = grown(core, dark, line + 1).bits;
    const teeth = grown(eroded({ ...figure, bits: tooth }, 1), tooth, 2).bits;
    addThinGap(tones, inside, teeth);
    seen = openingOf(figure, teeth, inside, (at) => inside[at] || teeth[at]);
    const lip = maybeLipColour(small, tones, seen.columns);
    heightOf = (column) => endOfTongue(small, tones, column, lip) - column.first + 1;
  }
  const middle = box.x + box.width / 2;
  let [opening, area] = [0, 0];
  for (const column of seen.columns) {
    const height = heightOf(column);
    area += height;
    if (Math.abs(column.x + 0.5 - middle) <= box.width / 4) opening = Math.max(opening, height);
  }
  return {
    opening: opening * factor,
    width: box.width * factor,
    teeth: area > 0 ? seen.teeth / area : 0,
    darkness: area > 0 ? seen.dark / area : 0,
  };
}
