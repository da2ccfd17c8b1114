/** Passes: kept, compared, taken from; curves and counts; the review page and what is said on it; where a production stands. */
import { AxeBuilder } from '@axe-core/playwright';
import type { PassView } from '@zest-jaw/core';
import { readFileSync } from 'node:fs';
import { expect, openDemo, sceneDocument, test } from '../app.js';
import { changeFrames, mouth } from '../faults.js';

const SCENE = 'the-wet-stamp';
const PASSES = `/api/scenes/${SCENE}/passes`;

test('a pass is kept, the scene goes on, both are compared on one sound and half of it is taken', async ({ page, app }) => {
  await page.goto(app.url(`/scenes/${SCENE}/check?show=passes`));
  await page.getByRole('button', { name: 'Keep as a pass' }).click();
  await page.getByLabel('Name of the pass').fill('As planned');
  await page.getByLabel('Why it is kept').fill('before the director came');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByTestId('pass')).toContainText('As planned');
  await expect(page.getByTestId('pass')).toContainText('before the director came');
  const before = await sceneDocument(app, SCENE);
  // Two stretches are changed since, by somebody else.
  await changeFrames(app, SCENE, (frames) => {
    frames.fill(mouth('ring', true), 20, 26);
    frames.fill(mouth('ring', true), 140, 148);
  });
  await page.reload();
  await page.getByTestId('pass').getByRole('button').first().click();
  const compare = page.getByTestId('compare');
  await expect(compare).toHaveAttribute('data-differs', '14');
  await expect(compare.getByText('2 differences')).toBeVisible();
  await page.keyboard.press('d');
  await expect(compare.getByText('Difference 1 of 2, from frame 21')).toBeVisible();
  await expect(compare.locator('figure').nth(0)).toContainText('Ring, ink');
  await expect(compare.locator('figure').nth(1)).toContainText(/, pencil/);
  // The other alone, as long as the key is held.
  await page.keyboard.down('9');
  await expect(compare.locator('figure')).toHaveCount(1);
  await page.keyboard.up('9');
  await expect(compare.locator('figure')).toHaveCount(2);
  await compare.getByRole('button', { name: 'this difference' }).click();
  await expect(compare).toHaveAttribute('data-differs', '8');
  await page.keyboard.press('d');
  await expect(compare.getByText('Difference 1 of 1, from frame 141')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  await compare.getByRole('button', { name: 'all of it' }).click();
  await expect(compare).toHaveAttribute('data-differs', '0');
  await page.keyboard.press('Control+z');
  await expect(compare).toHaveAttribute('data-differs', '8');
  await page.keyboard.press('Control+Shift+Z');
  await expect(compare).toHaveAttribute('data-differs', '0');
  const shown = ({ exposures }: typeof before): string[] =>
    exposures.flatMap(({ from, to, drawing, inked }) => Array.from({ length: to - from }, () => `${drawing} ${inked}`));
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  expect(shown(await sceneDocument(app, SCENE))).toEqual(shown(before));
  // Removed, and brought back.
  await page.getByRole('button', { name: 'Remove the pass As planned' }).click();
  await expect(page.getByTestId('pass')).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByTestId('pass')).toHaveCount(1);
});

