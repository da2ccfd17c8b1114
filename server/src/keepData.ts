/** `backup [FILE]` and `restore FILE [--over]` of the data, from the command line. */
import { parseArgs } from 'node:util';
import { OWN_DATA_FOLDER } from './serve.js';
import { backUp, restore } from './storage/backup.js';

const USAGE = 'npm run backup [-- FILE], npm run restore -- FILE [--over]';

const counted = ({ scenes, charts }: { scenes: number; charts: number }): string =>
  `${scenes} ${scenes === 1 ? 'scene' : 'scenes'} and ${charts} ${charts === 1 ? 'chart' : 'charts'}`;

async function keepData(): Promise<string> {
  const { positionals, values } = parseArgs({ allowPositionals: true, options: { over: { type: 'boolean', default: false } } });
  const [what, file, ...more] = positionals;
  if (process.env['ZEST_DATABASE'] !== undefined)
    throw new Error(
      'The data is in a server database (ZEST_DATABASE). Back it up and put it back with what comes with that: pg_dump and pg_restore.',
    );
  const folder = process.env['ZEST_DATA'] ?? OWN_DATA_FOLDER;
  if (more.length === 0 && what === 'backup' && !values.over) {
    const made = await backUp(folder, new Date(), file);
    return `Backed up ${counted(made)}, ${(made.bytes / 1e6).toFixed(1)} MB, to ${made.file}`;
  }
  if (more.length === 0 && what === 'restore' && file !== undefined) {
    const { before, ...facts } = await restore(folder, file, new Date(), values.over);
    return `Put back ${counted(facts)}.${before === undefined ? '' : ` What was there before is kept as ${before}`}`;
  }
  throw new Error(`Say what is to be done: ${USAGE}`);
}

try {
  process.stdout.write(`${await keepData()}\n`);
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
}
