/** Ways of looking at a scene: zoom, the upright exposure sheet, the large easel, mouths seen through; and time in all of it. */
import type { SceneDocument } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { type App, drag, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';
const documentOf = (app: App): Promise<SceneDocument> => sceneDocument(app, SCENE);
const perFrame = async (page: Page): Promise<number> => Number(await page.getByTestId('bar-sheet').getAttribute('data-per-frame'));

test('the sheet is zoomed by keys and by the wheel, from the whole scene to eight frames a row, the playhead staying in sight', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const sheet = page.getByTestId('bar-sheet');
  const usual = await perFrame(page);
  await page.keyboard.press('End');
  await page.keyboard.press('7');
  await expect.poll(() => perFrame(page)).toBeGreaterThan(usual);
  await page.keyboard.press('7');
  await expect(page.getByTestId('playhead')).toBeInViewport();
  await page.keyboard.press('Shift+8');
  await expect(page.locator('canvas[data-system]')).toHaveCount(1);
  await expect(sheet).toHaveAttribute('data-zoom', '172');
  await sheet.hover();
  await page.keyboard.down('Control');
  for (let turn = 0; turn < 30; turn++) await page.mouse.wheel(0, -200);
  await page.keyboard.up('Control');
  await expect(sheet).toHaveAttribute('data-zoom', '8');
  await expect(page.getByTestId('playhead')).toBeInViewport();
  // It is kept, and given up by a key.
  await page.reload();
  await expect(sheet).toHaveAttribute('data-zoom', '8');
  await page.keyboard.press('8');
  await expect.poll(() => perFrame(page)).toBeCloseTo(usual, 0);
  // The lane is higher when it is wanted so.
  await page.getByRole('button', { name: 'How it is looked at' }).click();
  await page.getByRole('radio', { name: 'large', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page.locator('canvas[data-system="0"]')).toBeVisible();
});

test('the exposure sheet is keyed by keyboard alone: the same keys, the same selection, the same undo', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await documentOf(app);
  await page.keyboard.press('h');
  await expect(page.getByTestId('upright-sheet')).toBeVisible();
  await expect(page.getByRole('grid', { name: 'Exposure sheet' })).toBeAttached();
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('e');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'bite');
  for (let frame = 0; frame < 2; frame++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByTestId('selection')).toBeVisible();
  await page.keyboard.press('x');
  await saved(page);
  const ring = (await documentOf(app)).exposures.find(({ drawing, from }) => drawing === 'ring' && from === 9);
  expect(ring).toMatchObject({ to: 12, inked: true });
  // An edge between two mouths is dragged here too, down the page.
  const sheet = page.getByTestId('upright-sheet');
  const [rowHeight, mouthX] = await Promise.all(
    ['row-height', 'mouth-x'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))),
  );
  const box = (await page.locator('canvas[data-block="0"]').boundingBox())!;
  await drag(page, { x: box.x + mouthX! + 20, y: box.y + 12 * rowHeight! }, { x: box.x + mouthX! + 20, y: box.y + 13 * rowHeight! });
  await saved(page);
  expect((await documentOf(app)).exposures.find(({ id }) => id === ring!.id)).toMatchObject({ from: 9, to: 13 });
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await documentOf(app)).exposures).toEqual(before.exposures);
  // The playhead runs down it, and what it leaves is scrolled to.
  await page.keyboard.press('End');
  await expect(page.getByTestId('playhead')).toBeInViewport();
  await page.keyboard.press('h');
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
});

test('the easel has the page, comes closer, and shows the mouths before and after', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  const easel = page.getByTestId('easel');
  const usual = (await easel.boundingBox())!;
  await page.keyboard.press('Backquote');
  await expect.poll(async () => (await easel.boundingBox())!.width).toBeGreaterThan(usual.width * 2);
  await page.getByRole('button', { name: 'Closer' }).click();
  await expect(easel.locator('svg')).toHaveAttribute('style', /scale\(1\.4/);
  await easel.dblclick();
  await expect(easel.locator('svg')).toHaveAttribute('style', /scale\(1\)/);
  // What a hand does on the sheet it does here as well.
  await page.keyboard.press('e');
  await expect(easel).toHaveAttribute('data-drawing', 'bite');
  await page.keyboard.press('o');
  await expect(easel.locator('[data-part=ghost]')).toHaveCount(2);
  await page.keyboard.press('o');
  await expect(easel.locator('[data-part=ghost]')).toHaveCount(0);
  await page.keyboard.press('Backquote');
  await expect.poll(async () => (await easel.boundingBox())!.width).toBeLessThan(usual.width * 1.2);
});

