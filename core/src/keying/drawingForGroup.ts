/** Which drawing plays a sound group, when the chart has one for it and when it has not. */
import { maybeDrawingOfGroup, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { measureShape } from '../draw/measures.js';
import { STARTER_SHAPES, type MouthShape } from '../draw/mouthShape.js';

/** How different a drawing looks from a built mouth: opening and width in hundredths of the chart's square, lips and teeth added on the same scale. */
function distanceFrom(drawing: Drawing, model: MouthShape): number {
  const [x, y] = [measureLook(drawing), measureShape(model)];
  const seen = Math.abs(x.opening - y.opening) + Math.abs(x.width - y.width) * 0.5 + 8 * Math.abs(x.teeth - y.teeth);
  // What the lips do can only be told of a mouth whose parameters are known.
  if (drawing.art.kind !== 'built') return seen;
  const { press, bite, round } = drawing.art.shape;
  return seen + 30 * (Math.abs(press - model.press) + Math.abs(bite - model.bite)) + 15 * Math.abs(round - model.round);
}

/** The chart's own drawing for a group, else the one that looks most like the starter's; Rest for a group of the user's that no drawing plays. */
export function drawingForGroup(chart: ChartDocument, groupId: string): Drawing {
  const own = maybeDrawingOfGroup(chart, groupId);
  if (own) return own;
  const model = STARTER_SHAPES[groupId];
  if (!model) return restDrawing(chart);
  return chart.drawings.reduce((best, drawing) => (distanceFrom(drawing, model) < distanceFrom(best, model) ? drawing : best));
}
