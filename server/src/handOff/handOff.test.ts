/** Files handed off, and a bundle opened beside what is there. */
import { setDrawing, type ChartDocument, type Patch } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(60_000);

let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

/** Makes a file, and answers with its bytes and what it is called. */
async function handedOff(from: TestApp, scene: string, request: object): Promise<{ bytes: Uint8Array; name: string }> {
  const { body } = await from.agent().post(`/api/scenes/${scene}/hand-offs`).send(request).expect(201);
  expect(await from.ended(body.id)).toMatchObject({ state: 'done' });
  return from.resultOf(String(body.id));
}

it('a printed sheet is a PDF, sprites are a picture and its table', async () => {
  const sheet = await handedOff(app, 'the-wet-stamp', { kind: 'sheet', paper: 'Letter', date: '26 November 2026' });
  expect(sheet.name).toContain('The wet stamp exposure sheet.pdf');
  expect(strFromU8(sheet.bytes.subarray(0, 5))).toBe('%PDF-');
  const shots = await handedOff(app, 'the-wet-stamp', { kind: 'shots', trackId: 'mouth1', cameraOn: 2 });
  expect(shots.name).toContain('The wet stamp shooting list.pdf');
  expect(strFromU8(shots.bytes.subarray(0, 5))).toBe('%PDF-');
  await app.agent().post('/api/scenes/the-wet-stamp/hand-offs').send({ kind: 'shots', trackId: 'eyes' }).expect(404);
  const sprites = unzipSync((await handedOff(app, 'the-wet-stamp', { kind: 'sprites', chartId: 'bramble-front', cell: 64 })).bytes);
  expect(Object.keys(sprites).sort()).toEqual(['sprites.json', 'sprites.png', 'sprites.svg']);
  expect((JSON.parse(strFromU8(sprites['sprites.json']!)) as { sprites: unknown[] }).sprites).toHaveLength(13);
  const other = await app
    .agent()
    .post('/api/scenes/the-wet-stamp/hand-offs')
    .send({ kind: 'sprites', chartId: 'odette-front' })
    .expect(422);
  expect(other.body.detail).toContain('say which');
  await app.agent().post('/api/scenes/the-wet-stamp/hand-offs').send({ kind: 'hologram' }).expect(400);
});

it('a bundle can be read by a person, and opens beside the scene it was made of, on the charts that are there', async () => {
  const { bytes } = await handedOff(app, 'the-wet-stamp', { kind: 'bundle' });
  const files = unzipSync(bytes);
  expect(strFromU8(files['README.txt']!)).toContain('Please put the wet stamp beside the blue parcel');
  const before = await app.scene('the-wet-stamp');
  const opened = await app.openBundle(bytes);
  expect(opened).toMatchObject({ productionId: 'night-post', charts: [] });
  const { sceneIds } = opened;
  const { document } = await app.scene(sceneIds[0]!);
  expect(document.settings[0]!.title).toBe('The wet stamp 2');
  expect({ ...document, settings: before.document.settings }).toEqual(before.document);
  expect(await app.scene('the-wet-stamp')).toEqual(before);
});

it('where the chart is another by now, the one of the bundle comes beside it', async () => {
  const { bytes } = await handedOff(app, 'a-complaint', { kind: 'bundle' });
  const before = await app.scene('a-complaint');
  const chart = (await app.agent().get('/api/charts/odette-front').expect(200)).body as { revision: number; document: ChartDocument };
  const { id: patchId, ...patch } = setDrawing(chart.document, 'drop', { label: 'Shout' }, randomUUID) as Patch;
  await app
    .agent()
    .patch('/api/charts/odette-front')
    .send({ baseRevision: chart.revision, patchId, ...patch })
    .expect(200);
  const { sceneIds, charts } = await app.openBundle(bytes);
  expect(charts).toEqual(['Odette, front']);
  const { document } = await app.scene(sceneIds[0]!);
  expect(document.tracks[0]!.chartId).not.toBe('odette-front');
  expect(document.exposures).toEqual(before.document.exposures);
  expect(document.tracks[0]!.characterId).toBe('odette');
  const own = (await app.agent().get(`/api/charts/${document.tracks[0]!.chartId}`).expect(200)).body as { document: ChartDocument };
  expect(own.document).toEqual(chart.document);
});

