/** One mouth of a chart as SVG. */
import { chartSettings, lookOf, lookToSvg, focusOfChart, type ChartDocument, type Drawing, type Look } from '@zest-jaw/core';
import { useId, useMemo, type ReactElement } from 'react';
import { assetUrl } from './pictures.js';

interface MouthProps {
  readonly chart: ChartDocument;
  readonly drawing: Drawing;
  /** Which of its looks; the drawing itself when not given. */
  readonly lookIndex?: number;
  /** Multiplies every stroke; small mouths want more. */
  readonly lineWeight?: number;
  readonly className?: string;
}

interface MarkupOptions {
  readonly lineWeight?: number;
  /** Small mouths are made of the small copies of their pictures. */
  readonly small?: boolean;
}

/** A look's elements; safe as HTML because core writes them from checked numbers, colours and hashes alone. */
export function useLookMarkup(chart: ChartDocument, look: Look | undefined, { lineWeight = 1, small = false }: MarkupOptions = {}): string {
  const idPrefix = useId();
  const { style } = chartSettings(chart);
  return useMemo(
    () =>
      look ? lookToSvg(style, look, { idPrefix, lineWeight, hrefOf: ({ picture, preview }) => assetUrl(small ? preview : picture) }) : '',
    [style, look, idPrefix, lineWeight, small],
  );
}

export function Mouth({ chart, drawing, lookIndex = 0, lineWeight = 1, className }: MouthProps): ReactElement {
  const markup = useLookMarkup(chart, lookOf(drawing, lookIndex), { lineWeight, small: true });
  const { x, y, width, height } = useMemo(() => focusOfChart(chart), [chart]);
  return <svg viewBox={`${x} ${y} ${width} ${height}`} className={className} aria-hidden dangerouslySetInnerHTML={{ __html: markup }} />;
}
