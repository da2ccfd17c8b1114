/** Saving against servers that lie, stall, restart, forget, and fill their disks. */
import { maybeDrawing, type SceneDocument } from '@zest-jaw/core';
import { door } from '../api/door.js';
import type { DocumentSession } from './session.js';
import { chart, drawingsOf, openOn, put, putAfter, StandInServer, standIn } from './testing/standInServer.js';
import { waitAfter } from './saving.js';
import { loadUnsaved, onNothingKept } from './unsaved.js';

const kept = new Map<string, unknown>();
let isStoreBroken = false;
const orBroken = <T>(value: T): Promise<T> => (isStoreBroken ? Promise.reject(new Error('no store')) : Promise.resolve(value));
jest.mock('idb-keyval', () => ({
  get: (key: string) => {
    if (isStoreBroken) throw new Error('indexedDB is not defined');
    return orBroken(kept.get(key));
  },
  set: (key: string, value: unknown) => orBroken(void kept.set(key, value)),
  del: (key: string) => orBroken(void kept.delete(key)),
}));

let server: StandInServer;
let refusals: string[];
let session: DocumentSession<SceneDocument>;

beforeEach(async () => {
  jest.useFakeTimers();
  kept.clear();
  isStoreBroken = false;
  server = new StandInServer();
  refusals = [];
  standIn(server);
  session = await openOn(server, refusals);
  server.requests = [];
});
afterEach(() => {
  session.close();
  jest.useRealTimers();
});

const pass = (ms: number): Promise<void> => jest.advanceTimersByTimeAsync(ms);
const state = (): ReturnType<typeof session.store.getState> => session.store.getState();
const patchesSent = (): number => server.requests.filter((line) => line.startsWith('PATCH')).length;

describe.each([
  ['a full disk', 500, 'Something went wrong inside.'],
  ['a locked database', 500, 'Something went wrong inside.'],
  ['a restart', 503, 'Starting.'],
  ['a proxy of its own', 502, null],
  ['too much in one piece', 413, 'Too large.'],
  ['too many at once', 429, 'Wait.'],
  ['a host it does not know', 403, 'This address answers only on this computer.'],
  ['somebody who was signed out', 401, 'Sign in with the passphrase of this room first.'],
])('%s', (_, status, detail) => {
  it('keeps every change, says why, and gets them through later', async () => {
    server.mood = (method) => (method === 'PATCH' ? [status, detail === null ? null : { detail }] : undefined);
    for (const [frame, drawing] of [
      [6, 'drop'],
      [12, 'ring'],
      [18, 'lift'],
      [24, 'mid'],
      [30, 'tip'],
      [36, 'push'],
    ] as const)
      put(session, frame, drawing);
    await pass(10_000);
    expect(state()).toMatchObject({ saveState: 'waiting', refused: [] });
    expect(state().trouble).not.toBe('');
    expect(state().unconfirmed).toHaveLength(6);
    expect((await loadUnsaved('/scenes/s'))!.patches).toHaveLength(6);
    expect(drawingsOf(session)).toHaveLength(7);
    await expect(Promise.all([session.flush(), pass(0)])).rejects.toThrow(/Not everything is saved yet\. ./);
    server.mood = undefined;
    await pass(60_000);
    expect(state()).toMatchObject({ saveState: 'saved', trouble: undefined, unconfirmed: [] });
    expect(server.document).toEqual(state().document);
  });
});

it('waits for what will follow from a change before it sends all of it on', async () => {
  put(session, 6, 'drop');
  const step = session.lastStep();
  let follow: () => void = () => undefined;
  session.expect(new Promise<void>((done) => (follow = done)).then(() => putAfter(session, step, 12, 'ring')));
  await pass(10_000);
  expect(state()).toMatchObject({ saveState: 'saved', toFollow: 1 });
  let isThrough = false;
  const flushed = session.flush().then(() => (isThrough = true));
  await pass(10_000);
  expect(isThrough).toBe(false);
  follow();
  await pass(10_000);
  await flushed;
  expect(state()).toMatchObject({ saveState: 'saved', toFollow: 0, unconfirmed: [] });
  expect(drawingsOf(session)).toHaveLength(3);
  session.undo();
  expect(drawingsOf(session)).toHaveLength(1);
});

it('is not kept from sending by something to follow that failed', async () => {
  put(session, 6, 'drop');
  session.expect(Promise.reject(new Error('no keyer')));
  await Promise.all([session.flush(), pass(10_000)]);
  expect(state()).toMatchObject({ saveState: 'saved', toFollow: 0 });
});

