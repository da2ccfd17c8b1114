/** The HTTP API on a real database, with the real recogniser in its worker threads. */
import {
  isPartChart,
  applyPatch,
  duplicateDrawing,
  exposuresOfTrack,
  FEELS,
  floatsOf16Bit,
  fullRules,
  HEARD_BLOCK,
  invertPatch,
  isRefusal,
  keyPencil,
  maybeHeard,
  putDrawing,
  putEarMark,
  REASONS,
  SCENE_KIND,
  removeDrawing,
  setLook,
  setPhraseRules,
  setRules,
  setShape,
  starterChart,
  trimClip,
  truthOfWave,
  waveBlocks,
  wavePyramid,
  type ChartView,
  type Clip,
  type Patch,
  type Reason,
  type SceneDocument,
  type Truth,
  checkReading,
  mapOfChart,
  type WordWay,
} from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { openTestApp, RECORDING, SCRIPT, type SceneAnswer, type TestApp } from './testing/testApp.js';

jest.setTimeout(120_000);

const REASON_NAMES = Object.keys(REASONS) as Reason[];
const chart = starterChart('Test', 'brush');
let app: TestApp;

beforeAll(async () => {
  app = await openTestApp();
});
afterAll(() => app.close());

const scene = (id: string): Promise<SceneAnswer> => app.scene(id);
const send: TestApp['send'] = (...args) => app.send(...args);
const ended: TestApp['ended'] = (jobId) => app.ended(jobId);

/** Takes an answer as bytes. */
const binary: Parameters<ReturnType<ReturnType<TestApp['agent']>['get']>['parse']>[0] = (response, done) => {
  const chunks: Buffer[] = [];
  response.on('data', (chunk: Buffer) => chunks.push(chunk));
  response.on('end', () => done(null, Buffer.concat(chunks)));
};

/** The patch of a keycap, ready to send. */
function keycap(document: SceneDocument, frame: number, drawing: string): Patch {
  return putDrawing(document, { track: document.tracks[0]!.id, frame, drawing }, chart, randomUUID) as Patch;
}

/** Sends a recording and waits until it is decoded, or is not; answers with its id and how it ended. */
async function recorded(recording: Buffer = RECORDING, name = 'line.wav'): Promise<{ id: string; state: string; message: string }> {
  const { body } = await app.agent().post('/api/recordings').attach('recording', recording, name).expect(201);
  return { id: body.id as string, ...(await ended(body.id)) };
}

/** A new scene from a recording that can be decoded. */
async function create(fields: Record<string, string>, recording: Buffer = RECORDING, name = 'line.wav') {
  const { id, message } = await recorded(recording, name);
  if (message !== 'Done') throw new Error(message);
  return app
    .agent()
    .post('/api/scenes')
    .send({ recordingId: id, ...fields });
}

const LINE = { script: SCRIPT, frameRate: '24', characterId: 'bramble' };

describe('the demo', () => {
  it('is there on a fresh database: four scenes at three frame rates, two characters, four charts of 6, 9 and 13 mouths on one map', async () => {
    const { body } = await app.agent().get('/api/scenes').expect(200);
    expect(body.map((card: { frameRate: { num: number }; holdFrames: number }) => [card.frameRate.num, card.holdFrames])).toEqual([
      [24, 2],
      [24, 2],
      [12, 1],
      [25, 1],
    ]);
    const all = (await app.agent().get('/api/charts').expect(200)).body as ChartView[];
    const [charts, parts] = [false, true].map((isPart) => all.filter(({ document }) => isPartChart(document) === isPart)) as [
      ChartView[],
      ChartView[],
    ];
    expect(parts.map(({ name }) => name)).toEqual(
      ['Bramble', 'Odette'].flatMap((who) => ['brows', 'eyes', 'lids'].map((part) => `${who}, ${part}`)),
    );
    expect(charts.map(({ document }: ChartView) => document.drawings.length)).toEqual([6, 13, 9, 13]);
    expect(new Set(charts.map(({ document }: ChartView) => JSON.stringify(mapOfChart(document, 'Night Post')))).size).toBe(1);
    const [production] = (await app.agent().get('/api/productions').expect(200)).body;
    const maps = (await app.agent().get('/api/productions/night-post/maps').expect(200)).body;
    expect(maps).toEqual([mapOfChart(charts[0]!.document, 'Night Post')]);
    expect(production.characters).toHaveLength(2);
    const head = await app
      .agent()
      .get(`/api/assets/${(charts[0]!.document.head[0]!.art as { picture: string }).picture}`)
      .expect(200)
      .expect('content-type', /image\/svg\+xml/);
    expect(head.body.toString()).toContain('<svg');
    expect(head.headers['content-security-policy']).toContain("default-src 'none'");
  });

  it('has a scene that looks alive: eyes that look, lids that blink, brows that rise, a head that turns, lines that live', async () => {
    const { document } = await scene('a-light-out-there');
    const shown = (part: string): { drawing: string; inked: boolean }[] => {
      const lane = document.tracks.find((track) => track.part === part)!;
      return document.exposures.filter(({ track }) => track === lane.id);
    };
    expect(document.tracks.map(({ part }) => part ?? 'mouth').sort()).toEqual(['Brows', 'Eyes', 'Lids', 'mouth']);
    for (const part of ['Brows', 'Eyes', 'Lids']) expect(shown(part).some(({ inked }) => inked)).toBe(true);
    expect(shown('Lids').filter(({ drawing, inked }) => drawing === 'shut' && !inked).length).toBeGreaterThan(1);
    expect(shown('Brows').filter(({ drawing, inked }) => drawing === 'up' && !inked).length).toBeGreaterThan(0);
    expect(document.places.filter(({ of }) => of === 'head')).toHaveLength(10);
    expect(document.tracks.find(({ kind }) => kind === 'mouth')!.boil).toBe(0.3);
  });

  it('shows every closure of its lines', async () => {
    for (const id of ['the-wet-stamp', 'a-complaint', 'the-last-ferry', 'a-light-out-there']) {
      const { document } = await scene(id);
      const played = new Set(
        document.exposures.filter((exposure) => ['press', 'bite'].includes(exposure.drawing)).flatMap((exposure) => exposure.plays),
      );
      for (const phoneme of document.phonemes.filter((candidate) => 'M B P F V'.split(' ').includes(candidate.symbol)))
        expect(played.has(phoneme.id)).toBe(true);
    }
  });
});

