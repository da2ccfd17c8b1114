/** Further parts of a face: made on a head, seen in what is handed off, taken along in a bundle. */
import {
  addPictures,
  exposureSheetCsv,
  isPartChart,
  maybeHead,
  partOfPictures,
  partsOfHead,
  type ChartDocument,
  type ChartHead,
  type ChartView,
  type Patch,
  type PlacedArt,
  type SceneDocument,
} from '@zest-jaw/core';
import { readBundle, renderPictures } from '@zest-jaw/engine/hand-off';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(120_000);

const SCENE = 'the-last-ferry';
let app: TestApp;
beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const chartsOf = async (of: TestApp): Promise<ChartView[]> => (await of.agent().get('/api/charts').expect(200)).body as ChartView[];
const lidsOf = (document: SceneDocument): SceneDocument['exposures'] => {
  const lane = document.tracks.find(({ part }) => part === 'Lids')!.id;
  return document.exposures.filter(({ track }) => track === lane);
};

async function pictures(request: object): Promise<Record<string, Uint8Array>> {
  const { document } = await app.scene(SCENE);
  const body = { trackId: document.tracks[0]!.id, baseName: 'face', firstNumber: 0, width: 120, height: 120, withHead: true, ...request };
  const { body: job } = await app.agent().post(`/api/scenes/${SCENE}/pictures`).send(body).expect(201);
  expect((await app.ended(job.id)).state).toBe('done');
  return unzipSync((await app.resultOf(String(job.id))).bytes);
}

it('the demo blinks: a picture of the head has its lids as the lane says, pixel for pixel', async () => {
  const { document } = await app.scene(SCENE);
  const charts = await chartsOf(app);
  const documents = new Map(charts.map(({ id, document }) => [id, document]));
  const blink = lidsOf(document).find(({ drawing }) => drawing === 'shut')!;
  const files = await pictures({});
  const mouth = document.exposures.find(
    ({ track, from, to }) => track === document.tracks[0]!.id && from <= blink.from && blink.from < to,
  )!;
  const chart = documents.get(document.tracks[0]!.chartId)!;
  const head = maybeHead(chart)!;
  if (head.art.kind !== 'picture') throw new Error('The demo’s heads are pictures.');
  const { body } = await app.agent().get(`/api/assets/${head.art.picture}`).expect(200);
  const uri = `data:image/svg+xml;base64,${(body as Buffer).toString('base64')}`;
  const drawn = async (lids: string): Promise<Uint8Array> => {
    const face = partsOfHead(head).map((part) => {
      const own = documents.get(part.chartId)!;
      return { part: part.id, chartId: part.chartId, drawing: part.name === 'Lids' ? lids : own.drawings[0]!.id, look: 0 };
    });
    const shown = { chartId: document.tracks[0]!.chartId, drawing: mouth.drawing, look: 0, face };
    const options = { baseName: 'drawn', firstNumber: 0, width: 120, height: 120, withHead: true };
    let bytes = new Uint8Array();
    await renderPictures(
      [{ number: 0, shown, frame: 0, frames: 1 }],
      documents,
      options,
      () => uri,
      (picture) => (bytes = new Uint8Array(picture.bytes)),
    );
    return bytes;
  };
  const made = files[`face${String(blink.from).padStart(4, '0')}.png`]!;
  expect(Buffer.from(made).equals(Buffer.from(await drawn('shut')))).toBe(true);
  expect(Buffer.from(made).equals(Buffer.from(await drawn('open')))).toBe(false);
});

it('each lane by itself has a folder, and the sheet a column, of its own name', async () => {
  const files = await pictures({ lanes: 'each', withHead: false, which: 'changes' });
  expect(new Set(Object.keys(files).map((name) => name.split('/')[0]))).toEqual(new Set(['Bramble', 'Bramble lids']));
  const { text } = await app.agent().get(`/api/scenes/${SCENE}/sheet.csv`).expect(200);
  const [head, ...rows] = text.trim().split('\r\n');
  expect(head).toContain('Bramble lids mouth');
  // The sounds of the face stand once, however many lanes it has.
  const { document } = await app.scene(SCENE);
  const alone = exposureSheetCsv(document, [{ trackId: document.tracks[0]!.id, name: 'Bramble', charts: new Map() }]);
  const sounds = (lines: string[]): (string | undefined)[] => lines.map((line) => line.split(',')[3]);
  expect(sounds(rows)).toEqual(sounds(alone.trim().split('\r\n').slice(1)));
});

it('a head is given brows, lids and eyes once, or an empty part by name', async () => {
  const { body: made } = await app.agent().post('/api/charts').send({ name: 'Pip, front', style: 'pen', size: 6 }).expect(201);
  const { body } = await app.agent().post(`/api/charts/${made.id}/parts`).send({}).expect(200);
  expect(body.charts).toHaveLength(3);
  const find = async (): Promise<ChartDocument> => (await chartsOf(app)).find(({ id }) => id === made.id)!.document;
  expect(partsOfHead(maybeHead(await find())).map(({ name }) => name)).toEqual(['Eyes', 'Lids', 'Brows']);
  const again = await app.agent().post(`/api/charts/${made.id}/parts`).send({}).expect(422);
  expect(again.body.detail).toMatch(/has eyes, lids, brows already/);
  await app.agent().post(`/api/charts/${made.id}/parts`).send({ name: 'Left hand' }).expect(200);
  expect(partsOfHead(maybeHead(await find())).map(({ name }) => name)).toContain('Left hand');
  const charts = await chartsOf(app);
  expect(charts.filter(({ characterId, document }) => characterId === made.characterId && isPartChart(document))).toHaveLength(4);
});

