/** Pictures brought in whole, put on the head as a part of their own, and laid in a lane: one change of the scene. */
import {
  addPictures,
  framesPerSecond,
  hasEnded,
  isRefusal,
  NAMES_OF_ROLES,
  partOfPictures,
  partsOfHead,
  sceneSettings,
  type ChartHead,
  type ChartView,
  type JobView,
  PICTURES_LIMITS,
  type PartRole,
  type PicturesLaid,
  type PlacedArt,
} from '@zest-jaw/core';
import { useMutation, useQueryClient, type UseMutationResult } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, sendJson } from '../api/http.js';
import { acceptImport, beginImport, foundByImport, giveUpImport, type ChosenFile } from '../api/imports.js';
import { watchJob } from '../api/job.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { useMouthOfFace } from '../scene/useMouthOfFace.js';
import { newId } from '../session/newId.js';
import { count } from '../ui/count.js';
import { askOfPictures } from './asked.js';
import { framesOfFilm, isFilm } from './filmFrames.js';

/** Files sent at once: an import takes so many, and how far it is shows sooner. */
const AT_ONCE = 200;

export interface Brought {
  readonly files: readonly ChosenFile[];
  readonly role: PartRole;
  readonly laid: PicturesLaid;
  /** Given up: what is on its way is let go, and nothing is put on the head. */
  readonly signal: AbortSignal;
}

interface Doing {
  readonly done: number;
  readonly message: string;
}

/** The first name of its kind that no part of the head has. */
function freeName(head: ChartHead, role: PartRole): string {
  const there = new Set(partsOfHead(head).map(({ name }) => name.toLowerCase()));
  const names = [NAMES_OF_ROLES[role], ...Array.from(there, (_, index) => `${NAMES_OF_ROLES[role]} ${index + 2}`)];
  return names.find((name) => !there.has(name.toLowerCase()))!;
}

const followed = (id: string, onChange: (job: JobView) => void): Promise<JobView> =>
  new Promise((resolve) => {
    watchJob(id, (job) => {
      onChange(job);
      if (hasEnded(job)) resolve(job);
    });
  });

/** Whole pictures of some files, in their order, and what is said of those that cannot be used. */
async function bringSome(
  files: readonly ChosenFile[],
  signal: AbortSignal,
  report: (done: number, message: string) => void,
): Promise<{ readonly arts: readonly PlacedArt[]; readonly refused: readonly string[] }> {
  const { id } = await beginImport(files, { cut: 'pages', clearPaper: false });
  signal.addEventListener('abort', () => void giveUpImport(id).catch(() => undefined), { once: true });
  const job = await followed(id, ({ done, message }) => report(done, message));
  signal.throwIfAborted();
  if (job.state !== 'done') throw new Error(job.message);
  const { mouths, refused } = await foundByImport(id);
  const sentences = refused.map(({ sentence }) => sentence);
  if (mouths.length === 0) {
    await giveUpImport(id);
    return { arts: [], refused: sentences };
  }
  const indexes = mouths.map(({ index }) => index);
  return { arts: await acceptImport(id, indexes), refused: sentences };
}

/** Answers with the new lane's id; its error's message is a sentence. */
export function useBringPictures(): UseMutationResult<string, Error, Brought> & { readonly doing: Doing | undefined } {
  const { session, showTrack } = useOpenScene();
  const { mouth, head, chartId: headChartId, chartSession } = useMouthOfFace();
  const client = useQueryClient();
  const [doing, setDoing] = useState<Doing>();
  const bring = async ({ files, role, laid, signal }: Brought): Promise<string> => {
    if (!head || !chartSession) throw new Error('This chart has no head to put pictures on. Give it one on the chart’s page first.');
    const rate = framesPerSecond(sceneSettings(session.store.getState().document).frameRate);
    const pages: ChosenFile[] = [];
    for (const one of files) {
      const frames = isFilm(one)
        ? await framesOfFilm(one, rate, (done) => setDoing({ done: done / 2, message: `Taking ${one.file.name} apart` }), signal)
        : [one];
      pages.push(...frames);
    }
    if (pages.length > PICTURES_LIMITS.most)
      throw new Error(
        `These are ${pages.length} pictures. A head may have ${PICTURES_LIMITS.most}: choose fewer, or cut the film shorter.`,
      );
    const arts: PlacedArt[] = [];
    const refused: string[] = [];
    for (let first = 0; first < pages.length; first += AT_ONCE) {
      const some = pages.slice(first, first + AT_ONCE);
      const found = await bringSome(some, signal, (done, message) =>
        setDoing({ done: (first + done * some.length) / pages.length, message }),
      );
      arts.push(...found.arts);
      refused.push(...found.refused);
    }
    if (arts.length === 0)
      throw new Error(refused[0] ?? 'There is no picture in what was chosen. Choose PNG, JPEG, WebP, GIF or SVG pictures, or a film.');
    if (refused.length > 0) toast.message(`${count(refused.length, 'file is', 'files are')} left out. ${refused[0]!}`);
    signal.throwIfAborted();
    await chartSession.flush();
    const part = { ...partOfPictures(head, role, arts), name: freeName(head, role) };
    const { charts } = await sendJson<{ charts: string[] }>('POST', `/charts/${headChartId}/parts`, { parts: [part] });
    const [chartId] = charts as [string];
    const made = await api<ChartView>(`/charts/${chartId}`);
    await chartSession.refresh();
    await client.invalidateQueries({ queryKey: ['charts'] });
    const onHead = { ...part, id: newId(), chartId };
    const patch = addPictures(session.store.getState().document, { mouth: mouth.id, part: onHead, chart: made.document }, laid, newId);
    if (isRefusal(patch) || !session.change(patch)) throw new Error(isRefusal(patch) ? patch.refusal : 'The pictures could not be laid.');
    const track = patch.ops.find((op) => op.op === 'put' && op.table === 'tracks')!;
    const lane = track.op === 'put' ? track.id : '';
    showTrack(lane);
    return lane;
  };
  const mutation = useMutation({
    mutationFn: bring,
    onSettled: () => setDoing(undefined),
    // The step is made anew for the new lane: what comes next is asked for here. The mouth is not on a plate.
    onSuccess: (_lane, { role }) => askOfPictures(role === 'head' ? 'follow' : undefined),
  });
  return { ...mutation, doing };
}
