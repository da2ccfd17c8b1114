/**
 * Reads out of a damaged database whatever can still be read, row by row, into a new one. The damaged file is left as it is:
 * a copy of it is read.
 */
import Database from 'libsql';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { momentName } from './backup.js';

type Connection = InstanceType<typeof Database>;

/** How much of a table was read; a production that had to be made up counts as lost. */
export interface RescuedTable {
  readonly table: string;
  readonly read: number;
  /** Rows that are known to have been there, and could not be read. */
  readonly lost: number;
}

export interface Rescued {
  readonly file: string;
  readonly tables: readonly RescuedTable[];
}

/** Rows are looked for one by one between the first and the last that are known, where there are no more than this. */
const MOST_PROBED = 2_000_000;

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** Everything an iterator gives before it ends or fails. */
function untilFault<T>(rows: () => Iterable<T>, take: (row: T) => void): boolean {
  try {
    for (const row of rows()) take(row);
    return true;
  } catch {
    return false;
  }
}

/** The row numbers of a table, by whatever way leads to them: the table forwards and backwards, and each of its indexes. */
function rowNumbers(from: Connection, table: string): number[] {
  const found = new Set<number>();
  const walk = (statement: string): boolean =>
    untilFault(
      () => from.prepare(statement).raw(true).iterate() as Iterable<[number]>,
      ([number]) => found.add(number),
    );
  const name = quoted(table);
  if (walk(`select rowid from ${name} not indexed order by rowid`)) return [...found];
  walk(`select rowid from ${name} not indexed order by rowid desc`);
  const indexes: string[] = [];
  untilFault(
    () => from.prepare(`select name from pragma_index_list(?)`).raw(true).iterate(table) as Iterable<[string]>,
    ([index]) => indexes.push(index),
  );
  for (const index of indexes) walk(`select rowid from ${name} indexed by ${quoted(index)}`);
  const [first, last] = [...found].reduce(([low, high], one) => [Math.min(low, one), Math.max(high, one)], [Infinity, -Infinity]);
  return last - first > MOST_PROBED || found.size === 0
    ? [...found]
    : Array.from({ length: last - first + 1 }, (_, index) => first + index);
}

function rescueTable(from: Connection, to: Connection, table: string): RescuedTable {
  const columns = (to.prepare(`select name from pragma_table_info(?)`).raw(true).all(table) as [string][]).map(([name]) => name);
  const into = to.prepare(
    `insert or ignore into ${quoted(table)} (rowid, ${columns.map(quoted).join(', ')}) values (${['?', ...columns].map(() => '?').join(', ')})`,
  );
  let [read, lost] = [0, 0];
  const asked = `select rowid, ${columns.map(quoted).join(', ')} from ${quoted(table)} not indexed where rowid = ?`;
  const asking = (): ReturnType<Connection['prepare']> => from.prepare(asked).raw(true);
  let one: ReturnType<Connection['prepare']>;
  try {
    one = asking();
  } catch {
    return { table, read, lost };
  }
  const numbers = rowNumbers(from, table);
  to.exec('begin');
  for (const number of numbers) {
    try {
      const row = one.get(number) as unknown[] | undefined;
      if (!row) continue;
      into.run(...row);
      read += 1;
    } catch {
      lost += 1;
      // One that has failed fails from then on.
      one = asking();
    }
  }
  to.exec('commit');
  return { table, read, lost };
}

/** What a production is called of which nothing but its scenes and characters was left. */
const RESCUED_PRODUCTION = 'What was rescued';

/** Productions that scenes and characters point at, and that were lost: they hold little, and all the rest hangs on them. */
function standInProductions(to: Connection): void {
  const columns = to.prepare('select name, "notnull", dflt_value from pragma_table_info(?)').raw(true).all('production') as [
    string,
    number,
    unknown,
  ][];
  const needed = columns.filter(([name, notNull, byItself]) => name !== 'id' && notNull !== 0 && byItself === null).map(([name]) => name);
  // Lists, all of them, but for what it is called.
  const values = needed.map((name) => (name === 'name' ? `'${RESCUED_PRODUCTION}'` : "'[]'"));
  for (const table of ['scene', 'character'])
    to.exec(
      `insert or ignore into production (${['id', ...needed].map(quoted).join(', ')})
       select distinct ${['production_id', ...values].join(', ')} from ${quoted(table)}`,
    );
}

