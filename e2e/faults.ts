/** Faults planted in a scene of the demo, by the server's own way of changing one. */
import type { Exposure, SceneDocument, SceneView } from '@zest-jaw/core';
import type { App } from './app.js';

type Frames = Omit<Exposure, 'from' | 'to' | 'id'>[];

/** The lane as a mouth a frame, changed, and put in the place of what is there. */
export async function changeFrames(app: App, sceneId: string, change: (frames: Frames, scene: SceneDocument) => void): Promise<void> {
  const { document, revision } = await app.json<SceneView>(`/api/scenes/${sceneId}`);
  const [track] = document.tracks;
  const own = document.exposures.filter((exposure) => exposure.track === track!.id);
  const frames: Frames = [];
  for (const { from, to, id: _, ...mouth } of own) for (let frame = from; frame < to; frame++) frames[frame] = mouth;
  const start = own.map(({ from }) => from);
  const before = [...frames];
  change(frames, document);
  const made: Exposure[] = [];
  frames.forEach((mouth, frame) => {
    const last = made.at(-1);
    const isNew = frame === 0 || frames[frame - 1] !== mouth || (mouth === before[frame] && start.includes(frame));
    if (!isNew && last) made[made.length - 1] = { ...last, to: frame + 1 };
    else made.push({ ...mouth, id: `planted${frame}`, from: frame, to: frame + 1 });
  });
  const ops = [
    ...own.map((one) => ({ op: 'put', table: 'exposures', id: one.id, before: one, after: null })),
    ...made.map((one) => ({ op: 'put', table: 'exposures', id: one.id, before: null, after: one })),
  ];
  const answer = await fetch(app.url(`/api/scenes/${sceneId}`), {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ baseRevision: revision, patchId: `plant-${Date.now()}-${Math.random()}`, reason: 'exposure.put', ops }),
  });
  if (!answer.ok) throw new Error(await answer.text());
}

export const mouth = (drawing: string, inked = false): Frames[number] => ({ track: 'mouth1', drawing, inked, plays: [] });

/** The first run of frames that show a drawing, from a frame on and at least so long. */
export function runOf(frames: Frames, drawing: string, least: number, after = 0): { from: number; to: number } {
  for (let from = after; from < frames.length; from++) {
    if (frames[from]!.drawing !== drawing || frames[from - 1]?.drawing === drawing) continue;
    let to = from;
    while (frames[to]?.drawing === drawing) to += 1;
    if (to - from >= least) return { from, to };
  }
  throw new Error(`There is no “${drawing}” of ${least} frames.`);
}
