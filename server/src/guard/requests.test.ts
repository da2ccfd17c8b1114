/** Requests that nobody means well by: answered in a sentence, never as a fault of ours. */
import type { ChartDocument } from '@zest-jaw/core';
import { depthOfJson, MOST_DEPTH } from './reasonable.js';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(60_000);

let app: TestApp;
beforeAll(async () => void (app = await openTestApp()));
afterAll(() => app.close());

const SCENE = '/api/scenes/the-wet-stamp';
const deep = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);

describe('a path', () => {
  it.each(['/api/scenes/%00', '/api/charts/a%0Ab', '/api/assets/%7f', '/api/productions/%00/pronunciations', '/api/%E0%A4%A'])(
    '%s is not understood',
    async (path) => {
      const { body } = await app.agent().get(path).expect(400);
      expect(body.detail).toMatch(/address/);
    },
  );
});

describe('a body', () => {
  it.each([
    ['patch', SCENE],
    ['post', '/api/charts'],
    ['post', '/api/charts/copies'],
    ['post', '/api/scenes/copies'],
  ] as const)('deeper than any document is refused: %s %s', async (method, path) => {
    const asked = app.agent()[method](path).set('Content-Type', 'application/json');
    const { body } = await asked.send(`{"a":${deep(3000)}}`).expect(400);
    expect(body.detail).toMatch(/3001 lists and records deep\. It may go 64/);
  });

  it.each([
    ['a form without files', 'application/x-www-form-urlencoded', 'name=Planted', 415],
    ['plain text', 'text/plain', '{"name":"Planted"}', 415],
    ['letters of an unknown kind', 'application/json; charset=utf-99', '{"name":"Planted"}', 415],
    ['half a document', 'application/json', '{"name":"Pla', 400],
  ])('that is %s is not read', async (_, type, text, status) => {
    const before = (await app.agent().get('/api/charts').expect(200)).body.length;
    const { body } = await app.agent().post('/api/charts').set('Content-Type', type).send(text).expect(status);
    expect(body).toMatchObject({ status, detail: expect.stringMatching(/\w+ .*\./) });
    expect((await app.agent().get('/api/charts').expect(200)).body).toHaveLength(before);
  });

  it('packed in a way that is not known is not read', async () => {
    const asked = app.agent().patch(SCENE).set('Content-Type', 'application/json').set('Content-Encoding', 'zzz');
    await asked.send('{}').expect(415);
  });

  it('larger than a scene may be is refused with how much it may be', async () => {
    const { body } = await app
      .agent()
      .patch(SCENE)
      .set('Content-Type', 'application/json')
      .send(`{"a":"${'x'.repeat(65 * 1_048_576)}"}`)
      .expect(413);
    expect(body.detail).toMatch(/64 MB/);
  });

  it.each([{ toString: 1 }, [['a']], 1e21, 'five'])('with %j for a number is not understood', async (baseRevision) => {
    await app.agent().patch(SCENE).send({ baseRevision, patchId: 'p', reason: 'exposure.put', ops: [] }).expect(400);
  });

  it('that shifts what lies beyond any scene is not understood', async () => {
    for (const [at, by] of [
      [1e15, 1],
      [0, 1e15],
      [-1, 1],
    ]) {
      const ops = [{ op: 'shift', table: 'exposures', track: 'mouth1', at, by }];
      await app
        .agent()
        .patch(SCENE)
        .send({ baseRevision: 0, patchId: `shift${at}${by}`, reason: 'exposure.slide', ops })
        .expect(400);
    }
    expect((await app.scene('the-wet-stamp')).revision).toBe(0);
  });
});

describe('a chart of more drawings than anybody draws', () => {
  const chartOf = async (): Promise<{ id: string; revision: number; document: ChartDocument }> => {
    const [{ id }] = (await app.agent().get('/api/charts').expect(200)).body;
    return (await app.agent().get(`/api/charts/${id}`).expect(200)).body;
  };
  const more = (drawing: ChartDocument['drawings'][number], count: number): ChartDocument['drawings'][number][] =>
    Array.from({ length: count }, (_, index) => ({ ...drawing, id: `many${index}`, label: `Many ${index}` }));

  it('is not taken, whole or by a change', async () => {
    const { id, revision, document } = await chartOf();
    const [drawing] = document.drawings;
    const copy = await app
      .agent()
      .post('/api/charts/copies')
      .send({ title: 'Many', document: { ...document, drawings: more(drawing!, 2500) } })
      .expect(422);
    expect(copy.body.detail).toMatch(/There are 2500 drawings\. A mouth chart may have 2000: take out some, or make another\./);
    const ops = more(drawing!, 2000).map((after) => ({ op: 'put', table: 'drawings', id: after.id, before: null, after }));
    const patch = await app
      .agent()
      .patch(`/api/charts/${id}`)
      .send({ baseRevision: revision, patchId: 'many', reason: 'chart.import', ops })
      .expect(422);
    expect(patch.body.detail).toMatch(/drawings\. A mouth chart may have 2000/);
    expect((await chartOf()).revision).toBe(revision);
  });
});

describe('a page of another port of this computer', () => {
  it('may change nothing, nor read', async () => {
    const host = '127.0.0.1:4178';
    const elsewhere = 'http://127.0.0.1:4179';
    await app.agent().post('/api/charts').set('Host', host).set('Origin', elsewhere).send({ name: 'Planted' }).expect(403);
    await app.agent().get('/api/charts').set('Host', host).set('Origin', elsewhere).expect(403);
    await app.agent().get('/api/charts').set('Host', host).set('Origin', 'null').expect(403);
    await app.agent().post('/api/charts').set('Host', host).set('Origin', `http://${host}`).send({ name: 'Ours' }).expect(201);
  });
});

it('how deep JSON goes is told without reading it, brackets in texts left out', () => {
  expect(depthOfJson(Buffer.from('{"a":[1,{"b":"]]]{{{\\"[["}]}'))).toBe(3);
  expect(depthOfJson(Buffer.from(deep(MOST_DEPTH)))).toBe(MOST_DEPTH);
  expect(depthOfJson(Buffer.from('7'))).toBe(0);
});
