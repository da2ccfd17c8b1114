/**
 * How the database is opened: one SQLite file in WAL mode, every commit on disk before it is acknowledged; or a server
 * database, where an address of one is given.
 */
import { MikroORM, type Options } from '@mikro-orm/core';
import type { AbstractSqlConnection } from '@mikro-orm/knex';
import { defineConfig, LibSqlDriver } from '@mikro-orm/libsql';
import { Migrator } from '@mikro-orm/migrations';
import { BeforeApplicationShutdown, Injectable } from '@nestjs/common';
import { closeSync, existsSync, openSync, readSync, statSync } from 'node:fs';
import { maybeDiskFault } from './diskFault.js';
import { ENTITIES } from './entities.js';
import { MIGRATIONS } from './migrations.js';
import { isServerDatabase, SERVER_MIGRATIONS, serverDatabaseOptions } from './serverDatabase.js';

/** What it is called in its folder. */
export const DATABASE_FILE = 'zest-jaw.db';

/** The connection of a database, which takes statements. */
export const connectionOf = (orm: MikroORM): AbstractSqlConnection => orm.em.getConnection() as AbstractSqlConnection;

const isFile = (orm: MikroORM): boolean => orm.em.getDriver() instanceof LibSqlDriver;

/** @param at a file, or the address of a server database */
export function databaseOptions(at: string): Options {
  return isServerDatabase(at) ? (serverDatabaseOptions(at) as Options) : (fileOptions(at) as Options);
}

export function fileOptions(file: string) {
  return defineConfig({
    driver: LibSqlDriver,
    dbName: file,
    entities: ENTITIES,
    extensions: [Migrator],
    migrations: { migrationsList: MIGRATIONS, snapshot: false, transactional: true },
    // Requests fork their own entity manager through RequestContext; start-up code forks by hand.
    allowGlobalContext: false,
    logger: () => undefined,
  });
}

/** What is to be done where the file cannot be read. */
const PUT_BACK =
  'Move it away with the files beside it whose names end in -wal and -shm, put a backup in its place, without such files, and start again.';

/** A database of which something may still be read. */
export class DamagedDatabase extends Error {
  constructor(fault: string) {
    super(`${fault} ${PUT_BACK}`);
  }
}

/** What SQLite says of a file that it cannot use, as a sentence; undefined for any other error. */
function maybeFaultOfFile(error: unknown): string | undefined {
  const said = error instanceof Error ? error.message : String(error);
  if (/not a database|SQLITE_NOTADB/i.test(said)) return `The database file is no database. ${PUT_BACK}`;
  const fault = maybeDiskFault(error);
  if (fault === 'readOnly')
    return 'The database file cannot be written. Give whoever starts this the right to write it, and its folder, and start again.';
  if (fault === 'full') return 'The disk is full. Make room on it and start again.';
  return undefined;
}

/** An error of the database file in words; any other as it is. */
export function withFileSaid(error: unknown): unknown {
  if (error instanceof DamagedDatabase) return error;
  if (/malformed|SQLITE_CORRUPT|disk image/i.test(error instanceof Error ? error.message : String(error)))
    return new DamagedDatabase('The database file is damaged.');
  const fault = maybeFaultOfFile(error);
  return fault === undefined ? error : new Error(fault);
}

/** First bytes of every database of SQLite (its file format, “The Database Header”). */
const MAGIC = 'SQLite format 3\0';

/**
 * Looks at the file before anything opens it, by the header that SQLite describes: what it begins with, its size in pages at
 * byte 28 where bytes 24 and 92 agree, and the size of one at byte 16.
 *
 * @throws a sentence for a file that is no database, or only a part of one
 */
export function checkDatabaseFile(file: string): void {
  if (!existsSync(file) || statSync(file).size === 0) return;
  const header = Buffer.alloc(100);
  const handle = openSync(file, 'r');
  try {
    readSync(handle, header, 0, 100, 0);
  } finally {
    closeSync(handle);
  }
  if (header.toString('latin1', 0, 16) !== MAGIC) throw new Error(`The database file is no database. ${PUT_BACK}`);
  const pageSize = header.readUInt16BE(16) === 1 ? 65_536 : header.readUInt16BE(16);
  const isKnown = header.readUInt32BE(24) === header.readUInt32BE(92);
  if (isKnown && statSync(file).size < header.readUInt32BE(28) * pageSize)
    throw new DamagedDatabase('The database file is damaged: a part of it is missing.');
}

/** Names of what a newer version has done to the database, and this one does not know. */
export async function unknownMigrations(orm: MikroORM): Promise<string[]> {
  const known = new Set<string>((isFile(orm) ? MIGRATIONS : SERVER_MIGRATIONS).map(({ name }) => name));
  const connection = connectionOf(orm);
  const table = isFile(orm)
    ? "select name from sqlite_master where name = 'mikro_orm_migrations'"
    : "select table_name from information_schema.tables where table_schema = current_schema() and table_name = 'mikro_orm_migrations'";
  if (((await connection.execute<object[]>(table)) ?? []).length === 0) return [];
  const rows = (await connection.execute<{ name: string }[]>('select name from mikro_orm_migrations')) ?? [];
  return rows.map(({ name }) => name).filter((name) => !known.has(name));
}

async function prepareFile(connection: AbstractSqlConnection): Promise<void> {
  try {
    for (const pragma of ['journal_mode = wal', 'synchronous = full', 'foreign_keys = on', 'busy_timeout = 5000'])
      await connection.execute(`pragma ${pragma}`);
    const [row] = (await connection.execute<Record<string, string>[]>('pragma quick_check')) ?? [];
    const verdict = row && Object.values(row)[0];
    if (verdict !== 'ok') throw new DamagedDatabase(`The database file is damaged (${String(verdict)}).`);
  } catch (error) {
    throw withFileSaid(error);
  }
}

/** Brings the schema up to date and checks a file. Throws a sentence when that is damaged, or the data of a newer version. */
export async function prepareDatabase(orm: MikroORM): Promise<void> {
  if (isFile(orm)) await prepareFile(connectionOf(orm));
  const newer = await unknownMigrations(orm);
  if (newer.length > 0)
    throw new Error(
      `The data was written by a newer Zest Jaw (${newer.join(', ')}). Start that one, or give this one a folder of its own with ZEST_DATA.`,
    );
  await orm.getMigrator().up();
}

/** Everything in the one file again, so that copying that file copies all: what the log beside it held is folded in. */
@Injectable()
export class FoldedLog implements BeforeApplicationShutdown {
  constructor(private readonly orm: MikroORM) {}

  async beforeApplicationShutdown(): Promise<void> {
    if (isFile(this.orm)) await connectionOf(this.orm).execute('pragma wal_checkpoint(truncate)');
  }
}