it('asks less and less often while it fails, and at once when it is told to', async () => {
  server.mood = () => 'away';
  put(session, 6, 'drop');
  await pass(600_000);
  expect(patchesSent()).toBeLessThan(30);
  expect(waitAfter(1)).toBeLessThan(waitAfter(4));
  expect(waitAfter(50)).toBe(30_000);
  server.mood = undefined;
  session.retry();
  await pass(0);
  expect(state().saveState).toBe('saved');
});

it('takes back a refused change and nothing else, says which, and keeps it where it can be seen', async () => {
  put(session, 6, 'drop');
  await pass(1000);
  server.mood = (method, _, body) =>
    JSON.stringify(body).includes('"ring"') && method === 'PATCH' ? [422, { detail: 'There is no ring here.' }] : undefined;
  put(session, 12, 'ring');
  put(session, 24, 'lift');
  await pass(5000);
  expect(refusals).toEqual(['Not taken: a mouth that was put. There is no ring here.']);
  // The lift was put on what the ring left, so it cannot stay either; the drop can, and can be undone.
  expect(state().refused.map(({ sentence }) => sentence)).toEqual([
    'There is no ring here.',
    'It was made on top of a change that was refused.',
  ]);
  expect(state().saveState).toBe('saved');
  expect(state().document).toEqual(server.document);
  expect(drawingsOf(session)).toEqual(['rest', 'drop']);
  expect((await loadUnsaved('/scenes/s'))!.refused).toHaveLength(2);
  expect(session.undo()).toBe(true);
  await pass(1000);
  expect(drawingsOf(session)).toEqual(['rest']);
  session.forgetRefused();
  await pass(0);
  expect(await loadUnsaved('/scenes/s')).toBeUndefined();
});

it('lets what does not touch a refused change through', async () => {
  for (const [frame, drawing] of [
    [6, 'drop'],
    [12, 'mid'],
    [24, 'lift'],
  ] as const)
    put(session, frame, drawing);
  await pass(1000);
  server.mood = (method, _, body) => (method === 'PATCH' && JSON.stringify(body).includes('"ring"') ? [422, { detail: 'No.' }] : undefined);
  put(session, 6, 'ring');
  put(session, 24, 'tip');
  await pass(5000);
  expect(drawingsOf(session)).toEqual(['rest', 'drop', 'mid', 'tip']);
  expect(state().refused).toHaveLength(1);
  expect(maybeDrawing(chart, 'tip')).toBeDefined();
});

it('does not hammer a server that answers 409 and has nothing newer', async () => {
  server.mood = (method) => (method === 'PATCH' ? [409, { detail: 'stale', revision: 0, patchesSince: [] }] : undefined);
  put(session, 6, 'drop');
  await pass(60_000);
  expect(patchesSent()).toBeLessThan(10);
  expect(state().saveState).toBe('waiting');
  server.mood = undefined;
  await pass(60_000);
  expect(state().saveState).toBe('saved');
});

it('stops when an older database was put back under it, and keeps its version beside', async () => {
  put(session, 6, 'drop');
  await pass(1000);
  server.revisions = [];
  put(session, 12, 'ring');
  await pass(60_000);
  expect(state()).toMatchObject({ saveState: 'conflict', conflict: 'older' });
  expect(patchesSent()).toBe(2);
  await session.keepAsCopy('Mine');
  expect(server.copies[0]!.exposures.map((exposure) => exposure.drawing)).toEqual(['rest', 'drop', 'ring']);
  expect(state()).toMatchObject({ saveState: 'saved', conflict: undefined });
  expect(drawingsOf(session)).toEqual(['rest']);
  put(session, 12, 'ring');
  await pass(1000);
  expect(server.document).toEqual(state().document);
});

it('keeps its version when the document is gone', async () => {
  server.mood = (method) => (method === 'POST' ? undefined : [404, { detail: 'There is no such scene.' }]);
  put(session, 6, 'drop');
  await pass(60_000);
  expect(state()).toMatchObject({ saveState: 'conflict', conflict: 'gone' });
  expect(await session.keepAsCopy('Mine')).toBe('copy');
  expect(server.copies[0]!.exposures).toHaveLength(2);
  expect(drawingsOf(session)).toEqual(['rest', 'drop']);
});

it('does not believe an answer without a revision', async () => {
  server.mood = (method) => (method === 'PATCH' ? [200, { fine: true }] : undefined);
  put(session, 6, 'drop');
  await pass(5000);
  expect(state()).toMatchObject({ saveState: 'waiting', revision: 0 });
  expect(state().unconfirmed).toHaveLength(1);
  server.mood = undefined;
  await pass(60_000);
  expect(server.document).toEqual(state().document);
});

