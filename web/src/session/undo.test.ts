/** Undo reaches back over readings, other windows, a reload and leaving, to the document's first state. */
import { applyPatch, invertPatch, SCENE_KIND, type Patch, type SceneDocument } from '@zest-jaw/core';
import type { DocumentSession } from './session.js';
import { drawingsOf, empty, openOn, put, StandInServer, standIn } from './testing/standInServer.js';

const kept = new Map<string, unknown>();
jest.mock('idb-keyval', () => ({
  get: (key: string) => Promise.resolve(kept.get(key)),
  set: (key: string, value: unknown) => Promise.resolve(void kept.set(key, value)),
  del: (key: string) => Promise.resolve(void kept.delete(key)),
}));

let server: StandInServer;
let refusals: string[];
let session: DocumentSession<SceneDocument>;
let now = 0;

const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 50; turn += 1) await Promise.resolve();
};
/** A change that is a step of its own. */
const step = (on: DocumentSession<SceneDocument>, frame: number, drawing: string): void => {
  now += 10_000;
  put(on, frame, drawing);
};
const undo = async (on: DocumentSession<SceneDocument> = session): Promise<boolean> => {
  const done = on.undo();
  await settle();
  return done;
};

beforeEach(async () => {
  kept.clear();
  now = 0;
  jest.spyOn(Date, 'now').mockImplementation(() => now);
  server = new StandInServer();
  refusals = [];
  standIn(server);
  session = await openOn(server, refusals);
});
afterEach(() => {
  session.close();
  jest.restoreAllMocks();
});

/** What the server does when a reading arrives: two revisions, one step. */
function reading(words: string, drawing: string): void {
  const { document } = server;
  const settings = {
    op: 'put' as const,
    table: 'settings',
    id: 'scene',
    before: document.settings[0]!,
    after: { ...document.settings[0]!, title: words },
  };
  const first = document.exposures[0]!;
  const mouth = { op: 'put' as const, table: 'exposures', id: first.id, before: first, after: { ...first, drawing } };
  server.revisions.push({ id: `${words}1`, reason: 'reading.take', step: words, forAll: true, ops: [settings] as Patch['ops'] });
  server.revisions.push({ id: `${words}2`, reason: 'pencil.key', step: words, forAll: true, ops: [mouth] as Patch['ops'] });
}

it('a reading that arrives is one step, and what was done before it is still there to be undone', async () => {
  step(session, 30, 'drop');
  await session.flush();
  reading('read', 'mid');
  await session.refresh();
  expect(drawingsOf(session)).toEqual(['mid', 'drop']);
  expect(session.store.getState().history.done).toHaveLength(2);
  session.undo();
  expect(drawingsOf(session)).toEqual(['rest', 'drop']);
  expect(session.store.getState().document.settings[0]!.title).toBe('Test');
  session.undo();
  expect(drawingsOf(session)).toEqual(['rest']);
  session.redo();
  session.redo();
  expect(drawingsOf(session)).toEqual(['mid', 'drop']);
  await session.flush();
  expect(server.document).toEqual(session.store.getState().document);
});

it('a reading taken back in one window is not there to be taken back in the other', async () => {
  const other = await openOn(server, []);
  reading('read', 'mid');
  await Promise.all([session.refresh(), other.refresh()]);
  session.undo();
  await session.flush();
  await other.refresh();
  expect(other.store.getState().history.done).toEqual([]);
  expect(drawingsOf(other)).toEqual(['rest']);
  other.close();
});

