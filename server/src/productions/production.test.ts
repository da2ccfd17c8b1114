/** Productions made, renamed and removed; characters removed; scenes copied; charts for those who bring their own. */
import { addGroup, mapOfChart, moveSounds, starterChart, type ChartDocument, type Patch } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
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
  expect((await app.agent().get('/api/scenes').expect(200)).body).toHaveLength(4);
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

it('a production keeps maps of sounds, each checked, by names of their own', async () => {
  const id = await make('Of maps');
  const path = `/api/productions/${id}/maps`;
  await app.agent().get(path).expect(200, []);
  const map = mapOfChart(starterChart('Test', 'pen'), 'Gruff');
  expect(
    (
      await app
        .agent()
        .put(path)
        .send({ maps: [map] })
        .expect(200)
    ).body,
  ).toEqual([map]);
  expect((await app.agent().get(path).expect(200)).body).toEqual([map]);
  const refused = async (maps: object[]): Promise<string> => (await app.agent().put(path).send({ maps }).expect(422)).body.detail;
  expect(await refused([{ ...map, groups: [] }])).toContain('no group “rest”');
  expect(await refused([map, { ...map, name: 'GRUFF' }])).toContain('“GRUFF” already');
  expect((await app.agent().get(path).expect(200)).body).toEqual([map]);
});

it('a new view of a character has the map that was made for the other', async () => {
  const { body } = await app.agent().post('/api/charts').send({ name: 'Gull, side', characterName: 'Gull', size: 13 }).expect(201);
  const chart = async (id: string): Promise<{ revision: number; document: ChartDocument }> =>
    (await app.agent().get(`/api/charts/${id}`).expect(200)).body;
  const another = async (name: string): Promise<ChartDocument> => {
    const made = await app.agent().post('/api/charts').send({ name, characterId: body.characterId, size: 9 }).expect(201);
    return (await chart(made.body.id)).document;
  };
  expect((await another('Gull, as ever')).groups.map(({ name }) => name)).toContain('Teeth');
  for (const make of [
    (now: ChartDocument) => addGroup(now, { name: 'Grr', phonemes: ['R', 'ER'], colour: '#112233' }, randomUUID),
    (now: ChartDocument) => moveSounds(now, ['L'], 'teeth', randomUUID),
  ]) {
    const { revision, document } = await chart(body.id);
    const { id, reason, ops } = make(document) as Patch;
    await app.agent().patch(`/api/charts/${body.id}`).send({ baseRevision: revision, patchId: id, reason, ops }).expect(200);
  }
  const view = await another('Gull, back');
  const own = view.groups.find(({ name }) => name === 'Grr')!;
  expect(own.phonemes).toEqual(['R', 'ER']);
  expect(view.groups.find(({ id }) => id === 'teeth')!.phonemes).toContain('L');
  expect(view.drawings.some(({ groups }) => groups.includes(own.id))).toBe(true);
});