describe('changing a scene', () => {
  const id = 'the-last-ferry';

  it('writes one revision, and the same patch again is harmless', async () => {
    const { revision, document } = await scene(id);
    const patch = keycap(document, 20, 'drop');
    await send(id, revision, patch).expect(200, { revision: revision + 1 });
    await send(id, revision, patch).expect(200, { revision: revision + 1 });
    const after = await scene(id);
    expect(after.revision).toBe(revision + 1);
    expect(after.document).toEqual(JSON.parse(JSON.stringify(applyPatch(SCENE_KIND, document, patch))));
    const { body } = await app.agent().get(`/api/scenes/${id}/patches?since=${revision}`).expect(200);
    expect(body).toEqual([
      { revision: revision + 1, patch: JSON.parse(JSON.stringify(patch)) as unknown, at: expect.any(String) as unknown },
    ]);
  });

  it('answers 409 to a stale base, with the patches since, and changes nothing', async () => {
    const { revision, document } = await scene(id);
    const first = keycap(document, 50, 'ring');
    await send(id, revision, first).expect(200);
    const { body, headers } = await send(id, revision, keycap(document, 90, 'lift')).expect(409);
    expect(headers['content-type']).toMatch(/application\/problem\+json/);
    expect(body).toMatchObject({ status: 409, revision: revision + 1, patchesSince: [{ patch: { id: first.id } }] });
    expect(body.detail).toMatch(/send it again/);
    expect((await scene(id)).revision).toBe(revision + 1);
  });

  it.each<[string, (document: SceneDocument) => Patch['ops'], RegExp]>([
    [
      'a before that is not what is there',
      ({ exposures }) => [
        { op: 'put', table: 'exposures', id: exposures[0]!.id, before: { ...exposures[0]!, drawing: 'ring' } as never, after: null },
      ],
      /not what the patch expects/,
    ],
    [
      'an overlap',
      ({ exposures }) => [
        {
          op: 'put',
          table: 'exposures',
          id: exposures[0]!.id,
          before: exposures[0]!,
          after: { ...exposures[0]!, to: exposures[0]!.to + 1 } as never,
        },
      ],
      /starts before the one before it ends/,
    ],
    [
      'a drawing that is not there',
      ({ exposures }) => [
        {
          op: 'put',
          table: 'exposures',
          id: exposures[0]!.id,
          before: exposures[0]!,
          after: { ...exposures[0]!, drawing: 'grin' } as never,
        },
      ],
      /not in its chart/,
    ],
    [
      'a frame rate of 0',
      ({ settings }) => [
        {
          op: 'put',
          table: 'settings',
          id: 'scene',
          before: settings[0]!,
          after: { ...settings[0]!, frameRate: { num: 0, den: 1 } } as never,
        },
      ],
      /“frameRate.num” that is 0\. It must be a whole number/,
    ],
    ['a table that is not there', () => [{ op: 'put', table: 'secrets', id: 'x', before: null, after: { id: 'x' } }], /no table “secrets”/],
    ['a put that says nothing', () => [{ op: 'put', table: 'exposures', id: 'x', before: null, after: null }], /before or an after/],
    [
      'a record under another id',
      () => [{ op: 'put', table: 'exposures', id: 'x', before: null, after: { id: 'y' } }],
      /must carry its id x/,
    ],
    ['a shift without frames', () => [{ op: 'shift', table: 'exposures', track: 'mouth1' } as never], /frames at and by/],
  ])('refuses %s in a sentence', async (_, opsOf, message) => {
    const { revision, document } = await scene(id);
    const { body } = await send(id, revision, { id: randomUUID(), reason: 'exposure.put', ops: opsOf(document) }).expect(422);
    expect(body.detail).toMatch(message);
    expect(await scene(id)).toMatchObject({ revision, document });
  });

  it.each(REASON_NAMES)('lets a change through whose reason is %s', async (reason) => {
    const { revision } = await scene(id);
    // Nothing is changed, and nothing but the reason can be refused.
    await send(id, revision, { id: randomUUID(), reason, ops: [] }).expect(200);
  });

  it('refuses a reason that is not on the list', async () => {
    const { revision } = await scene(id);
    const { body } = await send(id, revision, { id: randomUUID(), reason: 'a.b' as never, ops: [] }).expect(400);
    expect(body.detail).toMatch(/not known here. Reload the page/);
  });

  it('answers with the past, newest first, a page at a time, with what each step takes back', async () => {
    const { revision, document } = await scene(id);
    const patch = keycap(document, 22, 'mid');
    await send(id, revision, patch).expect(200);
    await send(id, revision + 1, { ...invertPatch(patch, randomUUID()), undoes: patch.id }).expect(200);
    const { body } = await app
      .agent()
      .get(`/api/scenes/${id}/past?upTo=${revision + 2}`)
      .expect(200);
    expect(body.length).toBeLessThanOrEqual(40);
    expect(body.slice(0, 2)).toMatchObject([
      { revision: revision + 2, patch: { undoes: patch.id } },
      { revision: revision + 1, patch: { id: patch.id } },
    ]);
    const { body: older } = await app.agent().get(`/api/scenes/${id}/past?upTo=${revision}`).expect(200);
    expect(older[0].revision).toBe(revision);
    await app.agent().get(`/api/scenes/${id}/past?upTo=x`).expect(400);
    expect((await scene(id)).document).toEqual(document);
  });

  it.each<[string, string, (document: SceneDocument) => object]>([
    ['a track without rules', 'tracks', ({ tracks: [track] }) => ({ ...track, rules: undefined })],
    ['a track whose rules are nothing', 'tracks', ({ tracks: [track] }) => ({ ...track, rules: null })],
    ['an exposure that plays null', 'exposures', ({ exposures: [exposure] }) => ({ ...exposure, plays: null })],
    ['a clip without a line', 'clips', ({ clips: [clip] }) => ({ ...clip, script: null })],
    ['a word that is a number', 'words', ({ words: [word] }) => ({ ...word, text: 7 })],
    ['a mark without letters', 'marks', () => ({ id: 'm', characterId: 'bramble', frame: 3 })],
    ['a clip with phrases that are none', 'clips', ({ clips: [clip] }) => ({ ...clip, phrases: [{ from: 0, to: 9 }] })],
  ])('refuses %s at the door, and Home goes on showing every scene', async (_, table, recordOf) => {
    const { revision, document } = await scene(id);
    const after = JSON.parse(JSON.stringify(recordOf(document)));
    const before = (document[table as 'tracks'] as readonly { id: string }[]).find((one) => one.id === after.id) ?? null;
    const ops = [{ op: 'put', table, id: after.id, before, after }] as Patch['ops'];
    const { body } = await send(id, revision, { id: randomUUID(), reason: 'scene.settings', ops }).expect(422);
    expect(body.detail).toMatch(/^The record .* has a field “[\w.]+” that is .*\. It must be .*\./);
    expect(await scene(id)).toMatchObject({ revision, document });
    await app.agent().get('/api/scenes').expect(200);
  });

  it('shows the other scenes beside one that is damaged all the same, and says what is wrong with it', async () => {
    await app.sql("update `scene` set `card` = null, `document` = json_set(`document`, '$.tracks[0].rules', null) where `id` = ?", [id]);
    const { body } = await app.agent().get('/api/scenes').expect(200);
    expect(body).toHaveLength(4);
    const [damaged] = body.filter((card: { fault?: string }) => card.fault);
    expect(damaged).toMatchObject({ id, title: 'The last ferry' });
    expect(damaged.fault).toMatch(/mouth1 of the tracks has a field “rules” that is null/);
    await app.sql(
      'update `scene` set `card` = null, `document` = json_set(`document`, \'$.tracks[0].rules\', json(\'{"leadFrames":1,"holdFrames":2,"strict":false}\')) where `id` = ?',
      [id],
    );
  });

  it('refuses a body with anything that was not declared', async () => {
    const { body } = await app
      .agent()
      .patch(`/api/scenes/${id}`)
      .send({ baseRevision: 0, patchId: 'x', reason: 'a.b', ops: [], admin: true })
      .expect(400);
    expect(body.detail).toMatch(/admin/);
    expect(body).not.toHaveProperty('stack');
  });

  it('keeps everything over a restart', async () => {
    const before = await scene(id);
    await app.reopen();
    expect(await scene(id)).toEqual(before);
  });

  it('keeps another version as a scene of its own', async () => {
    const { document } = await scene(id);
    const { body } = await app.agent().post('/api/scenes/copies').send({ title: 'Mine', document }).expect(201);
    expect((await scene(body.id)).document.exposures).toEqual(document.exposures);
    await app
      .agent()
      .post('/api/scenes/copies')
      .send({ title: 'Mine', document: { settings: [] } })
      .expect(422);
    await app.agent().delete(`/api/scenes/${body.id}`).expect(204);
    await app.agent().get(`/api/scenes/${body.id}`).expect(404);
  });
});

