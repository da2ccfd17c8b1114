/** Mouths of one scene alone: made over their neighbours on the desk, put, handed off, moved into the chart. */
import type { ChartView, SceneDocument } from '@zest-jaw/core';
import { readFileSync } from 'node:fs';
import { type App, drag, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';
const documentOf = (app: App): Promise<SceneDocument> => sceneDocument(app, SCENE);

test('a one-off is drawn for some frames, put again, handed off like any other, and moved into the chart', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await documentOf(app);
  const { chartId } = before.tracks[0]!;
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  for (let frame = 0; frame < 3; frame++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Alt+o');
  const dialog = page.getByRole('dialog', { name: 'Mouths of this scene alone' });
  await expect(dialog.getByTestId('desk')).toBeVisible();
  // Over its neighbour, with the pen of the desk.
  await expect(dialog.locator('[data-part=onion]')).toHaveCount(1);
  await dialog.getByRole('button', { name: 'Draw it' }).click();
  const desk = (await dialog.getByTestId('desk').boundingBox())!;
  await drag(
    page,
    { x: desk.x + desk.width * 0.4, y: desk.y + desk.height * 0.55 },
    { x: desk.x + desk.width * 0.6, y: desk.y + desk.height * 0.6 },
  );
  await dialog.getByLabel('Label').fill('Whistle');
  await page.keyboard.press('Enter');
  await saved(page);
  const drawn = await documentOf(app);
  expect(drawn.oneOffs).toHaveLength(1);
  expect(drawn.oneOffs[0]!.drawing).toMatchObject({ label: 'Whistle', number: 14, groups: [] });
  expect(drawn.oneOffs[0]!.drawing.art).toMatchObject({ kind: 'drawn', marks: [{ kind: 'line' }] });
  const shown = drawn.exposures.find(({ drawing }) => drawing === drawn.oneOffs[0]!.id);
  expect(shown).toMatchObject({ from: 9, to: 13, inked: true });
  // It is not in the chart, and cannot go while it is shown.
  const chartNow = async () => (await app.json<ChartView[]>('/api/charts')).find(({ id }) => id === chartId)!.document;
  expect((await chartNow()).drawings).toHaveLength(13);
  await dialog.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText(/“Whistle” is shown at frame 10/)).toBeVisible();
  await page.keyboard.press('Escape');
  // A mouth that no sound plays changes no plan: nothing is proposed.
  await expect(page.getByText(/mouths? would change/)).toHaveCount(0);
  await expect(page.locator('[role=gridcell][data-drawing]').filter({ hasText: /^Whistle, frames 10 to 13/ })).toBeAttached();
  // It is put again from the tray, and stands on the exposure sheet with its number.
  await page.keyboard.press('Escape');
  for (let frame = 0; frame < 20; frame++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Put Whistle at the playhead' }).click();
  await saved(page);
  await page.getByRole('link', { name: 'Hand off' }).click();
  await page.getByRole('button', { name: /^Exposure sheet/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save sheet as CSV' }).click();
  const csv = readFileSync(await (await download).path(), 'utf8');
  expect(csv.split('\n').filter((line) => line.includes('Whistle')).length).toBe(2);
  expect(csv).toMatch(/,14,Whistle,/);
  // Into the chart: what shows it goes on showing it.
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', shown!.drawing);
  await page.keyboard.press('Alt+o');
  await dialog.getByRole('button', { name: 'Move it into the chart' }).click();
  await expect(page.getByText(/“Whistle” is in the chart now/)).toBeVisible();
  await saved(page);
  const moved = await documentOf(app);
  expect(moved.oneOffs).toEqual([]);
  expect((await chartNow()).drawings.map(({ label }) => label)).toContain('Whistle');
  expect(moved.exposures.some(({ drawing }) => drawing === shown!.drawing)).toBe(true);
});

test('making a one-off is one step of undo', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await documentOf(app);
  await page.getByRole('button', { name: 'A mouth for these frames only' }).click();
  await expect(page.getByRole('dialog', { name: 'Mouths of this scene alone' })).toBeVisible();
  await saved(page);
  expect((await documentOf(app)).oneOffs).toHaveLength(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(() => documentOf(app)).toEqual(before);
});
