/** What is taken away, and what stays for whoever may still ask for it. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { JobService } from '../jobs/job.service.js';
import { openTestApp, RECORDING, type TestApp } from '../testing/testApp.js';
import { ClearingService, KEPT_AFTER_END, KEPT_UNUSED } from './clearing.service.js';

jest.setTimeout(120_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const DAY = 24 * 3_600_000;
const clearing = (): ClearingService => app.get(ClearingService);
const inFolder = (...path: string[]): string => join(app.folder, ...path);

describe('files of work', () => {
  it('stay for a day after its end, and go when nobody knows them', async () => {
    const { body } = await app.agent().post('/api/scenes/the-wet-stamp/hand-offs').send({ kind: 'bundle' }).expect(201);
    expect((await app.ended(body.id)).state).toBe('done');
    writeFileSync(inFolder('exports', 'nobody.zip'), 'left by a crash');
    mkdirSync(inFolder('imports', 'nobody', 'in'), { recursive: true });
    writeFileSync(inFolder('imports', 'nobody', 'in', '0'), 'left by a crash');
    expect(await clearing().clearFolders(new Date())).toEqual({ files: 2, unused: 0, bytes: 30 });
    expect(existsSync(inFolder('exports', `${body.id}.zip`))).toBe(true);
    await app.agent().get(`/api/jobs/${body.id}/result`).expect(200);
    await clearing().clearFolders(new Date(Date.now() + KEPT_AFTER_END + 1000));
    expect(existsSync(inFolder('exports', `${body.id}.zip`))).toBe(false);
    await app.agent().get(`/api/jobs/${body.id}/result`).expect(404);
    const [told] = (await app.sql("select message from job where kind = 'clearing' order by rowid desc limit 1", [])) as {
      message: string;
    }[];
    expect(told!.message).toMatch(/^Took away 1 files of work that has ended: \d/);
  });

  it('of an import are there after a restart: it can be looked at again, and accepted', async () => {
    const picture = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1h5v5z"/></svg>');
    const sent = await app
      .agent()
      .post('/api/imports')
      .field('cut', 'whole')
      .field('clearPaper', 'false')
      .attach('files', picture, 'ah.svg');
    expect((await app.ended(sent.body.id)).state).toBe('done');
    await app.reopen();
    const again = await app.agent().post(`/api/imports/${sent.body.id}/again`).send({ cut: 'single', clearPaper: false }).expect(201);
    expect((await app.ended(again.body.id)).state).toBe('done');
    expect(
      (
        await app
          .agent()
          .post(`/api/imports/${again.body.id}/accept`)
          .send({ mouths: [0] })
          .expect(201)
      ).body,
    ).toHaveLength(1);
  });

  it('that was arriving when the program ended is gone when it starts', async () => {
    writeFileSync(inFolder('arriving', 'half'), 'half of a recording');
    await app.reopen();
    expect(existsSync(inFolder('arriving', 'half'))).toBe(false);
    const sent = await app.agent().post('/api/recordings').attach('recording', RECORDING, 'line.wav').expect(201);
    expect((await app.ended(sent.body.id)).state).toBe('done');
  });
});

describe('files that nothing refers to', () => {
  const isThere = async (hash: string): Promise<boolean> => (await app.agent().get(`/api/assets/${hash}`)).status === 200;

  it('go after thirty days, unless something refers to them again; what a document or its history has stays', async () => {
    const { document } = await app.scene('the-wet-stamp');
    const voice = document.clips[0]!.audio;
    const picture = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M2 1h5v6z"/></svg>');
    const sent = await app
      .agent()
      .post('/api/imports')
      .field('cut', 'whole')
      .field('clearPaper', 'false')
      .attach('files', picture, 'oh.svg');
    await app.ended(sent.body.id);
    const [art] = (
      await app
        .agent()
        .post(`/api/imports/${sent.body.id}/accept`)
        .send({ mouths: [0] })
        .expect(201)
    ).body;
    await clearing().clearAssets(new Date());
    await clearing().clearAssets(new Date(Date.now() + 29 * DAY));
    expect(await isThere(art.picture)).toBe(true);
    const cleared = await clearing().clearAssets(new Date(Date.now() + KEPT_UNUSED + DAY));
    expect(cleared.unused).toBeGreaterThanOrEqual(2);
    expect(await isThere(art.picture)).toBe(false);
    expect(await isThere(voice)).toBe(true);
  });
});

describe('work that ends the program', () => {
  /** A recording whose job stands as a crash leaves it: nobody was there to set the count back. */
  const begun = async (attempts: number): Promise<string> => {
    const { body } = await app.agent().post('/api/recordings').attach('recording', RECORDING, 'line.wav').expect(201);
    await app.ended(body.id);
    writeFileSync(inFolder('recordings', body.id), RECORDING);
    await app.sql("update job set state = 'running', attempts = ? where id = ?", [attempts, body.id]);
    return body.id as string;
  };

  it('is begun again once, and no third time, which it says', async () => {
    const [once, twice] = [await begun(1), await begun(2)];
    await app.get(JobService).resume();
    expect((await app.ended(once)).state).toBe('done');
    const { state, message } = await app.ended(twice);
    expect([state, message]).toEqual(['failed', expect.stringMatching(/begun 2 times, and the program ended .* bring another file/)]);
    expect(existsSync(inFolder('recordings', twice))).toBe(false);
  });

  it('that was under way when the program was told to stop counts from the start', async () => {
    const id = await begun(2);
    await app.reopen();
    expect((await app.ended(id)).state).toBe('done');
  });
});
