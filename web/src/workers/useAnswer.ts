/** A worker's answers, held by the query library: asked again when what they are about is another. */
import { keepPreviousData, skipToken, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';

const numbers = new WeakMap<object, number>();
let count = 0;

/** Documents and their tables never change: which one it is says what is in it. */
function nameOf(part: unknown): unknown {
  if (typeof part !== 'object' || part === null) return part;
  let number = numbers.get(part);
  if (number === undefined) numbers.set(part, (number = ++count));
  return `#${number}`;
}

/**
 * The newest answer, the one before it while the next is on its way.
 *
 * @param about what the answer depends on
 * @param ask answers undefined when something newer was asked meanwhile; undefined asks nothing
 */
export function useAnswer<T>(kind: string, about: readonly unknown[], ask: (() => Promise<T | undefined>) | undefined): T | undefined {
  const { data, error } = useQuery({
    queryKey: [kind, ...about.map(nameOf)],
    queryFn: ask ? async () => (await ask()) ?? null : skipToken,
    placeholderData: keepPreviousData,
    // The worker is here whether or not there is a network.
    networkMode: 'always',
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  useEffect(() => {
    if (error) toast.error(sentenceOf(error));
  }, [error]);
  return ask ? (data ?? undefined) : undefined;
}
