/** A server that a room shares, tried by a scripted stranger, and by those who belong there. */
import type { SceneView } from '@zest-jaw/core';
import { mkdtempSync, rmSync } from 'node:fs';
import { get as getEncrypted } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import request from 'supertest';
import { WebSocket } from 'ws';
import { serve, type RoomOptions, type ServeOptions, type Serving } from '../serve.js';
import { RoomLogger } from './told.js';
import { hashOfPassphrase, isPassphrase, maybeFaultOfPassphrase } from './passphrase.js';

const PASSPHRASE = 'three gulls on a wet stamp';
const SCENE = '/api/scenes/the-wet-stamp';
jest.setTimeout(60_000);

const folder = mkdtempSync(join(tmpdir(), 'zest-room-'));
const options = (more: Partial<RoomOptions> = {}): ServeOptions => ({
  room: {
    host: '127.0.0.1',
    names: ['sheets.studio.example'],
    passphrase: () => Promise.resolve(PASSPHRASE),
    ...more,
  },
});

let serving: Serving;
beforeAll(async () => (serving = await serve(join(folder, 'data'), 0, options())));
afterAll(async () => {
  await serving.close();
  rmSync(folder, { recursive: true, force: true });
});

/** Asks as a browser does: from the server's own page, with the cookie it has. */
type Asked = 'get' | 'post' | 'put' | 'patch' | 'delete';
const ask = (method: Asked, path: string, cookie = ''): request.Test =>
  request(serving.address)[method](path).set('Origin', serving.address).set('Cookie', cookie);

const cookieOf = ({ headers }: request.Response): string => String((headers['set-cookie'] as unknown as string[])[0]);
const signIn = async (name: string, passphrase = PASSPHRASE): Promise<string> => {
  const answer = await ask('post', '/api/room/sessions').send({ name, passphrase });
  expect(answer.status).toBe(204);
  return cookieOf(answer).split(';')[0]!;
};

/** A change that gives a scene another title. */
function renamed({ revision, document }: SceneView, patchId: string, title: string): object {
  const before = document.settings[0]!;
  const ops = [{ op: 'put', table: 'settings', id: before.id, before, after: { ...before, title } }];
  return { baseRevision: revision, patchId, reason: 'scene.settings', ops };
}

describe('a stranger', () => {
  it.each([
    ['get', '/api/scenes'],
    ['get', SCENE],
    ['get', '/API/Scenes'],
    ['get', '/api/scenes/'],
    ['get', '/api/assets/0000'],
    ['get', '/api/docs'],
    ['get', '/api/room/sessions'],
    ['get', '/api/room/links'],
    ['post', '/api/scenes'],
    ['patch', SCENE],
    ['delete', SCENE],
    ['put', `${SCENE}/shooting/mouth1`],
    ['post', `${SCENE}/remarks`],
    ['put', '/api/room/passphrase'],
    ['post', '/api/room/links'],
    ['delete', '/api/room/sessions/mine'],
  ] as const)('may not %s %s', async (method, path) => {
    const { status, body } = await ask(method, path).send(method === 'get' ? undefined : {});
    expect([status, body.detail]).toEqual([401, expect.stringMatching(/^Sign in with the passphrase/)]);
  });

  it('is told only that people sign in here', async () => {
    expect((await ask('get', '/api/room')).body).toEqual({ isRoom: true, readOnly: null, me: null });
  });

  it('comes in by no cookie of their own making', async () => {
    for (const made of [
      'zest-room=',
      'zest-room=x',
      'zest-room=j:{"a":1}',
      `zest-room=${'A'.repeat(5000)}`,
      '__Host-zest-room=x',
      'zest-room',
    ])
      await ask('get', '/api/scenes', made).expect(401);
  });

  it('comes in from no other page, and by no other name', async () => {
    const cookie = await signIn('Mara');
    await ask('get', '/api/scenes', cookie).expect(200);
    await ask('get', '/api/scenes', cookie).set('Origin', 'https://elsewhere.example').expect(403);
    await ask('get', '/api/scenes', cookie).set('Host', 'zest.example').expect(403);
    await ask('post', '/api/room/sessions')
      .set('Origin', 'https://elsewhere.example')
      .send({ name: 'A', passphrase: PASSPHRASE })
      .expect(403);
    const form = ask('post', '/api/room/sessions').type('form').send({ name: 'A', passphrase: PASSPHRASE });
    await form.expect(415);
  });

  it('opens no connection that stays', async () => {
    const cookie = await signIn('Mara');
    const status = (headers: Record<string, string>, path = '/api/company/scenes/the-wet-stamp'): Promise<number> =>
      new Promise((resolve) => {
        const socket = new WebSocket(serving.address.replace('http', 'ws') + path, { headers });
        socket.on('error', () => undefined);
        socket.on('unexpected-response', (_, { statusCode }) => resolve(statusCode ?? 0));
        socket.on('open', () => (socket.close(), resolve(101)));
      });
    const origin = serving.address;
    expect(await status({ origin })).toBe(401);
    expect(await status({ origin, cookie: 'zest-room=x' })).toBe(401);
    expect(await status({ origin: 'https://elsewhere.example', cookie })).toBe(403);
    expect(await status({ cookie })).toBe(403);
    expect(await status({ origin, cookie }, '/api/scenes')).toBe(404);
    expect(await status({ origin, cookie })).toBe(101);
  });
});