describe('changing a chart', () => {
  const chartOf = async (): Promise<ChartView> => (await app.agent().get('/api/charts/bramble-front').expect(200)).body as ChartView;
  const sendChart = (baseRevision: number, patch: Patch) =>
    app.agent().patch('/api/charts/bramble-front').send({ baseRevision, patchId: patch.id, reason: patch.reason, ops: patch.ops });

  it('writes a revision like a scene does: idempotent, 409 on a stale base, there after a restart', async () => {
    const before = await chartOf();
    const patch = setShape(before.document, 'drop', { jaw: 0.8 }, randomUUID) as Patch;
    await sendChart(before.revision, patch).expect(200, { revision: before.revision + 1 });
    await sendChart(before.revision, patch).expect(200, { revision: before.revision + 1 });
    const stale = await sendChart(before.revision, setShape(before.document, 'mid', { jaw: 0.4 }, randomUUID) as Patch).expect(409);
    expect(stale.body.patchesSince).toMatchObject([{ patch: { id: patch.id } }]);
    await app.reopen();
    const after = await chartOf();
    expect(after.revision).toBe(before.revision + 1);
    expect(after.document.drawings.find((drawing) => drawing.id === 'drop')!.art).toMatchObject({ kind: 'built', shape: { jaw: 0.8 } });
  });

  it('does not take a drawing from under a scene, and says where it is shown', async () => {
    const { revision, document } = await chartOf();
    const { body } = await sendChart(revision, removeDrawing(document, 'press', randomUUID) as Patch).expect(422);
    expect(body.detail).toMatch(/“Press” is shown in “The last ferry”, “The wet stamp”/);
    const uses = (await app.agent().get('/api/charts/bramble-front/uses').expect(200)).body;
    expect(uses.press).toEqual(['The last ferry', 'The wet stamp']);
    const doubled = duplicateDrawing(document, 'press', randomUUID) as Patch;
    await sendChart(revision, doubled).expect(200);
    const longer = (await chartOf()).document;
    await sendChart(revision + 1, removeDrawing(longer, longer.drawings[2]!.id, randomUUID) as Patch).expect(200);
  });

  it('puts another drawing in its place in every scene, in one revision each, so that it can go', async () => {
    const { revision, document } = await chartOf();
    await app.agent().post('/api/charts/bramble-front/replacements').send({ drawing: 'tip', by: 'nobody' }).expect(422);
    const { body } = await app.agent().post('/api/charts/bramble-front/replacements').send({ drawing: 'tip', by: 'lift' }).expect(200);
    expect(body.scenes).toBeGreaterThan(0);
    expect((await app.agent().get('/api/charts/bramble-front/uses')).body.tip).toBeUndefined();
    await sendChart(revision, removeDrawing(document, 'tip', randomUUID) as Patch).expect(200);
    expect((await scene('the-wet-stamp')).document.exposures.some((exposure) => exposure.drawing === 'lift')).toBe(true);
  });

  it('refuses a chart whose pictures are not here', async () => {
    const { revision, document } = await chartOf();
    const art = {
      kind: 'placed',
      picture: 'a'.repeat(64),
      preview: 'b'.repeat(64),
      width: 9,
      height: 9,
      ink: { x: 0, y: 0, width: 9, height: 9 },
    };
    const measures = { opening: 0, width: 9, teeth: 0, darkness: 0 };
    const patch = setLook(document, 'drop', 0, { art: { ...art, measures } as never }, 'drawing.replace', randomUUID) as Patch;
    const { body } = await sendChart(revision, patch).expect(422);
    expect(body.detail).toMatch(/2 of the chart’s pictures are not here/);
  });

  it('refuses a shape out of range', async () => {
    const { revision, document } = await chartOf();
    expect(setShape(document, 'drop', { jaw: 7 }, randomUUID)).toHaveProperty('refusal');
    // What the page refuses by itself is refused here too when it comes some other way.
    const text = JSON.stringify(setShape(document, 'drop', { jaw: 0.123 }, randomUUID)).replaceAll('0.123', '7');
    const { body } = await sendChart(revision, JSON.parse(text) as Patch).expect(422);
    expect(body.detail).toMatch(/“art.shape.jaw” that is 7\. It must be a number from 0 to 1/);
  });
});

