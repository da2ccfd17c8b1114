/** By which names it is reached, and from which pages. */
import express from 'express';
import request from 'supertest';
import { whoMay } from './whoMay.middleware.js';

const ask = (hosts: readonly string[], host: string, origin?: string): request.Test => {
  const app = express();
  app.use(whoMay(hosts));
  app.use((_, response) => void response.send('in'));
  const asked = request(app).post('/api/scenes').set('Host', host);
  return origin === undefined ? asked : asked.set('Origin', origin);
};

describe('an application of this computer alone', () => {
  it.each(['127.0.0.1', '127.0.0.1:4178', 'localhost:4178', 'LOCALHOST:4178', '[::1]:4178'])('lets %s in', (host) =>
    ask([], host).expect(200),
  );
  it.each(['zest.example', '192.168.7.4:4178', '127.0.0.1.example', 'localhost.example:4178', ''])('keeps “%s” out', async (host) => {
    const { body } = await ask([], host).expect(403);
    expect(body.detail).toMatch(/only on this computer/);
  });
  it('keeps out a page of elsewhere, and of another port', async () => {
    await ask([], '127.0.0.1:4178', 'https://elsewhere.example').expect(403);
    await ask([], '127.0.0.1:4178', 'http://127.0.0.1:9999').expect(403);
    await ask([], '127.0.0.1:4178', 'null').expect(403);
  });
});

describe('an application of a room', () => {
  const hosts = ['192.168.7.4', 'sheets.studio.example'];
  it('answers to what it was given, and to this computer', async () => {
    await ask(hosts, '192.168.7.4:4178', 'http://192.168.7.4:4178').expect(200);
    await ask(hosts, 'sheets.studio.example', 'https://sheets.studio.example').expect(200);
    await ask(hosts, '127.0.0.1:4178').expect(200);
  });
  it('keeps out other addresses, names that point here, and pages of elsewhere', async () => {
    const { body } = await ask(hosts, '192.168.7.5:4178').expect(403);
    expect(body.detail).toMatch(/the address that was printed/);
    await ask(hosts, 'zest.example').expect(403);
    await ask(hosts, 'studio.example').expect(403);
    await ask(hosts, '192.168.7.4:4178', 'https://elsewhere.example').expect(403);
    await ask(hosts, '192.168.7.4:4178', 'http://127.0.0.1:4178').expect(403);
  });
});
