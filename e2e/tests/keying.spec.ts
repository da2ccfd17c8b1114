/** Putting mouths by hand: ink, undo, keying again, saving, and two people at once. */
import type { Page } from '@playwright/test';
import { expect, mouthLane, openDemo, test, type ExposureCell } from '../app.js';

const inkOf = (lane: readonly ExposureCell[]): ExposureCell[] => lane.filter((cell) => cell.inked);

async function goTo(page: Page, frame: number): Promise<void> {
  await page.keyboard.press('Home');
  for (let at = 0; at < frame; at++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(frame));
}

test('a keycap puts that mouth at the playhead, in ink; undo and redo; it is there after a restart', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry');
  const before = await mouthLane(page);
  await goTo(page, 12);
  const split = before.find((cell) => cell.from <= 12 && 12 < cell.to)!;
  await page.keyboard.press('KeyX');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'ring');
  await expect(page.getByTestId('readout')).toContainText('Ring, ink');
  const after = await mouthLane(page);
  expect(after.find((cell) => cell.from === 12)).toEqual({ from: 12, to: split.to, drawing: 'ring', inked: true });

  await page.keyboard.press('Control+KeyZ');
  expect(await mouthLane(page)).toEqual(before);
  await page.keyboard.press('Control+Shift+KeyZ');
  expect(await mouthLane(page)).toEqual(after);
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  expect(await mouthLane(page)).toEqual(after);
  await app.restart();
  await page.reload();
  expect(await mouthLane(page)).toEqual(after);
});

test('keying again with other rules moves only pencil', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  expect(inkOf(before).length).toBeGreaterThan(5);
  await page.getByRole('button', { name: /On twos, lead 1/ }).click();
  await page.getByRole('radio', { name: 'threes' }).click();
  await expect(page.getByText('the ink stayed')).toBeVisible();
  await page.keyboard.press('Escape');
  const after = await mouthLane(page);
  expect(inkOf(after)).toEqual(inkOf(before));
  expect(after.length).toBeLessThan(before.length);
  await page.getByRole('button', { name: 'Key the pencil again' }).click();
  await expect(page.getByText('The pencil is already as the rules have it.')).toBeVisible();
  expect(await mouthLane(page)).toEqual(after);
});

test('ink and back to pencil, by keys', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.keyboard.press('End');
  await expect(page.getByTestId('readout')).toContainText('pencil');
  await page.keyboard.press('KeyI');
  await expect(page.getByTestId('readout')).toContainText('ink');
  await page.keyboard.press('Shift+KeyI');
  await expect(page.getByTestId('readout')).toContainText('pencil');
  await page.keyboard.press('Shift+KeyI');
  await expect(page.getByText('This mouth is in pencil already.')).toBeVisible();
});

test('every mouth of the tray is a button with its keycap, and the exposure keys find each exposure', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const tray = page.getByRole('group', { name: 'Tray' }).getByRole('button');
  await expect(tray).toHaveCount(13);
  await expect(tray.nth(10)).toHaveAttribute('aria-keyshortcuts', 'Z');
  const lane = await mouthLane(page);
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(lane[1]!.from));
  await page.keyboard.press('ArrowUp');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '0');
  await page.keyboard.press('Shift+Slash');
  await expect(page.getByRole('dialog', { name: 'All keys' })).toBeVisible();
  // A keycap pressed in a dialog puts no mouth.
  await page.keyboard.press('KeyZ');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'rest');
});

test('without the server work goes on, says so, and is sent when it is back', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.route('**/api/scenes/a-complaint', (route) => (route.request().method() === 'PATCH' ? route.abort() : route.continue()));
  await goTo(page, 40);
  await page.keyboard.press('KeyX');
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  // The tab is closed and opened again: what was not saved is still there, and goes out.
  await page.reload();
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  expect((await mouthLane(page)).find((cell) => cell.from === 40)).toMatchObject({ drawing: 'ring', inked: true });
  await page.unroute('**/api/scenes/a-complaint');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  expect((await mouthLane(page)).find((cell) => cell.from === 40)).toMatchObject({ drawing: 'ring', inked: true });
});

test('two windows: changes elsewhere in the scene go together, changes of the same mouth keep both versions', async ({
  page,
  app,
  context,
}) => {
  await openDemo(page, app, 'the-last-ferry');
  const other = await context.newPage();
  await openDemo(other, app, 'the-last-ferry');
  await goTo(page, 60);
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  // The other window has not heard of it, changes another mouth, and takes both in.
  await goTo(other, 120);
  await other.keyboard.press('KeyC');
  await expect(other.getByTestId('save-state')).toHaveText('saved');
  expect((await mouthLane(other)).find((cell) => cell.from === 60)).toMatchObject({ drawing: 'drop', inked: true });

  await goTo(other, 60);
  await other.keyboard.press('KeyQ');
  await expect(other.getByTestId('save-state')).toHaveText('saved');
  await page.keyboard.press('KeyF');
  await expect(page.getByRole('dialog', { name: 'This scene was changed elsewhere' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on with mine' }).click();
  await expect(page.getByText('The last ferry (my version)')).toBeVisible();
  const copy = (await mouthLane(page)).find((cell) => cell.from === 60);
  expect(copy).toMatchObject({ drawing: 'spread', inked: true });
  await openDemo(page, app, 'the-last-ferry');
  expect((await mouthLane(page)).find((cell) => cell.from === 60)).toMatchObject({ drawing: 'rest', inked: true });
  await other.close();
});