describe('a new chart', () => {
  it('comes from a starter for a new character, with a built head, or as a copy for one that is there', async () => {
    const { body } = await app
      .agent()
      .post('/api/charts')
      .send({ name: 'Pebble, front', characterName: 'Pebble', size: 9, style: 'paper' })
      .expect(201);
    const chartView = (await app.agent().get(`/api/charts/${body.id}`).expect(200)).body as ChartView;
    expect(chartView.document.drawings).toHaveLength(9);
    expect(chartView.document.head[0]!.art.kind).toBe('built');
    const [production] = (await app.agent().get('/api/productions').expect(200)).body;
    expect(production.characters.map((character: { name: string }) => character.name)).toContain('Pebble');
    const copied = await app
      .agent()
      .post('/api/charts')
      .send({ name: 'Pebble, angry', characterId: body.characterId, copyOf: body.id })
      .expect(201);
    const copy = (await app.agent().get(`/api/charts/${copied.body.id}`)).body as ChartView;
    expect(copy).toMatchObject({
      characterId: body.characterId,
      name: 'Pebble, angry',
      document: { drawings: chartView.document.drawings },
    });
  });

  it.each([
    [{ name: 'x', size: 7 }, 400],
    [{ name: 'x', style: 'oil' }, 400],
    [{ name: '   ' }, 422],
    [{ name: 'x', characterId: 'nobody' }, 404],
    [{ name: 'x', copyOf: 'nothing' }, 404],
  ])('refuses %j', (body, status) => app.agent().post('/api/charts').send(body).expect(status));
});

describe('an import of mouths', () => {
  const svg = (inner: string): Buffer => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 60">${inner}</svg>`);
  const two = svg('<g id="ee"><rect x="10" y="20" width="80" height="10"/></g><g id="oh"><circle cx="50" cy="30" r="20"/></g>');
  const begin = (file: Buffer, name: string, fields: Record<string, string> = { cut: 'whole', clearPaper: 'true' }) => {
    const call = app.agent().post('/api/imports');
    for (const [field, value] of Object.entries(fields)) void call.field(field, value);
    return call.attach('files', file, name);
  };
  const leftBehind = (): string[] => readdirSync(join(app.folder, 'imports'));
  const kept = async (): Promise<number> => {
    const before = (await app.agent().get('/api/charts/bramble-front')).body as ChartView;
    return before.document.drawings.length;
  };

  it('is looked at in a worker, kept when it is accepted, and nothing of it lies about afterwards', async () => {
    const { body } = await begin(two, 'mouths.svg').expect(201);
    expect(await ended(body.id)).toMatchObject({ state: 'done' });
    const view = (await app.agent().get(`/api/imports/${body.id}`).expect(200)).body;
    expect(view.mouths.map((mouth: { name: string; as: string }) => [mouth.name, mouth.as])).toEqual([
      ['ee', 'group 1 of 2'],
      ['oh', 'group 2 of 2'],
    ]);
    await app.agent().get(`/api/imports/${body.id}/previews/0`).expect(200).expect('content-type', 'image/png');
    await app.agent().get(`/api/imports/${body.id}/previews/7`).expect(404);
    const arts = (
      await app
        .agent()
        .post(`/api/imports/${body.id}/accept`)
        .send({ mouths: [1] })
        .expect(201)
    ).body;
    expect(arts).toHaveLength(1);
    const picture = await app.agent().get(`/api/assets/${arts[0].picture}`).expect(200).expect('content-type', /svg/);
    expect(picture.body.toString()).toContain('<circle');
    expect(leftBehind()).toEqual([]);
    await app.agent().get(`/api/imports/${body.id}`).expect(404);
  });

  it('is cut again otherwise on the same files, and given up', async () => {
    const { body } = await begin(two, 'mouths.svg').expect(201);
    await ended(body.id);
    const again = (await app.agent().post(`/api/imports/${body.id}/again`).send({ cut: 'single', clearPaper: false }).expect(201)).body;
    expect(await ended(again.id)).toMatchObject({ state: 'done' });
    expect((await app.agent().get(`/api/imports/${again.id}`)).body.mouths).toHaveLength(1);
    await app.agent().delete(`/api/imports/${again.id}`).expect(204);
    expect(leftBehind()).toEqual([]);
  });

  it('that is refused says why, and leaves nothing', async () => {
    const before = await kept();
    const { body } = await begin(svg('<script>alert(1)</script><rect width="9" height="9"/>'), 'mouths.svg').expect(201);
    expect(await ended(body.id)).toMatchObject({ state: 'failed', message: expect.stringMatching(/contains a script/) });
    expect(leftBehind()).toEqual([]);
    expect(await kept()).toBe(before);
    await app.agent().get(`/api/imports/${body.id}`).expect(404);
  });

  it('must come with files, and a grid with its size', async () => {
    const none = await app.agent().post('/api/imports').field('cut', 'whole').field('clearPaper', 'true').expect(422);
    expect(none.body.detail).toMatch(/No picture came with this/);
    const grid = await begin(two, 'a.svg', { cut: 'grid', clearPaper: 'true' }).expect(422);
    expect(grid.body.detail).toMatch(/how many columns and rows/);
    expect(leftBehind()).toEqual([]);
  });
});