describe('whoever belongs there', () => {
  it('gets a cookie that no script reads and no other site sends', async () => {
    const cookie = cookieOf(await ask('post', '/api/room/sessions').send({ name: '  Mara  ', passphrase: PASSPHRASE }));
    expect(cookie).toMatch(/^zest-room=[\w-]{43}; Max-Age=2592000; Path=\/; Expires=[^;]+; HttpOnly; SameSite=Strict$/);
    expect((await ask('get', '/api/room', cookie.split(';')[0]!)).body.me).toEqual({ name: 'Mara', isGuest: false });
  });

  it('has another cookie after every signing in, and the one before is good for nothing', async () => {
    const first = await signIn('Mara');
    const answer = await ask('post', '/api/room/sessions', first).send({ name: 'Mara', passphrase: PASSPHRASE });
    await ask('get', '/api/scenes', cookieOf(answer).split(';')[0]!).expect(200);
    await ask('get', '/api/scenes', first).expect(401);
  });

  it('signs with their name what they change', async () => {
    const cookie = await signIn('Mara');
    const { body: scene } = await ask('get', SCENE, cookie);
    const change = renamed(scene, 'p1', 'The wet stamp, by Mara');
    await ask('patch', SCENE, cookie)
      .send({ ...change, by: 'Somebody else' })
      .expect(400);
    await ask('patch', SCENE, cookie).send(change).expect(200);
    const { body: past } = await ask('get', `${SCENE}/past?upTo=${scene.revision + 1}`, cookie);
    expect(past[0]).toMatchObject({ revision: scene.revision + 1, by: 'Mara' });
  });

  it('is called otherwise from now on, signs out, and is shown out', async () => {
    const [mara, tom] = [await signIn('Mara'), await signIn('Tom')];
    await ask('put', '/api/room/sessions/mine', mara).send({ name: 'Mara V.' }).expect(204);
    const { body } = await ask('get', '/api/room/sessions', tom);
    const seen = (body as { name: string; isMine: boolean; id: string }[]).filter(({ name, isMine }) => name === 'Mara V.' || isMine);
    expect(seen.map(({ name, isMine }) => [name, isMine]).sort()).toEqual([
      ['Mara V.', false],
      ['Tom', true],
    ]);
    await ask('delete', `/api/room/sessions/${seen.find(({ isMine }) => !isMine)!.id}`, tom).expect(204);
    await ask('get', '/api/scenes', mara).expect(401);
    const left = await ask('delete', '/api/room/sessions/mine', tom);
    expect([left.status, cookieOf(left)]).toEqual([204, expect.stringContaining('Expires=Thu, 01 Jan 1970')]);
    await ask('get', '/api/scenes', tom).expect(401);
    await ask('delete', '/api/room/sessions/nobody', await signIn('Tom')).expect(404);
  });

  it('stays signed in when the server ends and comes back', async () => {
    const cookie = await signIn('Mara');
    await serving.close();
    serving = await serve(join(folder, 'data'), Number(new URL(serving.address).port), options());
    await ask('get', '/api/scenes', cookie).expect(200);
  });

  it('is told what is wrong with what was typed', async () => {
    const send = async (body: object): Promise<[number, string]> => {
      const { status, body: said } = await ask('post', '/api/room/sessions').send(body);
      return [status, said.detail];
    };
    expect(await send({ name: ' ', passphrase: PASSPHRASE })).toEqual([400, 'The name must have 1 to 40 letters.']);
    expect(await send({ name: 'Mara', passphrase: '' })).toEqual([400, 'The passphrase must have 1 to 1000 letters.']);
    expect(await send({ name: 'Mara', passphrase: 'four gulls' })).toEqual([401, expect.stringMatching(/not the passphrase of this room/)]);
  });
});

