/** How the database is opened: one SQLite file in WAL mode, every commit on disk before it is acknowledged. */
import { defineConfig, LibSqlDriver, type MikroORM } from '@mikro-orm/libsql';
import { Migrator } from '@mikro-orm/migrations';
import { ENTITIES } from './entities.js';
import { MIGRATIONS } from './migrations.js';

export function databaseOptions(file: string) {
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

/** Brings the schema up to date and checks the file. Throws a sentence when the file is damaged. */
export async function prepareDatabase(orm: MikroORM): Promise<void> {
  const connection = orm.em.getConnection();
  for (const pragma of ['journal_mode = wal', 'synchronous = full', 'foreign_keys = on', 'busy_timeout = 5000'])
    await connection.execute(`pragma ${pragma}`);
  const [row] = (await connection.execute<Record<string, string>[]>('pragma quick_check')) ?? [];
  const verdict = row && Object.values(row)[0];
  if (verdict !== 'ok') throw new Error(`The database file is damaged (${String(verdict)}). Put a backup in its place and start again.`);
  await orm.getMigrator().up();
}
