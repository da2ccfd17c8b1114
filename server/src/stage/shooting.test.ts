/** How far a lane is shot and what the camera took of it, kept by the server. */
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(60_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

it('keeps how far a lane is shot, apart from the scene; what is none is refused', async () => {
  const path = '/api/scenes/the-wet-stamp/shooting/mouth1';
  const before = await app.scene('the-wet-stamp');
  await app.agent().get(path).expect(200, { state: null });
  const state = { at: 4, shot: [[0, 4]], again: [2] };
  await app.agent().put(path).send({ state }).expect(200, { state });
  await app.reopen();
  await app.agent().get(path).expect(200, { state });
  await app.agent().get(`${path}?on=2`).expect(200, { state: null });
  for (const wrong of [
    { at: -1, shot: [], again: [] },
    { at: 1, shot: [[3, 1]], again: [] },
    { at: 1e9, shot: [], again: [] },
  ])
    await app.agent().put(path).send({ state: wrong }).expect(422);
  await app.agent().put('/api/scenes/the-wet-stamp/shooting/eyes').send({ state }).expect(404);
  await app.agent().put(path).send({ state: 'all' }).expect(400);
  expect(await app.scene('the-wet-stamp')).toEqual(before);
});

it('keeps the pictures of the camera by lane and camera, the newest of each, whatever ends in between', async () => {
  const path = '/api/scenes/the-wet-stamp/shooting/mouth1/pictures';
  const jpeg = (last: number): Buffer => Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, last]);
  const give = (picture: number, bytes: Buffer, on = '') =>
    app
      .agent()
      .put(`${path}/${picture}${on}`)
      .field('chartId', 'odette-front')
      .field('drawing', 'rest')
      .field('practice', 'yes')
      .attach('picture', bytes, 'shot.jpg');
  const { body: second } = await give(2, jpeg(1)).expect(200);
  await give(0, jpeg(2)).expect(200);
  const { body: anew } = await give(2, jpeg(3)).expect(200);
  await give(1, jpeg(4), '?on=2').expect(200);
  expect(anew.asset).not.toBe(second.asset);
  await app.reopen();
  const { body } = await app.agent().get(path).expect(200);
  expect(body).toEqual([
    { picture: 0, asset: expect.stringMatching(/^[0-9a-f]{64}$/), chartId: 'odette-front', drawing: 'rest', practice: true },
    { picture: 2, asset: anew.asset, chartId: 'odette-front', drawing: 'rest', practice: true },
  ]);
  const got = await app.agent().get(`/api/assets/${anew.asset}`).expect('content-type', 'image/jpeg').expect(200);
  expect(Buffer.compare(got.body as Buffer, jpeg(3))).toBe(0);
  // One that was taken before is not lost: it stands behind.
  await app.agent().get(`/api/assets/${second.asset}`).expect(200);
});

it('refuses what is no picture, a picture that the lane has not, and a lane that the scene has not', async () => {
  const path = '/api/scenes/the-wet-stamp/shooting/mouth1/pictures';
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47]);
  const { body } = await app.agent().put(`${path}/0`).attach('picture', png, 'shot.png').expect(422);
  expect(body.detail).toBe('A picture of the camera comes as JPEG. Take it again.');
  await app.agent().put(`${path}/0`).expect(422);
  const far = await app
    .agent()
    .put(`${path}/100000`)
    .attach('picture', Buffer.from([0xff, 0xd8, 0xff]), 'shot.jpg')
    .expect(422);
  expect(far.body.detail).toMatch(/^The lane has \d+ frames; there is no picture 100000\./);
  await app.agent().put('/api/scenes/the-wet-stamp/shooting/eyes/pictures/0').attach('picture', png, 'shot.png').expect(404);
  await app.agent().put(`${path}/one`).attach('picture', png, 'shot.png').expect(400);
});
