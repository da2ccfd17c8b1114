/** What every painter of the bar sheet paints with. */
import type { MouthSprites } from '../mouth/paintFigure.js';
import type { Palette } from './palette.js';
import type { BarSheetPlan, SystemPlan } from './plan.js';
import type { SheetData } from './sheetData.js';

export const FONT = "'Source Sans 3 Variable', sans-serif";

export interface Brush {
  readonly context: CanvasRenderingContext2D;
  readonly system: SystemPlan;
  readonly plan: BarSheetPlan;
  readonly data: SheetData;
  readonly palette: Palette;
  readonly sprites: MouthSprites;
  readonly chosenClip?: string | undefined;
}

export function box(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number, radius: number): void {
  context.beginPath();
  context.roundRect(x, y, Math.max(0.5, width), height, Math.min(radius, Math.max(0, width / 2)));
}

export function fitText(context: CanvasRenderingContext2D, text: string, width: number): string {
  if (context.measureText(text).width <= width) return text;
  for (let length = text.length - 1; length > 0; length--) {
    const cut = `${text.slice(0, length)}…`;
    if (context.measureText(cut).width <= width) return cut;
  }
  return '';
}
