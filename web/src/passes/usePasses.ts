/** The passes of a scene: kept, removed, brought back. */
import type { NoteCounts, PassView, SceneDocument } from '@zest-jaw/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, sendJson, sentenceOf } from '../api/http.js';
import type { DocumentSession } from '../session/session.js';

export interface NewPass {
  readonly name: string;
  readonly why: string;
  readonly byItself: boolean;
  readonly notes?: Omit<NoteCounts, 'revision'>;
  /** The revision that is kept; the newest without it. */
  readonly revision?: number;
  /** Another document than the scene’s own. */
  readonly document?: SceneDocument;
}

export const keepPass = (sceneId: string, pass: NewPass): Promise<PassView> =>
  sendJson<PassView>('POST', `/scenes/${sceneId}/passes`, pass);

/** A server that does not answer keeps nothing waiting for longer, in milliseconds. */
const WAITED_FOR = 2500;

/** The revision that a scene is at once all of it is saved; undefined where that takes too long. */
export async function savedRevision(session: DocumentSession<SceneDocument>): Promise<number | undefined> {
  const late = new Promise<'late'>((resolve) => setTimeout(resolve, WAITED_FOR, 'late'));
  const came = await Promise.race([session.flush().catch(() => 'late' as const), late]);
  return came === 'late' ? undefined : session.store.getState().revision;
}

/**
 * Keeps the scene as it is saved now, before something large is done to it. That is done whether or not it can be kept.
 *
 * @param revision as `savedRevision` answered before it was done
 */
export function keepBefore(sceneId: string, revision: number | undefined, what: string): void {
  if (revision === undefined) return;
  const pass = { name: `Before ${what}`, why: '', byItself: true, revision };
  keepPass(sceneId, pass).catch((error: unknown) => void toast.error(`No pass could be kept of how it was: ${sentenceOf(error)}`));
}

const passesKey = (sceneId: string): readonly string[] => ['passes', sceneId];

export interface Passes {
  /** Newest first; undefined before they are known. */
  readonly passes: readonly PassView[] | undefined;
  keep(pass: NewPass): Promise<void>;
  remove(pass: PassView): Promise<void>;
}

export function usePasses(sceneId: string): Passes {
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: passesKey(sceneId), queryFn: () => api<PassView[]>(`/scenes/${sceneId}/passes`), staleTime: 0 });
  const refresh = (): Promise<void> => client.invalidateQueries({ queryKey: passesKey(sceneId) });
  const setRemoved = async (id: string, removed: boolean): Promise<void> => {
    await sendJson('PUT', `/scenes/${sceneId}/passes/${id}`, { removed });
    await refresh();
  };
  const told = (work: Promise<void>): Promise<void> => work.catch((error: unknown) => void toast.error(sentenceOf(error)));
  return {
    passes: data,
    keep: (pass) => told(keepPass(sceneId, pass).then(refresh)),
    remove: ({ id, name }) =>
      told(
        setRemoved(id, true).then(
          () =>
            void toast.message(`“${name}” is removed.`, {
              action: { label: 'Bring it back', onClick: () => void told(setRemoved(id, false)) },
            }),
        ),
      ),
  };
}
