/** Many at once: patches and readings that race. */
import { applyPatch, putEarMark, SCENE_KIND, type Patch, type SceneDocument } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { openTestApp, type SceneAnswer, type TestApp } from './testing/testApp.js';

jest.setTimeout(120_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const scene = (id: string): Promise<SceneAnswer> => app.scene(id);
const send: TestApp['send'] = (...args) => app.send(...args);

describe('changes that race', () => {
  it('a reading by ear, its keying and patches of a page go in one after another, and every revision has a number of its own', async () => {
    const id = 'a-complaint';
    let { document, revision } = await scene(id);
    for (const [frame, text] of [
      [2, 'mm'],
      [5, 'parcel'],
      [12, '–'],
    ] as const) {
      await send(id, revision, putEarMark(document, { characterId: 'odette', frame, text }, randomUUID) as Patch).expect(200);
      ({ document, revision } = await scene(id));
    }
    const begun = revision;
    const title = async (round: number): Promise<number> => {
      for (let turn = 0; turn < 60; turn += 1) {
        const now = await scene(id);
        const before = now.document.settings[0]!;
        const ops = [
          { op: 'put', table: 'settings', id: 'scene', before, after: { ...before, title: `Race ${round}` } },
        ] as unknown as Patch['ops'];
        const { status } = await send(id, now.revision, { id: randomUUID(), reason: 'scene.settings', ops });
        expect([200, 409]).toContain(status);
        if (status === 200) return status;
      }
      return 0;
    };
    const read = async (): Promise<number> => (await app.agent().post(`/api/scenes/${id}/marks/reading`).send({ clipId: 'clip1' })).status;
    const statuses = await Promise.all([read(), ...Array.from({ length: 12 }, (_, round) => title(round)), read(), read()]);
    expect([...new Set(statuses)].sort()).toEqual([200, 201]);
    const after = await scene(id);
    const { body } = await app.agent().get(`/api/scenes/${id}/patches?since=${begun}`).expect(200);
    expect(body.map((row: { revision: number }) => row.revision)).toEqual(
      Array.from({ length: after.revision - begun }, (_, index) => begun + 1 + index),
    );
    const replayed = body.reduce((now: SceneDocument, row: { patch: Patch }) => applyPatch(SCENE_KIND, now, row.patch), document);
    expect(JSON.parse(JSON.stringify(replayed))).toEqual(after.document);
  });
});
