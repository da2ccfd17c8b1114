/** All data as one file, taken while somebody edits, and put back. */
import { MikroORM } from '@mikro-orm/libsql';
import { copyFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { lockFolder } from '../guard/folderLock.js';
import { openApp } from '../openApp.js';
import { backUp, momentName, restore } from './backup.js';
import { DATABASE_FILE, fileOptions } from './database.js';

jest.setTimeout(120_000);

const ROOT = join(__dirname, '../../..');
const folder = mkdtempSync(join(tmpdir(), 'zest-backup-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const data = join(folder, 'data');
const open = (): ReturnType<typeof openApp> =>
  openApp({ dataFolder: data, demoFolder: join(ROOT, 'demo'), webFolder: join(folder, 'none'), quiet: true });

const SCENE = '/api/scenes/the-wet-stamp';

async function rename(app: Awaited<ReturnType<typeof openApp>>, title: string, patchId: string): Promise<number> {
  const { body } = await request(app.getHttpServer()).get(SCENE).expect(200);
  const [settings] = body.document.settings;
  const ops = [{ op: 'put', table: 'settings', id: 'scene', before: settings, after: { ...settings, title } }];
  const sent = await request(app.getHttpServer())
    .patch(SCENE)
    .send({ baseRevision: body.revision, patchId, reason: 'scene.settings', ops })
    .expect(200);
  return sent.body.revision as number;
}

const titleOf = async (app: Awaited<ReturnType<typeof openApp>>): Promise<string> =>
  (await request(app.getHttpServer()).get(SCENE).expect(200)).body.document.settings[0].title;

const now = new Date(2026, 11, 1, 15, 4, 9);

it('a backup taken while somebody edits is whole, and put back it is the data of that moment; what was there is kept', async () => {
  const app = await open();
  await rename(app, 'Before the backup', '1f0c1f6e-0000-4000-8000-000000000001');
  const edits = [0, 1, 2].map((index) => rename(app, 'Before the backup', `1f0c1f6e-0000-4000-8000-00000000001${index}`).catch(() => 0));
  const made = await backUp(data, now);
  await Promise.all(edits);
  expect(made.file).toBe(join(data, 'backups', 'zest-jaw 2026-12-01 15.04.09.db'));
  expect(made.scenes).toBeGreaterThan(2);
  expect(readdirSync(join(data, 'backups'))).toEqual(['zest-jaw 2026-12-01 15.04.09.db']);
  await new Promise((resolve) => setTimeout(resolve, 1100));
  await rename(app, 'After the backup', '1f0c1f6e-0000-4000-8000-000000000003');
  await expect(backUp(data, now)).rejects.toThrow(/is there already\. Give the backup another name/);
  await app.close();

  await expect(restore(data, made.file, now, false)).rejects.toThrow(/The data here was changed at .* npm run restore -- FILE --over/);
  const put = await restore(data, made.file, now, true);
  expect(put).toMatchObject({ scenes: made.scenes, charts: made.charts, before: join(data, `${DATABASE_FILE}.before ${momentName(now)}`) });
  const again = await open();
  expect(await titleOf(again)).toBe('Before the backup');
  await again.close();

  // And back again: what was kept is data like any other.
  await restore(data, put.before!, new Date(2026, 11, 1, 16), true);
  const third = await open();
  expect(await titleOf(third)).toBe('After the backup');
  await third.close();
});

describe('nothing is touched, and a sentence says why, when', () => {
  const before = (): Buffer => readFileSync(join(data, DATABASE_FILE));
  const refused = async (backup: string, sentence: RegExp): Promise<void> => {
    const held = before();
    await expect(restore(data, backup, now, true)).rejects.toThrow(sentence);
    expect(before().equals(held)).toBe(true);
  };

  it('the backup is not there, is no database, is none of ours, is half, or is of a newer version', async () => {
    await refused(join(folder, 'nowhere.db'), /There is no file/);
    writeFileSync(join(folder, 'text.db'), 'a letter home, of a hundred letters and more'.repeat(9));
    await refused(join(folder, 'text.db'), /no database/);
    const other = await MikroORM.init(fileOptions(join(folder, 'other.db')));
    await other.em.getConnection().execute('create table recipe (name text)');
    await other.close(true);
    await refused(join(folder, 'other.db'), /none of Zest Jaw’s/);
    const whole = join(data, 'backups', 'zest-jaw 2026-12-01 15.04.09.db');
    writeFileSync(join(folder, 'half.db'), readFileSync(whole).subarray(0, 200_000));
    await refused(join(folder, 'half.db'), /damaged/);
    copyFileSync(whole, join(folder, 'newer.db'));
    const newer = await MikroORM.init(fileOptions(join(folder, 'newer.db')));
    await newer.em.getConnection().execute("insert into mikro_orm_migrations (name, executed_at) values ('20991231-tomorrow', 0)");
    await newer.close(true);
    await refused(join(folder, 'newer.db'), /written by a newer Zest Jaw \(20991231-tomorrow\)/);
  });

  it('a server has the folder', async () => {
    const letGo = await lockFolder(data);
    await refused(join(data, 'backups', 'zest-jaw 2026-12-01 15.04.09.db'), /in use by another Zest Jaw/);
    letGo();
  });

  it('there is nothing to back up', async () => {
    await expect(backUp(join(folder, 'empty'), now)).rejects.toThrow(/There is no data in .* Say where it is with ZEST_DATA/);
    expect(existsSync(join(folder, 'empty'))).toBe(false);
  });
});
