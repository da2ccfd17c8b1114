/** All drawings of a chart on one picture, each cut to its ink and packed, with a table of where each lies and where its cross is. */
import { chartSettings, lookOf, lookToSvg, MOUTH_BOX, pictureSvg, type ChartDocument, type Drawing, type Refusal } from '@zest-jaw/core';
import potpack from 'potpack';
import sharp from 'sharp';
import { inkOf } from '../inkOf.js';
import { svgToPng } from '../rasterise.js';

export interface SpriteOptions {
  /** Pixels that the chart's square is wide. */
  readonly cell: number;
  readonly powersOfTwo: boolean;
}

export const SPRITE_LIMITS = { least: 32, most: 1024, side: 8192 } as const;

/** Empty pixels around each, so that none bleeds into its neighbour when it is scaled. */
const PADDING = 2;

export interface Sprite {
  readonly id: string;
  readonly number: number;
  readonly label: string;
  /** Which of the drawing's looks: 0 for its own, then its variants. */
  readonly look: number;
  /** Where it lies on the sheet, in pixels. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** The chart's cross, from the sprite's own top left corner; it may lie outside. */
  readonly cross: { readonly x: number; readonly y: number };
}

export interface SpriteTable {
  readonly chart: string;
  readonly width: number;
  readonly height: number;
  /** Pixels a unit of the chart. */
  readonly scale: number;
  readonly sprites: readonly Sprite[];
}

interface Cut {
  readonly drawing: Drawing;
  readonly look: number;
  readonly png: Buffer;
  readonly w: number;
  readonly h: number;
  /** Of the cut in the whole cell. */
  readonly left: number;
  readonly top: number;
  x: number;
  y: number;
}

const inOrder = (chart: ChartDocument): Drawing[] => [...chart.drawings].sort((a, b) => a.place - b.place);
const powerOfTwo = (size: number): number => 2 ** Math.ceil(Math.log2(Math.max(1, size)));

/** One look of a drawing, cut to its ink; a pixel of nothing for an empty one. */
async function cutOut(chart: ChartDocument, drawing: Drawing, look: number, cell: number, hrefOf: (hash: string) => string): Promise<Cut> {
  const height = Math.round((cell * MOUTH_BOX.height) / MOUTH_BOX.width);
  const whole = svgToPng(pictureSvg(chart, { drawing: drawing.id, look }, { width: cell, height, withHead: false }, hrefOf));
  const { x: left, y: top, width: w, height: h } = await inkOf(whole);
  const png = await sharp(whole).extract({ left, top, width: w, height: h }).png().toBuffer();
  return { drawing, look, png, w, h, left, top, x: 0, y: 0 };
}

/** The same sheet as shapes: each look a group in its place, named by its drawing. */
function sheetSvg(
  chart: ChartDocument,
  cuts: readonly Cut[],
  { width, height, scale }: { readonly width: number; readonly height: number; readonly scale: number },
  hrefOf: (hash: string) => string,
): string {
  const { style } = chartSettings(chart);
  const groups = cuts.map(({ drawing, look, x, y, left, top }, index) => {
    const inner = lookToSvg(style, lookOf(drawing, look), { idPrefix: `sprite${index}`, hrefOf: ({ picture }) => hrefOf(picture) });
    const [acrossBy, downBy] = [x - left - MOUTH_BOX.x * scale, y - top - MOUTH_BOX.y * scale];
    return `<g id="${drawing.id}${look === 0 ? '' : `-${look}`}" transform="translate(${acrossBy} ${downBy}) scale(${scale})">${inner}</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${groups.join('')}</svg>\n`;
}

/**
 * @param hrefOf the bytes of a picture as a data URI, by its content hash
 * @returns a refusal when the sheet would be larger than a picture may be
 */
export async function spriteSheet(
  chart: ChartDocument,
  { cell, powersOfTwo }: SpriteOptions,
  hrefOf: (hash: string) => string,
): Promise<{ png: Uint8Array; svg: string; table: SpriteTable } | Refusal> {
  const cuts: Cut[] = [];
  for (const drawing of inOrder(chart))
    for (let look = 0; look <= drawing.variants.length; look++) cuts.push(await cutOut(chart, drawing, look, cell, hrefOf));
  const boxes = cuts.map((cut) => ({ cut, w: cut.w + 2 * PADDING, h: cut.h + 2 * PADDING, x: 0, y: 0 }));
  const packed = potpack(boxes);
  const [width, height] = powersOfTwo ? [powerOfTwo(packed.w), powerOfTwo(packed.h)] : [packed.w, packed.h];
  if (Math.max(width, height) > SPRITE_LIMITS.side)
    return {
      refusal: `The sheet would be ${width} by ${height} pixels. It may be ${SPRITE_LIMITS.side} on a side: choose smaller mouths.`,
    };
  for (const { cut, x, y } of boxes) Object.assign(cut, { x: x + PADDING, y: y + PADDING });
  const blank = sharp({ create: { width, height, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } } });
  const png = await blank
    .composite(cuts.map(({ png: input, x, y }) => ({ input, left: x, top: y })))
    .png()
    .toBuffer();
  const scale = cell / MOUTH_BOX.width;
  return {
    png: new Uint8Array(png),
    svg: sheetSvg(chart, cuts, { width, height, scale }, hrefOf),
    table: {
      chart: chartSettings(chart).name,
      width,
      height,
      scale,
      sprites: cuts.map(({ drawing, look, x, y, w, h, left, top }) => ({
        id: drawing.id,
        number: drawing.number,
        label: drawing.label,
        look,
        x,
        y,
        width: w,
        height: h,
        cross: { x: -MOUTH_BOX.x * scale - left, y: -MOUTH_BOX.y * scale - top },
      })),
    },
  };
}