it('another application opens it on the same state, with its production and its character', async () => {
  const other = await openTestApp();
  try {
    const { bytes } = await handedOff(app, 'the-last-ferry', { kind: 'bundle' });
    const files = unzipSync(bytes);
    const index = JSON.parse(strFromU8(files['bundle.json']!)) as { production: { name: string }; characters: { name: string }[] };
    index.production.name = 'Day Post';
    index.characters[0]!.name = 'Thorn';
    const { sceneIds } = await other.openBundle(zipSync({ ...files, 'bundle.json': strToU8(JSON.stringify(index)) }));
    const { document } = await other.scene(sceneIds[0]!);
    const before = await app.scene('the-last-ferry');
    expect(document.exposures).toEqual(before.document.exposures);
    expect(document.phonemes).toEqual(before.document.phonemes);
    const productions = (await other.agent().get('/api/productions').expect(200)).body as {
      name: string;
      characters: { name: string }[];
    }[];
    expect(productions.find(({ name }) => name === 'Day Post')!.characters).toMatchObject([{ name: 'Thorn' }]);
    await other.agent().get(`/api/assets/${document.clips[0]!.audio}`).expect(200);
  } finally {
    await other.close();
  }
});

it('what is no bundle, is broken or was changed is refused with a sentence, and nothing of it is kept', async () => {
  const { bytes } = await handedOff(app, 'the-last-ferry', { kind: 'bundle' });
  const files = unzipSync(bytes);
  const medium = Object.keys(files).find((name) => name.startsWith('media/') && name.endsWith('.wav'))!;
  const scene = Object.keys(files).find((name) => /^scenes\/.*json$/.test(name))!;
  const changed = Uint8Array.from(files[medium]!);
  changed[1000]! ^= 255;
  const count = (await app.agent().get('/api/scenes').expect(200)).body.length as number;
  const { [medium]: _, ...without } = files;
  for (const [zip, sentence] of [
    [strToU8('not a zip at all'), /no zip with a bundle\.json/],
    [bytes.subarray(0, bytes.length / 2), /no zip with a bundle\.json/],
    [zipSync({ ...files, [medium]: changed }), /has been changed since it was packed/],
    [zipSync(without), /is not in the bundle/],
    [zipSync({ ...files, [scene]: strToU8('{"settings": []}') }), /A scene of the bundle: /],
    [zipSync({ ...files, 'bundle.json': strToU8('{"format": "zest-jaw bundle", "version": 99}') }), /version 99/],
  ] as const) {
    await expect(app.openBundle(zip)).rejects.toThrow(sentence);
  }
  await app.agent().post('/api/bundles').expect(422);
  expect((await app.agent().get('/api/scenes').expect(200)).body).toHaveLength(count);
});

it('a bundle is opened as work that can be given up, and nothing of it stays', async () => {
  const { bytes } = await handedOff(app, 'the-last-ferry', { kind: 'bundle' });
  const count = async (): Promise<number> => ((await app.agent().get('/api/scenes').expect(200)).body as unknown[]).length;
  const before = await count();
  const { body: job } = await app.agent().post('/api/bundles').attach('bundle', Buffer.from(bytes), 'scene.zip').expect(201);
  await app.agent().delete(`/api/jobs/${job.id}`).expect(200);
  expect(await app.ended(job.id)).toMatchObject({ state: 'cancelled' });
  const { body } = await app.agent().get(`/api/bundles/${job.id}`).expect(422);
  expect(body.detail).toBe('The bundle “scene.zip” is not open: Cancelled');
  await app.agent().get('/api/bundles/nothing').expect(404);
  // The one after it is opened all the same.
  await app.openBundle(bytes);
  expect(await count()).toBe(before + 1);
  expect(readdirSync(join(app.folder, 'imports'))).toEqual([]);
});

it('a bundle of more than it may hold is told, and takes nothing down with it', async () => {
  const { bytes } = await handedOff(app, 'the-last-ferry', { kind: 'bundle' });
  const files = unzipSync(bytes);
  const media = Object.fromEntries(Array.from({ length: 20_000 }, (_, index) => [`media/${index}.wav`, new Uint8Array(1)]));
  await expect(app.openBundle(zipSync({ ...files, ...media }, { level: 0 }))).rejects.toThrow(
    /The bundle holds \d+ files of \d+ MB\. It may hold 20000 of/,
  );
  await app.agent().get('/api/scenes').expect(200);
});
