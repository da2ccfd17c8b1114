/** Productions made, renamed and removed; characters removed; scenes copied; charts for those who bring their own. */
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(60_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const productions = async (): Promise<{ id: string; name: string; characters: { id: string; name: string }[] }[]> =>
  (await app.agent().get('/api/productions').expect(200)).body;
const make = async (name: string): Promise<string> => (await app.agent().post('/api/productions').send({ name }).expect(201)).body.id;

it('a production is made, named, and goes with everything that is in it', async () => {
  const id = await make('  A harbour at dawn ');
  expect((await productions()).map(({ name }) => name)).toContain('A harbour at dawn');
  const twice = await app.agent().post('/api/productions').send({ name: 'A harbour at dawn' }).expect(422);
  expect(twice.body.detail).toMatch(/already\. Choose another name/);
  await app.agent().put(`/api/productions/${id}/name`).send({ name: 'A harbour at dusk' }).expect(200, { name: 'A harbour at dusk' });
  const { body: chart } = await app
    .agent()
    .post('/api/charts')
    .send({ name: 'Gull, front', characterName: 'Gull', productionId: id, size: 3 })
    .expect(201);
  expect((await productions()).find((one) => one.id === id)!.characters).toMatchObject([{ name: 'Gull' }]);
  await app.agent().delete(`/api/productions/${id}`).expect(204);
  await app.agent().get(`/api/charts/${chart.id}`).expect(404);
  expect(await productions()).toHaveLength(1);
  const [last] = await productions();
  const refused = await app.agent().delete(`/api/productions/${last!.id}`).expect(422);
  expect(refused.body.detail).toMatch(/is the only production/);
  expect((await app.agent().get('/api/scenes').expect(200)).body).toHaveLength(3);
});

it('a character goes with its charts, unless it speaks somewhere', async () => {
  const { body } = await app.agent().post('/api/charts').send({ name: 'Gull, front', characterName: 'Gull', size: 6 }).expect(201);
  await app.agent().delete(`/api/characters/${body.characterId}`).expect(204);
  await app.agent().get(`/api/charts/${body.id}`).expect(404);
  const refused = await app.agent().delete('/api/characters/bramble').expect(422);
  expect(refused.body.detail).toMatch(/^Bramble speaks in “.+”\. Let somebody else speak there/);
});

it('a scene is copied beside itself, as it is now', async () => {
  const before = await app.scene('the-wet-stamp');
  const { body: first } = await app.agent().post('/api/scenes/the-wet-stamp/copies').expect(201);
  const { body: second } = await app.agent().post('/api/scenes/the-wet-stamp/copies').expect(201);
  const [one, two] = [await app.scene(first.id), await app.scene(second.id)];
  expect([one, two].map(({ document }) => document.settings[0]!.title)).toEqual(['The wet stamp, copy', 'The wet stamp, copy 2']);
  expect(one.document.exposures).toEqual(before.document.exposures);
  expect(one.revision).toBe(0);
  await app.agent().delete(`/api/scenes/${first.id}`).expect(204);
  expect(await app.scene('the-wet-stamp')).toEqual(before);
});

it('an empty chart has a resting mouth and nothing else', async () => {
  const { body } = await app.agent().post('/api/charts').send({ name: 'Gull, clay', characterName: 'Gull', size: 0 }).expect(201);
  const chart = (await app.agent().get(`/api/charts/${body.id}`).expect(200)).body;
  expect(chart.document.drawings).toMatchObject([{ id: 'rest', groups: ['rest'], art: { kind: 'drawn', marks: [] } }]);
});
