/** The chart under a voice: it moves while one speaks, and what was said becomes a scene. */
import { type App, expect, test } from '../app.js';
import type { SceneView } from '@zest-jaw/core';
import type { Page } from '@playwright/test';

const newest = async (app: App): Promise<SceneView> => {
  const [card] = await app.json<{ id: string }[]>('/api/scenes');
  return app.json<SceneView>(`/api/scenes/${card!.id}`);
};

/** Every mouth that the try-out wears from now on, however short: a line is over before one has looked often. */
async function wornBy(page: Page): Promise<() => Promise<string[]>> {
  const tryOut = page.getByRole('region', { name: 'Try-out' });
  await expect(tryOut).toBeVisible();
  await tryOut.evaluate((region) => {
    const worn: string[] = [];
    Object.assign(window, { worn });
    const note = (): void => void worn.push(region.getAttribute('data-drawing') ?? '');
    new MutationObserver(note).observe(region, { attributeFilter: ['data-drawing'] });
  });
  return () => page.evaluate(() => (window as unknown as { worn: string[] }).worn);
}

test('the chart moves with a voice that is spoken to it, and the take becomes a scene with its line', async ({ page, app }) => {
  await page.goto(app.url('/charts/odette-front'));
  const tryOut = page.getByRole('region', { name: 'Try-out' });
  const worn = await wornBy(page);
  await tryOut.getByRole('button', { name: 'Speak to it' }).click();
  await expect(tryOut).toHaveAttribute('data-live', 'live');
  await expect(tryOut.getByLabel('Microphone')).toHaveValue('practice');
  // The practice microphone says its line: the mouth opens, shows its teeth, and rests again.
  await expect.poll(async () => new Set(await worn()).size).toBeGreaterThan(3);
  await expect(tryOut.getByTestId('listened')).toHaveText(/^([1-9]|\d\d)\.\d s$/);
  await expect(tryOut).toHaveAttribute('data-late', /^\d+$/);
  await page.keyboard.press('Space');
  await expect(tryOut).toHaveAttribute('data-live', 'off');
  await expect(tryOut).toContainText(/\d+\.\d s kept/);
  await tryOut.getByRole('button', { name: 'Make a scene of it' }).click();
  const dialog = page.getByRole('dialog', { name: 'New scene' });
  await expect(dialog.getByLabel('Title')).toHaveValue('Odette, spoken');
  await expect(dialog.getByRole('radio', { name: 'Odette' })).toBeChecked();
  await expect(dialog.getByLabel('What is said')).not.toHaveValue('');
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(page).toHaveURL(/\/scenes\/.*\/key/);
  const { document } = await newest(app);
  expect(document.clips[0]!.toSample).toBeGreaterThan(24_000);
  expect(document.tracks[0]!.characterId).toBe('odette');
});

test('what was said can be forgotten, and another microphone begins anew', async ({ page, app }) => {
  await page.goto(app.url('/charts/bramble-front'));
  const tryOut = page.getByRole('region', { name: 'Try-out' });
  const worn = await wornBy(page);
  const speak = tryOut.getByRole('button', { name: 'Speak to it' });
  await speak.click();
  await expect(tryOut).toHaveAttribute('data-live', 'live');
  await expect(tryOut.getByRole('meter')).toBeVisible();
  // Long enough to be kept.
  await expect.poll(async () => (await worn()).length).toBeGreaterThan(5);
  await speak.click();
  await tryOut.getByRole('button', { name: 'Forget it' }).click();
  await expect(tryOut).not.toContainText('kept');
  await expect(speak).toHaveAttribute('aria-pressed', 'false');
});
