/** Check: planted faults found, heard, mended and set aside; limits; marks in every step; counts at home. */
import { AxeBuilder } from '@axe-core/playwright';
import type { NoteCounts } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { expect, sceneDocument, test } from '../app.js';
import { changeFrames, mouth, runOf } from '../faults.js';

const SCENE = 'the-wet-stamp';
const notes = (page: Page, kind?: string) => page.locator(kind ? `[data-testid=note][data-kind=${kind}]` : '[data-testid=note]');
const heading = (page: Page, name: RegExp) => page.getByTestId('notes').getByRole('button', { name });

test('six planted faults are found, explained, mended one by one and all at once, set aside, and the scene is clean', async ({
  page,
  app,
}) => {
  await changeFrames(app, SCENE, (frames) => {
    // Two closures gone, an open mouth in a pause in ink, flapping, a mouth of one frame, lips shut under vowels.
    const first = runOf(frames, 'press', 2, 12);
    frames.fill(frames[first.from - 1]!, first.from, first.to);
    const second = runOf(frames, 'press', 2, 112);
    frames.fill(frames[second.from - 1]!, second.from, second.to);
    const rest = runOf(frames, 'rest', 12, 20);
    frames.fill(mouth('drop', true), rest.from + 3, rest.from + 10);
    const held = frames.findIndex(
      (one, frame) => frame > second.to + 6 && [1, 2, 3, 4].every((by) => frames[frame + by] === one) && one.drawing !== 'rest',
    );
    frames[held + 2] = mouth('ring');
  });
  const before = await sceneDocument(app, SCENE);
  await page.goto(app.url(`/scenes/${SCENE}/check`));
  await expect(page.getByTestId('notes')).toHaveAttribute('data-open', /\d/);
  await expect(heading(page, /^Lips that never meet/)).toContainText('2');
  await expect(heading(page, /^Open where nobody speaks/)).toBeVisible();
  // By key, each with its phrase.
  await page.keyboard.press('e');
  await expect(page.locator('[data-testid=note] [aria-current=true]')).toBeVisible();
  await page.keyboard.press('Space');
  // One is looked at: why, and what mends it, shown before it is taken.
  await notes(page, 'closure-missing').first().getByRole('button').first().click();
  await expect(page.getByTestId('mend')).toContainText('Mends it: “Press” in frame');
  await page.keyboard.press('m');
  await expect(heading(page, /^Lips that never meet/)).toContainText('1');
  await page.keyboard.press('Control+z');
  await expect(heading(page, /^Lips that never meet/)).toContainText('2');
  // Both in one step, and one step of undo.
  await notes(page, 'closure-missing').first().getByRole('button').first().click();
  await page.getByRole('button', { name: 'Mend all 2' }).click();
  await expect(page.getByText('2 mended in one step.')).toBeVisible();
  await expect(heading(page, /^Lips that never meet/)).toHaveCount(0);
  // Ink is mended only by its own press, and can be meant.
  await notes(page, 'open-in-pause').first().getByRole('button').first().click();
  await expect(page.getByTestId('mend')).toContainText('There is ink here');
  await page.keyboard.press('x');
  await page.getByLabel('Why it is meant').fill('a gasp');
  await page.keyboard.press('Enter');
  await expect(heading(page, /^Open where nobody speaks/)).toHaveCount(0);
  await page.getByText('Set aside', { exact: true }).last().click();
  await expect(page.getByTestId('aside')).toContainText('Open where nobody speaks: a gasp');
  await page.reload();
  await expect(page.getByTestId('notes')).toHaveAttribute('data-open', /\d/);
  await expect(heading(page, /^Open where nobody speaks/)).toHaveCount(0);
  // Taken back, and mended after all.
  await page.getByText('Set aside', { exact: true }).last().click();
  await page.getByRole('button', { name: 'Take back' }).click();
  await notes(page, 'open-in-pause').first().getByRole('button').first().click();
  await expect(page.getByTestId('mend')).toContainText('Mends it:');
  await page.getByRole('button', { name: /^Mend M/ }).click();
  await expect(heading(page, /^Open where nobody speaks/)).toHaveCount(0);
  // By weight: nothing is left that is seen.
  await page.getByRole('radio', { name: 'By weight' }).click();
  await expect(heading(page, /^Seen by everybody/)).toHaveCount(0);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  // Nothing of it changed what is not a mouth.
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const after = await sceneDocument(app, SCENE);
  expect(after.phonemes).toEqual(before.phonemes);
  expect(after.clips).toEqual(before.clips);
});

test('the limits of a production are changed with what each does, and the notes follow', async ({ page, app }) => {
  await page.goto(app.url(`/scenes/${SCENE}/check`));
  await expect(page.getByTestId('notes')).toHaveAttribute('data-open', /\d/);
  await page.getByRole('button', { name: 'What the check allows' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Changes', { exact: true }).fill('99');
  await expect(dialog.getByRole('alert')).toContainText('It may be 3 to 24 a second');
  await dialog.getByLabel('Changes', { exact: true }).fill('4');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(heading(page, /^Flapping/)).toBeVisible();
  // They are the production's: another scene goes by them, and a reload.
  await page.reload();
  await expect(heading(page, /^Flapping/)).toBeVisible();
  await page.getByRole('button', { name: 'What the check allows' }).click();
  await page.getByRole('button', { name: 'All as the feels have it' }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(heading(page, /^Flapping/)).toHaveCount(0);
});

test('home tells how many notes a scene has open, once it has been checked', async ({ page, app }) => {
  await changeFrames(app, SCENE, (frames) => {
    const first = runOf(frames, 'press', 2, 12);
    frames.fill(frames[first.from - 1]!, first.from, first.to);
  });
  await page.goto(app.url(`/scenes/${SCENE}/key`));
  const kept = async (): Promise<NoteCounts | null> =>
    (await app.json<{ id: string; notes: NoteCounts | null }[]>('/api/scenes')).find(({ id }) => id === SCENE)!.notes;
  await expect.poll(async () => (await kept())?.heavy ?? 0).toBeGreaterThan(0);
  const { heavy } = (await kept())!;
  await page.goto(app.url('/'));
  await expect(page.getByRole('link', { name: /The wet stamp/ })).toContainText(
    `${heavy} ${heavy === 1 ? 'note' : 'notes'} everybody sees`,
  );
});