describe('a reading by ear', () => {
  it('is made of the marks, words pronounced by the dictionary, keyed, and ink stays', async () => {
    const id = 'a-complaint';
    const before = await scene(id);
    const refused = await app.agent().post(`/api/scenes/${id}/marks/reading`).send({ clipId: 'clip1' }).expect(422);
    expect(refused.body.detail).toMatch(/no ear marks/);
    let { document, revision } = before;
    const marks: [number, string][] = [
      [2, 'mm'],
      [5, 'parcel'],
      [12, '–'],
      [30, '/ʃiː/'],
    ];
    for (const [frame, text] of marks) {
      const patch = putEarMark(document, { characterId: 'odette', frame, text }, randomUUID) as Patch;
      await send(id, revision, patch).expect(200);
      ({ document, revision } = await scene(id));
    }
    await app.agent().post(`/api/scenes/${id}/marks/reading`).send({ clipId: 'clip1' }).expect(201);
    const after = (await scene(id)).document;
    // As in the CMU Pronouncing Dictionary: PARCEL P AA1 R S AH0 L.
    expect(after.phonemes.map(({ symbol }) => symbol).join(' ')).toBe('M P AA R S AH L SH IY');
    expect(after.words.map(({ text }) => text)).toEqual(['parcel']);
    const inked = (exposures: SceneDocument['exposures']) =>
      exposures.filter((exposure) => exposure.inked).map(({ from, to, drawing }) => [from, to, drawing]);
    expect(inked(after.exposures)).toEqual(inked(before.document.exposures));
    await app.agent().post(`/api/scenes/${id}/marks/reading`).send({ clipId: 'gone' }).expect(422);
  });
});

