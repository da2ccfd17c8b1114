/** `npm start`: installs and builds what is missing, then serves everything on one loopback port. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuilt, ROOT } from './ensureBuilt.mjs';

try {
  ensureBuilt(['core', 'engine', 'server', 'web']);
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}

const server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js'), ...process.argv.slice(2)], { cwd: ROOT, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code, signal) => process.exit(code ?? (signal === 'SIGINT' || signal === 'SIGTERM' ? 0 : 1)));
