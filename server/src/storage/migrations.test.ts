/** A database from before mouths could be drawn or placed, opened by the application of today. */
import { MikroORM } from '@mikro-orm/libsql';
import { CHART_KIND, applyPatch, checkChart, starterChart, type BuiltArt, type ChartDocument, type Patch } from '@zest-jaw/core';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileOptions, prepareDatabase } from './database.js';
import { Character, Chart, ChartRevision, Job, Scene, Revision } from './entities.js';

const folder = mkdtempSync(join(tmpdir(), 'zest-migrate-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A drawing as it was kept then: its shape beside its name, one number for both lips. */
function oldDrawing(drawing: ChartDocument['drawings'][number]): Record<string, unknown> {
  const { id, number, label, keycap, groups, art } = drawing;
  const { upperLip, lowerLip, ...shape } = (art as BuiltArt).shape;
  expect(upperLip).toBe(lowerLip);
  return { id, number, label, keycap, groups, shape: { ...shape, lips: upperLip } };
}

it('keeps every chart, its head, its history and its jobs', async () => {
  const now = starterChart('Old, front', 'brush');
  const drawings = now.drawings.map(oldDrawing);
  const changed = { ...drawings[0]!, label: 'Quiet' };
  const patch = {
    id: 'p',
    reason: 'drawing.label',
    ops: [{ op: 'put', table: 'drawings', id: 'rest', before: drawings[0], after: changed }],
  };
  const before = { settings: now.settings, groups: now.groups, drawings };
  const orm = await MikroORM.init(fileOptions(join(folder, 'old.db')));
  try {
    await orm.getMigrator().up({ to: '20261125-chart-revisions' });
    const run = (sql: string, params: unknown[]): Promise<unknown> => orm.em.getConnection().execute(sql, params);
    await run("insert into `production` values ('p', 'Old')", []);
    await run("insert into `asset` values ('h', 'image/svg+xml', 'head.svg', ?)", [Buffer.from('<svg/>')]);
    await run("insert into `chart` values ('c', 'Old, front', ?, 1)", [JSON.stringify(before)]);
    await run('insert into `character` values (?, ?, ?, ?, ?, ?, ?, ?, ?)', [
      'who',
      'p',
      'c',
      'Who',
      'h',
      400,
      300,
      JSON.stringify({ x: 1, y: 2, scale: 3, angle: 4 }),
      JSON.stringify(['#ffffff', '#eeeeee', '#dddddd']),
    ]);
    await run("insert into `chart_revision` values (1, 'c', 1, 'p', ?, '2026-11-25')", [JSON.stringify(patch)]);
    const clip = {
      id: 'clip1',
      characterId: 'who',
      audio: 'h',
      fileName: 'line.wav',
      atFrame: 3,
      lengthSamples: 4800,
      script: '',
      language: 'en',
    };
    const script = { op: 'put', table: 'clips', id: 'clip1', before: clip, after: { ...clip, script: 'hello' } };
    await run("insert into `scene` values ('s', 'p', 'Scene', ?, 1, '2026-11-25', '2026-11-25')", [JSON.stringify({ clips: [clip] })]);
    await run("insert into `revision` values (1, 's', 1, 'q', ?, '2026-11-25')", [
      JSON.stringify({ id: 'q', reason: 'clip.script', ops: [script] }),
    ]);
    await run("insert into `job` values ('j', 'read', 's', '{}', 'done', 1, 'Done', '[]', '2026-11-25')", []);
    await prepareDatabase(orm);
    const em = orm.em.fork();
    const chart = await em.findOneOrFail(Chart, { id: 'c' });
    expect(chart.characterId).toBe('who');
    expect(chart.document.drawings).toEqual(now.drawings);
    expect(chart.document.head).toMatchObject([
      { art: { kind: 'picture', picture: 'h' }, width: 400, height: 300, mouth: { x: 1, y: 2, scale: 3, angle: 4 } },
    ]);
    // The head's hash is made up here; everything else of the chart is as it must be.
    expect(checkChart({ ...chart.document, head: [] })).toEqual([]);
    const revision = await em.findOneOrFail(ChartRevision, { id: 1 });
    const redone = applyPatch(CHART_KIND, chart.document, revision.patch as Patch);
    expect(redone.drawings[0]!.label).toBe('Quiet');
    expect(await em.findOneOrFail(Character, { id: 'who' })).toMatchObject({ name: 'Who' });
    const { document } = await em.findOneOrFail(Scene, { id: 's' }, { populate: ['document'] });
    expect(document).toMatchObject({ views: [], oneOffs: [], asides: [], remarks: [] });
    const whole = { ...clip, fromSample: 0, toSample: 4800, gainDb: 0, muted: false, soloed: false, readOf: 'h' };
    expect(document.clips).toEqual([whole]);
    const { patch: spoken } = await em.findOneOrFail(Revision, { id: 1 });
    expect(spoken.ops).toEqual([{ ...script, before: whole, after: { ...whole, script: 'hello' } }]);
    expect(await em.findOneOrFail(Job, { id: 'j' })).toMatchObject({ kind: 'read', state: 'done' });
  } finally {
    await orm.close();
  }
});
