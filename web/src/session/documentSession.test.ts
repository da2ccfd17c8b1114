/** Saving: one request at a time, nothing lost, and honest about it. The server is a small stand-in that keeps its rules. */
import { type SceneDocument } from '@zest-jaw/core';
import type { DocumentSession } from './session.js';
import { newId } from './newId.js';
import { empty, openOn, put, StandInServer, standIn } from './testing/standInServer.js';
import { loadUnsaved } from './unsaved.js';

const kept = new Map<string, unknown>();
jest.mock('idb-keyval', () => ({
  get: (key: string) => Promise.resolve(kept.get(key)),
  set: (key: string, value: unknown) => Promise.resolve(void kept.set(key, value)),
  del: (key: string) => Promise.resolve(void kept.delete(key)),
}));

let server: StandInServer;
let refusals: string[];
let session: DocumentSession<SceneDocument>;

const open = (): Promise<DocumentSession<SceneDocument>> => openOn(server, refusals);

beforeEach(async () => {
  kept.clear();
  server = new StandInServer();
  refusals = [];
  standIn(server);
  session = await open();
});
afterEach(() => session.close());

describe('a session', () => {
  it('shows a change at once, sends it, and says when it is saved', async () => {
    put(session, 10, 'drop');
    expect(session.store.getState().document.exposures).toHaveLength(2);
    expect(session.store.getState().saveState).toBe('saving');
    expect((await loadUnsaved('/scenes/s'))!.patches).toHaveLength(1);
    await session.flush();
    expect(session.store.getState()).toMatchObject({ saveState: 'saved', revision: 1, unconfirmed: [] });
    expect(server.document).toEqual(session.store.getState().document);
    expect(await loadUnsaved('/scenes/s')).toBeUndefined();
  });

  it('sends in order, one at a time', async () => {
    for (const [frame, drawing] of [
      [10, 'drop'],
      [20, 'ring'],
      [30, 'lift'],
    ] as const)
      put(session, frame, drawing);
    await session.flush();
    expect(server.mostInFlight).toBe(1);
    expect(server.revisions).toHaveLength(3);
    expect(server.document).toEqual(session.store.getState().document);
  });

  it('undoes and redoes as new revisions', async () => {
    put(session, 10, 'drop');
    expect(session.undo()).toBe(true);
    expect(session.store.getState().document.exposures).toEqual(empty.exposures);
    expect(session.undo()).toBe(false);
    expect(session.redo()).toBe(true);
    await session.flush();
    expect(server.revisions).toHaveLength(3);
    expect(server.document.exposures).toHaveLength(2);
  });

  it('tells a refusal and changes nothing', () => {
    expect(put(session, 999, 'drop')).toBe(false);
    expect(refusals[0]).toMatch(/outside the scene/);
    expect(session.store.getState().unconfirmed).toEqual([]);
  });

  it('keeps work while the server is away, over a closed tab, and sends it once', async () => {
    server.mood = () => 'away';
    put(session, 10, 'drop');
    await expect(session.flush()).rejects.toThrow(/Not everything is saved/);
    expect(session.store.getState().saveState).toBe('waiting');
    session.close();
    server.mood = undefined;
    session = await open();
    expect(session.store.getState().document.exposures).toHaveLength(2);
    await session.flush();
    expect(server.revisions).toHaveLength(1);
  });

  it('does not send again what the server had before the answer was lost', async () => {
    put(session, 10, 'drop');
    const [patch] = session.store.getState().unconfirmed;
    server.revisions.push(patch!);
    session.close();
    session = await open();
    expect(session.store.getState()).toMatchObject({ unconfirmed: [], saveState: 'saved' });
    expect(session.store.getState().document).toEqual(server.document);
  });

  it('puts its changes on top of others that do not touch them', async () => {
    put(session, 30, 'lift');
    await session.flush();
    const other = await open();
    put(other, 10, 'drop');
    await other.flush();
    put(session, 40, 'ring');
    await session.flush();
    expect(session.store.getState().document).toEqual(server.document);
    expect(server.document.exposures.map((exposure) => exposure.drawing)).toEqual(['rest', 'drop', 'lift', 'ring']);
    other.close();
  });

  it('keeps both versions when they do not fit', async () => {
    const other = await open();
    put(other, 0, 'drop');
    await other.flush();
    put(session, 0, 'ring');
    await expect(session.flush()).rejects.toThrow();
    expect(session.store.getState().saveState).toBe('conflict');
    expect(await session.keepAsCopy('Mine')).toBe('copy');
    expect(server.copies[0]!.exposures[0]!.drawing).toBe('ring');
    expect(session.store.getState().document.exposures[0]!.drawing).toBe('drop');
    expect(session.store.getState().saveState).toBe('saved');
    other.close();
  });

  it('sends a drag as one change, and never changes what the server may have already', async () => {
    const drag = (drawing: string): boolean => {
      const { document } = session.store.getState();
      const [exposure] = document.exposures;
      const op = { op: 'put' as const, table: 'exposures', id: exposure!.id, before: exposure!, after: { ...exposure!, drawing } as never };
      return session.change({ id: newId(), reason: 'exposure.start', ops: [op] });
    };
    for (const drawing of ['drop', 'ring', 'lift', 'mid']) drag(drawing);
    await session.flush();
    expect(server.revisions).toHaveLength(1);
    expect(server.document).toEqual(session.store.getState().document);
    server.mood = () => 'away';
    drag('tip');
    await expect(session.flush()).rejects.toThrow();
    drag('push');
    expect(session.store.getState().unconfirmed).toHaveLength(2);
    server.mood = undefined;
    await session.flush();
    expect(server.document.exposures[0]!.drawing).toBe('push');
  });

  it('undoes a gesture in one step, however long it took, and not the step before it', () => {
    put(session, 20, 'mid');
    const mark = session.mark();
    jest.useFakeTimers();
    for (const drawing of ['drop', 'ring', 'lift']) {
      put(session, 10, drawing);
      jest.advanceTimersByTime(900);
    }
    jest.useRealTimers();
    session.squash(mark);
    expect(session.store.getState().history.done).toHaveLength(2);
    session.undo();
    expect(session.store.getState().document.exposures.map((exposure) => exposure.drawing)).toEqual(['rest', 'mid']);
    session.redo();
    expect(session.store.getState().document.exposures.map((exposure) => exposure.drawing)).toEqual(['rest', 'lift', 'mid']);
    session.squash(99);
    expect(session.store.getState().history.done).toHaveLength(2);
  });

  it('takes in what the server did meanwhile', async () => {
    const other = await open();
    put(other, 10, 'drop');
    await other.flush();
    await session.refresh();
    expect(session.store.getState().document).toEqual(server.document);
    other.close();
  });
});