describe('a guest, who came by a link', () => {
  it('looks and shoots, and changes and sees nothing else', async () => {
    const mara = await signIn('Mara');
    const { body: link } = await ask('post', '/api/room/links', mara).send({ name: 'Stage tablet' }).expect(201);
    const answer = await ask('post', '/api/room/links/entered').send({ code: link.code });
    const guest = cookieOf(answer).split(';')[0]!;
    expect((await ask('get', '/api/room', guest)).body.me).toEqual({ name: 'Stage tablet', isGuest: true });
    await ask('get', SCENE, guest).expect(200);
    // Refused for what it says, not for who says it.
    await ask('put', `${SCENE}/shooting/mouth1`, guest).send({}).expect(400);
    await ask('post', `${SCENE}/remarks`, guest).send({}).expect(400);
    for (const [method, path] of [
      ['post', '/api/scenes'],
      ['patch', SCENE],
      ['delete', SCENE],
      ['post', `${SCENE}/shooting/mouth1`],
      ['post', `${SCENE}/passes`],
      ['get', '/api/room/sessions'],
      ['get', '/api/Room/Sessions'],
      ['get', '/api/room/links'],
      ['post', '/api/room/links'],
      ['put', '/api/room/passphrase'],
      ['put', '/api/room/sessions/mine'],
    ] as const) {
      const { status, body } = await ask(method, path, guest).send(method === 'get' ? undefined : {});
      expect([method, path, status, body.isFinal]).toEqual([method, path, 403, true]);
    }
    await ask('delete', `/api/room/links/${link.id}`, mara).expect(204);
    await ask('post', '/api/room/links/entered').send({ code: link.code }).expect(401);
    // Whoever has signed in stays who they are by any link.
    const { body: another } = await ask('post', '/api/room/links', mara).send({ name: 'Review' });
    await ask('post', '/api/room/links/entered', mara).send({ code: another.code }).expect(204);
    expect((await ask('get', '/api/room', mara)).body.me.isGuest).toBe(false);
    await ask('delete', '/api/room/sessions/mine', guest).expect(204);
  });
});

