/** Charts as they were kept before mouths could be drawn or placed, brought up to date. */
import type { MouthShape } from '../draw/mouthShape.js';
import { AS_IT_IS } from '../draw/art.js';
import { PLAIN_DRAWING, type ChartDocument, type Drawing } from './chart.js';
import type { ChartHead } from './head.js';

interface OldDrawing extends Pick<Drawing, 'id' | 'number' | 'label' | 'keycap' | 'groups'> {
  readonly shape: Omit<MouthShape, 'upperLip' | 'lowerLip'> & { readonly lips: number };
}

/** Numbers were places once. */
function withPlace(drawing: Omit<Drawing, 'place'> & { readonly place?: number }): Drawing {
  return { ...drawing, place: drawing.place ?? drawing.number - 1 };
}

/** A drawing as it is kept now; one that is so already is answered as it is. */
export function upgradeDrawing(drawing: OldDrawing | Drawing): Drawing {
  if (!('shape' in drawing)) return withPlace(drawing);
  const { shape: old, ...rest } = drawing;
  const { lips, ...shape } = old;
  return withPlace({
    ...PLAIN_DRAWING,
    ...rest,
    art: { kind: 'built', shape: { ...shape, upperLip: lips, lowerLip: lips } },
    placement: AS_IT_IS,
  });
}

/** A chart as it is kept now, with the head that stood behind it. */
export function upgradeChart(
  chart: Omit<ChartDocument, 'head' | 'drawings'> & { readonly drawings: readonly unknown[] },
  head?: ChartHead,
): ChartDocument {
  const drawings = chart.drawings.map((drawing) => upgradeDrawing(drawing as OldDrawing | Drawing));
  return { ...chart, head: (chart as Partial<ChartDocument>).head ?? (head ? [head] : []), drawings };
}
