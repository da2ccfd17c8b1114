/** Looking back at a scene, and not changing it meanwhile. */
import { SCENE_KIND, type SceneDocument } from '@zest-jaw/core';
import type { DocumentSession } from '../session/session.js';
import { drawingsOf, openOn, put, StandInServer, standIn } from '../session/testing/standInServer.js';
import { documentAt } from './documentAt.js';
import { openShownScene } from './shownScene.js';

jest.mock('idb-keyval', () => ({ get: () => Promise.resolve(undefined), set: () => Promise.resolve(), del: () => Promise.resolve() }));

let server: StandInServer;
let refusals: string[];
let session: DocumentSession<SceneDocument>;
beforeEach(async () => {
  server = new StandInServer();
  refusals = [];
  standIn(server);
  session = await openOn(server, refusals);
});
afterEach(() => session.close());

it('shows an earlier revision, made of the newest and what came after it', async () => {
  const states = [session.store.getState().document];
  for (const [frame, drawing] of [
    [6, 'drop'],
    [12, 'ring'],
    [18, 'lift'],
  ] as const) {
    put(session, frame, drawing);
    await session.flush();
    states.push(session.store.getState().document);
  }
  const rows = server.revisions.map((patch, index) => ({ revision: index + 1, patch, at: '' })).reverse();
  for (const [revision, state] of states.entries()) expect(await documentAt(SCENE_KIND, states.at(-1)!, rows, revision)).toEqual(state);
});

it('changes nothing while somebody looks back, and says why; then it goes on as before', () => {
  const shown = openShownScene(session);
  const first = session.store.getState().document;
  put(session, 6, 'drop');
  expect(shown.store.getState().document).toBe(session.store.getState().document);
  shown.lookBack(0, first);
  expect(put(session, 12, 'ring')).toBe(false);
  expect(session.undo()).toBe(false);
  expect(refusals[0]).toContain('as it was');
  expect(shown.store.getState()).toEqual({ backAt: 0, document: first });
  shown.toNow();
  expect(put(session, 12, 'ring')).toBe(true);
  expect(shown.store.getState().document).toBe(session.store.getState().document);
  expect(drawingsOf(session)).toHaveLength(3);
});
