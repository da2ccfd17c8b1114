/** Passes of a scene, the counts of its notes, and what the checker allows, kept by the server. */
import { type PassView, type Patch, type SceneDocument } from '@zest-jaw/core';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(120_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const SCENE = 'the-wet-stamp';
const path = `/api/scenes/${SCENE}/passes`;
const keep = (body: object) =>
  app
    .agent()
    .post(path)
    .send({ name: 'A pass', why: '', byItself: false, ...body });
const list = async (): Promise<PassView[]> => (await app.agent().get(path).expect(200)).body as PassView[];

/** One more mouth in ink. */
async function inked(): Promise<{ before: SceneDocument; after: SceneDocument; revision: number }> {
  const { document, revision } = await app.scene(SCENE);
  const one = document.exposures.find((exposure) => !exposure.inked)!;
  const ops = [{ op: 'put', table: 'exposures', id: one.id, before: one, after: { ...one, inked: true } }];
  await app.send(SCENE, revision, { id: `ink-${revision}`, reason: 'exposure.ink', ops } as Patch).expect(200);
  const { document: after } = await app.scene(SCENE);
  return { before: document, after, revision };
}

it('keeps a pass as the scene was, and nothing done to the scene since changes it', async () => {
  const { before, after, revision } = await inked();
  const notes = { heavy: 1, seen: 2, small: 3, remarks: 0 };
  const { body: now } = await keep({ name: ' Second ', why: 'after the notes', notes }).expect(201);
  expect(now).toMatchObject({ name: 'Second', why: 'after the notes', byItself: false, revision: revision + 1, facts: { notes } });
  // Of an earlier revision: what came after it is taken back.
  const { body: earlier } = await keep({ name: 'First', revision, byItself: true }).expect(201);
  expect((await app.agent().get(`${path}/${now.id}`).expect(200)).body).toEqual(after);
  expect((await app.agent().get(`${path}/${earlier.id}`).expect(200)).body).toEqual(before);
  expect(earlier.facts.inked).toBeLessThan(now.facts.inked);
  await inked();
  await app.reopen();
  expect((await app.agent().get(`${path}/${now.id}`).expect(200)).body).toEqual(after);
  expect((await list()).map(({ name }) => name)).toEqual(['First', 'Second']);
});

it('removes a pass and brings it back, and refuses what it cannot keep', async () => {
  const [first] = await list();
  await app.agent().put(`${path}/${first!.id}`).send({ removed: true }).expect(200);
  expect((await list()).map(({ id }) => id)).not.toContain(first!.id);
  await app.agent().put(`${path}/${first!.id}`).send({ removed: false }).expect(200);
  expect((await list()).map(({ id }) => id)).toContain(first!.id);
  await keep({ revision: 9999 }).expect(422);
  await keep({ name: '' }).expect(400);
  await keep({ document: { settings: [] } }).expect(422);
  await app.agent().get(`${path}/nothing`).expect(404);
  await app.agent().get('/api/scenes/nothing/passes').expect(404);
});

it('keeps a version that no longer fits the scene, as a conflict leaves it', async () => {
  const { document } = await app.scene(SCENE);
  const mine: SceneDocument = { ...document, exposures: document.exposures.map((one) => ({ ...one, inked: true })) };
  const { body } = await keep({ name: 'My version', document: mine }).expect(201);
  expect((await app.agent().get(`${path}/${body.id}`).expect(200)).body).toEqual(mine);
  expect(body.facts.inked).toBe(1);
});

it('keeps forty of those it keeps by itself, the oldest going first', async () => {
  for (let count = 0; count < 42; count++) await keep({ name: `Before ${count}`, byItself: true }).expect(201);
  const own = (await list()).filter(({ byItself }) => byItself);
  expect(own).toHaveLength(40);
  expect(own[0]!.name).toBe('Before 41');
  expect((await list()).some(({ name }) => name === 'Second')).toBe(true);
});

it('tells at home how many notes there are, as long as the scene is as it was checked', async () => {
  const { revision } = await app.scene(SCENE);
  const card = async () =>
    ((await app.agent().get('/api/scenes').expect(200)).body as { id: string; notes: unknown }[]).find(({ id }) => id === SCENE)!;
  const counts = { revision, heavy: 2, seen: 1, small: 0, remarks: 4 };
  await app.agent().put(`/api/scenes/${SCENE}/notes`).send(counts).expect(204);
  expect((await card()).notes).toEqual(counts);
  // An older count, told late, changes nothing.
  await app
    .agent()
    .put(`/api/scenes/${SCENE}/notes`)
    .send({ ...counts, revision: revision - 1, heavy: 9 })
    .expect(204);
  expect((await card()).notes).toEqual(counts);
  await inked();
  expect((await card()).notes).toBeNull();
  await app
    .agent()
    .put(`/api/scenes/${SCENE}/notes`)
    .send({ ...counts, heavy: -1 })
    .expect(400);
});

it('checks the scenes of a production that were not checked since, one at a time', async () => {
  const checks = '/api/productions/night-post/checks';
  let left = Infinity;
  for (let turn = 0; left > 0 && turn < 5; turn++) {
    const { body } = await app.agent().post(checks).expect(200);
    expect(body.left).toBeLessThan(left);
    ({ left } = body as { left: number });
  }
  expect(left).toBe(0);
  const cards = (await app.agent().get('/api/scenes').expect(200)).body as { notes: { revision: number; small: number } | null }[];
  expect(cards.every(({ notes }) => notes !== null)).toBe(true);
  // The demo is keyed by its plan: what is seen is not wrong.
  expect(cards.some(({ notes }) => notes!.small > 0)).toBe(true);
  await inked();
  await app.agent().post(checks).expect(200, { left: 0 });
  await app.agent().post('/api/productions/nothing/checks').expect(404);
});

it('keeps a remark of somebody who looks, which nobody takes back by undo', async () => {
  const remarks = `/api/scenes/${SCENE}/remarks`;
  const said = { frame: 12, by: 'The director', text: 'Softer here.', strokes: [[10, 10, 20.5, 30]] };
  const { body } = await app.agent().post(remarks).send(said).expect(201);
  expect(body.remarks).toMatchObject([said]);
  const { document, revision } = await app.scene(SCENE);
  expect(document.remarks).toMatchObject([said]);
  const { body: past } = await app
    .agent()
    .get(`/api/scenes/${SCENE}/patches?since=${revision - 1}`)
    .expect(200);
  expect(past[0].patch.forAll).toBeUndefined();
  await app
    .agent()
    .post(remarks)
    .send({ ...said, by: '' })
    .expect(400);
  await app.agent().post(remarks).send({ frame: 1, by: 'A', text: ' ' }).expect(422);
  await app
    .agent()
    .post(remarks)
    .send({ ...said, strokes: [['a']] })
    .expect(422);
});

it('keeps what the checker allows in a production', async () => {
  const limits = '/api/productions/night-post/limits';
  await app.agent().get(limits).expect(200, {});
  await app
    .agent()
    .put(limits)
    .send({ limits: { late: 0.12, tail: 3 } })
    .expect(200, { late: 0.12, tail: 3 });
  await app.reopen();
  await app.agent().get(limits).expect(200, { late: 0.12, tail: 3 });
  const { body } = await app
    .agent()
    .put(limits)
    .send({ limits: { late: 9 } })
    .expect(422);
  expect(body.detail).toBe('The limit “Late” is 9. It may be 0.04 to 0.4 s.');
  await app
    .agent()
    .put(limits)
    .send({ limits: { worst: 1 } })
    .expect(422);
});

it('reads the scenes of a bundle without keeping any', async () => {
  const { body: job } = await app.agent().post(`/api/scenes/${SCENE}/hand-offs`).send({ kind: 'bundle' }).expect(201);
  expect((await app.ended(job.id)).state).toBe('done');
  const { bytes } = await app.resultOf(String(job.id));
  const count = async (): Promise<number> => ((await app.agent().get('/api/scenes')).body as unknown[]).length;
  const before = await count();
  const { body } = await app.agent().post('/api/bundles/scenes').attach('bundle', Buffer.from(bytes), 'scene.zip').expect(200);
  expect(body).toEqual([(await app.scene(SCENE)).document]);
  expect(await count()).toBe(before);
  await app.agent().post('/api/bundles/scenes').attach('bundle', Buffer.from('no'), 'scene.zip').expect(422);
});