/** Takes away rows that point at what was lost: the program counts on their being there. */
function dropOrphans(to: Connection): Map<string, number> {
  const dropped = new Map<string, number>();
  for (;;) {
    const orphans = to.prepare('select "table", rowid from pragma_foreign_key_check').raw(true).all() as [string, number][];
    if (orphans.length === 0) return dropped;
    for (const [table, rowid] of orphans) {
      const { changes } = to.prepare(`delete from ${quoted(table)} where rowid = ?`).run(rowid);
      dropped.set(table, (dropped.get(table) ?? 0) + changes);
    }
  }
}

/**
 * @param damaged the damaged file; what lies beside it with -wal is read too
 * @param file where the new database goes, over what is there
 * @returns undefined where nothing can be read at all
 */
export function rescue(damaged: string, file: string): Rescued | undefined {
  mkdirSync(dirname(file), { recursive: true });
  const desk = mkdtempSync(join(dirname(file), 'reading '));
  const [copy, made] = [join(desk, basename(damaged)), join(desk, 'made.db')];
  let from: Connection | undefined;
  let to: Connection | undefined;
  try {
    for (const beside of ['', '-wal']) if (existsSync(damaged + beside)) copyFileSync(damaged + beside, copy + beside);
    from = new Database(copy);
    // A file of which a part is missing is opened only so (SQLite, “PRAGMA writable_schema”).
    from.exec('pragma writable_schema = on');
    const schema: [string, string, string | null][] = [];
    untilFault(
      () =>
        from!.prepare("select type, name, sql from sqlite_master where name not like 'sqlite_%'").raw(true).iterate() as Iterable<
          (typeof schema)[0]
        >,
      (row) => schema.push(row),
    );
    to = new Database(made);
    to.exec('pragma foreign_keys = off');
    for (const kind of ['table', 'index']) for (const [type, , sql] of schema) if (type === kind && sql !== null) to.exec(sql);
    const tables: RescuedTable[] = [];
    for (const [type, table] of schema) if (type === 'table') tables.push(rescueTable(from, to, table));
    standInProductions(to);
    const orphans = dropOrphans(to);
    to.close();
    to = undefined;
    for (const beside of ['-wal', '-shm']) rmSync(file + beside, { force: true });
    renameSync(made, file);
    const kept = tables.map(({ table, read, lost }) => ({
      table,
      read: read - (orphans.get(table) ?? 0),
      lost: lost + (orphans.get(table) ?? 0),
    }));
    return kept.some(({ table, read }) => read > 0 && (table === 'scene' || table === 'chart')) ? { file, tables: kept } : undefined;
  } catch {
    // Not even what it is made of can be read.
    return undefined;
  } finally {
    for (const open of [from, to]) open?.close();
    rmSync(desk, { recursive: true, force: true });
  }
}

/** Where what is rescued goes: by when the damaged file was last written, so that starting again and again fills no disk. */
export const rescuedFileOf = (dataFolder: string, damaged: string): string =>
  join(dataFolder, 'rescued', `zest-jaw ${momentName(statSync(damaged).mtime)}.db`);

/** What the tables are called, one and several; what is not named matters to nobody. */
const IN_WORDS: readonly (readonly [table: string, one: string, several: string])[] = [
  ['scene', 'scene', 'scenes'],
  ['chart', 'chart', 'charts'],
  ['character', 'character', 'characters'],
  ['production', 'production', 'productions'],
  ['asset', 'picture or recording', 'pictures and recordings'],
  ['pass', 'pass', 'passes'],
  ['revision', 'step of history', 'steps of history'],
];

/** What was rescued, and what to do. */
export function sentenceOfRescue({ file, tables }: Rescued): string {
  const parts = IN_WORDS.flatMap(([name, one, several]) => {
    const found = tables.find(({ table }) => table === name);
    const all = found ? found.read + found.lost : 0;
    if (!found || all === 0) return [];
    return [found.lost === 0 ? `${all} ${all === 1 ? one : several}` : `${found.read} of ${all} ${all === 1 ? one : several}`];
  });
  return `The database is damaged. What could be read of it is shown, and nothing can be changed: ${parts.join(', ')}. To go on with that, stop Zest Jaw and run: npm run restore -- "${file}". A backup may have more. The damaged file stays where it is.`;
}