describe('the passphrase', () => {
  it('is kept as Argon2id, and is the same however it is composed', async () => {
    const kept = await hashOfPassphrase('café on the pier');
    expect(kept).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    expect(await isPassphrase(kept, 'cafe\u0301 on the pier')).toBe(true);
    expect(await isPassphrase(kept, 'cafe on the pier')).toBe(false);
    expect(await isPassphrase('no hash', 'cafe on the pier')).toBe(false);
  });

  it('has 12 to 128 letters, more than a few different ones, and is not soon guessed', async () => {
    expect(await maybeFaultOfPassphrase('eleven lett')).toMatch(/has 11 letters/);
    expect(await maybeFaultOfPassphrase('a'.repeat(129))).toMatch(/has 129 letters/);
    expect(await maybeFaultOfPassphrase('abababababababab')).toMatch(/over and over/);
    expect(await maybeFaultOfPassphrase('three gulls ')).toBeUndefined();
    // Of the lists of leaked passwords that are made public every year, from memory; and what is only a little other than they are.
    for (const leaked of [
      '1234567890123',
      'password1234',
      'qwertyuiop[]',
      'iloveyou1234',
      '1q2w3e4r5t6y',
      'P@ssw0rd2024',
      'letmeinletmein',
      'abcdefghijkl',
    ])
      expect([leaked, await maybeFaultOfPassphrase(leaked)]).toEqual([leaked, expect.stringMatching(/soon guessed/)]);
    expect(await maybeFaultOfPassphrase('🌊🐟🪸⚓🌊🐟🪸⚓🐚🦀🐚🦀')).toBeUndefined();
  });

  it('changed, signs everybody else out and takes the links away', async () => {
    const [mara, tom] = [await signIn('Mara'), await signIn('Tom')];
    const { body: link } = await ask('post', '/api/room/links', mara).send({ name: 'Stage' });
    const change = (now: string, next: string): request.Test => ask('put', '/api/room/passphrase', mara).send({ now, next });
    expect((await change('four gulls on a stamp', 'a new one of words').expect(422)).body.detail).toMatch(/It was not changed/);
    expect((await change(PASSPHRASE, 'short').expect(422)).body.detail).toMatch(/12 to 128/);
    await ask('get', '/api/scenes', tom).expect(200);
    await change(PASSPHRASE, 'a new one of words').expect(204);
    await ask('get', '/api/scenes', mara).expect(200);
    await ask('get', '/api/scenes', tom).expect(401);
    await ask('post', '/api/room/links/entered').send({ code: link.code }).expect(401);
    await signIn('Tom', 'a new one of words');
    await ask('put', '/api/room/passphrase', mara).send({ now: 'a new one of words', next: PASSPHRASE }).expect(204);
  });

  it('tried over and over, waits', async () => {
    // A server of its own: whoever came before has tried too.
    const own = await serve(join(folder, 'slow'), 0, options());
    const tryOne = (passphrase: string): request.Test => request(own.address).post('/api/room/sessions').send({ name: 'A', passphrase });
    for (let count = 0; count < 10; count++) await tryOne(`gull number ${count}`).expect(401);
    const { body } = await tryOne(PASSPHRASE).expect(429);
    expect(body.detail).toMatch(/^10 wrong tries came from this device/);
    await own.close();
  });

  it('is asked for where there is none, and only there', async () => {
    const at = join(folder, 'first');
    const asked: boolean[] = [];
    const start = (given: string | undefined): Promise<Serving> =>
      serve(at, 0, options({ passphrase: (isKept) => (asked.push(isKept), Promise.resolve(given)) }));
    await expect(start('short')).rejects.toThrow(/The passphrase has 5 letters/);
    await (await start(PASSPHRASE)).close();
    await (await start(undefined)).close();
    expect(asked).toEqual([false, false, true]);
  });
});

describe('company', () => {
  /** A window on a document: what it is told, as it comes. */
  const windowOn = async (cookie: string, path = 'scenes/the-wet-stamp') => {
    const socket = new WebSocket(`${serving.address.replace('http', 'ws')}/api/company/${path}`, {
      headers: { origin: serving.address, cookie },
    });
    const told: Record<string, unknown>[] = [];
    let look: (() => void) | undefined;
    socket.on('message', (data) => (told.push(JSON.parse(String(data))), look?.()));
    const closed = new Promise<number>((resolve) => socket.on('close', (code) => resolve(code)));
    await new Promise((resolve) => socket.on('open', resolve));
    const until = (isIt: (news: Record<string, unknown>) => boolean): Promise<Record<string, unknown>> =>
      new Promise((resolve) => {
        look = () => {
          const found = told.find(isIt);
          if (found) resolve(found);
        };
        look();
      });
    return { socket, until, closed, told };
  };
  const others = (news: Record<string, unknown>) => (news['others'] ?? []) as { name: string; frame: number | null }[];

  it('tells each window where the others are, and that they have gone', async () => {
    const [mara, tom] = [await windowOn(await signIn('Mara')), await windowOn(await signIn('Tom'))];
    await mara.until((news) => others(news).some(({ name }) => name === 'Tom'));
    // What is no frame is not passed on.
    for (const said of ['no JSON', '[]', 'null', '{"frame":"1"}', '{"frame":1.5}', '{"frame":1e300}']) tom.socket.send(said);
    tom.socket.send('{"frame":42}');
    const news = await mara.until((one) => others(one).some(({ frame }) => frame !== null));
    expect(others(news)).toEqual([{ id: expect.any(String), name: 'Tom', frame: 42 }]);
    tom.socket.close();
    mara.told.length = 0;
    await mara.until((one) => one['others'] !== undefined && others(one).length === 0);
    mara.socket.close();
  });

  it('tells a change to those who have that document open, and to nobody else', async () => {
    const cookie = await signIn('Mara');
    const [here, elsewhere] = [await windowOn(cookie), await windowOn(cookie, 'scenes/the-last-ferry')];
    const { body: scene } = await ask('get', SCENE, cookie);
    await ask('patch', SCENE, cookie)
      .send(renamed(scene, 'p2', 'The wet stamp, again'))
      .expect(200);
    expect(await here.until((news) => news['changed'] !== undefined)).toEqual({
      changed: { table: 'scenes', id: 'the-wet-stamp', revision: scene.revision + 1 },
    });
    expect(elsewhere.told.some((news) => 'changed' in news)).toBe(false);
    for (const { socket } of [here, elsewhere]) socket.close();
  });

  it('ends with the session, and with what is too long to be a frame', async () => {
    const cookie = await signIn('Mara');
    const [first, second] = [await windowOn(cookie), await windowOn(cookie)];
    first.socket.send(`{"frame":1,"more":"${'x'.repeat(500)}"}`);
    // RFC 6455, 7.4.1: a message that is too big to process.
    expect(await first.closed).toBe(1009);
    await ask('delete', '/api/room/sessions/mine', cookie).expect(204);
    expect(await second.closed).toBe(4401);
  });
});

