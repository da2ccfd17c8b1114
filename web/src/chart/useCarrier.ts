/** The head that a part of a face is on, as the desk of that part sees it: the part's cross where a mouth's would be. */
import { maybeHead, partsOfHead, type ChartHead } from '@zest-jaw/core';
import { useMemo } from 'react';
import { useFaceCharts } from '../mouth/faceChartsContext.js';

/** @returns undefined for a chart that is of no part, or of one that another carries */
export function useCarrier(chartId: string): ChartHead | undefined {
  const charts = useFaceCharts();
  return useMemo(() => {
    for (const chart of charts.values()) {
      const head = maybeHead(chart);
      const part = partsOfHead(head).find((one) => one.chartId === chartId && one.follows === undefined);
      if (head && part)
        return { ...head, mouth: part.at, parts: partsOfHead(head).filter(({ id, follows }) => id !== part.id && !follows) };
    }
    return undefined;
  }, [charts, chartId]);
}
