/**
 * Many applications, one after the other, in one process: what takes longest of starting one
 * is reading its code. Asked by messages, each answered with its number.
 */
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const { serve } = await import('../server/dist/serve.js');

const serving = new Map();

// The demo is loaded once, and every application begins with a copy of what that left: it takes four fifths of a start.
const demo = mkdtempSync(join(tmpdir(), 'zest-e2e-demo-'));
process.on('exit', () => rmSync(demo, { recursive: true, force: true }));
await (await serve(demo, 0)).close();

async function open({ folder }) {
  cpSync(demo, folder, { recursive: true });
  const app = await serve(folder, 0);
  serving.set(app.address, app);
  return { address: app.address };
}

async function close({ address }) {
  const app = serving.get(address);
  serving.delete(address);
  await app?.close();
  return {};
}

process.on('message', async ({ number, ask, ...rest }) => {
  try {
    process.send({ number, ...(await (ask === 'open' ? open(rest) : close(rest))) });
  } catch (error) {
    process.send({ number, fault: error.stack ?? String(error) });
  }
});
process.on('disconnect', () => process.exit(0));
process.send({ number: 0 });
