/** `npm run helper`: builds what is missing, then helps until it is told to end. */
import { ensureBuilt } from './ensureBuilt.mjs';

try {
  ensureBuilt(['core', 'engine', 'server']);
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}
await import('../server/dist/helper.js');
