/** One mouth of a chart as SVG. */
import { figureToSvg, MOUTH_FOCUS, mouthFigure, type ChartDocument, type Drawing } from '@zest-jaw/core';
import { useId, useMemo, type ReactElement } from 'react';

const BOX = `${MOUTH_FOCUS.x} ${MOUTH_FOCUS.y} ${MOUTH_FOCUS.width} ${MOUTH_FOCUS.height}`;

interface MouthProps {
  readonly chart: ChartDocument;
  readonly drawing: Drawing;
  /** Multiplies every stroke; small mouths want more. */
  readonly lineWeight?: number;
  readonly className?: string;
}

/** The figure's elements; safe as HTML because core writes them from numbers and colours alone. */
export function useMouthMarkup(chart: ChartDocument, drawing: Drawing | undefined, lineWeight = 1): string {
  const id = useId();
  return useMemo(
    () => (drawing ? figureToSvg(mouthFigure(drawing.shape, chart.settings[0]!.style), id, lineWeight) : ''),
    [chart, drawing, id, lineWeight],
  );
}

export function Mouth({ chart, drawing, lineWeight = 1, className }: MouthProps): ReactElement {
  const markup = useMouthMarkup(chart, drawing, lineWeight);
  return <svg viewBox={BOX} className={className} aria-hidden dangerouslySetInnerHTML={{ __html: markup }} />;
}
