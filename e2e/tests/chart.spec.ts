/** Changing a mouth chart: shapes, names, keys and what plays what, seen at once in the scene. */
import type { Page } from '@playwright/test';
import type { ChartView } from '@zest-jaw/core';
import { expect, openDemo, test } from '../app.js';

const SAVED = 'saved';

/** The step is loaded when it is opened: until it is there, the buttons of the one before still are. */
async function toChart(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Chart', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Drawings' })).toBeVisible();
}

async function toKey(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByRole('group', { name: 'Tray' })).toBeVisible();
}

test('a mouth is reshaped by keys, worn by the easel, undone, and there after a restart', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  const chart = async (): Promise<ChartView> => app.json<ChartView>('/api/charts/bramble-front');
  const jawOf = async (id: string): Promise<number> => (await chart()).document.drawings.find((drawing) => drawing.id === id)!.shape.jaw;
  await page.getByRole('button', { name: /Drop/, pressed: false }).first().click();
  const mouth = page.getByTestId('easel').locator('g').first();
  const before = await mouth.innerHTML();
  const jaw = page.getByLabel('Jaw down');
  await jaw.focus();
  for (let press = 0; press < 30; press++) await page.keyboard.press('ArrowLeft');
  await expect(jaw).toHaveValue('0.7');
  expect(await mouth.innerHTML()).not.toBe(before);
  await expect(page.getByTestId('save-state')).toHaveText(SAVED);
  expect(await jawOf('drop')).toBeCloseTo(0.7, 5);
  // The scene wears the new mouth without reloading.
  await toKey(page);
  await page.keyboard.press('KeyZ');
  expect(await page.getByTestId('easel').locator('g').first().innerHTML()).not.toBe(before);
  await toChart(page);
  await page.getByRole('button', { name: /Drop/, pressed: false }).first().click();
  // A slow machine may part the drag into several steps of undo.
  for (let step = 0; step < 40 && (await page.getByLabel('Jaw down').inputValue()) !== '1'; step++)
    await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Jaw down')).toHaveValue('1');
  await page.getByRole('button', { name: /^Redo/ }).click();
  await expect(page.getByTestId('save-state')).toHaveText(SAVED);
  const kept = await jawOf('drop');
  expect(kept).toBeLessThan(1);
  await app.restart();
  expect(await jawOf('drop')).toBe(kept);
});

test('a drawing is copied, named, given a key and a group, moved, and removed again', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  const cards = page.getByRole('region', { name: 'Drawings' }).getByRole('button', { name: /^\d/ });
  await expect(cards).toHaveCount(13);
  await page.getByRole('button', { name: /Ring/, pressed: false }).first().click();
  await page.getByRole('button', { name: 'Copy into a new drawing' }).click();
  await expect(cards).toHaveCount(14);
  await expect(page.getByLabel('Label')).toHaveValue('Ring copy');
  await page.getByLabel('Label').fill('Hoot');
  await page.getByLabel('Keycap').selectOption('B');
  await page.getByRole('button', { name: 'Push', exact: true }).click();
  await expect(page.getByText('Push and')).toBeHidden();
  await page.getByRole('button', { name: 'Towards the front of the tray' }).click();
  await expect(cards.nth(11)).toContainText('Hoot');
  await expect(page.getByTestId('save-state')).toHaveText(SAVED);

  await toKey(page);
  await page.keyboard.press('KeyB');
  await expect(page.getByTestId('readout')).toContainText('Hoot, ink');
  await expect(page.getByTestId('save-state')).toHaveText(SAVED);
  await toChart(page);
  await page.getByRole('button', { name: /Hoot/ }).first().click();
  await page.getByRole('button', { name: 'Remove this drawing' }).click();
  await expect(page.getByText('“Hoot” is shown in “A complaint at low tide”')).toBeVisible();
  await expect(cards).toHaveCount(14);

  await toKey(page);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByTestId('save-state')).toHaveText(SAVED);
  await toChart(page);
  await page.getByRole('button', { name: /Hoot/ }).first().click();
  await page.getByRole('button', { name: 'Remove this drawing' }).click();
  await expect(cards).toHaveCount(13);
  await expect(page.getByText(/Missing: Push/)).toBeVisible();
});
