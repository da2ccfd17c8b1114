/** What is fetched and kept by TanStack Query. A scene's document is not: its session owns it. */
import { useMutation, useQuery, useQueryClient, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { api } from './http.js';
import type { ChartView, ProductionView, SceneCard } from '@zest-jaw/core';

export const useProductions = (): UseQueryResult<ProductionView[]> =>
  useQuery({ queryKey: ['productions'], queryFn: () => api<ProductionView[]>('/productions') });

export const useCharts = (): UseQueryResult<ChartView[]> => useQuery({ queryKey: ['charts'], queryFn: () => api<ChartView[]>('/charts') });

export const useScenes = (): UseQueryResult<SceneCard[]> =>
  useQuery({ queryKey: ['scenes'], queryFn: () => api<SceneCard[]>('/scenes'), refetchOnMount: 'always' });

export function useRemoveScene(): UseMutationResult<null, Error, string> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<null>(`/scenes/${id}`, { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['scenes'] }),
  });
}
