/** The maps of sounds that a character's production keeps. */
import type { SoundMap } from '@zest-jaw/core';
import { skipToken, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { useProductions } from '../api/queries.js';

export interface KeptMaps {
  readonly maps: readonly SoundMap[];
  /** Keeps a map under its name, in the place of one that has it. */
  readonly keep: (map: SoundMap) => void;
  readonly forget: (name: string) => void;
}

const NONE: readonly SoundMap[] = [];

export function useMaps(characterId: string): KeptMaps {
  const client = useQueryClient();
  const productions = useProductions();
  const id = productions.data?.find(({ characters }) => characters.some((character) => character.id === characterId))?.id;
  const key = ['maps', id];
  const { data: maps = NONE } = useQuery({
    queryKey: key,
    queryFn: id === undefined ? skipToken : () => api<SoundMap[]>(`/productions/${id}/maps`),
  });
  const put = useMutation({
    mutationFn: (next: readonly SoundMap[]) => sendJson<SoundMap[]>('PUT', `/productions/${id}/maps`, { maps: next }),
    onSuccess: (kept) => client.setQueryData(key, kept),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  const others = (name: string): SoundMap[] => maps.filter((map) => map.name.toLowerCase() !== name.toLowerCase());
  // As they were: a map that is gone comes back with one press.
  const offerBack = (sentence: string): void =>
    void toast.message(sentence, { action: { label: 'Put it back', onClick: () => put.mutate(maps) } });
  return {
    maps,
    keep: (map) => {
      const isThere = others(map.name).length < maps.length;
      put.mutate([...others(map.name), map], {
        onSuccess: () => isThere && offerBack(`“${map.name}” took the place of the map of that name.`),
      });
    },
    forget: (name) => put.mutate(others(name), { onSuccess: () => offerBack(`“${name}” is forgotten.`) }),
  };
}
