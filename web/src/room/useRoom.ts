/** Where this browser stands with a server that a room shares. */
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import type { RoomView } from '@zest-jaw/core';
import { api } from '../api/http.js';

export const ROOM_KEY = ['room'] as const;

export const useRoom = (): UseQueryResult<RoomView> =>
  useQuery({ queryKey: ROOM_KEY, queryFn: () => api<RoomView>('/room'), staleTime: Infinity });
