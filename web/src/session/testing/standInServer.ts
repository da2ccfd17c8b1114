/** A server in memory that keeps the rules of the real one, and can be told to misbehave. */
import {
  applyPatch,
  checkScene,
  DEFAULT_RULES,
  isRefusal,
  newScene,
  type Patch,
  putDrawing,
  type RevisionView,
  type Refusal,
  SCENE_KIND,
  type SceneDocument,
  type SceneView,
  starterChart,
} from '@zest-jaw/core';
import { openSession } from '../documentSession.js';
import type { DocumentSession } from '../session.js';
import { newId } from '../newId.js';

export const chart = starterChart('Test', 'brush');
const clip = { characterId: 'c', audio: 'a', fileName: 'f', lengthSamples: 96_000, script: '', language: 'en' as const };
export const empty = newScene({
  title: 'Test',
  frameRate: { num: 24, den: 1 },
  firstFrame: 1,
  chartId: 'chart',
  chart,
  rules: DEFAULT_RULES,
  clip,
});

type Answer = readonly [status: number, body: unknown];

export class StandInServer {
  revisions: Patch[] = [];
  requests: string[] = [];
  inFlight = 0;
  mostInFlight = 0;
  copies: SceneDocument[] = [];
  /** How it misbehaves: an answer of its own, `away`, or silence until the request is given up. */
  mood: ((method: string, path: string, body: Record<string, unknown>) => Answer | 'away' | 'silent' | undefined) | undefined;

  get document(): SceneDocument {
    return this.revisions.reduce((scene, patch) => applyPatch(SCENE_KIND, scene, patch), empty);
  }

  view(): SceneView {
    return JSON.parse(
      JSON.stringify({ id: 's', productionId: 'p', revision: this.revisions.length, document: this.document, reading: null }),
    ) as SceneView;
  }

  private rows(from: number, to: number): RevisionView[] {
    return this.revisions.slice(from, to).map((patch, index) => ({ revision: from + index + 1, patch, at: '2026-01-05T09:00:00.000Z' }));
  }

  private answer(path: string, method: string, body: Record<string, unknown>): Answer {
    if (method === 'PATCH') {
      const known = this.revisions.findIndex((patch) => patch.id === body['patchId']);
      if (known >= 0) return [200, { revision: known + 1 }];
      const revision = this.revisions.length;
      const base = Number(body['baseRevision']);
      if (base !== revision) return [409, { detail: 'stale', revision, patchesSince: this.rows(base, revision) }];
      const { patchId: id, baseRevision: _, ...patch } = body;
      this.revisions.push({ id, ...patch } as Patch);
      return [200, { revision: this.revisions.length }];
    }
    if (path.endsWith('/copies')) {
      this.copies.push(body['document'] as SceneDocument);
      return [201, { id: 'copy' }];
    }
    const since = /since=(\d+)/.exec(path);
    if (since) return [200, this.rows(Number(since[1]), this.revisions.length)];
    const upTo = /upTo=(\d+)/.exec(path);
    // Pages of five, so that a test need not do a hundred things.
    if (upTo) return [200, this.rows(Math.max(0, Number(upTo[1]) - 5), Number(upTo[1])).reverse()];
    return [200, this.view()];
  }

  fetch = async (
    path: string,
    { method = 'GET', body, signal }: { method?: string; body?: string; signal?: AbortSignal } = {},
  ): Promise<unknown> => {
    this.requests.push(`${method} ${path}`);
    this.mostInFlight = Math.max(this.mostInFlight, ++this.inFlight);
    try {
      await Promise.resolve();
      const sent = body ? (JSON.parse(body) as Record<string, unknown>) : {};
      const mood = this.mood?.(method, path, sent);
      if (mood === 'away') throw new TypeError('no network');
      if (mood === 'silent') await new Promise((_, reject) => signal!.addEventListener('abort', () => reject(new Error('aborted'))));
      const [status, content] = Array.isArray(mood) ? (mood as unknown as Answer) : this.answer(path, method, sent);
      return { ok: status < 300, status, text: () => Promise.resolve(JSON.stringify(content)) };
    } finally {
      this.inFlight -= 1;
    }
  };
}

export async function openOn(server: StandInServer, refusals: string[], view = server.view()): Promise<DocumentSession<SceneDocument>> {
  return openSession(view, {
    kind: SCENE_KIND,
    path: '/scenes',
    check: (document: SceneDocument) => checkScene(document, new Map([['chart', chart]])),
    onRefusal: (sentence) => refusals.push(sentence),
  });
}

const putPatch = (on: DocumentSession<SceneDocument>, frame: number, drawing: string): Patch | Refusal =>
  putDrawing(on.store.getState().document, { track: 'mouth1', frame, drawing }, chart, newId);

export const put = (on: DocumentSession<SceneDocument>, frame: number, drawing: string): boolean => on.change(putPatch(on, frame, drawing));

/** Puts a drawing as what follows from a step. */
export function putAfter(on: DocumentSession<SceneDocument>, step: string | undefined, frame: number, drawing: string): void {
  const patch = putPatch(on, frame, drawing);
  if (isRefusal(patch)) throw new Error(patch.refusal);
  on.follow(step, patch);
}

export const drawingsOf = ({ store }: DocumentSession<SceneDocument>): string[] =>
  store.getState().document.exposures.map((exposure) => exposure.drawing);

/** Puts what every session needs of its surroundings in place. */
export function standIn(server: StandInServer): void {
  Object.assign(globalThis, { fetch: server.fetch });
  Object.assign(globalThis.crypto, { randomUUID: () => `id-${Math.random()}` });
}