it('is encrypted by a certificate, with a cookie that goes no other way', async () => {
  const { cert, private: key } = await generate([{ name: 'commonName', value: 'sheets.studio.example' }], {
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 2, value: 'sheets.studio.example' }] }],
  });
  const own = await serve(join(folder, 'encrypted'), 0, options({ certificate: { cert, key } }));
  expect(own.address).toMatch(/^https:\/\/127\.0\.0\.1:\d+$/);
  const { port } = new URL(own.address);
  const room = await new Promise<string>((resolve, reject) => {
    const asked = getEncrypted(
      {
        host: '127.0.0.1',
        port,
        path: '/api/room',
        ca: cert,
        servername: 'sheets.studio.example',
        headers: { host: `sheets.studio.example:${port}` },
      },
      (answer) => {
        answer.setEncoding('utf8').on('data', resolve);
      },
    );
    asked.on('error', reject);
  });
  expect(JSON.parse(room)).toEqual({ isRoom: true, readOnly: null, me: null });
  const answer = await request(own.address).post('/api/room/sessions').trustLocalhost().send({ name: 'Mara', passphrase: PASSPHRASE });
  expect(cookieOf(answer)).toMatch(/^__Host-zest-room=[\w-]{43}; .*Path=\/; .*HttpOnly; Secure; SameSite=Strict$/);
  await own.close();
});

it('is nobody’s to sign in to where it is of this computer alone', async () => {
  const own = await serve(join(folder, 'alone'), 0);
  expect((await request(own.address).get('/api/room')).body).toEqual({ isRoom: false, readOnly: null, me: null });
  await request(own.address).get('/api/scenes').expect(200);
  await request(own.address).post('/api/room/sessions').send({ name: 'A', passphrase: PASSPHRASE }).expect(409);
  await request(own.address).post('/api/room/links').send({ name: 'A' }).expect(409);
  await own.close();
});

it('tells in the log who tried what, from where, and what became of it; never with what', async () => {
  const said: string[] = [];
  const listen = (...line: readonly unknown[]): void => void said.push(String(line[0]));
  const heard = (['log', 'warn'] as const).map((level) => jest.spyOn(RoomLogger.prototype, level).mockImplementation(listen));
  const own = await serve(join(folder, 'told'), 0, options());
  try {
    const send = (path: string, body: object) =>
      fetch(`${own.address}/api/room${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: own.address },
        body: JSON.stringify(body),
      });
    await send('/sessions', { name: 'Mara', passphrase: 'four gulls on a stamp' });
    await send('/sessions', { name: 'Mara', passphrase: PASSPHRASE });
    await send('/links/entered', { code: 'x'.repeat(43) });
  } finally {
    await own.close();
    for (const spy of heard) spy.mockRestore();
  }
  const room = said.filter((line) => /Signing in|Coming in/.test(line));
  expect(room).toEqual([
    expect.stringMatching(/^Signing in, from [\w.:]+: refused, 401\.$/),
    expect.stringMatching(/^Signing in, from [\w.:]+: done\.$/),
    expect.stringMatching(/^Coming in by a link, from [\w.:]+: refused, 401\.$/),
  ]);
  expect(said.join()).not.toContain('gulls');
});