describe('a new scene', () => {
  it('is read and keyed by the server, in two revisions, and told by server-sent events', async () => {
    const { body } = await create({ ...LINE, title: 'Marmalade' });
    const events = await app
      .agent()
      .get(`/api/jobs/${body.jobId}/events`)
      .expect('content-type', /text\/event-stream/);
    const states = [...events.text.matchAll(/^data: (.*)$/gm)].map((match) => JSON.parse(match[1]!) as { state: string; done: number });
    expect(states.at(-1)).toMatchObject({ state: 'done', done: 1 });
    for (const [index, { done }] of states.entries()) if (index > 0) expect(done).toBeGreaterThanOrEqual(states[index - 1]!.done);
    const { document, revision } = await scene(body.sceneId);
    expect(revision).toBe(2);
    expect(document.words.map((word) => word.text)).toEqual(['My', 'mother', 'makes', 'marmalade', 'in', 'May']);
    const lane = exposuresOfTrack(document, 'mouth1');
    expect(lane.every((exposure) => !exposure.inked)).toBe(true);
    expect(lane.filter((exposure) => exposure.drawing === 'press').length).toBeGreaterThanOrEqual(4);
    await app.agent().get(`/api/assets/${document.clips[0]!.audio}`).expect(200).expect('content-type', /audio/);
  });

  it('read again is offered when that is asked for, until it is taken or left', async () => {
    const { body } = await create(LINE);
    await ended(body.jobId);
    const before = await scene(body.sceneId);
    const again = { clipId: 'clip1', offer: true };
    const { body: job } = await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send(again).expect(201);
    expect(await ended(job.id)).toMatchObject({ state: 'done', offers: true });
    const { body: offer } = await app.agent().get(`/api/jobs/${job.id}/reading`).expect(200);
    expect(offer).toMatchObject({ clipId: 'clip1', reading: { words: [{ text: 'My' }, {}, {}, {}, {}, {}] } });
    expect(checkReading(offer.reading)).toEqual([]);
    // The scene is as it was, and its newest reading waits.
    expect(await scene(body.sceneId)).toMatchObject({ revision: before.revision, document: before.document, reading: { offers: true } });
    await app.agent().delete(`/api/jobs/${job.id}/reading`).expect(204);
    expect((await app.agent().get(`/api/jobs/${job.id}`).expect(200)).body).toMatchObject({ offers: false });
    expect((await app.agent().get(`/api/jobs/${job.id}/reading`).expect(200)).body).toEqual({});
  });

  it('has words read again in their own span: the way that was said fits best, another word does not', async () => {
    const { body } = await create(LINE);
    await ended(body.jobId);
    const { document } = await scene(body.sceneId);
    const path = `/api/scenes/${body.sceneId}/words/ways`;
    const { fromSample, toSample } = document.words.find(({ text }) => text === 'marmalade')!;
    const ways = async (text: string, said?: string): Promise<WordWay[]> =>
      (
        await app
          .agent()
          .post(path)
          .send({ clipId: 'clip1', fromSample, toSample, text, ...(said && { said }) })
          .expect(200)
      ).body;
    const [right] = await ways('marmalade');
    const [wrong] = await ways('telephone');
    expect(right!.sounds.map(({ symbol }) => symbol)).toEqual(['M', 'AA', 'R', 'M', 'AH', 'L', 'EY', 'D']);
    expect(right!.fit!).toBeGreaterThan(wrong!.fit! + 0.1);
    // Where the whole reading has them, within a frame.
    const own = document.phonemes.filter((sound) => sound.fromSample >= fromSample && sound.toSample <= toSample);
    right!.sounds.forEach((sound, index) => expect(Math.abs(sound.fromSample - own[index]!.fromSample)).toBeLessThan(2000));
    expect((await ways('zorble', 'MAR-muh-layd'))[0]).toMatchObject({ source: 'typed' });
    const refused = async (asked: object): Promise<string> =>
      (
        await app
          .agent()
          .post(path)
          .send({ clipId: 'clip1', fromSample, toSample, text: 'tide', ...asked })
          .expect(422)
      ).body.detail;
    expect(await refused({ text: '?!' })).toContain('has no word in it');
    expect(await refused({ said: '//' })).toContain('cannot be read as sounds');
    expect(await refused({ fromSample: toSample })).toContain('must begin before it ends');
    expect(await refused({ clipId: 'clip9' })).toContain('no longer in the scene');
  });

  it('read again with another script keeps the ink', async () => {
    const { body } = await create(LINE);
    await ended(body.jobId);
    const before = await scene(body.sceneId);
    await send(body.sceneId, before.revision, keycap(before.document, 12, 'pucker')).expect(200);
    const { body: job } = await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send({ clipId: 'clip1' }).expect(201);
    expect(await ended(job.id)).toMatchObject({ state: 'done' });
    const ink = (await scene(body.sceneId)).document.exposures.filter((exposure) => exposure.inked);
    expect(ink).toMatchObject([{ from: 12, drawing: 'pucker' }]);
    await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send({ clipId: 'clip9' }).expect(422);
  });

  it.each<[string, (document: SceneDocument) => Patch]>([
    ['a track', (document) => setRules(document, 'mouth1', { ...FEELS[1]!.rules, source: 'loudness' }, randomUUID) as Patch],
    [
      'a phrase',
      (document) =>
        setPhraseRules(
          document,
          { track: 'mouth1', from: 10, to: 40, rules: { ...FEELS[1]!.rules, source: 'loudness' } },
          randomUUID,
        ) as Patch,
    ],
  ])('of which %s is keyed by loudness is heard when it is read: the page has nothing left to key', async (_, ruled) => {
    const { body } = await create(LINE);
    await ended(body.jobId);
    const before = await scene(body.sceneId);
    await send(body.sceneId, before.revision, ruled(before.document)).expect(200);
    const { body: job } = await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send({ clipId: 'clip1' }).expect(201);
    expect(await ended(job.id)).toMatchObject({ state: 'done' });
    const { document } = await scene(body.sceneId);
    const { body: wave } = await app.agent().get(`/api/assets/${document.clips[0]!.audio}`).buffer(true).parse(binary).expect(200);
    const { samples } = truthOfWave(wave as Buffer) as Truth;
    const pyramid = wavePyramid(waveBlocks(floatsOf16Bit(samples), HEARD_BLOCK));
    const charts = (await app.agent().get('/api/charts')).body as ChartView[];
    const heard = maybeHeard(document, 'bramble', () => pyramid);
    const again = keyPencil(document, 'mouth1', new Map(charts.map((chart) => [chart.id, chart.document])), randomUUID, { heard });
    expect(isRefusal(again) || again.patch.ops).toEqual([]);
    expect(document.exposures).not.toEqual(before.document.exposures);
  });

  it('whose words are not in the recording fails in a sentence, and the scene stays', async () => {
    const endless = Array.from({ length: 12 }, () => 'Vivid velvet leaves fell off the fig tree.').join(' ');
    const { body } = await create({ ...LINE, script: endless });
    expect(await ended(body.jobId)).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/could not be found in this recording/),
    });
    expect((await scene(body.sceneId)).document.clips[0]!.script).toBe(endless);
  });

  it('without a script is read by its sounds alone', async () => {
    const { body } = await create({ ...LINE, script: '(a sigh)' });
    expect(await ended(body.jobId)).toMatchObject({ state: 'done', warnings: [expect.stringMatching(/without a script/)] });
    const { document } = await scene(body.sceneId);
    expect(document.words).toEqual([]);
    expect(document.phonemes.length).toBeGreaterThan(8);
  });

  it('reads only what a trim leaves of a clip', async () => {
    const { body } = await create(LINE);
    await ended(body.jobId);
    const { revision, document } = await scene(body.sceneId);
    const marmalade = document.words.find((word) => word.text === 'marmalade')!;
    const frame = Math.floor(marmalade.fromSample / 2000) - 1;
    const trim = trimClip(document, 'clip1', 'from', frame, randomUUID) as Patch;
    const script = { ...(trim.ops.at(-1) as unknown as { after: Clip }).after, script: 'marmalade in May' };
    const patch = { ...trim, ops: trim.ops.map((op) => (op.op === 'put' && op.table === 'clips' ? { ...op, after: script } : op)) };
    await send(body.sceneId, revision, patch as Patch).expect(200);
    const { body: job } = await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send({ clipId: 'clip1' }).expect(201);
    expect(await ended(job.id)).toMatchObject({ state: 'done' });
    const read = (await scene(body.sceneId)).document.words;
    expect(read.map((word) => word.text)).toEqual(['marmalade', 'in', 'May']);
    // Counted from the start of the whole recording, as before: within two frames of where it was found in the whole.
    expect(Math.abs(read[0]!.fromSample - marmalade.fromSample)).toBeLessThan(4000);
  });

  it.each<[string, Record<string, string>, number, RegExp]>([
    ['a frame rate of 0', { ...LINE, frameRate: '0' }, 422, /frame rate is “0”/],
    ['nobody who speaks', { ...LINE, characterId: 'nobody' }, 404, /character/],
    ['a hold of 99', { ...LINE, holdFrames: '99' }, 400, /holdFrames/],
    ['a recording that never came', { ...LINE, recordingId: 'never' }, 404, /recording/],
  ])('refuses %s', async (_, fields, status, message) => {
    const before = (await app.agent().get('/api/scenes')).body.length;
    const { id } = await recorded();
    const { body } = await app
      .agent()
      .post('/api/scenes')
      .send({ recordingId: id, ...fields })
      .expect(status);
    expect(body.detail).toMatch(message);
    expect((await app.agent().get('/api/scenes')).body.length).toBe(before);
  });
});