test('a pause of six frames is put into the middle of the line with its recording, and taken out again', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = await documentOf(app);
  const cell = (word: string): Promise<string> =>
    page
      .locator('[role=gridcell]')
      .filter({ hasText: new RegExp(`^${word}, `) })
      .innerText();
  const was = await cell('Mrs');
  // Between the phrases, in the pause; six frames are picked out by one drag.
  const sheet = page.getByTestId('bar-sheet');
  await page.keyboard.press('Shift+8');
  await expect(sheet).toHaveAttribute('data-zoom', '172');
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const [left, wide] = [Number(await sheet.getAttribute('data-left')), await perFrame(page)];
  const at = (frame: number): number => box.x + left + (frame + 0.5) * wide;
  let actions = 0;
  await page.keyboard.down('Shift');
  await drag(page, { x: at(68), y: box.y + 30 }, { x: at(73), y: box.y + 30 });
  await page.keyboard.up('Shift');
  actions += 1;
  await page.keyboard.press('Control+Shift+Enter');
  actions += 1;
  expect(actions).toBeLessThanOrEqual(3);
  await saved(page);
  const after = await documentOf(app);
  expect(after.settings[0]!.lengthFrames).toBe(178);
  expect(after.clips).toHaveLength(2);
  expect(after.clips[1]).toMatchObject({ audio: before.clips[0]!.audio, atFrame: 74, fromSample: 68 * 2000 });
  const later = was.replace(/\d+/g, (frame) => String(Number(frame) + 6));
  await expect(page.locator('[role=gridcell]').filter({ hasText: later })).toBeAttached();
  // A word is not cut in two.
  await page.keyboard.press('Home');
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+Shift+Backspace');
  await expect(page.getByText(/would be cut in two/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => documentOf(app)).toEqual(before);
});

test('the history shows the scene as it was, without changing it, and goes back to it in one step', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await documentOf(app);
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('x');
  await saved(page);
  await page.waitForTimeout(600);
  await page.keyboard.press('z');
  await page.waitForTimeout(600);
  await page.keyboard.press('Shift+Comma');
  await saved(page);
  const last = await documentOf(app);
  await page.keyboard.press('Control+h');
  const history = page.getByRole('region', { name: 'History' });
  await expect(history.getByRole('button', { name: /Mouths that were slid/ })).toBeVisible();
  await history
    .getByRole('button', { name: /A mouth that was put/ })
    .last()
    .click();
  await expect(history.getByRole('button', { name: 'Go back to this' })).toBeVisible();
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'ring');
  await history.getByRole('button', { name: 'How the scene began' }).click();
  await expect(page.locator('[role=gridcell][data-drawing=ring][data-from="9"]')).toHaveCount(0);
  // Nothing can be changed meanwhile, and nothing has been.
  await page.keyboard.press('e');
  await expect(page.getByText(/You are looking at the scene as it was/)).toBeVisible();
  expect(await documentOf(app)).toEqual(last);
  await history
    .getByRole('button', { name: /A mouth that was put/ })
    .last()
    .click();
  await history.getByRole('button', { name: 'Go back to this' }).click();
  await saved(page);
  const back = await documentOf(app);
  expect(back.exposures.find(({ from }) => from === 9)?.drawing).toBe('ring');
  await expect(history.getByRole('button', { name: /Going back to how the scene was/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => documentOf(app)).toEqual(last);
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  await expect.poll(() => documentOf(app)).toEqual(before);
  await history.getByRole('button', { name: 'Close the history' }).click();
  await expect(history).toBeHidden();
});

test('a step that cannot be fetched says so in its place, the others go on, and it is there once it is opened again', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  // As when the server was updated while the page was open.
  await page.route('**/assets/ChartStep-*.js', (route) => route.abort());
  await page.getByRole('link', { name: 'Chart' }).click();
  const told = page.getByRole('alert').filter({ hasText: 'This page could not be fetched' });
  await expect(told).toBeVisible();
  await expect(page.getByRole('banner')).toHaveCount(1);
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
  await expect(told).toHaveCount(0);
  await page.getByRole('link', { name: 'Chart' }).click();
  await expect(told).toBeVisible();
  await page.unroute('**/assets/ChartStep-*.js');
  await page.getByRole('button', { name: 'Open it again' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the chart' })).toBeVisible();
  await expect(told).toHaveCount(0);
  expect(new URL(page.url()).pathname).toBe(`/scenes/${SCENE}/chart`);
});
