/** Paints a figure on a canvas, and keeps painted mouths for reuse. */
import { MOUTH_FOCUS, mouthFigure, type ChartDocument, type Figure, type MouthStyle } from '@zest-jaw/core';

/** @param lineWeight multiplies every stroke, so that a small mouth keeps its line */
export function paintFigure(context: CanvasRenderingContext2D, figure: Figure, lineWeight: number): void {
  for (const { path, fill, stroke, strokeWidth = 1, opacity = 1, clip } of figure) {
    context.save();
    context.globalAlpha *= opacity;
    if (clip) context.clip(new Path2D(clip));
    const shape = new Path2D(path);
    if (fill) {
      context.fillStyle = fill;
      context.fill(shape);
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

/** What pencil looks like: the same drawing in graphite. */
export function pencilStyle(style: MouthStyle, night: boolean): MouthStyle {
  return night
    ? { ...style, line: '#9a9788', lip: '#5d5e60', inside: '#343945', teeth: '#c9c4b6', tongue: '#6b6a69' }
    : { ...style, line: '#8d877b', lip: '#ddd5c6', inside: '#a9a295', teeth: '#fffdf6', tongue: '#cfc7b8' };
}

export interface MouthSprites {
  /** A drawing painted once at a width in pixels; undefined when the chart has no such drawing. */
  maybeGet(drawing: string, width: number, inked: boolean): HTMLCanvasElement | undefined;
}

/** Width and height of a mouth at a width in pixels. */
export function heightAtWidth(width: number): number {
  return (width * MOUTH_FOCUS.height) / MOUTH_FOCUS.width;
}

export function mouthSprites(chart: ChartDocument, pixelRatio: number, night: boolean): MouthSprites {
  const painted = new Map<string, HTMLCanvasElement>();
  const shapes = new Map(chart.drawings.map((drawing) => [drawing.id, drawing.shape]));
  const style = chart.settings[0]!.style;
  return {
    maybeGet: (drawing, width, inked) => {
      const shape = shapes.get(drawing);
      if (!shape) return undefined;
      const rounded = Math.max(8, Math.round(width / 2) * 2);
      const key = `${drawing} ${rounded} ${inked}`;
      let canvas = painted.get(key);
      if (!canvas) {
        const scale = rounded / MOUTH_FOCUS.width;
        canvas = document.createElement('canvas');
        canvas.width = Math.ceil(rounded * pixelRatio);
        canvas.height = Math.ceil(heightAtWidth(rounded) * pixelRatio);
        const context = canvas.getContext('2d')!;
        context.scale(scale * pixelRatio, scale * pixelRatio);
        context.translate(-MOUTH_FOCUS.x, -MOUTH_FOCUS.y);
        paintFigure(context, mouthFigure(shape, inked ? style : pencilStyle(style, night)), Math.max(1, 0.42 / scale));
        painted.set(key, canvas);
      }
      return canvas;
    },
  };
}
