/** Paints a figure on a canvas, and keeps painted mouths for reuse. */
import {
  artFigure,
  focusOfChart,
  lookOf,
  maybeDrawing,
  MOUTH_FOCUS,
  type Box,
  type ChartDocument,
  type Figure,
  type Look,
  type MouthStyle,
} from '@zest-jaw/core';
import { mouthKey, partsOfMouthKey } from '../barSheet/sheetData.js';
import { maybeImage } from './pictures.js';

/** @param lineWeight multiplies every stroke, so that a small mouth keeps its line */
export function paintFigure(context: CanvasRenderingContext2D, figure: Figure, lineWeight: number): void {
  for (const part of figure) {
    if (!('path' in part)) {
      const image = maybeImage(part.preview) ?? maybeImage(part.picture);
      if (image) context.drawImage(image, 0, 0, part.width, part.height);
      continue;
    }
    const { path, fill, stroke, strokeWidth = 1, opacity = 1, clip, evenOdd } = part;
    context.save();
    context.globalAlpha *= opacity;
    if (clip) context.clip(new Path2D(clip));
    const shape = new Path2D(path);
    if (fill) {
      context.fillStyle = fill;
      context.fill(shape, evenOdd ? 'evenodd' : 'nonzero');
    }
    if (stroke) {
      context.strokeStyle = stroke;
      context.lineWidth = strokeWidth * lineWeight;
      context.lineJoin = context.lineCap = 'round';
      context.stroke(shape);
    }
    context.restore();
  }
}

/** What pencil looks like: a built mouth in graphite. */
export function pencilStyle(style: MouthStyle, night: boolean): MouthStyle {
  return night
    ? { ...style, line: '#9a9788', lip: '#5d5e60', inside: '#343945', teeth: '#c9c4b6', tongue: '#6b6a69' }
    : { ...style, line: '#8d877b', lip: '#ddd5c6', inside: '#a9a295', teeth: '#fffdf6', tongue: '#cfc7b8' };
}

/** Turns what is painted on a canvas to graphite, for mouths whose colours are their own. */
function toPencil(context: CanvasRenderingContext2D, { width, height }: HTMLCanvasElement, night: boolean): void {
  const picture = context.getImageData(0, 0, width, height);
  const { data } = picture;
  const [dark, light] = night ? [52, 196] : [128, 250];
  for (let at = 0; at < data.length; at += 4) {
    const grey = 0.2126 * data[at]! + 0.7152 * data[at + 1]! + 0.0722 * data[at + 2]!;
    const value = dark + (grey / 255) * (light - dark);
    data[at] = data[at + 1] = value;
    data[at + 2] = value * 0.95;
  }
  context.putImageData(picture, 0, 0);
}

export interface MouthSprites {
  /** A drawing, by its key among all charts, painted once at a width in pixels; undefined when no chart has it. */
  maybeGet(mouth: string, width: number, inked: boolean): HTMLCanvasElement | undefined;
}

/** Width and height of a mouth at a width in pixels. */
export function heightAtWidth(width: number): number {
  return (width * MOUTH_FOCUS.height) / MOUTH_FOCUS.width;
}

/** @param charts by id */
export function mouthSprites(charts: ReadonlyMap<string, ChartDocument>, pixelRatio: number, night: boolean): MouthSprites {
  const painted = new Map<string, HTMLCanvasElement>();
  const mouths = new Map<string, { readonly look: Look; readonly style: MouthStyle; readonly focus: Box }>();
  const focuses = new Map([...charts].map(([id, chart]) => [id, focusOfChart(chart)]));
  for (const [id, chart] of charts) {
    const { style } = chart.settings[0]!;
    for (const drawing of chart.drawings)
      mouths.set(mouthKey(id, drawing.id), { look: lookOf(drawing, 0), style, focus: focuses.get(id)! });
  }
  /** One that is made of others is in no chart's list. */
  const maybeMade = (mouth: string): ReturnType<typeof mouths.get> => {
    const { chartId, drawing: id } = partsOfMouthKey(mouth);
    const chart = charts.get(chartId);
    const drawing = chart && maybeDrawing(chart, id);
    const made = drawing && { look: lookOf(drawing, 0), style: chart.settings[0]!.style, focus: focuses.get(chartId)! };
    if (made) mouths.set(mouth, made);
    return made;
  };
  return {
    maybeGet: (mouth, width, inked) => {
      const found = mouths.get(mouth) ?? maybeMade(mouth);
      if (!found) return undefined;
      const { look, style, focus } = found;
      const rounded = Math.max(8, Math.round(width / 2) * 2);
      const key = `${mouth} ${rounded} ${inked}`;
      let canvas = painted.get(key);
      if (!canvas) {
        const scale = rounded / focus.width;
        canvas = document.createElement('canvas');
        canvas.width = Math.ceil(rounded * pixelRatio);
        canvas.height = Math.ceil(heightAtWidth(rounded) * pixelRatio);
        const context = canvas.getContext('2d')!;
        context.scale(scale * pixelRatio, scale * pixelRatio);
        context.translate(-focus.x, -focus.y);
        if (look.push) {
          context.rotate((look.push.angle * Math.PI) / 180);
          context.scale(look.push.width, look.push.height);
        }
        context.translate(look.placement.x, look.placement.y);
        context.scale(look.placement.scale, look.placement.scale);
        const isPlain = look.art.kind === 'built' && !look.art.style;
        paintFigure(context, artFigure(look.art, inked || !isPlain ? style : pencilStyle(style, night)), Math.max(1, 0.42 / scale));
        if (!inked && !isPlain) toPencil(context, canvas, night);
        painted.set(key, canvas);
      }
      return canvas;
    },
  };
}
