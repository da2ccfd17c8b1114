/** Opening a scene bundle: its scenes come beside those that are there. */
import { useMutation, useQueryClient, type UseMutationResult } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';

export const isBundle = (file: File): boolean => /\.zip$/i.test(file.name);

interface Opened {
  readonly sceneIds: readonly string[];
  readonly charts: readonly string[];
}

export function useOpenBundle(): UseMutationResult<Opened, Error, File> {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (file: File): Promise<Opened> => {
      const body = new FormData();
      body.set('bundle', file);
      return api<Opened>('/bundles', { method: 'POST', body });
    },
    onSuccess: async ({ sceneIds, charts }) => {
      await client.invalidateQueries();
      if (charts.length > 0) toast.message(`New here with it: ${charts.map((name) => `“${name}”`).join(', ')}.`);
      const [first] = sceneIds;
      if (first !== undefined) await navigate(`/scenes/${first}/key`);
    },
    onError: (error, file) => void toast.error(`${file.name}: ${sentenceOf(error)}`),
  });
}
