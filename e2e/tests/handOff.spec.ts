/** Handing on: the files are opened and looked into. */
import { AxeBuilder } from '@axe-core/playwright';
import { readFileSync } from 'node:fs';
import { type SceneDocument } from '@zest-jaw/core';
import { strFromU8, unzipSync } from 'fflate';
import { expect, openDemo, saved, sceneDocument, test } from '../app.js';
import { header, kind, rowsOf, savedBy, type SceneAnswer } from '../handedOff.js';

/** What the mouth of a scene with one speaker shows: without the other lanes of the face. */
const mouthsOf = ({ exposures, tracks }: SceneDocument): SceneDocument['exposures'] =>
  exposures.filter(({ track }) => track === tracks[0]!.id);

test('the exposure sheet as CSV, with a row a frame', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'hand-off');
  await kind(page, 'Exposure sheet');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save sheet as CSV' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('The last ferry.csv');
  const rows = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-last-ferry');
  const lanes = ['Bramble', 'Bramble lids'].map((name) => `${name} mouth,${name} drawing,${name} keyed`);
  expect(rows[0]).toBe(`frame,timecode,words,sounds,${lanes.join(',')}`);
  expect(rows).toHaveLength(document.settings[0]!.lengthFrames + 1);
  expect(rows[1]).toMatch(/^1001,00:00:00:00,,,1,Rest,/);
  expect(rows.join('\n')).toContain('pelicans');
  const served = await (await fetch(app.url('/api/scenes/the-last-ferry/sheet.csv'))).text();
  expect(served.trim().split('\r\n')).toEqual(rows);
});

test('a key list, weights and curves say what the scene shows, counted as asked, and what was chosen is kept', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'hand-off');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-last-ferry');
  const { lengthFrames, firstFrame } = document.settings[0]!;
  await kind(page, 'Key list');
  await expect(page.getByTestId('counts')).toHaveText(`Frames ${firstFrame} to ${firstFrame + lengthFrames - 1} at 25 fps.`);
  await page.getByLabel('a guard key at the end of each hold').check();
  await page.getByLabel('The first frame is').selectOption('0');
  await expect(page.getByRole('region', { name: 'As it will be written' })).toContainText('guard');
  const keys = await savedBy(page, 'Save as CSV');
  expect(keys.name).toBe('The last ferry, Bramble keys.csv');
  const [head, ...rows] = rowsOf(keys.text);
  expect(head).toEqual(['frame', 'number', 'drawing', 'kind']);
  expect(rows.filter(([, , , what]) => what === 'key').map(([frame]) => Number(frame))).toEqual(
    mouthsOf(document)
      .filter((one, index, all) => index === 0 || all[index - 1]!.drawing !== one.drawing)
      .map(({ from }) => from),
  );
  expect(rows.at(-1)![0]).toBe(String(lengthFrames - 1));
  const asJson = JSON.parse((await savedBy(page, 'Save as JSON')).text) as { counting: string; keys: unknown[] };
  expect(asJson.keys).toHaveLength(rows.length);
  // Chosen once, it is so the next time.
  await page.reload();
  await expect(page.getByLabel('a guard key at the end of each hold')).toBeChecked();
  await kind(page, 'Weights');
  await page.getByLabel('Comes in at once').fill('3');
  const weights = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(weights).toHaveLength(lengthFrames + 1);
  for (const row of weights.slice(1)) expect(Math.abs(row.slice(1).reduce((sum, cell) => sum + Number(cell), 0) - 1)).toBeLessThan(1e-3);
  await kind(page, 'Curves');
  // Loud where it is said, silent before.
  await expect(page.getByRole('region', { name: 'As it will be written' })).toContainText(/-\d+\.\d+/);
  const curves = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(curves[0]).toEqual(['frame', 'opening', 'width', 'rounding', 'loudness', 'jaw']);
  expect(Math.max(...curves.slice(1).map((row) => Number(row[4])))).toBeGreaterThan(-30);
});

