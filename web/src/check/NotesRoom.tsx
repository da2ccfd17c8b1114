/** What the checker finds of the open scene, in a worker, for every step: asked again when what it depends on changes. */
import { notesAside, type Aside, type CheckLimits, type HeardFrames, type Note, type NoteCounts, type Remark } from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useEffectEvent, useMemo, useState, type ReactElement, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { api, sendJson } from '../api/http.js';
import { useHearing, useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { checker, type ToCheck } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';

export interface Notes {
  /** In order of their frames; undefined before the scene was checked. */
  readonly open: readonly Note[] | undefined;
  readonly aside: readonly { readonly note: Note; readonly aside: Aside }[];
  /** Of people, those that are not seen to first. */
  readonly remarks: readonly Remark[];
  /** What the answers are about: another while a newer scene is being checked. */
  readonly job: ToCheck;
  readonly limits: Partial<CheckLimits>;
}

const NotesContext = createContext<Notes | null>(null);
const NO_LIMITS: Partial<CheckLimits> = {};
const NONE: Notes['aside'] = [];
const NO_NOTES: readonly Note[] = [];
/** What is changed quickly is checked when the hand rests, in milliseconds. */
const RESTS_AFTER = 350;

/** The notes on the open scene. */
export function useNotes(): Notes {
  const notes = useContext(NotesContext);
  if (!notes) throw new Error('There is no open scene around this component.');
  return notes;
}

/** How many are open, by how much they matter. */
export function countsOf({ open = NO_NOTES, remarks }: Pick<Notes, 'open' | 'remarks'>): Omit<NoteCounts, 'revision'> {
  const count = (weight: number): number => open.filter((note) => note.weight === weight).length;
  return { heavy: count(3), seen: count(2), small: count(1), remarks: remarks.filter(({ done }) => !done).length };
}

export const limitsKey = (productionId: string): readonly string[] => ['limits', productionId];

/** What the production allows, where it is otherwise than the feels have it. */
export function useLimits(productionId: string): Partial<CheckLimits> {
  const { data = NO_LIMITS } = useQuery({
    queryKey: limitsKey(productionId),
    queryFn: () => api<Partial<CheckLimits>>(`/productions/${productionId}/limits`),
  });
  return data;
}

/** A value once it has been the same for a while. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(() => value), RESTS_AFTER);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

export function NotesRoom({ children }: { children: ReactNode }): ReactElement {
  const { productionId, sceneId, session } = useOpenScene();
  const document = useRested(useSceneDocument());
  const now = useSceneDocument();
  const { allCharts: charts } = useSpeaker();
  const { heardOf, facts } = useHearing();
  const limits = useLimits(productionId);
  const { settings, clips, words, phonemes, tracks, views, oneOffs, exposures } = document;
  const heard = useMemo(() => {
    const speakers = new Set(tracks.map(({ characterId }) => characterId));
    return new Map(
      [...speakers].flatMap((id): [string, HeardFrames][] => {
        const frames = heardOf({ settings, clips }, id);
        return frames ? [[id, frames]] : [];
      }),
    );
  }, [settings, clips, tracks, heardOf]);
  const job = useMemo<ToCheck>(
    () => ({ scene: document, charts, heardOf: heard, facts, limits }),
    [document, charts, heard, facts, limits],
  );
  // What is set aside, and what people say, changes no note.
  const about = [settings, clips, words, phonemes, tracks, views, oneOffs, exposures, charts, heard, facts, limits];
  const found = useAnswer('check', about, () => checker.check(job));
  const { asides, remarks } = now;
  const notes = useMemo<Notes>(() => {
    const { open, aside } = found ? notesAside(found, asides) : { open: undefined, aside: NONE };
    const ordered = [...remarks].sort((a, b) => Number(a.done ?? false) - Number(b.done ?? false) || a.frame - b.frame);
    return { open, aside, remarks: ordered, job, limits };
  }, [found, asides, remarks, job, limits]);

  // Home tells how many there are of a scene that is saved.
  const revision = useStore(session.store, (state) =>
    state.saveState === 'saved' && state.document === state.confirmed ? state.revision : undefined,
  );
  const isOf = found !== undefined && now === document;
  const tell = useEffectEvent((of: number) => {
    const body = { revision: of, ...countsOf(notes) };
    // It is told again with the next change.
    void sendJson('PUT', `/scenes/${sceneId}/notes`, body).catch(() => undefined);
  });
  useEffect(() => {
    if (!isOf || revision === undefined) return undefined;
    const timer = setTimeout(() => tell(revision), RESTS_AFTER);
    return () => clearTimeout(timer);
  }, [isOf, revision, notes]);
  return <NotesContext.Provider value={notes}>{children}</NotesContext.Provider>;
}
