/** What is fetched and kept by TanStack Query. A scene's document is not: its session owns it. */
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { api } from './http.js';
import type { ChartView, ProductionView, SceneCard } from '@zest-jaw/core';

export const useProductions = (): UseQueryResult<ProductionView[]> =>
  useQuery({ queryKey: ['productions'], queryFn: () => api<ProductionView[]>('/productions') });

export const useCharts = (): UseQueryResult<ChartView[]> => useQuery({ queryKey: ['charts'], queryFn: () => api<ChartView[]>('/charts') });

export const useScenes = (): UseQueryResult<SceneCard[]> =>
  useQuery({ queryKey: ['scenes'], queryFn: () => api<SceneCard[]>('/scenes'), refetchOnMount: 'always' });
