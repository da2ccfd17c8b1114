/** Several scenes handed off at once: every file there, opened by what is not ours, and a report of what could not be made. */
import { FILE_KINDS } from '@zest-jaw/core';
import Papa from 'papaparse';
import sharp from 'sharp';
import { strFromU8, unzipSync } from 'fflate';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(120_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const path = '/api/productions/night-post/hand-offs';

async function made(request: object): Promise<{ files: Record<string, Uint8Array>; warnings: string[]; name: string }> {
  const { body } = await app.agent().post(path).send(request).expect(201);
  const { state, warnings } = (await app.ended(body.id)) as unknown as { state: string; warnings: string[] };
  expect(state).toBe('done');
  const { bytes, name } = await app.resultOf(String(body.id));
  return { files: unzipSync(bytes), warnings, name };
}

it('makes everything that can be wanted of every scene, a folder each', async () => {
  const wanted = [...FILE_KINDS.map(({ id }) => id), 'bundle'];
  const sceneIds = ['the-wet-stamp', 'a-complaint'];
  const { files, warnings, name } = await made({ sceneIds, wanted, pattern: '{number} {scene}/{speaker} {what}', width: 64, height: 64 });
  expect(warnings).toEqual([]);
  expect(name).toContain('Night Post 2 scenes.zip');
  const names = Object.keys(files);
  const text = (file: string): string => strFromU8(files[file]!);
  for (const [folder, id] of [
    ['001 The wet stamp', 'the-wet-stamp'],
    ['002 A complaint at low tide', 'a-complaint'],
  ] as const) {
    const { document } = await app.scene(id);
    const { lengthFrames, firstFrame } = document.settings[0]!;
    const own = names.filter((one) => one.startsWith(`${folder}/`));
    const pictures = own.filter((one) => one.endsWith('.png'));
    expect(pictures).toHaveLength(lengthFrames);
    const numbers = pictures.map((one) => Number(/(\d{4})\.png$/.exec(one)![1])).sort((a, b) => a - b);
    expect([numbers[0], numbers.at(-1)]).toEqual([firstFrame, firstFrame + lengthFrames - 1]);
    expect(await sharp(files[pictures[0]!]).metadata()).toMatchObject({ width: 64, height: 64, format: 'png' });
    const sheet = own.find((one) => one.endsWith('exposure sheet.csv'))!;
    const rows = Papa.parse<string[]>(text(sheet), { skipEmptyLines: true }).data;
    expect(rows.filter(([frame]) => /^\d+$/.test(frame!))).toHaveLength(lengthFrames);
    for (const ending of ['keys.csv', 'weights.csv', 'curves.csv', 'captions.vtt', 'labels.TextGrid', 'timeline.otio', 'shooting list.csv'])
      expect(own.some((one) => one.endsWith(ending))).toBe(true);
    for (const ending of ['exposure sheet.pdf', 'shooting list.pdf'])
      expect(strFromU8(files[own.find((one) => one.endsWith(ending))!]!.subarray(0, 5))).toBe('%PDF-');
    // The recording is heard in the curves.
    const curves = Papa.parse<string[]>(text(own.find((one) => one.endsWith('curves.csv'))!), { skipEmptyLines: true }).data;
    expect(curves.flat().some((cell) => /^-\d+(\.\d+)?$/.test(cell))).toBe(true);
  }
  const bundle = unzipSync(files['Night Post.zip']!);
  const index = JSON.parse(strFromU8(bundle['bundle.json']!)) as { scenes: unknown[] };
  expect(index.scenes).toHaveLength(2);
});

it('opens a production bundle beside what is there, scene for scene', async () => {
  const { files } = await made({ sceneIds: ['the-wet-stamp', 'the-last-ferry'], wanted: ['bundle'], pattern: '{scene}' });
  const before = (await app.agent().get('/api/scenes').expect(200)).body as { id: string }[];
  const { sceneIds } = await app.openBundle(files['Night Post.zip']!);
  expect(sceneIds).toHaveLength(2);
  const [from, to] = await Promise.all(['the-last-ferry', sceneIds[1]!].map((id) => app.scene(id)));
  expect(to!.document.exposures).toEqual(from!.document.exposures);
  expect((await app.agent().get('/api/scenes').expect(200)).body).toHaveLength(before.length + 2);
});

it('reports what could not be made, and makes the rest', async () => {
  await app.sql('update `scene` set `document` = ? where `id` = ?', ['{"settings": 5}', 'a-complaint']);
  const sceneIds = ['a-complaint', 'the-wet-stamp'];
  const { files, warnings } = await made({ sceneIds, wanted: ['sheet'], pattern: '{scene}' });
  expect(warnings).toHaveLength(1);
  expect(Object.keys(files).sort()).toEqual(['The wet stamp.csv', 'could not be made.txt']);
  expect(strFromU8(files['could not be made.txt']!).trim()).toBe(warnings[0]);
});

it('refuses what makes no sense, in a sentence', async () => {
  const good = { sceneIds: ['the-wet-stamp'], wanted: ['sheet'], pattern: '{scene}' };
  const refused = async (changes: object, status: number): Promise<string> =>
    String(
      (
        await app
          .agent()
          .post(path)
          .send({ ...good, ...changes })
          .expect(status)
      ).body.detail,
    );
  expect(await refused({ pattern: '{shot} {scene}' }, 422)).toMatch(/^“\{shot\}” stands for nothing/);
  await app.sql("update `scene` set `card` = json_set(`card`, '$.lengthFrames', 65001) where `id` = ?", ['the-wet-stamp']);
  expect(await refused({ wanted: ['pictures'] }, 422)).toMatch(/65001 or more, and a zip holds 65000/);
  expect(await refused({ pattern: ' ' }, 422)).toMatch(/1 to 160/);
  expect(await refused({ sceneIds: ['the-wet-stamp', 'no-scene'] }, 422)).toMatch(/^Of the 2 scenes, 1 are in this production/);
  await app
    .agent()
    .post(path)
    .send({ ...good, sceneIds: [] })
    .expect(400);
  await app
    .agent()
    .post(path)
    .send({ ...good, wanted: ['film'] })
    .expect(400);
  await app.agent().post('/api/productions/none/hand-offs').send(good).expect(404);
});