it('does not believe a revision that is not the next one', async () => {
  let lies = 1;
  server.mood = (method) => (method === 'PATCH' && lies-- > 0 ? [200, { revision: 77 }] : undefined);
  put(session, 6, 'drop');
  await pass(60_000);
  expect(state()).toMatchObject({ saveState: 'saved', revision: 1 });
  expect(server.document).toEqual(state().document);
});

it('gives up a request that is never answered, and makes it again', async () => {
  server.mood = (method) => (method === 'PATCH' ? 'silent' : undefined);
  put(session, 6, 'drop');
  await pass(29_000);
  expect(patchesSent()).toBe(1);
  server.mood = undefined;
  await pass(60_000);
  expect(state().saveState).toBe('saved');
  expect(server.revisions).toHaveLength(1);
});

it('ends in a conflict, not in endless saving, when what others did does not fit', async () => {
  server.mood = (method) =>
    method === 'PATCH' ? [409, { revision: 1, patchesSince: [{ revision: 1, patch: { nonsense: true } }] }] : undefined;
  put(session, 6, 'drop');
  await pass(60_000);
  expect(state()).toMatchObject({ saveState: 'conflict', conflict: 'changed' });
  expect(patchesSent()).toBe(1);
});

it('takes in each change of others once, however it hears of it', async () => {
  put(session, 24, 'mid');
  await pass(1000);
  const other = await openOn(server, []);
  put(other, 30, 'lift');
  await pass(1000);
  put(session, 0, 'drop');
  const refreshed = session.refresh();
  await pass(1000);
  await refreshed;
  await session.refresh();
  expect(state().document).toEqual(server.document);
  expect(state().saveState).toBe('saved');
  other.close();
});

it('goes on without a store of its own, and says so once', async () => {
  const told = jest.fn();
  onNothingKept(told);
  isStoreBroken = true;
  const bare = await openOn(server, []);
  put(bare, 6, 'drop');
  await pass(1000);
  expect(bare.store.getState().saveState).toBe('saved');
  expect(server.document.exposures).toHaveLength(2);
  expect(told).toHaveBeenCalledTimes(1);
  bare.close();
});

it('asks for a sign-in where the server wants one, and sends at once when somebody has', async () => {
  server.mood = (method) => (method === 'PATCH' ? [401, { detail: 'Sign in first.' }] : undefined);
  put(session, 6, 'drop');
  await pass(1000);
  expect([door.getState().isShut, state().saveState]).toEqual([true, 'waiting']);
  // It has waited longer and longer.
  await pass(120_000);
  server.mood = undefined;
  const asked = patchesSent();
  door.setState({ isShut: false });
  await pass(0);
  expect([patchesSent() - asked, state().saveState]).toEqual([1, 'saved']);
});

it('drops what a guest may never do, and says so', async () => {
  server.mood = (method) => (method === 'PATCH' ? [403, { detail: 'By this link one can look.', isFinal: true }] : undefined);
  put(session, 6, 'drop');
  await pass(1000);
  expect(state()).toMatchObject({ saveState: 'saved', unconfirmed: [] });
  expect(refusals).toEqual([expect.stringContaining('By this link one can look.')]);
});

it('takes in what another window did as soon as it is told, and asks for nothing that it has', async () => {
  const { revision } = state();
  // Another window does the same on the same server.
  const other = await openOn(server, []);
  put(other, 30, 'ring');
  await pass(1000);
  other.close();
  expect(state().revision).toBe(revision);
  await session.refresh(revision + 1);
  expect(state()).toMatchObject({ revision: revision + 1, saveState: 'saved' });
  expect(state().document).toEqual(server.document);
  const asked = server.requests.length;
  await session.refresh(revision + 1);
  expect(server.requests).toHaveLength(asked);
});

it('goes on saving after a conflict that was met while the server was away', async () => {
  server.mood = (method) => (method === 'PATCH' ? 'away' : undefined);
  put(session, 6, 'drop');
  await pass(2000);
  expect(state().saveState).toBe('waiting');
  // Meanwhile somebody else, in a browser of their own, put another mouth there.
  server.mood = undefined;
  kept.clear();
  const other = await openOn(server, []);
  put(other, 6, 'ring');
  await other.flush();
  other.close();
  await pass(60_000);
  expect(state()).toMatchObject({ saveState: 'conflict', conflict: 'changed' });
  await session.keepAsCopy('Mine');
  put(session, 12, 'lift');
  await pass(2000);
  expect(state().saveState).toBe('saved');
  expect(server.document).toEqual(state().document);
});
