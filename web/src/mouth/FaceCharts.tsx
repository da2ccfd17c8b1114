/** Gives every easel inside it the charts that are kept by the server. */
import { useMemo, type ReactElement, type ReactNode } from 'react';
import { useCharts } from '../api/queries.js';
import { FaceChartsContext } from './faceChartsContext.js';

export function FaceCharts({ children }: { readonly children: ReactNode }): ReactElement {
  const { data } = useCharts();
  const charts = useMemo(() => new Map((data ?? []).map(({ id, document }) => [id, document])), [data]);
  return <FaceChartsContext.Provider value={charts}>{children}</FaceChartsContext.Provider>;
}