it('a bundle takes the parts along, and they are on the charts of there', async () => {
  const { body: job } = await app.agent().post(`/api/scenes/${SCENE}/hand-offs`).send({ kind: 'bundle' }).expect(201);
  expect((await app.ended(job.id)).state).toBe('done');
  const { bytes } = await app.resultOf(String(job.id));
  const packed = readBundle(bytes);
  if ('refusal' in packed) throw new Error(packed.refusal);
  // Whoever wants a chart of mouths and says no other gets one.
  expect(packed.charts.map(({ document }) => isPartChart(document))).toEqual([false, true, true, true]);
  const files = unzipSync(bytes);
  // A production of another name, so that nothing of it is there already.
  const index = JSON.parse(strFromU8(files['bundle.json']!)) as { production: { name: string } };
  index.production.name = 'Elsewhere';
  const zip = zipSync({ ...files, 'bundle.json': strToU8(JSON.stringify(index)) });
  const { sceneIds } = await app.openBundle(zip);
  const { document } = await app.scene(sceneIds[0]!);
  const charts = new Map((await chartsOf(app)).map((chart) => [chart.id, chart]));
  const [mouth, lids] = document.tracks;
  const head = maybeHead(charts.get(mouth!.chartId)!.document)!;
  expect(partsOfHead(head).map(({ chartId }) => charts.get(chartId)?.characterId)).toEqual(Array(3).fill(mouth!.characterId));
  expect(partsOfHead(head).find(({ name }) => name === 'Lids')!.chartId).toBe(lids!.chartId);
  expect(lids!.chartId).not.toBe('bramble-lids');
});

it('a head of pictures is handed off as itself, and goes along in a bundle', async () => {
  const page = (x: number): Buffer =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="120" height="120"><circle cx="${x}" cy="60" r="50" fill="#7ac043"/></svg>`);
  const asked = app.agent().post('/api/imports').field('cut', 'pages').field('clearPaper', 'false');
  const { body: begun } = await asked.attach('files', page(55), 'nod.1.svg').attach('files', page(65), 'nod.2.svg').expect(201);
  expect((await app.ended(begun.id)).state).toBe('done');
  const { body: arts } = await app
    .agent()
    .post(`/api/imports/${begun.id}/accept`)
    .send({ mouths: [0, 1] });
  const { document: before, revision } = await app.scene(SCENE);
  const mouth = before.tracks.find(({ kind }) => kind === 'mouth')!;
  const headOf = async (id: string): Promise<ChartHead> => maybeHead((await chartsOf(app)).find((chart) => chart.id === id)!.document)!;
  const made = partOfPictures(await headOf(mouth.chartId), 'head', arts as PlacedArt[]);
  const { body: kept } = await app
    .agent()
    .post(`/api/charts/${mouth.chartId}/parts`)
    .send({ parts: [made] })
    .expect(200);
  const part = partsOfHead(await headOf(mouth.chartId)).find(({ chartId }) => chartId === kept.charts[0])!;
  expect(part.role).toBe('head');
  const { document: chart } = (await chartsOf(app)).find(({ id }) => id === part.chartId)!;
  let count = 0;
  const patch = addPictures(before, { mouth: mouth.id, part, chart }, { from: 0, every: 2, then: 'loop' }, () => `hp${(count += 1)}`);
  const plain = await pictures({ which: 'changes' });
  await app.send(SCENE, revision, patch as Patch).expect(200);

  const seen = await pictures({ which: 'changes' });
  const first = 'face0000.png';
  expect(Buffer.from(seen[first]!).equals(Buffer.from(plain[first]!))).toBe(false);
  const green = async (png: Uint8Array): Promise<number[]> =>
    [...(await sharp(png).extract({ left: 60, top: 100, width: 1, height: 1 }).raw().toBuffer())].slice(0, 3);
  expect(await green(seen[first]!)).toEqual([0x7a, 0xc0, 0x43]);

  const { body: job } = await app.agent().post(`/api/scenes/${SCENE}/hand-offs`).send({ kind: 'bundle' }).expect(201);
  expect((await app.ended(job.id)).state).toBe('done');
  const files = unzipSync((await app.resultOf(String(job.id))).bytes);
  const index = JSON.parse(strFromU8(files['bundle.json']!)) as { production: { name: string } };
  index.production.name = 'Somewhere';
  const zip = zipSync({ ...files, 'bundle.json': strToU8(JSON.stringify(index)) });
  const { sceneIds } = await app.openBundle(zip);
  const { document: there } = await app.scene(sceneIds[0]!);
  const lane = there.tracks.find(({ part: name }) => name === part.name)!;
  const onHead = partsOfHead(await headOf(there.tracks.find(({ kind }) => kind === 'mouth')!.chartId));
  expect(onHead.find(({ chartId }) => chartId === lane.chartId)!.role).toBe('head');
  expect(lane.chartId).not.toBe(part.chartId);
});