it('goes over what another window did to other records, and says what it cannot take back', async () => {
  step(session, 10, 'drop');
  step(session, 20, 'lift');
  step(session, 30, 'tip');
  step(session, 10, 'push');
  await session.flush();
  const other = await openOn(server, []);
  step(other, 40, 'ring');
  await other.flush();
  await session.refresh();
  session.undo();
  expect(refusals).toEqual([]);
  expect(drawingsOf(session)).toEqual(['rest', 'drop', 'lift', 'tip', 'ring']);
  // The ring shortened the tip: taking the tip back would lose the other's work. The lift before it can go no more, for the tip stands on it.
  session.undo();
  expect(refusals[0]).toMatch(/a mouth that was put, cannot be taken back: the same has been changed since/);
  expect(drawingsOf(session)).toEqual(['rest', 'drop', 'lift', 'tip', 'ring']);
  expect(session.store.getState().saveState).not.toBe('conflict');
  await session.flush();
  expect(server.document).toEqual(session.store.getState().document);
  other.close();
});

it('reaches over a reload to the first state, a page at a time, and can be done again', async () => {
  for (const [frame, drawing] of [
    [4, 'drop'],
    [8, 'ring'],
    [12, 'lift'],
    [16, 'mid'],
    [20, 'tip'],
    [24, 'push'],
    [28, 'drop'],
    [32, 'ring'],
    [36, 'lift'],
    [40, 'mid'],
    [44, 'tip'],
  ] as const)
    step(session, frame, drawing);
  await session.flush();
  reading('read', 'mid');
  session.close();
  session = await openOn(server, refusals);
  const whole = server.document;
  expect(session.store.getState().past.upTo).toBe(13);
  for (let turn = 0; turn < 12; turn += 1) expect(await undo()).toBe(true);
  expect(session.store.getState().document).toEqual(empty);
  expect(await undo()).toBe(false);
  for (let turn = 0; turn < 12; turn += 1) session.redo();
  expect(session.store.getState().document).toEqual(whole);
  await session.flush();
  expect(server.document).toEqual(whole);
});

it('after a reload goes on undoing where it was, and redoes what had been undone', async () => {
  for (const [frame, drawing] of [
    [10, 'drop'],
    [20, 'ring'],
    [30, 'lift'],
    [40, 'mid'],
  ] as const)
    step(session, frame, drawing);
  session.undo();
  session.undo();
  await session.flush();
  expect(drawingsOf(session)).toEqual(['rest', 'drop', 'ring']);
  session.close();
  session = await openOn(server, refusals);
  session.redo();
  await settle();
  expect(drawingsOf(session)).toEqual(['rest', 'drop', 'ring', 'lift']);
  await session.flush();
  session.close();
  session = await openOn(server, refusals);
  await undo();
  await undo();
  await undo();
  expect(session.store.getState().document).toEqual(empty);
  expect(await undo()).toBe(false);
});

it('a gesture is one step after a reload too', async () => {
  const mark = session.mark();
  for (const drawing of ['drop', 'ring', 'lift']) {
    step(session, 10, drawing);
    await session.flush();
  }
  session.squash(mark);
  step(session, 20, 'mid');
  await session.flush();
  expect(server.revisions).toHaveLength(4);
  session.close();
  session = await openOn(server, refusals);
  await undo();
  expect(drawingsOf(session)).toEqual(['rest', 'lift']);
  await undo();
  expect(session.store.getState().document).toEqual(empty);
});

it('what a closed tab left unsaved can be undone in the next', async () => {
  server.mood = () => 'away';
  step(session, 10, 'drop');
  step(session, 20, 'ring');
  await expect(session.flush()).rejects.toThrow();
  session.close();
  server.mood = undefined;
  session = await openOn(server, refusals);
  await session.flush();
  await undo();
  expect(drawingsOf(session)).toEqual(['rest', 'drop']);
  await undo();
  expect(session.store.getState().document).toEqual(empty);
});

it('an inverse that was sent is the document it came from', () => {
  step(session, 10, 'drop');
  const [patch] = session.store.getState().unconfirmed;
  const there = applyPatch(SCENE_KIND, empty, patch!);
  expect(applyPatch(SCENE_KIND, there, invertPatch(patch!, 'i'))).toEqual(empty);
});
