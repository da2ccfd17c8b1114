/** Readings and renders that wait in the queue of a server database, and processes that take them. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { filter, firstValueFrom } from 'rxjs';
import { JobService } from '../jobs/job.service.js';
import { startDatabase } from '../testing/database.js';
import { openTestApp, RECORDING, SCRIPT, type TestApp } from '../testing/testApp.js';
import { Helpers, helpersFolder, openQueue, type Helped } from './helpers.js';
import { startHelping } from './helping.js';

jest.setTimeout(120_000);

let database: ChildProcess;
let address: string;
const folder = mkdtempSync(join(tmpdir(), 'zest-helpers-'));

beforeAll(async () => ({ server: database, address } = await startDatabase()));
afterAll(() => {
  database.kill();
  rmSync(folder, { recursive: true, force: true });
});

/** `npm run helper`, once it says that it helps. */
async function startHelper(dataFolder: string): Promise<ChildProcess> {
  const env = { ...process.env, ZEST_DATA: dataFolder, ZEST_DATABASE: address };
  const child = spawn(process.execPath, [join(__dirname, '../../dist/helper.js')], { env });
  await new Promise<void>((resolve, reject) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()).includes('Helping') && resolve());
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    child.on('exit', () => reject(new Error(said)));
  });
  return child;
}

describe('the application with helpers', () => {
  let app: TestApp;
  beforeAll(async () => (app = await openTestApp(address, true)));
  afterAll(() => app.close());

  async function newScene(): Promise<{ sceneId: string; jobId: string }> {
    const { body } = await app.agent().post('/api/recordings').attach('recording', RECORDING, 'line.wav').expect(201);
    await app.ended(body.id);
    const asked = { recordingId: body.id, script: SCRIPT, frameRate: '24', characterId: 'bramble' };
    return (await app.agent().post('/api/scenes').send(asked).expect(201)).body as { sceneId: string; jobId: string };
  }

  it('waits for one and says so, and has the reading from it; a sheet too; what is given up is taken back', async () => {
    const { sceneId, jobId } = await newScene();
    const jobs = app.get(JobService);
    await firstValueFrom(jobs.watch(jobId).pipe(filter(({ message }) => message.startsWith('Waiting for a helper'))));
    expect(readdirSync(helpersFolder(app.folder))).toHaveLength(1);

    const other = await newScene();
    await app.agent().delete(`/api/jobs/${other.jobId}`).expect(200);
    expect(await app.ended(other.jobId)).toMatchObject({ state: 'cancelled' });

    const helper = await startHelper(app.folder);
    try {
      expect(await app.ended(jobId)).toMatchObject({ state: 'done' });
      const { document } = await app.scene(sceneId);
      expect(document.words.map(({ text }) => text)).toEqual(['My', 'mother', 'makes', 'marmalade', 'in', 'May']);
      const sheet = await app.agent().post(`/api/scenes/${sceneId}/hand-offs`).send({ kind: 'sheet' }).expect(201);
      expect(await app.ended(sheet.body.id)).toMatchObject({ state: 'done' });
      expect(Buffer.from((await app.resultOf(sheet.body.id)).bytes.subarray(0, 5)).toString()).toBe('%PDF-');
      expect((await app.scene(other.sceneId)).document.words).toEqual([]);
      // Nothing of what was done lies about.
      expect(readdirSync(helpersFolder(app.folder))).toEqual([]);
    } finally {
      const ended = new Promise((resolve) => helper.once('exit', resolve));
      helper.kill();
      await ended;
    }
  });
});

describe('the queue', () => {
  const task = { words: [] };
  const asked = (signal = new AbortController().signal) => ({ signal, report: () => undefined, name: 'none of its own' });

  it('gives a task to another when the first has gone silent, and what a worker throws to whoever asked', async () => {
    const helpers = new Helpers(folder, address, 1_500);
    await helpers.begin();
    const first = await openQueue(address);
    try {
      const answer = helpers.run('one', 'several', task, asked());
      answer.catch(() => undefined);
      let taken: { data: Helped }[] = [];
      while (taken.length === 0) taken = await first.fetch<Helped>('several');
      expect(taken[0]!.data).toEqual({ task: 'one', name: 'none of its own' });
      // It is never heard of again. Another takes it, and finds no work of that name.
      const second = await startHelping(folder, address);
      await expect(answer).rejects.toThrow(/No handler function exported/);
      await second.close();
    } finally {
      await first.stop({ graceful: false });
      await helpers.close();
    }
  });

  it('forgets what waited for a server that ended', async () => {
    const before = new Helpers(folder, address);
    await before.begin();
    const stop = new AbortController();
    const left = before.run('left', 'read', task, asked(stop.signal)).catch((error: Error) => error.name);
    while (readdirSync(helpersFolder(folder)).length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
    const after = new Helpers(folder, address);
    await after.begin();
    expect(readdirSync(helpersFolder(folder))).toEqual([]);
    const queue = await openQueue(address);
    expect(await queue.fetch('read')).toEqual([]);
    stop.abort();
    await left;
    await queue.stop({ graceful: false });
    await after.close();
    await before.close();
  });
});
