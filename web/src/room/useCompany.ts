/** The company of an open document: what others change comes in at once, and where the playhead is goes out. */
import type { DocumentChange } from '@zest-jaw/core';
import { useEffect, useEffectEvent, useState } from 'react';
import type { Playhead } from '../sound/playhead.js';
import { newOthers, openCompany, type OthersStore } from './company.js';

/** A session of whatever kind of document. */
export interface Refreshed {
  refresh(revision?: number): Promise<void>;
}

/** What cannot be taken in now comes with the next change, or with one's own. */
const quietly = (work: Promise<void>): void => void work.catch(() => undefined);

/** @param sessions of every document that is open, by `scenes/…` and `charts/…` */
export function useCompany(document: string, sessions: ReadonlyMap<string, Refreshed>, playhead?: Playhead): OthersStore {
  const [others] = useState(newOthers);
  const onChange = useEffectEvent(({ table, id, revision }: DocumentChange) => {
    const session = sessions.get(`${table}/${id}`);
    if (session) quietly(session.refresh(revision));
  });
  const onOpen = useEffectEvent((isFirst: boolean) => {
    for (const [at, session] of sessions) if (!isFirst || at === document) quietly(session.refresh());
  });
  useEffect(() => {
    const company = openCompany({ document, others, onChange: (changed) => onChange(changed), onOpen: (isFirst) => onOpen(isFirst) });
    const stop = playhead?.store.subscribe(({ frame }) => company.tell(frame));
    if (playhead) company.tell(playhead.store.getState().frame);
    return () => {
      stop?.();
      company.close();
    };
  }, [document, others, playhead]);
  return others;
}