test('the scene is held against the crib, its history, a bundle and a sheet from files; passes are kept before what is large', async ({
  page,
  app,
}, info) => {
  await page.goto(app.url(`/scenes/${SCENE}/check?show=passes`));
  const compare = page.getByTestId('compare');
  await page.getByRole('button', { name: 'The crib' }).click();
  await expect(compare).toHaveAttribute('data-differs', /^\d+$/);
  // The sheet as it is, brought in again: nothing differs.
  const sheet = await page.request.get(app.url(`/api/scenes/${SCENE}/sheet.csv`));
  const files = page.getByLabel('Bundle or sheet to hold against this scene');
  await files.setInputFiles({ name: 'sheet.csv', mimeType: 'text/csv', buffer: await sheet.body() });
  await expect(compare.getByText('sheet.csv').first()).toBeVisible();
  await expect(compare).toHaveAttribute('data-differs', '0');
  // Everything keyed again from Key: how it was is a pass.
  await changeFrames(app, SCENE, (frames) => frames.fill(mouth('ring'), 20, 26));
  await page.goto(app.url(`/scenes/${SCENE}/key`));
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByText(/The pencil is keyed again/)).toBeVisible();
  await expect
    .poll(async () => (await app.json<PassView[]>(PASSES)).map(({ name }) => name))
    .toEqual(['Before everything was keyed again']);
  // A moment of the history beside now.
  await page.keyboard.press('Control+h');
  await page.getByRole('button', { name: 'How the scene began' }).click();
  await page.getByRole('button', { name: 'Beside now' }).click();
  await expect(compare.getByText('How the scene began').first()).toBeVisible();
  // Another person's bundle of the same scene.
  await page.goto(app.url(`/scenes/${SCENE}/hand-off?as=bundle`));
  const coming = page.waitForEvent('download');
  await page
    .getByRole('button', { name: /^(Make|Save|Pack)/ })
    .first()
    .click();
  const path = info.outputPath('scene.zip');
  await (await coming).saveAs(path);
  await page.goto(app.url(`/scenes/${SCENE}/check?show=passes`));
  await files.setInputFiles({ name: 'theirs.zip', mimeType: 'application/zip', buffer: readFileSync(path) });
  await expect(compare.getByText('theirs.zip').first()).toBeVisible();
  await expect(compare).toHaveAttribute('data-differs', '0');
  await files.setInputFiles({ name: 'no.zip', mimeType: 'application/zip', buffer: Buffer.from('no') });
  await expect(page.getByText(/This is not a bundle/)).toBeVisible();
});

test('two windows that changed the same mouth: mine is kept as a pass, stands beside theirs, and can be taken from', async ({
  page,
  app,
  context,
}) => {
  await openDemo(page, app, SCENE);
  const other = await context.newPage();
  await openDemo(other, app, SCENE);
  const put = async (window: typeof page, key: string): Promise<void> => {
    await window.keyboard.press('Home');
    for (let press = 0; press < 28; press++) await window.keyboard.press('ArrowRight');
    await window.keyboard.press(key);
  };
  // At once: what the other did has not arrived here when this one puts its own.
  await page.route('**/api/scenes/**', (route) => route.abort());
  await put(other, 'KeyQ');
  await expect(other.getByTestId('save-state')).toHaveText('saved');
  await put(page, 'KeyF');
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  await page.unroute('**/api/scenes/**');
  await page.getByRole('button', { name: 'Keep mine as a pass' }).click();
  await expect(page.getByText(/Your version is kept as a pass/)).toBeVisible();
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  const drawingAt = async (frame: number): Promise<string> =>
    (await sceneDocument(app, SCENE)).exposures.find(({ from, to }) => from <= frame && frame < to)!.drawing;
  const theirs = await drawingAt(28);
  await page.getByRole('link', { name: 'Check' }).click();
  await page.getByRole('radio', { name: 'Passes' }).click();
  await page.getByTestId('pass').filter({ hasText: 'My version' }).getByRole('button').first().click();
  const compare = page.getByTestId('compare');
  await expect(compare).toHaveAttribute('data-differs', /^[1-9]/);
  await compare.getByRole('button', { name: 'all of it' }).click();
  await expect(compare).toHaveAttribute('data-differs', '0');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  expect(await drawingAt(28)).not.toBe(theirs);
  await other.close();
});

