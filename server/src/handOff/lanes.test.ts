/** Pictures of a scene in which two speak: one lane, each in a folder, all on one picture. */
import type { Patch } from '@zest-jaw/core';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(120_000);

const SCENE = 'the-wet-stamp';
let app: TestApp;
let own: string;
beforeAll(async () => {
  app = await openTestApp();
  const { document, revision } = await app.scene(SCENE);
  const [track] = document.tracks;
  own = track!.id;
  // Odette listens, and says something at the end.
  const { lengthFrames } = document.settings[0]!;
  const chart = (await app.scene('a-complaint')).document.tracks[0]!;
  const second = { ...chart, id: 'mouth2', order: 1 };
  const mouth = (id: string, from: number, to: number, drawing: string) => ({
    id,
    track: 'mouth2',
    from,
    to,
    drawing,
    inked: false,
    plays: [],
  });
  const exposures = [mouth('o1', 0, 160, 'rest'), mouth('o2', 160, lengthFrames, 'drop')];
  const put = (table: string, after: { id: string }) => ({ op: 'put', table, id: after.id, before: null, after });
  const ops = [put('tracks', second), ...exposures.map((one) => put('exposures', one))];
  await app.send(SCENE, revision, { id: 'two', reason: 'clip.characterId', ops } as Patch).expect(200);
});
afterAll(() => app.close());

async function made(request: object): Promise<Record<string, Uint8Array>> {
  const body = { trackId: own, baseName: 'mouth', firstNumber: 1, width: 96, height: 48, withHead: true, which: 'changes', ...request };
  const { body: job } = await app.agent().post(`/api/scenes/${SCENE}/pictures`).send(body).expect(201);
  expect((await app.ended(job.id)).state).toBe('done');
  return unzipSync((await app.resultOf(String(job.id))).bytes);
}
const holds = (files: Record<string, Uint8Array>, name: string): string[] =>
  Buffer.from(files[name]!).toString().trim().split('\r\n').slice(1);

it('has a folder for each lane, or all lanes side by side', async () => {
  const alone = await made({});
  const each = await made({ lanes: 'each' });
  const together = await made({ lanes: 'together' });
  const folders = new Set(Object.keys(each).map((name) => name.split('/')[0]));
  expect(folders).toEqual(new Set(['Bramble', 'Odette']));
  expect(holds(each, 'Odette/holds.csv')).toEqual(['mouth0001.png,1,160', expect.stringMatching(/^mouth0161\.png,161,\d+$/)]);
  // It changes where either lane does: once more than Bramble's, unless he changes there as well.
  const starts = (rows: string[]): Set<string> => new Set(rows.map((row) => row.split(',')[1]!));
  expect(starts(holds(together, 'holds.csv'))).toEqual(new Set([...starts(holds(alone, 'holds.csv')), '161']));
  const first = await sharp(together['mouth0001.png']!).metadata();
  expect([first.width, first.height]).toEqual([96, 48]);
  // In the right column is Odette as she is by herself at half the width.
  const [narrow] = [await made({ lanes: 'each', width: 48 })];
  const right = await sharp(together['mouth0161.png']!).extract({ left: 48, top: 0, width: 48, height: 48 }).raw().toBuffer();
  const herself = await sharp(narrow['Odette/mouth0161.png']!).raw().toBuffer();
  expect(right.equals(herself)).toBe(true);
});

it('refuses what all lanes cannot be', async () => {
  const body = {
    trackId: own,
    baseName: 'mouth',
    firstNumber: 1,
    width: 96,
    height: 48,
    withHead: false,
    which: 'chart',
    lanes: 'together',
  };
  const { body: said } = await app.agent().post(`/api/scenes/${SCENE}/pictures`).send(body).expect(422);
  expect(said.detail).toMatch(/All lanes on one picture are of frames/);
});
