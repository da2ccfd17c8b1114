/** Starts the server on this computer's loopback address and prints where. */
import type { RequestListener } from 'node:http';
import { fileURLToPath } from 'node:url';
import { lockFolder } from './guard/folderLock.js';
import { takePort } from './guard/gate.js';
import { openApp } from './openApp.js';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = Number(process.env['PORT'] ?? 4178);

if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  process.stderr.write(`PORT is “${process.env['PORT']}”. It must be a whole number from 0 to 65535.\n`);
  process.exit(2);
}

const dataFolder = process.env['ZEST_DATA'] ?? `${root}data`;

try {
  await lockFolder(dataFolder);
  const gate = await takePort(port);
  const app = await openApp({ dataFolder, demoFolder: `${root}demo`, webFolder: `${root}web/dist` });
  gate.open(app.getHttpAdapter().getInstance() as RequestListener);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, gate.close);
  process.stdout.write(`Zest Jaw is at ${gate.address}\n`);
} catch (error) {
  const code = (error as { code?: string }).code;
  const message =
    code === 'EADDRINUSE'
      ? `Port ${port} is taken. Stop what uses it, or choose another: PORT=4179 npm start`
      : error instanceof Error
        ? error.message
        : String(error);
  process.stderr.write(`Zest Jaw could not start. ${message}\n`);
  process.exit(1);
}
