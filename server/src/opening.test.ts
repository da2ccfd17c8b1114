/** How the application is opened: one for a folder, one for a port, wherever it lies; and that nothing it is made of calls out. */
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { lockFolder } from './guard/folderLock.js';
import { takePort } from './guard/gate.js';
import { openApp } from './openApp.js';

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
  gate.open((_, response) => void response.end('here'));
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
