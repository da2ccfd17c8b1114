/**
 * One server for one data folder. The lock is a socket that answers while its server lives
 * and goes with it, however that ends: a file would outlive a crash.
 */
import { createHash } from 'node:crypto';
import { mkdirSync, realpathSync, rmSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A socket's path may have about a hundred letters, so it is named after the folder rather than laid into it. */
function socketOf(folder: string): string {
  const name = `zest-jaw-${createHash('sha256').update(realpathSync(folder)).digest('hex').slice(0, 24)}`;
  return process.platform === 'win32' ? `\\\\.\\pipe\\${name}` : join(tmpdir(), `${name}.sock`);
}

/** Whether somebody answers at a socket. */
function answers(path: string): Promise<boolean> {
  return new Promise((resolve) => {
    const knock = connect(path, () => {
      knock.destroy();
      resolve(true);
    });
    knock.on('error', () => resolve(false));
  });
}

/**
 * Takes a data folder for this process, making it if it is not there; answers with what lets go of it.
 *
 * @throws a sentence when another server has it
 */
export async function lockFolder(folder: string): Promise<() => void> {
  mkdirSync(folder, { recursive: true });
  const path = socketOf(folder);
  const taken = new Error(
    `The data folder ${folder} is in use by another Zest Jaw. Stop that one, or give this one a folder of its own: ZEST_DATA=folder npm start`,
  );
  const server = createServer((socket) => socket.destroy());
  // Twice: what a server that was killed left behind is swept away once.
  for (const isFirst of [true, false]) {
    const held = await new Promise<boolean>((resolve, reject) => {
      server.once('error', (error: NodeJS.ErrnoException) => (error.code === 'EADDRINUSE' ? resolve(false) : reject(error)));
      server.listen(path, () => resolve(true));
    });
    if (held) break;
    if (!isFirst || (await answers(path))) throw taken;
    rmSync(path, { force: true });
  }
  server.unref();
  return () => void server.close();
}