test('curves and counts: a bar lights its mouths on the sheet, the table behind it is shown and copied', async ({ page, app, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto(app.url(`/scenes/${SCENE}/check?show=curves`));
  const curves = page.getByTestId('curves');
  await expect(curves.locator('.recharts-surface').first()).toBeVisible();
  await curves.getByRole('radio', { name: 'Holds' }).click();
  await curves.locator('.recharts-bar-rectangle').nth(1).click();
  const { exposures } = await sceneDocument(app, SCENE);
  const twos = exposures.filter(({ from, to }) => to - from === 2);
  await expect(page.getByText(`Lit on the sheet: ${twos.length} mouths held for 2 frames.`)).toBeVisible();
  await curves.getByRole('button', { name: 'As a table' }).click();
  await expect(curves.getByRole('row', { name: `2 ${twos.length} yes` })).toBeVisible();
  for (const name of ['Jaw', 'Drawings', 'Timing', 'Phrases']) {
    await curves.getByRole('radio', { name }).click();
    expect(await curves.getByRole('row').count()).toBeGreaterThan(1);
  }
  await curves.getByRole('button', { name: 'Copy as CSV' }).click();
  await expect(page.getByText('The table is copied as CSV.')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(/^phrase,from frame,seen\r\n/);
  // A phrase pressed is selected on the sheet.
  await curves.getByRole('button', { name: 'As a picture' }).click();
  await curves.locator('.recharts-bar-rectangle').first().click();
  await expect(page.getByTestId('selection').first()).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
});

test('who looks says and draws on a page of its own, and it arrives in Check while that is open', async ({ page, app, context }) => {
  await page.goto(app.url(`/scenes/${SCENE}/check`));
  await expect(page.getByTestId('notes')).toHaveAttribute('data-open', /\d/);
  const before = await sceneDocument(app, SCENE);
  const opening = context.waitForEvent('page');
  await page.getByRole('link', { name: 'The review page' }).click();
  const review = await opening;
  await expect(review.getByTestId('review')).toBeVisible();
  await review.keyboard.press('ArrowRight');
  await review.keyboard.press('ArrowRight');
  await expect(review.getByTestId('review-frame')).toHaveText('3');
  const { x, y, width, height } = (await review.getByTestId('drawn').boundingBox())!;
  await review.mouse.move(x + width / 2, y + height / 2);
  await review.mouse.down();
  await review.mouse.move(x + width / 2 + 60, y + height / 2 + 20, { steps: 5 });
  await review.mouse.up();
  await expect(review.getByTestId('drawn')).toHaveAttribute('data-strokes', '1');
  await review.getByLabel('Who you are').fill('The director');
  await review.getByLabel('What you see').fill('Softer here.');
  await review.getByRole('button', { name: 'Leave it here' }).click();
  await expect(review.getByRole('list', { name: 'Remarks' })).toContainText('Softer here.');
  const { violations } = await new AxeBuilder({ page: review }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  // Elsewhere it is drawn only at its frame.
  await review.keyboard.press('Tab');
  await review.getByRole('slider', { name: 'Frame' }).fill('40');
  await expect(review.getByTestId('drawn')).toHaveAttribute('data-strokes', '0');
  await page.bringToFront();
  await expect(page.getByTestId('remark')).toContainText('The director Softer here.');
  const after = await sceneDocument(app, SCENE);
  expect({ ...after, remarks: [] }).toEqual({ ...before, remarks: [] });
  await page.getByRole('button', { name: 'Seen to: The director, frame 3' }).click();
  await expect(page.getByRole('button', { name: 'Seen to: The director, frame 3' })).toHaveAttribute('aria-pressed', 'true');
});

test('a lead sees where the scenes of a production stand, those that were not checked too', async ({ page, app }) => {
  await changeFrames(app, SCENE, (frames) => frames.fill(mouth('drop'), 68, 77));
  await page.goto(app.url('/'));
  await page.getByRole('link', { name: 'Where it stands' }).click();
  const table = page.getByRole('table');
  await expect(table.getByText('not checked')).toHaveCount(0);
  await expect(table.getByRole('row')).toHaveCount(5);
  await table.getByRole('button', { name: 'Everybody sees' }).click();
  await table.getByRole('button', { name: 'Everybody sees' }).click();
  await expect(table.getByRole('columnheader', { name: 'Everybody sees' })).toHaveAttribute('aria-sort', 'descending');
  await page.getByLabel('Find scenes').fill('ferry');
  await expect(table.getByRole('row')).toHaveCount(2);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  await table.getByRole('link').click();
  await expect(page.getByTestId('notes')).toBeVisible();
});
