/** What would mend the note that is looked at, tried in the worker, and the sheet as it would be. */
import { applyPatch, isRefusal, SCENE_KIND, type Note, type SceneDocument, type TriedMend } from '@zest-jaw/core';
import { useMemo } from 'react';
import { sheetExposures, type SheetData } from '../barSheet/sheetData.js';
import { useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { checker } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';
import { useNotes } from './NotesRoom.js';

export interface MendAtHand {
  /** Undefined while it is tried, and where there is none. */
  readonly tried: TriedMend | undefined;
  /** Why there is none. */
  readonly refusal: string | undefined;
  /** The sheet with what would change tinted. */
  readonly data: SheetData;
  /** The scene as it would be. */
  readonly after: SceneDocument | undefined;
}

export function useMend(note: Note | undefined): MendAtHand {
  const { job } = useNotes();
  const document = useSceneDocument();
  const { data } = useSheet();
  const { track, charts } = useSpeaker();
  const hasMend = note !== undefined && note.mends.length > 0;
  const answer = useAnswer(
    'mend',
    [job, note?.id, note?.look],
    hasMend ? async () => ({ job, id: note.id, answer: await checker.mend(job, note) }) : undefined,
  );
  // The answer before stays until the next one is here: it is of another scene then.
  const own = note && answer?.job === job && answer.id === note.id ? answer.answer : undefined;
  const tried = own && !isRefusal(own) && job.scene === document ? own : undefined;
  const after = useMemo(() => tried && applyPatch(SCENE_KIND, document, tried.patch), [tried, document]);
  const shown = useMemo(() => {
    if (!after) return data;
    const now = new Set(data.exposures.map(({ from, to, drawing }) => `${from} ${to} ${drawing}`));
    const exposures = sheetExposures(after, track.id, charts).map((exposure) =>
      now.has(`${exposure.from} ${exposure.to} ${exposure.drawing}`) ? exposure : { ...exposure, isProposed: true },
    );
    return { ...data, exposures };
  }, [after, data, track.id, charts]);
  return { tried, refusal: own && isRefusal(own) ? own.refusal : undefined, data: shown, after };
}