describe('recordings', () => {
  it.each<[string, Buffer, RegExp]>([
    ['a file that is not audio', Buffer.from('#!/bin/sh\necho herring'), /not a recording that can be read/],
    ['a recording of 0 seconds', RECORDING.subarray(0, 44), /no sound/],
  ])('say why %s cannot be used, and leave nothing behind', async (_, recording, message) => {
    const job = await recorded(recording);
    expect(job).toMatchObject({ state: 'failed', message: expect.stringMatching(message) });
    const { body } = await app.agent().get(`/api/recordings/${job.id}`).expect(422);
    expect(body.detail).toMatch(/not ready/);
    expect(readdirSync(join(app.folder, 'recordings'))).toEqual([]);
  });

  it('that are empty are refused at once', async () => {
    const { body } = await app.agent().post('/api/recordings').attach('recording', Buffer.alloc(0), 'nothing.wav').expect(422);
    expect(body.detail).toMatch(/No recording/);
  });

  it('tell how far their decoding is, and are kept by the name they came with', async () => {
    const { body } = await app.agent().post('/api/recordings').attach('recording', RECORDING, 'größer.wav').expect(201);
    const events = await app.agent().get(`/api/jobs/${body.id}/events`);
    const told = [...events.text.matchAll(/^data: (.*)$/gm)].map((match) => JSON.parse(match[1]!) as { state: string; done: number });
    expect(told.at(-1)).toMatchObject({ state: 'done', done: 1 });
    for (const [index, { done }] of told.entries()) if (index > 0) expect(done).toBeGreaterThanOrEqual(told[index - 1]!.done);
    const { body: view } = await app.agent().get(`/api/recordings/${body.id}`).expect(200);
    expect(view).toMatchObject({ fileName: 'größer.wav', audio: expect.stringMatching(/^[0-9a-f]{64}$/) });
    await app.agent().get(`/api/assets/${view.audio}`).expect(200).expect('content-type', /audio/);
  });

  it('can be given up while they are decoded, and the next one works', async () => {
    // A minute of sound: long enough to be caught at it.
    const long = Buffer.concat([RECORDING, ...Array.from({ length: 30 }, () => RECORDING.subarray(44))]);
    long.writeUInt32LE(long.length - 8, 4);
    long.writeUInt32LE(long.length - 44, 40);
    const { body } = await app.agent().post('/api/recordings').attach('recording', long, 'long.wav').expect(201);
    expect((await app.agent().delete(`/api/jobs/${body.id}`).expect(200)).body.state).toBe('cancelled');
    expect(await recorded()).toMatchObject({ state: 'done' });
    expect(readdirSync(join(app.folder, 'recordings'))).toEqual([]);
  });
});

describe('feels of a production', () => {
  const rules = { leadFrames: 2, holdFrames: 3, strict: false, calm: 0.4 };

  it('are kept whole, and refused in a sentence where they cannot be', async () => {
    const [production] = (await app.agent().get('/api/productions').expect(200)).body;
    const feels = `/api/productions/${production.id}/feels`;
    await app.agent().get(feels).expect(200, []);
    const { body } = await app
      .agent()
      .put(feels)
      .send({ feels: [{ name: ' Night shift ', look: 'Slow.', rules }] })
      .expect(200);
    expect(body).toEqual([{ name: 'Night shift', look: 'Slow.', rules: fullRules(rules) }]);
    const refused = async (name: string, other: object): Promise<string> =>
      (
        await app
          .agent()
          .put(feels)
          .send({ feels: [{ name, look: '', rules: { ...rules, ...other } }] })
          .expect(422)
      ).body.detail;
    expect(await refused('natural', {})).toMatch(/“natural” already/);
    expect(await refused('Odd', { wobble: 3 })).toMatch(/no rule “wobble”/);
    expect(await refused('Odd', { calm: 7 })).toMatch(/calm is 7\. It may be 0 to 1/);
    expect((await app.agent().get(feels).expect(200)).body).toHaveLength(1);
    await app.agent().put(feels).send({ feels: [] }).expect(200, []);
    await app.agent().get('/api/productions/nobody/feels').expect(404);
  });
});

