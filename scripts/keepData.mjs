/** `npm run backup` and `npm run restore`: builds what is missing, then does it. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuilt, ROOT } from './ensureBuilt.mjs';

try {
  ensureBuilt(['core', 'engine', 'server']);
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}

const { status } = spawnSync(process.execPath, [join(ROOT, 'server/dist/keepData.js'), ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
