/** Which drawing plays a sound group, when the chart has one for it and when it has not. */
import { maybeDrawingOfGroup, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureShape } from '../draw/measures.js';
import { STARTER_SHAPES, type MouthShape } from '../draw/mouthShape.js';

/** How different two mouths look: opening and width in hundredths of the chart's square, lips and teeth added on the same scale. */
function shapeDistance(a: MouthShape, b: MouthShape): number {
  const [x, y] = [measureShape(a), measureShape(b)];
  return (
    Math.abs(x.opening - y.opening) +
    Math.abs(x.width - y.width) * 0.5 +
    30 * (Math.abs(a.press - b.press) + Math.abs(a.bite - b.bite)) +
    15 * Math.abs(a.round - b.round) +
    8 * Math.abs(x.teeth - y.teeth)
  );
}

/** The chart's own drawing for a group, else the one that looks most like the starter's; Rest for a group of the user's that no drawing plays. */
export function drawingForGroup(chart: ChartDocument, groupId: string): Drawing {
  const own = maybeDrawingOfGroup(chart, groupId);
  if (own) return own;
  const model = STARTER_SHAPES[groupId];
  if (!model) return restDrawing(chart);
  return chart.drawings.reduce((best, drawing) =>
    shapeDistance(drawing.shape, model) < shapeDistance(best.shape, model) ? drawing : best,
  );
}
