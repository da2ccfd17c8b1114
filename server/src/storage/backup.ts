/** All data as one file, taken while the program runs, and put back. */
import { MikroORM } from '@mikro-orm/libsql';
import { copyFileSync, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { lockFolder } from '../guard/folderLock.js';
import { checkDatabaseFile, connectionOf, DATABASE_FILE, fileOptions, unknownMigrations, withFileSaid } from './database.js';

/** What is in a database. */
export interface DatabaseFacts {
  readonly scenes: number;
  readonly charts: number;
  /** When a scene or a chart was last changed; null where none ever was. */
  readonly changedAt: Date | null;
}

const first = async (orm: MikroORM, statement: string): Promise<unknown> => {
  const [row] = await connectionOf(orm).execute<Record<string, unknown>[]>(statement);
  return row && Object.values(row)[0];
};

/** Runs something with a database open that is not brought up to date. */
async function withDatabase<Answer>(file: string, work: (orm: MikroORM) => Promise<Answer>): Promise<Answer> {
  const orm = await MikroORM.init(fileOptions(file));
  try {
    return await work(orm);
  } catch (error) {
    throw withFileSaid(error);
  } finally {
    await orm.close(true);
  }
}

/**
 * Looks through a whole database.
 *
 * @throws a sentence where it is damaged, or of a newer version
 */
async function factsOf(file: string): Promise<DatabaseFacts> {
  checkDatabaseFile(file);
  return withDatabase(file, async (orm) => {
    const verdict = await first(orm, 'pragma integrity_check');
    if (verdict !== 'ok') throw new Error(`${basename(file)} is damaged (${String(verdict)}). Take another backup.`);
    const newer = await unknownMigrations(orm);
    if (newer.length > 0)
      throw new Error(`${basename(file)} was written by a newer Zest Jaw (${newer.join(', ')}). Put it back with that one.`);
    const tables = "select count(*) from sqlite_master where name in ('scene', 'chart', 'revision', 'chart_revision')";
    if (Number(await first(orm, tables)) < 4) throw new Error(`${basename(file)} is a database, but none of Zest Jaw’s. Choose a backup.`);
    const at = await first(orm, 'select max(at) from (select max(at) as at from revision union all select max(at) from chart_revision)');
    return {
      scenes: Number(await first(orm, 'select count(*) from scene')),
      charts: Number(await first(orm, 'select count(*) from chart')),
      changedAt: at === null || at === undefined ? null : new Date(at as number | string),
    };
  });
}

/** A name for a file of this moment: `2026-12-01 15.40.07`, in the time of this computer. */
export function momentName(now: Date): string {
  const two = (value: number): string => String(value).padStart(2, '0');
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  return `${day} ${two(now.getHours())}.${two(now.getMinutes())}.${two(now.getSeconds())}`;
}

export interface BackedUp extends DatabaseFacts {
  readonly file: string;
  readonly bytes: number;
}

/**
 * Writes all data into one file, as it was at one moment, whether the program runs or not (SQLite, “VACUUM INTO”: what is
 * written meanwhile waits for nothing and is not in it). The file has been read through before it has its name.
 *
 * @param file where to; in the data folder, by the moment, where it is not given
 * @throws a sentence when there is nothing to back up, or the file is there already
 */
export async function backUp(dataFolder: string, now: Date, file?: string): Promise<BackedUp> {
  const from = join(dataFolder, DATABASE_FILE);
  if (!existsSync(from)) throw new Error(`There is no data in ${dataFolder} to back up. Say where it is with ZEST_DATA.`);
  const to = resolve(file ?? join(dataFolder, 'backups', `zest-jaw ${momentName(now)}.db`));
  if (existsSync(to)) throw new Error(`${to} is there already. Give the backup another name.`);
  mkdirSync(dirname(to), { recursive: true });
  const unfinished = `${to}.unfinished`;
  rmSync(unfinished, { force: true });
  try {
    await withDatabase(from, (orm) => connectionOf(orm).execute('vacuum into ?', [unfinished]));
    const facts = await factsOf(unfinished);
    for (const beside of ['-wal', '-shm']) rmSync(`${unfinished}${beside}`, { force: true });
    renameSync(unfinished, to);
    return { ...facts, file: to, bytes: statSync(to).size };
  } catch (error) {
    for (const beside of ['', '-wal', '-shm']) rmSync(`${unfinished}${beside}`, { force: true });
    throw error;
  }
}

export interface Restored extends DatabaseFacts {
  /** Where what was there before lies now; undefined when nothing was. */
  readonly before: string | undefined;
}

const day = (date: Date): string => momentName(date).replaceAll('.', ':');

/**
 * Puts a backup in the place of the data, which is kept beside it under another name.
 *
 * @param isOverNewer also over data that was changed since the backup
 * @throws a sentence when a server has the folder, the backup cannot be used, or the data is newer
 */
export async function restore(dataFolder: string, backup: string, now: Date, isOverNewer: boolean): Promise<Restored> {
  if (!existsSync(backup)) throw new Error(`There is no file ${backup}. Give the path of a backup.`);
  const letGo = await lockFolder(dataFolder);
  try {
    const facts = await factsOf(backup);
    const place = join(dataFolder, DATABASE_FILE);
    let before: string | undefined;
    if (existsSync(place)) {
      const here = await factsOf(place).catch(() => undefined);
      const isNewer = here?.changedAt && (!facts.changedAt || here.changedAt > facts.changedAt);
      if (isNewer && !isOverNewer)
        throw new Error(
          `The data here was changed at ${day(here.changedAt!)}, and the last change in the backup is of ${facts.changedAt ? day(facts.changedAt) : 'never'}. To put it in its place all the same: npm run restore -- FILE --over`,
        );
      before = `${place}.before ${momentName(now)}`;
      // The log goes with it: beside another database it would spoil that.
      for (const beside of ['', '-wal', '-shm']) if (existsSync(`${place}${beside}`)) renameSync(`${place}${beside}`, `${before}${beside}`);
    }
    copyFileSync(backup, place);
    return { ...facts, before };
  } finally {
    letGo();
  }
}