test('a timeline, captions and a shooting list', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-wet-stamp');
  await kind(page, 'Timeline');
  const timeline = await savedBy(page, 'Save as OTIO');
  expect(timeline.name).toBe('The wet stamp.otio');
  const { tracks } = JSON.parse(timeline.text) as { tracks: { children: { kind: string; children: { OTIO_SCHEMA: string }[] }[] } };
  expect(tracks.children.map((track) => track.kind)).toEqual(['Video', 'Audio']);
  await kind(page, 'Captions and labels');
  await page.getByLabel('Format').selectOption('srt');
  const captions = await savedBy(page, 'Save as SRT');
  expect(captions.text.replace(/\s+/g, ' ')).toContain('Please put the wet stamp');
  await kind(page, 'Pull list and shots');
  await expect(page.getByText(/\d+ mouths to pull from the tray, \d+ swaps/)).toBeVisible();
  await page.getByLabel('The camera is').selectOption('twos');
  const printed = await savedBy(page, 'Save as PDF');
  expect(printed.name).toBe('The wet stamp shooting list.pdf');
  expect(strFromU8(printed.bytes.subarray(0, 5))).toBe('%PDF-');
  const shots = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(shots.slice(1).reduce((sum, row) => sum + Number(row[5]), 0)).toBe(Math.ceil(document.settings[0]!.lengthFrames / 2));
});

test('a sheet to be printed, sprites, and a bundle that opens beside the scene', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  await kind(page, 'Exposure sheet');
  await page.getByLabel('Paper').selectOption('Letter');
  const sheet = await savedBy(page, 'Save sheet as PDF');
  expect(sheet.name).toBe('The wet stamp exposure sheet.pdf');
  expect(strFromU8(sheet.bytes.subarray(0, 5))).toBe('%PDF-');
  await kind(page, 'Sprite sheet');
  await page.getByLabel('Width of a mouth’s square').selectOption('128');
  const sprites = unzipSync((await savedBy(page, 'Save sprites')).bytes);
  const { width, height } = JSON.parse(strFromU8(sprites['sprites.json']!)) as { width: number; height: number };
  expect(header(sprites['sprites.png']!)).toEqual({ width, height, colourType: 6 });
  await kind(page, 'Scene bundle');
  const bundle = await savedBy(page, 'Save bundle');
  await page.goto(app.url('/'));
  await page
    .getByLabel('Bundle to open')
    .setInputFiles({ name: bundle.name, mimeType: 'application/zip', buffer: Buffer.from(bundle.bytes) });
  await expect(page).toHaveURL(/\/scenes\/[0-9a-f-]{36}\/key/);
  await expect(page.getByText('The wet stamp 2')).toBeVisible();
  const cards = await app.json<{ id: string; title: string }[]>('/api/scenes');
  const [opened, before] = await Promise.all(
    [cards.find(({ title }) => title === 'The wet stamp 2')!.id, 'the-wet-stamp'].map((id) => app.json<SceneAnswer>(`/api/scenes/${id}`)),
  );
  expect(opened!.document.exposures).toEqual(before!.document.exposures);
  // What is none is told, and home stays.
  await page.goto(app.url('/'));
  await page.getByLabel('Bundle to open').setInputFiles({ name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText(/notes\.zip: This is not a bundle/)).toBeVisible();
});

test('a column of numbers is pasted into the lane, told what it is, and taken back in one step; our own sheet comes in again', async ({
  page,
  app,
}) => {
  const documentNow = async (): Promise<SceneDocument> => (await app.json<SceneAnswer>('/api/scenes/the-last-ferry')).document;
  await openDemo(page, app, 'the-last-ferry', 'hand-off?as=sheet');
  const before = await documentNow();
  const sheet = await savedBy(page, 'Save sheet as CSV');
  await kind(page, 'Numbers brought in');
  const pasted = page.getByLabel('Numbers, pasted');
  await pasted.fill('hello\nthere');
  await expect(page.getByText(/No cell of that column names a drawing/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lay them into the lane' })).toBeDisabled();
  await pasted.fill('2\n2\n11\n\n\n99\n12');
  await expect(page.getByTestId('counts')).toHaveText('3 mouths over frames 1001 to 1007.');
  await expect(page.getByText('No drawing of this chart: 99')).toBeVisible();
  await page.getByRole('button', { name: 'Lay them into the lane' }).click();
  await saved(page);
  const laid = mouthsOf(await documentNow()).filter(({ from }) => from < 7);
  expect(laid.slice(0, 2).map(({ from, to, drawing, inked }) => [from, to, drawing, inked])).toEqual([
    [0, 2, 'press', true],
    [2, 5, 'drop', true],
  ]);
  expect(laid.at(-1)).toMatchObject({ from: 6, to: 7, drawing: 'ring', inked: true });
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await documentNow()).exposures).toEqual(before.exposures);
  // Our own sheet is read as what it is: nothing changes but that it is ink.
  await page
    .getByLabel('Sheet or key list to bring in')
    .setInputFiles({ name: 'sheet.csv', mimeType: 'text/csv', buffer: Buffer.from(sheet.bytes) });
  await expect(page.getByLabel('Column 5 is')).toHaveValue('drawing');
  await page.getByRole('button', { name: 'Lay them into the lane' }).click();
  await expect(page.getByText(/laid into the lane in ink|same mouths are here already/)).toBeVisible();
  await saved(page);
  const after = await documentNow();
  const shown = (document: SceneDocument): string[] => {
    const frames = new Array<string>(document.settings[0]!.lengthFrames).fill('');
    for (const { from, to, drawing } of mouthsOf(document)) frames.fill(drawing, from, to);
    return frames;
  };
  expect(shown(after)).toEqual(shown(before));
});

