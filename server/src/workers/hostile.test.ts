/** Files made to do harm: each is read or refused in a sentence, in a process that takes nothing else down with it. */
import { isRefusal, type ImportView, type Refusal } from '@zest-jaw/core';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HOSTILE_PICTURES, HOSTILE_RECORDINGS, type HostileFiles } from '../testing/hostileFiles.js';
import type { Decoded } from './decode.worker.js';
import { Overstepped, overstepInWords, ProcessPool } from './processPool.js';
import { WORKER_FOLDER, WorkerPool } from './workerPool.js';

jest.setTimeout(120_000);

const folder = mkdtempSync(join(tmpdir(), 'zest-hostile-'));
const pool = new WorkerPool();
const never = new AbortController().signal;
afterAll(async () => {
  await pool.onModuleDestroy();
  rmSync(folder, { recursive: true, force: true });
});

function laid({ files }: HostileFiles): { name: string; path: string }[] {
  mkdirSync(join(folder, 'in'), { recursive: true });
  return files().map(({ name, bytes }) => {
    const path = join(folder, 'in', name);
    writeFileSync(path, bytes);
    return { name, path };
  });
}

const IMPORT = { options: { cut: { how: 'whole' }, clearPaper: false }, folder: join(folder, 'out'), spoiled: new Map() } as const;

/** What is said of files: a refusal, that they ended what read them, or nothing. */
async function saidOf(work: Promise<readonly string[]>): Promise<string> {
  try {
    return (await work).join(' ');
  } catch (error) {
    if (!(error instanceof Overstepped)) throw error;
    expect(error.of).not.toBe('unknown');
    return overstepInWords(error);
  }
}

const named = (list: readonly HostileFiles[]): [string, HostileFiles][] => list.map((hostile) => [hostile.what, hostile]);

describe.each<[string, [string, HostileFiles][], (files: { name: string; path: string }[]) => Promise<readonly string[]>]>([
  [
    'of pictures',
    named(HOSTILE_PICTURES),
    async (files) => (await pool.run<ImportView>('import', { ...IMPORT, files }, never)).refused.map(({ sentence }) => sentence),
  ],
  [
    'of recordings',
    named(HOSTILE_RECORDINGS),
    async ([file]) => {
      const decoded = await pool.run<Decoded | Refusal>('decode', { path: file!.path }, never);
      return isRefusal(decoded) ? [decoded.refusal] : [];
    },
  ],
])('%s:', (_, cases, read) => {
  it.each(cases)('%s', async (_what, hostile) => {
    const said = await saidOf(read(laid(hostile)));
    if (hostile.sentence) expect(said).toMatch(hostile.sentence);
    if (said !== '') expect(said).toMatch(/^[^{}]+\.?$/);
  });
});

describe('a process that takes more than it may', () => {
  // It takes some 700 MB and 8 s here; what is read after it takes 200 MB and a fifth of a second.
  const large = HOSTILE_PICTURES.find(({ what }) => what === 'a picture of forty million pixels, all of them drawn')!;
  it.each<[string, { memory: number; seconds: number }]>([
    ['memory', { memory: 450 * 2 ** 20, seconds: 1000 }],
    ['time', { memory: 2 ** 40, seconds: 2 }],
  ])('of %s ends, and the next file is read', async (of, allowance) => {
    const own = new ProcessPool(WORKER_FOLDER, 'import.worker.js', allowance);
    try {
      const task = { ...IMPORT, files: laid(large) };
      await expect(own.run(task, never, () => undefined)).rejects.toMatchObject({ of });
      const small = {
        what: '',
        files: () => [
          { name: 'a.svg', bytes: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1h5v5z"/></svg>') },
        ],
      };
      const found = await own.run<ImportView>({ ...IMPORT, files: laid(small) }, never, () => undefined);
      expect(found.mouths).toHaveLength(1);
    } finally {
      await own.close();
    }
  });
});
