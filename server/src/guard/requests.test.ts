/** Requests that nobody means well by: answered in a sentence, never as a fault of ours. */
import { depthOfJson, MOST_DEPTH } from './reasonable.js';
import { openTestApp, type TestApp } from '../testing/testApp.js';

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
