/** Who may come, and to do what. */
import express from 'express';
import request from 'supertest';
import { ownAddresses, whoMay } from './whoMay.middleware.js';

function appFor(shared: readonly string[]): ReturnType<typeof request> {
  const app = express();
  app.use(whoMay(shared));
  app.use((_, response) => void response.send('in'));
  return request(app);
}

const STAGE = '/api/scenes/the-wet-stamp/shooting/mouth1';
const ask = (
  shared: readonly string[],
  method: 'get' | 'put' | 'post' | 'patch' | 'delete',
  path: string,
  host: string,
  origin?: string,
) => {
  const asked = appFor(shared)[method](path).set('Host', host);
  return origin === undefined ? asked : asked.set('Origin', origin);
};

describe('an application that is not shared', () => {
  it.each(['127.0.0.1', '127.0.0.1:4178', 'localhost:4178', '[::1]:4178'])('lets %s in', (host) =>
    ask([], 'post', '/api/scenes', host).expect(200),
  );
  it.each(['zest.example', '192.168.7.4:4178', '127.0.0.1.example', 'localhost.example:4178'])('keeps %s out', async (host) => {
    const { body } = await ask([], 'get', '/api/scenes', host).expect(403);
    expect(body.detail).toMatch(/only on this computer/);
  });
  it('keeps out a page of elsewhere', () => ask([], 'get', '/api/scenes', '127.0.0.1:4178', 'https://elsewhere.example').expect(403));
});

describe('an application that is shared', () => {
  const shared = ['192.168.7.4'];
  const own = '192.168.7.4:4178';
  it('lets another device look, and shoot', async () => {
    await ask(shared, 'get', '/scenes/the-wet-stamp/shoot/mouth1', own).expect(200);
    await ask(shared, 'put', STAGE, own, `http://${own}`).expect(200);
    await ask(shared, 'put', `${STAGE}/pictures/3`, own, `http://${own}`).expect(200);
    await ask(shared, 'post', '/api/scenes/the-wet-stamp/remarks', own, `http://${own}`).expect(200);
  });
  it.each([
    ['post', '/api/scenes'],
    ['patch', '/api/scenes/the-wet-stamp'],
    ['delete', '/api/scenes/the-wet-stamp'],
    ['post', '/api/scenes/the-wet-stamp/passes'],
    ['put', '/api/productions/night-post/pronunciations'],
    ['post', STAGE],
  ] as const)('lets it not %s %s', async (method, path) => {
    const { body } = await ask(shared, method, path, own, `http://${own}`).expect(403);
    expect(body.detail).toMatch(/one can look and shoot/);
  });
  it('keeps out other addresses, names that point here, and pages of elsewhere', async () => {
    await ask(shared, 'get', '/api/scenes', '192.168.7.5:4178').expect(403);
    await ask(shared, 'get', '/api/scenes', 'zest.example').expect(403);
    await ask(shared, 'put', STAGE, own, 'https://elsewhere.example').expect(403);
    await ask(shared, 'get', '/api/scenes', own, 'http://127.0.0.1:4178').expect(403);
  });
  it('is still this computer’s', () => ask(shared, 'delete', '/api/scenes/the-wet-stamp', '127.0.0.1:4178').expect(200));
});

it('knows this computer’s own addresses as numbers', () => {
  for (const address of ownAddresses()) expect(address).toMatch(/^\d+\.\d+\.\d+\.\d+$/);
  expect(ownAddresses()).not.toContain('127.0.0.1');
});
