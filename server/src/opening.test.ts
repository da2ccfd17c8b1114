/** How the application is opened: one for a folder, one for a port, wherever it lies; and that nothing it is made of calls out. */
import { MikroORM } from '@mikro-orm/libsql';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { lockFolder } from './guard/folderLock.js';
import { takePort } from './guard/gate.js';
import { openApp } from './openApp.js';
import { serve } from './serve.js';

jest.setTimeout(60_000);

const ROOT = join(__dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'zest-open-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('one server has a data folder at a time, and what a dead one left is no lock', async () => {
  const data = join(folder, 'data');
  const letGo = await lockFolder(data);
  await expect(lockFolder(data)).rejects.toThrow(/in use by another Zest Jaw\. Stop that one, or give this one a folder of its own/);
  letGo();
  await new Promise((resolve) => setImmediate(resolve));
  (await lockFolder(data))();
});

it('the port is taken first, says that it is starting, and then lets everything through', async () => {
  const gate = await takePort(0);
  const port = Number(new URL(gate.address).port);
  await expect(takePort(port)).rejects.toMatchObject({ code: 'EADDRINUSE' });
  const early = await request(gate.server).get('/');
  expect([early.status, early.text]).toEqual([503, expect.stringContaining('is starting')]);
  gate.open(
    (_, response) => void response.end('here'),
    (_, socket) => socket.destroy(),
  );
  expect((await request(gate.server).get('/')).text).toBe('here');
  gate.close();
});

it('serves its pages from below a folder whose name begins with a dot', async () => {
  const webFolder = join(folder, '.hidden/web');
  mkdirSync(join(webFolder, 'assets'), { recursive: true });
  writeFileSync(join(webFolder, 'index.html'), '<title>Zest Jaw</title>');
  writeFileSync(join(webFolder, 'assets/a.js'), 'a');
  const app = await openApp({ dataFolder: join(folder, '.hidden/data'), demoFolder: join(ROOT, 'demo'), webFolder, quiet: true });
  try {
    const page = (path: string) => request(app.getHttpServer()).get(path).set('accept', 'text/html');
    await page('/').expect(200, /Zest Jaw/);
    await page('/scenes/x/key').expect(200, /Zest Jaw/);
    await request(app.getHttpServer()).get('/assets/a.js').expect(200, 'a');
  } finally {
    await app.close();
  }
});

describe('a data folder', () => {
  const open = (data: string): ReturnType<typeof openApp> =>
    openApp({ dataFolder: data, demoFolder: join(ROOT, 'demo'), webFolder: join(folder, 'none'), quiet: true });
  const database = (data: string): string => join(data, 'zest-jaw.db');
  /** A folder with the demo in it, closed. */
  const made = async (name: string): Promise<string> => {
    const data = join(folder, name);
    await (await open(data)).close();
    return data;
  };

  it('closed has everything in its one file: copied alone it opens with the last change', async () => {
    const data = join(folder, 'folded');
    const app = await open(data);
    const { body } = await request(app.getHttpServer()).get('/api/scenes/the-wet-stamp').expect(200);
    const settings = body.document.settings[0];
    const ops = [{ op: 'put', table: 'settings', id: 'scene', before: settings, after: { ...settings, title: 'The last change' } }];
    await request(app.getHttpServer())
      .patch('/api/scenes/the-wet-stamp')
      .send({ baseRevision: body.revision, patchId: 'last', reason: 'scene.settings', ops })
      .expect(200);
    await app.close();
    const copy = join(folder, 'copied');
    mkdirSync(copy);
    copyFileSync(database(data), database(copy));
    const again = await open(copy);
    try {
      const kept = await request(again.getHttpServer()).get('/api/scenes/the-wet-stamp').expect(200);
      expect(kept.body.document.settings[0].title).toBe('The last change');
    } finally {
      await again.close();
    }
  });

  it.each([
    ['no database', () => Buffer.from('This was a shopping list.\n'.repeat(400)), /The database file is (no database|damaged)/],
    ['a database of which nothing can be read', (bytes: Buffer) => bytes.fill(0, 100, 4096), /The database file is damaged/],
  ] as const)('with %s says what to do, and changes nothing', async (name, spoil, sentence) => {
    const data = await made(`spoilt ${name.replace(/\W/g, '')}`);
    const bytes = spoil(readFileSync(database(data)));
    writeFileSync(database(data), bytes);
    await expect(open(data)).rejects.toThrow(sentence);
    await expect(open(data)).rejects.toThrow(/whose names end in -wal and -shm, put a backup in its place/);
    expect(readFileSync(database(data)).equals(bytes)).toBe(true);
  });

  it('of a newer version is not opened', async () => {
    const data = join(folder, 'newer');
    const app = await open(data);
    const connection = app.get(MikroORM).em.getConnection();
    await connection.execute("insert into mikro_orm_migrations (name, executed_at) values ('20991231-wonders', '2099-12-31')");
    await app.close();
    await expect(open(data)).rejects.toThrow(/written by a newer Zest Jaw \(20991231-wonders\)\. Start that one/);
  });

  it('on a disk that turns out at the first deletion not to be written is told in a sentence', async () => {
    const data = join(folder, 'read only');
    const app = await open(data);
    const connection = app.get(MikroORM).em.getConnection();
    await connection.execute("insert into room_session (id, token_hash, name, created_at, seen_at) values ('old', 'hash', 'Odette', 0, 0)");
    // What SQLite says of a disk that is mounted to be read.
    await connection.execute(
      "create trigger on_such_a_disk before delete on room_session begin select raise(abort, 'attempt to write a readonly database'); end",
    );
    await app.close();
    await expect(serve(data, 0)).rejects.toThrow(/^The database file cannot be written\. Give whoever starts this the right/);
  });

  it('that is a file, or lies in one, is told', async () => {
    const file = join(folder, 'a file');
    writeFileSync(file, 'text');
    await expect(serve(file, 0)).rejects.toThrow(/The data folder .*a file is a file and no folder\. Choose another with ZEST_DATA/);
    await expect(serve(join(file, 'inside'), 0)).rejects.toThrow(/is no folder, or lies in something that is none/);
  });
});

it('no package runs anything when it is installed, and none is known to tell its maker', () => {
  interface Locked {
    readonly hasInstallScript?: boolean;
  }
  const lock = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8')) as { packages: Record<string, Locked> };
  const scripted = Object.keys(lock.packages).filter((path) => lock.packages[path]!.hasInstallScript);
  // Both bring their binary along and would only build one where it does not fit; they work without their scripts.
  expect(scripted.sort()).toEqual(['node_modules/@parcel/watcher', 'node_modules/@swc/core']);
  expect(readFileSync(join(ROOT, '.npmrc'), 'utf8')).toMatch(/^ignore-scripts=true$/m);
  expect(Object.keys(lock.packages).filter((path) => /scarf|telemetry|analytics/.test(path))).toEqual([]);
  expect(existsSync(join(ROOT, 'node_modules/@scarf'))).toBe(false);
});
