/** Starts the server on this computer's loopback address and prints where. */
import { fileURLToPath } from 'node:url';
import { openApp } from './openApp.js';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = Number(process.env['PORT'] ?? 4178);

/** An idle connection stays open this long, in milliseconds. */
const KEEP_OPEN_MS = 75_000;

if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  process.stderr.write(`PORT is “${process.env['PORT']}”. It must be a whole number from 0 to 65535.\n`);
  process.exit(2);
}

try {
  const app = await openApp({
    dataFolder: process.env['ZEST_DATA'] ?? `${root}data`,
    demoFolder: `${root}demo`,
    webFolder: `${root}web/dist`,
  });
  // Longer than a pause for thought: a request sent on a connection that is just being closed is lost.
  app.getHttpServer().keepAliveTimeout = KEEP_OPEN_MS;
  await app.listen(port, '127.0.0.1');
  process.stdout.write(`Zest Jaw is at ${(await app.getUrl()).replace('[::1]', '127.0.0.1')}\n`);
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
