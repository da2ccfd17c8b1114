/** Turns in the pool: what waits behind a task that is given up has its turn. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RECORDING } from '../testing/testApp.js';
import { WorkerPool } from './workerPool.js';

jest.setTimeout(60_000);

const folder = mkdtempSync(join(tmpdir(), 'zest-pool-'));
const pool = new WorkerPool();
afterAll(async () => {
  await pool.onModuleDestroy();
  rmSync(folder, { recursive: true, force: true });
});

it('a task that runs is given up, and the two behind it are done', async () => {
  const long = Buffer.concat([RECORDING, ...Array.from({ length: 120 }, () => RECORDING.subarray(44))]);
  long.writeUInt32LE(long.length - 8, 4);
  long.writeUInt32LE(long.length - 44, 40);
  const [longPath, shortPath] = [join(folder, 'long'), join(folder, 'short')];
  writeFileSync(longPath, long);
  writeFileSync(shortPath, RECORDING);
  const giveUp = new AbortController();
  const never = new AbortController().signal;
  let behind: Promise<object>[] = [];
  const first = pool.run('decode', { path: longPath }, giveUp.signal, () => {
    if (behind.length > 0) return;
    behind = [pool.run<object>('decode', { path: shortPath }, never), pool.run<object>('decode', { path: shortPath }, never)];
    giveUp.abort();
  });
  await expect(first).rejects.toThrow(/abort/i);
  for (const answer of await Promise.all(behind)) expect(answer).toHaveProperty('lengthSamples');
});

it('a task given up while it waits is never begun', async () => {
  const giveUp = new AbortController();
  const path = join(folder, 'short');
  const first = pool.run('decode', { path }, new AbortController().signal);
  const second = pool.run('decode', { path }, giveUp.signal);
  giveUp.abort();
  await expect(second).rejects.toThrow(/abort/i);
  await first;
});