describe('how words are said', () => {
  const path = '/api/productions/night-post/pronunciations';

  it('is kept by the production, in the order of the words, and used at the next reading', async () => {
    const [production] = (await app.agent().get('/api/productions').expect(200)).body;
    const list = `/api/productions/${production.id}/pronunciations`;
    await app.agent().get(list).expect(200, []);
    const entries = [
      { word: 'Zorble', said: 'MAR-muh-layd' },
      { word: 'bramble', said: '/ˈbræmbəl/' },
    ];
    const { body } = await app.agent().put(list).send({ entries }).expect(200);
    expect(body.map((entry: { word: string }) => entry.word)).toEqual(['bramble', 'zorble']);
    // A made-up name that is said like a word of the recording is found where that word is.
    const { body: made } = await create({ ...LINE, script: 'My mother makes zorble in May.' });
    expect(await ended(made.jobId)).toMatchObject({ state: 'done', warnings: [] });
    const { document } = await scene(made.sceneId);
    expect(document.words.map((word) => word.text)).toEqual(['My', 'mother', 'makes', 'zorble', 'in', 'May']);
    const sounds = document.phonemes.filter((phoneme) => phoneme.word === document.words[3]!.id).map((phoneme) => phoneme.symbol);
    expect(sounds).toEqual(['M', 'AA', 'R', 'M', 'AH', 'L', 'EY', 'D']);
    await app.agent().put(list).send({ entries: [] }).expect(200, []);
  });

  it('is refused in a sentence where it cannot be read', async () => {
    const [production] = (await app.agent().get('/api/productions').expect(200)).body;
    const { body } = await app
      .agent()
      .put(`/api/productions/${production.id}/pronunciations`)
      .send({ entries: [{ word: 'bramble', said: '???' }] })
      .expect(422);
    expect(body.detail).toMatch(/cannot be read as sounds/);
    await app.agent().get(path.replace('night-post', 'nobody')).expect(404);
  });

  it('depends on the accent of who speaks', async () => {
    const accent = { base: 'gb', nonRhotic: true, droppedH: true, flappedT: false, thFronting: true };
    const { body } = await app.agent().put('/api/characters/bramble/accent').send(accent).expect(200);
    expect(body.accent).toEqual(accent);
    const { body: made } = await create(LINE);
    expect(await ended(made.jobId)).toMatchObject({ state: 'done' });
    expect((await scene(made.sceneId)).document.words).toHaveLength(6);
    await app
      .agent()
      .put('/api/characters/bramble/accent')
      .send({ ...accent, base: 'martian' })
      .expect(400);
    await app.agent().put('/api/characters/nobody/accent').send(accent).expect(404);
    await app
      .agent()
      .put('/api/characters/bramble/accent')
      .send({ base: 'us', nonRhotic: false, droppedH: false, flappedT: false, thFronting: false })
      .expect(200);
  });

  it('may be spelled in IPA, for a language without a dictionary', async () => {
    const { body } = await create({ ...LINE, script: 'maɪ ˈmʌðɚ meɪks ˈmɑɹməleɪd ɪn meɪ', language: 'ipa' });
    expect(await ended(body.jobId)).toMatchObject({ state: 'done' });
    const { document } = await scene(body.sceneId);
    expect(document.words.map((word) => word.text)).toEqual(['maɪ', 'ˈmʌðɚ', 'meɪks', 'ˈmɑɹməleɪd', 'ɪn', 'meɪ']);
  });
});

describe('jobs', () => {
  it('under way when the server stops start again with it', async () => {
    const { body } = await create(LINE);
    await app.reopen();
    expect(await ended(body.jobId)).toMatchObject({ state: 'done' });
    expect((await scene(body.sceneId)).document.words).toHaveLength(6);
  });

  it('can be cancelled, and the next one works', async () => {
    const { body } = await create(LINE);
    const cancelled = await app.agent().delete(`/api/jobs/${body.jobId}`).expect(200);
    expect(cancelled.body.state).toBe('cancelled');
    const { body: next } = await app.agent().post(`/api/scenes/${body.sceneId}/readings`).send({ clipId: 'clip1' }).expect(201);
    expect(await ended(next.id)).toMatchObject({ state: 'done' });
  });

  it('render pictures into a zip, or say what is wrong with their name', async () => {
    const pictures = { trackId: 'mouth1', baseName: 'odette', firstNumber: 1, width: 64, height: 64, withHead: false };
    const { body } = await app.agent().post('/api/scenes/a-complaint/pictures').send(pictures).expect(201);
    await app.agent().get(`/api/jobs/${body.id}/result`);
    expect(await ended(body.id)).toMatchObject({ state: 'done' });
    const zip = await app
      .agent()
      .get(`/api/jobs/${body.id}/result`)
      .expect(200)
      .expect('content-disposition', /odette\.zip/)
      .buffer(true)
      .parse(binary);
    expect((zip.body as Buffer).subarray(0, 2).toString()).toBe('PK');
    for (const [changes, message] of [
      [{ baseName: 'odette2' }, /no digits/],
      [{ firstNumber: 9990 }, /9999/],
      [{ width: 99_999 }, /width/],
    ] as const) {
      const refused = await app
        .agent()
        .post('/api/scenes/a-complaint/pictures')
        .send({ ...pictures, ...changes })
        .expect(422);
      expect(refused.body.detail).toMatch(message);
    }
    await app
      .agent()
      .post('/api/scenes/a-complaint/pictures')
      .send({ ...pictures, trackId: 'eyes' })
      .expect(404);
  });
});

describe('the guard', () => {
  it('answers this computer only', async () => {
    const { body } = await app.agent().get('/api/scenes').set('Host', 'zest.example').expect(403);
    expect(body.detail).toMatch(/only on this computer/);
    await app.agent().get('/api/scenes').set('Origin', 'https://elsewhere.example').expect(403);
    await app.agent().get('/api/scenes').set('Host', '127.0.0.1:4178').set('Origin', 'http://127.0.0.1:4178').expect(200);
    // Another port of this computer is another site.
    await app.agent().get('/api/scenes').set('Host', '127.0.0.1:4178').set('Origin', 'http://127.0.0.1:4179').expect(403);
  });

  it('sends a strict content policy, and problems without a stack', async () => {
    const answer = await app.agent().get('/api/scenes/none').expect(404);
    expect(answer.headers['content-security-policy']).toContain("default-src 'self'");
    expect(answer.headers['content-security-policy']).not.toContain('upgrade-insecure-requests');
    expect(answer.headers['content-type']).toMatch(/problem\+json/);
    expect(Object.keys(answer.body)).toEqual(['type', 'title', 'status', 'detail']);
    await app.agent().get('/api/nothing').expect(404);
    await app.agent().get('/api/assets/0000').expect(404);
    await app.agent().get('/api/jobs/0000/events').expect(404);
  });

  it('describes itself', async () => {
    const { body } = await app.agent().get('/api/docs').expect(200).expect('content-type', /json/);
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining([
        '/api/scenes',
        '/api/scenes/{id}',
        '/api/charts',
        '/api/productions',
        '/api/jobs/{id}/events',
        '/api/assets/{hash}',
      ]),
    );
    expect(body.components.schemas.PatchDocumentDto.properties).toHaveProperty('patchId');
  });
});
