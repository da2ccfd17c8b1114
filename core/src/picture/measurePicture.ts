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
 * The method and its thresholds are our own; they were set on the built mouths, whose
 * measures are known.
 */
import type { MouthMeasures } from '../draw/measures.js';
import { figureOf } from './ground.js';
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

/** One line of a pass over a mask: where it begins, how many pixels it has, how far apart they lie. */
type OnLine = (start: number, length: number, stride: number) => void;

/** Goes over every row of a mask, or over every column. */
function overLines({ width, height }: Mask, way: 'rows' | 'columns', onLine: OnLine): void {
  if (way === 'rows') for (let row = 0; row < height; row++) onLine(row * width, width, 1);
  else for (let column = 0; column < width; column++) onLine(column, height, width);
}

/** A mask with a border of `radius` taken off (by squares, in two passes). */
function eroded(mask: Mask, radius: number): Mask {
  const pass = (source: Uint8Array, way: 'rows' | 'columns'): Uint8Array => {
    const out = new Uint8Array(source.length);
    overLines(mask, way, (start, length, stride) => {
      let run = 0;
      for (let index = 0; index <= length; index++) {
        if (index < length && source[start + index * stride]) {
          run += 1;
          continue;
        }
        for (let back = index - run + radius; back < index - radius; back++) out[start + back * stride] = 1;
        run = 0;
      }
    });
    return out;
  };
  return { ...mask, bits: pass(pass(mask.bits, 'rows'), 'columns') };
}

/** What of `within` is no further than `radius` from `mask` (by squares, in two passes). */
function grown(mask: Mask, within: Uint8Array, radius: number): Mask {
  const pass = (source: Uint8Array, way: 'rows' | 'columns'): Uint8Array => {
    const out = new Uint8Array(source.length);
    overLines(mask, way, (start, length, stride) => {
      let until = -1;
      for (let index = 0, at = start; index < length; index++, at += stride) {
        if (source[at]) until = index + radius;
        if (index <= until) out[at] = 1;
      }
      until = length;
      for (let index = length - 1, at = start + index * stride; index >= 0; index--, at -= stride) {
        if (source[at]) until = index - radius;
        if (index >= until) out[at] = 1;
      }
    });
    return out;
  };
  const bits = pass(pass(mask.bits, 'rows'), 'columns');
  for (let at = 0; at < bits.length; at++) bits[at]! &= within[at]!;
  return { ...mask, bits };
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

/** @returns lengths in the raster's pixels; all 0 for an empty picture */
export function measurePicture(raster: Raster): MouthMeasures {
  const factor = Math.max(1, Math.max(raster.width, raster.height) / ANALYSED);
  const small = shrunk(raster, factor);
  const tones = tonesOf(small);
  const { figure, dark, tooth } = tones;
  const box = maybeBoxOfMask(figure);
  if (!box) return { opening: 0, width: 0, teeth: 0, darkness: 0 };
  const { width: across, height: down } = small;
  const line = Math.max(1, Math.round(box.width * LINE));
  const core = eroded({ width: across, height: down, bits: dark }, line);
  const inside = grown(core, dark, line + 1);
  const teeth = eroded({ width: across, height: down, bits: tooth }, 1);
  const seenTeeth = grown(teeth, tooth, 2);
  const columns: Column[] = [];
  let [toothPixels, darkPixels] = [0, 0];
  for (let x = box.x; x < box.x + box.width; x++) {
    let [first, last] = [-1, -1];
    for (let y = box.y; y < box.y + box.height; y++) {
      const at = y * across + x;
      if (!inside.bits[at] && !seenTeeth.bits[at]) continue;
      if (first < 0) first = y;
      last = y;
      if (inside.bits[at]) darkPixels += 1;
      else toothPixels += 1;
    }
    if (first >= 0) columns.push({ x, first, last });
  }
  const lip = maybeLipColour(small, tones, columns);
  const middle = box.x + box.width / 2;
  let [opening, area] = [0, 0];
  for (const column of columns) {
    const height = endOfTongue(small, tones, column, lip) - column.first + 1;
    area += height;
    if (Math.abs(column.x + 0.5 - middle) <= box.width / 4) opening = Math.max(opening, height);
  }
  return {
    opening: opening * factor,
    width: box.width * factor,
    teeth: area > 0 ? toothPixels / area : 0,
    darkness: area > 0 ? darkPixels / area : 0,
  };
}
