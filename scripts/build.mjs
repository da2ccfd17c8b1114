/** `npm run build`: everything, whether stale or not. */
import { join } from 'node:path';
import { ensureInstalled, ROOT, run } from './ensureBuilt.mjs';

ensureInstalled();
const status =
  run(join(ROOT, 'node_modules/.bin/tsc'), ['-b', '--force']) ||
  run(join(ROOT, 'node_modules/.bin/vite'), ['build'], { cwd: join(ROOT, 'web') });
process.exit(status);
