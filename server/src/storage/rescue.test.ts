/** What is read out of damaged databases, and what can be done with it. */
import Database from 'libsql';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serialize } from 'node:v8';
import request from 'supertest';
import { openApp } from '../openApp.js';
import { restore } from './backup.js';
import { rescue, sentenceOfRescue, type Rescued } from './rescue.js';

jest.setTimeout(60_000);

const ROOT = join(__dirname, '../../..');
const PAGE = 4096;
const folder = mkdtempSync(join(tmpdir(), 'zest-rescue-'));
const file = join(folder, 'whole/zest-jaw.db');
const open = (dataFolder: string) => openApp({ dataFolder, demoFolder: join(ROOT, 'demo'), webFolder: join(folder, 'none'), quiet: true });

beforeAll(async () => {
  await (await open(join(folder, 'whole'))).close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A folder whose database was spoilt. */
function spoilt(name: string, spoil: (bytes: Buffer) => Buffer): string {
  const data = join(folder, name);
  mkdirSync(data);
  const bytes = readFileSync(file);
  writeFileSync(join(data, 'zest-jaw.db'), spoil(bytes));
  return data;
}
const rows = (of: string, table: string): unknown[] => {
  const database = new Database(of, { readonly: true } as never);
  const all = database.prepare(`select rowid, * from ${table} order by rowid`).raw(true).all();
  database.close();
  return all;
};
const count = ({ tables }: Rescued, name: string): readonly [number, number] => {
  const { read, lost } = tables.find(({ table }) => table === name)!;
  return [read, lost];
};
/** The first page of a table (SQLite, “The Schema Table”), counted from nought. */
const rootOf = (table: string): number => {
  const database = new Database(file, { readonly: true } as never);
  const [page] = database.prepare('select rootpage from sqlite_master where name = ?').raw(true).get(table) as [number];
  database.close();
  return page - 1;
};

it('reads everything out of a database that is whole, row for row', () => {
  const out = join(folder, 'out/whole.db');
  const rescued = rescue(file, out)!;
  for (const { table, read, lost } of rescued.tables) {
    expect([table, lost]).toEqual([table, 0]);
    expect([table, serialize(rows(out, table)).equals(serialize(rows(file, table)))]).toEqual([table, true]);
    expect(rows(out, table)).toHaveLength(read);
  }
  expect(sentenceOfRescue(rescued)).toMatch(
    /nothing can be changed: 4 scenes, 10 charts, 2 characters, 1 production, \d+ pictures and recordings\. /,
  );
  expect(readdirSync(join(folder, 'out'))).toEqual(['whole.db']);
});

it('reads what is left where pages are damaged, and leaves the file as it is', () => {
  const data = spoilt('pages', (bytes) => {
    for (let page = 20; page < bytes.length / PAGE; page += 15) bytes.fill(0x55, page * PAGE, (page + 1) * PAGE);
    return bytes;
  });
  const before = readFileSync(join(data, 'zest-jaw.db'));
  const out = join(folder, 'out/pages.db');
  const rescued = rescue(join(data, 'zest-jaw.db'), out)!;
  expect(count(rescued, 'chart')[0]).toBeGreaterThan(0);
  const [read, lost] = count(rescued, 'asset');
  expect([read + lost, lost > 0]).toEqual([rows(file, 'asset').length, true]);
  // What was read is what was there.
  const whole = new Set(rows(file, 'asset').map((row) => JSON.stringify(row)));
  for (const row of rows(out, 'asset')) expect(whole.has(JSON.stringify(row))).toBe(true);
  expect(readFileSync(join(data, 'zest-jaw.db')).equals(before)).toBe(true);
});

it('loses three of many scenes at most where one page is damaged, wherever that is', () => {
  const many = join(folder, 'many.db');
  copyFileSync(file, many);
  const database = new Database(many);
  const columns = (database.prepare("select name from pragma_table_info('scene') where name <> 'id'").raw(true).all() as [string][])
    .map(([name]) => `s.\`${name}\``)
    .join(', ');
  database.exec(`with recursive n(i) as (select 1 union all select i + 1 from n where i < 60)
    insert into scene select 'copy-' || i, ${columns} from n, (select * from scene limit 1) s`);
  database.exec('pragma wal_checkpoint(truncate)');
  database.close();
  const whole = readFileSync(many);
  const pages = whole.length / PAGE;
  let spoiltScenes = 0;
  // The last third of the file is the copies: their rows, and what of them has no room in a row's page.
  for (let page = Math.ceil((2 * pages) / 3); page < pages; page += Math.ceil(pages / 20)) {
    const bytes = Buffer.from(whole).fill(0x55, page * PAGE, (page + 1) * PAGE);
    writeFileSync(many, bytes);
    const [read, lost] = count(rescue(many, join(folder, 'out/many.db'))!, 'scene');
    expect(read + lost).toBe(64);
    expect(lost).toBeLessThanOrEqual(3);
    spoiltScenes += lost;
  }
  expect(spoiltScenes).toBeGreaterThan(0);
});

it('puts a production in the place of one that is lost: all the rest hangs on it', () => {
  const data = spoilt('production', (bytes) => {
    const page = rootOf('production');
    return bytes.fill(0xaa, page * PAGE, (page + 1) * PAGE);
  });
  const out = join(folder, 'out/production.db');
  const rescued = rescue(join(data, 'zest-jaw.db'), out)!;
  expect([count(rescued, 'scene'), count(rescued, 'character')]).toEqual([
    [4, 0],
    [2, 0],
  ]);
  expect(rows(out, 'production').map((row) => (row as unknown[])[2])).toEqual(['What was rescued']);
});

it('lets go of what points at something lost', () => {
  const data = spoilt('charts', (bytes) => {
    const page = rootOf('chart');
    return bytes.fill(0xaa, page * PAGE, (page + 1) * PAGE);
  });
  const rescued = rescue(join(data, 'zest-jaw.db'), join(folder, 'out/charts.db'))!;
  expect([count(rescued, 'chart')[0], count(rescued, 'character'), count(rescued, 'scene')]).toEqual([0, [0, 2], [4, 0]]);
  expect(sentenceOfRescue(rescued)).toContain('0 of 2 characters');
});

it('says that nothing can be read where that is so', () => {
  const data = spoilt('nothing', (bytes) => bytes.fill(0, 100, PAGE));
  expect(rescue(join(data, 'zest-jaw.db'), join(folder, 'out/nothing.db'))).toBeUndefined();
  expect(existsSync(join(folder, 'out/nothing.db'))).toBe(false);
});

it('is started with to be looked at and handed off, and gone on with once it is put in its place', async () => {
  // As a disk leaves it that ran full: the end is missing, and with it two of the recordings.
  const data = spoilt('half', (bytes) => bytes.subarray(0, bytes.length - 60 * PAGE));
  const before = readFileSync(join(data, 'zest-jaw.db'));
  const app = await open(data);
  const agent = request(app.getHttpServer());
  const { body: room } = await agent.get('/api/room').expect(200);
  expect(room.readOnly).toMatch(/^The database is damaged\. What could be read of it is shown, and nothing can be changed: /);
  const { body: charts } = await agent.get('/api/charts').expect(200);
  expect(charts.length).toBeGreaterThan(0);
  const { body: refused } = await agent.post('/api/productions').send({ name: 'Another' }).expect(503);
  expect(refused.detail).toBe(room.readOnly);
  await agent.delete('/api/scenes/the-wet-stamp').expect(503);
  await app.close();
  expect(readFileSync(join(data, 'zest-jaw.db')).equals(before)).toBe(true);
  // Started again it is the same, in the same place.
  await (await open(data)).close();
  const [made, ...more] = readdirSync(join(data, 'rescued')).filter((name) => name.endsWith('.db'));
  expect(more).toEqual([]);
  expect(room.readOnly).toContain(join(data, 'rescued', made!));
  await restore(data, join(data, 'rescued', made!), new Date(), false);
  const again = await open(data);
  expect((await request(again.getHttpServer()).get('/api/room')).body.readOnly).toBeNull();
  await request(again.getHttpServer()).post('/api/productions').send({ name: 'Another' }).expect(201);
  await again.close();
});
