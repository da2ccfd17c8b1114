/** What part of the chart's square the desk shows, and where a pointer is on it. */
import type { Point } from '@zest-jaw/core';
import type { PointerEvent as ReactPointerEvent, WheelEvent as ReactWheelEvent } from 'react';

export interface DeskView {
  /** The middle of what is seen, in the chart's units. */
  readonly x: number;
  readonly y: number;
  /** Units from the left edge to the right. */
  readonly across: number;
}

export const WHOLE_VIEW: DeskView = { x: 0, y: 20, across: 150 };

/** Height of the view as a share of its width. */
export const VIEW_SHAPE = 0.78;

export function viewBoxOf({ x, y, across }: DeskView): string {
  return `${x - across / 2} ${y - (across * VIEW_SHAPE) / 2} ${across} ${across * VIEW_SHAPE}`;
}

/** Closer or further about a point, which stays where it is. */
export function zoomed({ x, y, across }: DeskView, by: number, about: Point): DeskView {
  const next = Math.max(24, Math.min(900, across * by));
  const ratio = next / across;
  return { across: next, x: about.x + (x - about.x) * ratio, y: about.y + (y - about.y) * ratio };
}

/** Where a pointer is, in the chart's units. */
export function pointOnDesk(svg: SVGSVGElement, event: Pick<ReactPointerEvent | ReactWheelEvent, 'clientX' | 'clientY'>): Point {
  const matrix = svg.getScreenCTM();
  if (!matrix) return { x: 0, y: 0 };
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
  return { x, y };
}