test('swaps are left out by a slider, lips that meet stay, and it is one step of undo', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'hand-off?as=swaps');
  const slider = page.getByLabel('Swaps left out');
  await expect(page.getByTestId('counts')).toHaveText(/^41 swaps, 0 fewer than keyed; another mouth in 0 of 90 frames\.$/);
  await slider.fill((await slider.getAttribute('max'))!);
  const counts = await page.getByTestId('counts').innerText();
  const [, swaps, spared] = /^(\d+) swaps, (\d+) fewer/.exec(counts)!;
  expect(Number(swaps) + Number(spared)).toBe(41);
  expect(Number(spared)).toBeGreaterThan(9);
  const before = (await sceneDocument(app, 'a-complaint')).exposures;
  await page.getByRole('button', { name: 'Take it into the lane' }).click();
  await expect(page.getByText(`${spared} swaps are left out, in one step of undo.`)).toBeVisible();
  await saved(page);
  const after = (await sceneDocument(app, 'a-complaint')).exposures;
  expect(after.length - 1).toBe(Number(swaps));
  const closed = before.filter(({ drawing }) => drawing === 'press');
  expect(closed.length).toBeGreaterThan(2);
  for (const { from, to } of closed) expect(after.some((one) => one.drawing === 'press' && one.from <= from && one.to >= to)).toBe(true);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(async () => (await sceneDocument(app, 'a-complaint')).exposures.length).toBe(before.length);
});

test('several scenes go out at once: found, sorted and chosen, named by a pattern, in one zip', async ({ page, app }) => {
  await page.goto(app.url('/'));
  await page.getByRole('link', { name: 'Hand off several at once' }).click();
  const rows = page.getByRole('table').locator('tbody tr');
  await expect(rows).toHaveCount(4);
  await page.getByRole('button', { name: 'Frames' }).click();
  await expect(rows.first()).toContainText('A complaint at low tide');
  await page.getByRole('button', { name: 'Frames' }).click();
  await expect(rows.first()).toContainText('A light out there');
  await page.getByLabel('Find scenes').fill('bramble');
  await expect(rows).toHaveCount(2);
  await page.getByRole('checkbox', { name: 'The wet stamp' }).uncheck();
  await expect(page.getByRole('button', { name: 'Hand off 1 scene' })).toBeVisible();
  await page.getByLabel('Find scenes').fill('');
  await page.getByRole('checkbox', { name: 'A light out there' }).uncheck();
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  const pattern = page.getByLabel('Files are called');
  await pattern.fill('{take}');
  await expect(page.getByTestId('example')).toContainText('“{take}” stands for nothing.');
  await expect(page.getByRole('button', { name: 'Hand off 2 scenes' })).toBeDisabled();
  await pattern.fill('{number} {scene} {what}');
  await page.getByRole('checkbox', { name: 'Exposure sheet, PDF' }).uncheck();
  await page.getByRole('checkbox', { name: 'Exposure sheet, CSV' }).check();
  await expect(page.getByTestId('example')).toHaveText('For example 001 The last ferry keys.csv');
  const { name, bytes } = await savedBy(page, 'Hand off 2 scenes');
  expect(name).toBe('Night Post 2 scenes.zip');
  expect(Object.keys(unzipSync(bytes)).sort()).toEqual([
    '001 The last ferry exposure sheet.csv',
    // Its mouths and its lids.
    '001 The last ferry keys 2.csv',
    '001 The last ferry keys.csv',
    '002 A complaint at low tide exposure sheet.csv',
    '002 A complaint at low tide keys.csv',
  ]);
  await expect(page.getByText('Saved, all of it.')).toBeVisible();
  // What was chosen is kept for this production.
  await page.reload();
  await expect(page.getByLabel('Files are called')).toHaveValue('{number} {scene} {what}');
});
