/** A reading that was made again, kept by its job until it is taken, phrase by phrase or whole, or left. */
import { offeredChanges, takeOffered, type Clip, type ClipPart, type Offered, type OfferView } from '@zest-jaw/core';
import { skipToken, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useMemo, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { useReadingJob, useSceneDocument } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';

export interface Offer {
  readonly clip: Clip;
  readonly view: OfferView;
  readonly offered: Offered;
  /** Takes a phrase of it, or all of it. */
  readonly take: (part?: ClipPart) => void;
  readonly leave: () => void;
}

const OfferContext = createContext<Offer | undefined>(undefined);

/** What was read again and waits; undefined where nothing does. */
export const useOffer = (): Offer | undefined => useContext(OfferContext);

export function OfferRoom({ children }: { children: ReactNode }): ReactElement {
  const job = useReadingJob();
  const client = useQueryClient();
  const changeAndKey = useChangeAndKey();
  const document = useSceneDocument();
  const id = job?.state === 'done' && job.offers ? job.id : undefined;
  const { data: view } = useQuery({
    queryKey: ['offer', id],
    queryFn: id === undefined ? skipToken : () => api<OfferView | null>(`/jobs/${id}/reading`),
    staleTime: Infinity,
  });
  const { mutate: settle } = useMutation({
    mutationFn: (of: string) => api<undefined>(`/jobs/${of}/reading`, { method: 'DELETE' }),
    onMutate: (of) => client.setQueryData(['offer', of], null),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  const offered = useMemo(() => (view ? offeredChanges(document, view.clipId, view.reading) : undefined), [view, document]);
  const clip = document.clips.find((candidate) => candidate.id === view?.clipId);
  // All of it has been taken, or it was the same from the first; or the recording is another by now.
  const isOver = id !== undefined && view !== undefined && view !== null && (!offered || offered.phrases.length === 0);
  useEffect(() => {
    if (isOver) settle(id);
  }, [isOver, id, settle]);
  const offer = useMemo<Offer | undefined>(() => {
    if (id === undefined || !view || !clip || !offered || offered.phrases.length === 0) return undefined;
    return {
      clip,
      view,
      offered,
      take: (part) => {
        if (!changeAndKey((scene) => takeOffered(scene, clip.id, view.reading, part, newId))) return;
        announce(part ? 'That phrase is taken.' : 'The reading is taken. Ink stayed.');
        if (!part) settle(id);
      },
      leave: () => {
        settle(id);
        announce('Left: the reading is as it was.');
      },
    };
  }, [id, view, clip, offered, changeAndKey, settle]);
  useEffect(() => {
    if (isOver) announce('Read again: nothing would change.');
  }, [isOver]);
  return <OfferContext.Provider value={offer}>{children}</OfferContext.Provider>;
}
