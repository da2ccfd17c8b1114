/**
 * A mouth that is all outline: lines around areas that are bare, or all of one colour.
 *
 * Nothing in it is dark by area, so the areas themselves are sorted: one that lies around
 * others is the lips; so are the topmost and the lowest when what lies between is narrower
 * than both. Areas beside one another are teeth. Of two, one above the other and about as
 * large, the outer shape decides: one that fills its box is clenched teeth, one that
 * narrows to its corners is lips that are shut. Otherwise a smaller one at the top is teeth, a
 * smaller one at the bottom the tongue, and the rest the inside of the mouth.
 *
 * The rules are common practice of outline drawing, no source; the shares are our own.
 */
import { areasOf, type Area } from './areas.js';
import { flooded, isBare, maybePaperColour } from './ground.js';
import { eroded, grown } from './morphology.js';
import { type Mask, type Raster } from './raster.js';

/** An area with less than this share of the picture is a speck between lines. */
const SPECK = 0.003;
/** Of what lines enclose, this share must be bare, or of one colour. */
const ALL_OF_ONE = 0.9;
/** Colours closer than this are the same: the distance of two colours, 0 to 441. */
const SAME_COLOUR = 60;
/** Of two areas, the smaller is about as large with more than this share of the larger. */
const ABOUT_AS_LARGE = 0.6;
/** A shape that fills more than this share of its box is no lens: an ellipse fills π / 4. */
const FILLS_BOX = 0.84;
/** So many areas beside one another are teeth. */
const A_ROW = 3;

export interface OutlineMouth {
  /** The pixels of the opening, and which of them are teeth or dark. */
  readonly opening: Mask;
  readonly teeth: Mask;
  readonly dark: Mask;
}

const widthOf = ({ left, right }: Area): number => right - left + 1;
const isAround = (outer: Area, inner: Area): boolean =>
  outer !== inner && outer.left < inner.left && outer.right > inner.right && outer.top < inner.top && outer.bottom > inner.bottom;
const isBeside = (one: Area, other: Area): boolean =>
  one !== other &&
  (one.left > other.right || other.left > one.right) &&
  Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top) > Math.min(one.bottom - one.top, other.bottom - other.top) / 2;

/** The areas without those of the lips. */
function withoutLips(areas: readonly Area[]): readonly Area[] {
  const inner = areas.filter((area) => !areas.some((other) => isAround(area, other)));
  const [top, bottom] = [inner[0], inner.at(-1)];
  const between = inner.slice(1, -1);
  if (between.length === 0 || !top || !bottom) return inner;
  const widest = Math.max(...between.map(widthOf));
  return widthOf(top) > widest && widthOf(bottom) > widest && !inner.some((area) => isBeside(top, area)) ? between : inner;
}

type Kind = 'tooth' | 'dark' | 'tongue' | 'lip';

function kindsOf(areas: readonly Area[]): Kind[] {
  const isInRow = areas.map((area) => areas.some((other) => isBeside(area, other)));
  if (isInRow.filter(Boolean).length >= A_ROW) return isInRow.map((yes) => (yes ? 'tooth' : 'dark'));
  const sizes = areas.map(({ pixels }) => pixels.length);
  const largest = Math.max(...sizes);
  if (areas.length === 2 && Math.min(...sizes) > ABOUT_AS_LARGE * largest) {
    const [left, right] = [Math.min(...areas.map((area) => area.left)), Math.max(...areas.map((area) => area.right))];
    const box = (right - left + 1) * (areas[1]!.bottom - areas[0]!.top + 1);
    return sizes[0]! + sizes[1]! > FILLS_BOX * box ? ['tooth', 'tooth'] : ['lip', 'lip'];
  }
  return areas.map((_, index) => {
    if (sizes[index] === largest) return 'dark';
    if (index === 0) return 'tooth';
    return index === areas.length - 1 ? 'tongue' : 'dark';
  });
}

/** Pixels of a mask that have a pixel of another beside them. */
function touching({ width, bits }: Mask, other: Uint8Array): number {
  return bits.reduce(
    (sum, bit, at) => sum + (bit && (other[at - 1] || other[at + 1] || other[at - width] || other[at + width]) ? 1 : 0),
    0,
  );
}

/**
 * What an outline mouth shows; undefined for a picture that is none: one with colours of
 * its own inside, or with a fill that no line goes around.
 * @param lines the dark pixels of the figure, none of them an area
 * @param teeth pixels bright and colourless enough to be teeth, when something painted them
 */
export function maybeOutlineMouth(raster: Raster, lines: Mask, teeth: Uint8Array): OutlineMouth | undefined {
  const { width, height, pixels } = raster;
  const paper = maybePaperColour(raster);
  const bare = { width, height, bits: Uint8Array.from({ length: width * height }, (_, at) => (isBare(raster, at, paper) ? 1 : 0)) };
  const edges: number[] = [];
  for (let at = 0; at < width * height; at++)
    if (bare.bits[at] && (at % width === 0 || at % width === width - 1 || at < width || at >= width * (height - 1))) edges.push(at);
  const outside = flooded(bare, edges);
  const allInside = { width, height, bits: outside.bits.map((bit, at) => (bit || lines.bits[at] ? 0 : 1)) };
  // What is left of a line's soft edge is one pixel thick.
  const inside = grown(eroded(allInside, 1), allInside.bits, 2);
  const areas = areasOf(inside, 'sides')
    .filter((area) => area.pixels.length >= SPECK * width * height)
    .sort((a, b) => a.top - b.top);
  const all = areas.flatMap((area) => area.pixels);
  if (all.length === 0) return undefined;
  const share = (is: (at: number) => unknown): number => all.reduce((sum, at) => sum + (is(at) ? 1 : 0), 0) / all.length;
  const middle = all[all.length >> 1]! * 4;
  const isOneColour = (at: number): boolean =>
    Math.hypot(...[0, 1, 2].map((channel) => pixels[at * 4 + channel]! - pixels[middle + channel]!)) < SAME_COLOUR;
  const isOutline =
    share((at) => bare.bits[at]) > ALL_OF_ONE || (share(isOneColour) > ALL_OF_ONE && share((at) => teeth[at]) < 1 - ALL_OF_ONE);
  if (!isOutline || touching(inside, outside.bits) > touching(inside, lines.bits) / 10) return undefined;
  const own = withoutLips(areas);
  const kinds = kindsOf(own);
  const maskOf = (is: (kind: Kind) => boolean): Mask => {
    const mask = { width, height, bits: new Uint8Array(width * height) };
    own.forEach((area, index) => {
      if (is(kinds[index]!)) for (const at of area.pixels) mask.bits[at] = 1;
    });
    return mask;
  };
  return { opening: maskOf((kind) => kind !== 'lip'), teeth: maskOf((kind) => kind === 'tooth'), dark: maskOf((kind) => kind === 'dark') };
}
