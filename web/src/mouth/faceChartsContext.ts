/** The charts of the parts of faces, for every easel below: without them a face has its mouth alone. */
import type { ChartDocument } from '@zest-jaw/core';
import { createContext, useContext } from 'react';

type Charts = ReadonlyMap<string, ChartDocument>;

export const FaceChartsContext = createContext<Charts>(new Map());

export const useFaceCharts = (): Charts => useContext(FaceChartsContext);
