/** The reading mended by hand: edges dragged, words accepted, said otherwise, split; and it outlives reading again. */
import type { SceneDocument } from '@zest-jaw/core';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { type App, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';
const documentOf = (app: App): Promise<SceneDocument> => sceneDocument(app, SCENE);
const wordNamed = (document: SceneDocument, text: string) => document.words.find((word) => word.text === text)!;

/** Points of a row of the sheet, with the whole scene in one row; `below` the top of the sheet, in pixels. */
async function rowAt(page: Page, below: number): Promise<(frame: number) => { x: number; y: number }> {
  const sheet = page.getByTestId('bar-sheet');
  await expect(sheet).toHaveAttribute('data-waves', '1');
  await page.keyboard.press('Shift+8');
  await expect(sheet).toHaveAttribute('data-zoom', '172');
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const [left, perFrame] = await Promise.all(['left', 'per-frame'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))));
  return (frame) => ({ x: box.x + left! + frame * perFrame!, y: box.y + below });
}

test('an edge between two words is dragged by ear, the mouths follow, and reading again never moves it', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const at = await rowAt(page, 34);
  const edge = wordNamed(before, 'stamp').toSample / 2000;
  await page.mouse.move(at(edge).x, at(edge).y);
  await page.mouse.down();
  await page.mouse.move(at(edge + 3).x, at(0).y, { steps: 6 });
  await page.mouse.up();
  await saved(page);
  const mended = await documentOf(app);
  const [stamp, beside] = [wordNamed(mended, 'stamp'), wordNamed(mended, 'beside')];
  expect(Math.abs(stamp.toSample / 2000 - (edge + 3))).toBeLessThan(0.5);
  expect(stamp).toMatchObject({ inked: true });
  expect(beside.fromSample).toBe(stamp.toSample);
  // The pencil was keyed again, ink did not move.
  expect(mended.exposures.filter(({ inked }) => inked)).toEqual(before.exposures.filter(({ inked }) => inked));
  expect(mended.exposures).not.toEqual(before.exposures);
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^stamp, .*set by hand/ })).toBeAttached();
  // Read again, all of it: what was set is where it was set, to the sample.
  await page.getByRole('button', { name: 'Read the track again' }).click();
  await expect(page.getByTestId('reading-progress')).toBeVisible();
  await expect(page.getByTestId('reading-progress')).toBeHidden();
  await saved(page);
  const again = await documentOf(app);
  expect(wordNamed(again, 'stamp')).toMatchObject({ fromSample: stamp.fromSample, toSample: stamp.toSample, inked: true });
  expect(again.words.map(({ text }) => text)).toEqual(before.words.map(({ text }) => text));
});

test('a drag is one step of undo with its mouths, with Alt a gap opens, and Escape gives it up', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const at = await rowAt(page, 34);
  const edge = wordNamed(before, 'stamp').toSample / 2000;
  await page.mouse.move(at(edge).x, at(edge).y);
  await page.mouse.down();
  await page.mouse.move(at(edge - 3).x, at(0).y, { steps: 6 });
  await page.mouse.up();
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(() => documentOf(app)).toEqual(before);
  // The end of a word before a pause, and back with Escape.
  const last = wordNamed(before, 'parcel').toSample / 2000;
  await page.mouse.move(at(last).x, at(last).y);
  await page.mouse.down();
  await page.mouse.move(at(last + 4).x, at(0).y, { steps: 6 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await saved(page);
  await expect.poll(() => documentOf(app)).toEqual(before);
});

test('doubtful words are heard one after another and accepted; a word is said otherwise, split, joined and taken out', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE, 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = await documentOf(app);
  const doubtful = before.words.filter(({ confidence }) => confidence < 0.88);
  expect(doubtful.length).toBeGreaterThan(0);
  await page.keyboard.press('d');
  await expect(page.getByTestId('announced')).toContainText(`“${doubtful[0]!.text}”, doubtful`);
  for (let word = 0; word < doubtful.length; word++) {
    await page.keyboard.press('i');
    await expect(page.getByTestId('announced')).toContainText(`accepted; ${doubtful.length - word - 1} doubtful`);
  }
  await saved(page);
  const accepted = await documentOf(app);
  expect(accepted.words.filter(({ confidence, inked }) => confidence < 0.88 && !inked)).toEqual([]);
  await page.keyboard.press('d');
  await expect(page.getByTestId('announced')).toHaveText('No word is doubtful.');
  // A word said otherwise, with its sounds.
  const stamp = wordNamed(before, 'stamp');
  await page.getByRole('button', { name: 'stamp', exact: true }).click();
  await page.keyboard.press('t');
  const dialog = page.getByRole('dialog', { name: 'What is said here' });
  await dialog.getByLabel('Word').fill('stomp');
  await dialog.getByLabel('Its sounds').fill('qq!');
  await dialog.getByRole('button', { name: 'Set' }).click();
  await expect(dialog.getByRole('alert')).toContainText('no sounds');
  await dialog.getByLabel('Its sounds').fill('S T AA M P');
  await dialog.getByRole('button', { name: 'Set' }).click();
  await expect(dialog).toBeHidden();
  await saved(page);
  const stomped = await documentOf(app);
  expect(stomped.words.find(({ id }) => id === stamp.id)).toMatchObject({ text: 'stomp', fromSample: stamp.fromSample, inked: true });
  expect(stomped.phonemes.filter(({ word }) => word === stamp.id).map(({ symbol }) => symbol)).toEqual(['S', 'T', 'AA', 'M', 'P']);
  // In two at the playhead, one again, then out; each is a step back.
  const count = stomped.words.length;
  for (let frame = 0; frame < 4; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Slash');
  await saved(page);
  expect((await documentOf(app)).words).toHaveLength(count + 1);
  await page.getByRole('gridcell').first().waitFor({ state: 'attached' });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Backspace');
  await saved(page);
  expect((await documentOf(app)).words).toHaveLength(count - 1);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(async () => (await documentOf(app)).words.length).toBe(count);
  // An edge by keys: a frame, and 5 ms.
  await page.keyboard.press('Shift+Period');
  await saved(page);
  const nudged = wordNamed(await documentOf(app), 'stomp');
  expect(nudged.toSample - stamp.toSample).toBe(2000);
  await page.keyboard.press('Alt+Shift+Comma');
  await saved(page);
  expect(wordNamed(await documentOf(app), 'stomp').toSample - stamp.toSample).toBe(1760);
});

test('labels go out as a TextGrid and come in again, with what each tier is taken for; a strange file is refused by its line', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  await page.getByRole('button', { name: 'Labels', exact: true }).click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /TextGrid/ }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toMatch(/\.TextGrid$/);
  const text = readFileSync(await download.path(), 'utf8');
  // One word comes half a second later, one sound is written as nobody knows it.
  const stamp = wordNamed(before, 'stamp');
  const seconds = (sample: number): string => String(Math.round((sample / 48_000) * 1e6) / 1e6);
  const field = page.getByLabel('A file of labels');
  const file = (name: string, content: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(content) });
  await field.setInputFiles(file('half.TextGrid', text.slice(0, 400)));
  const half = page.getByRole('dialog', { name: 'Labels in half.TextGrid' });
  await expect(half.getByRole('alert')).toContainText(/^Line \d+: The file ends where/);
  await half.getByRole('button', { name: 'Close' }).click();
  const edited = text
    .replace(
      `xmax = ${seconds(stamp.toSample)}\n            text = "stamp"`,
      `xmax = ${seconds(stamp.toSample)}\n            text = "stomp"`,
    )
    .replace('text = "AE1"', 'text = "{"');
  await field.setInputFiles(file('line.TextGrid', edited));
  const dialog = page.getByRole('dialog', { name: 'Labels in line.TextGrid' });
  await expect(dialog.getByLabel('Words are in')).toHaveValue('0');
  await expect(dialog.getByLabel('Sounds are in')).toHaveValue('1');
  await dialog.getByLabel('What { is taken for').selectOption('AA');
  await dialog.getByRole('button', { name: 'Take them' }).click();
  await saved(page);
  const taken = await documentOf(app);
  expect(wordNamed(taken, 'stomp')).toMatchObject({ fromSample: stamp.fromSample, toSample: stamp.toSample });
  expect(taken.phonemes.map(({ symbol }) => symbol)).toEqual(
    before.phonemes.map(({ symbol }, index) =>
      index === before.phonemes.findIndex((one) => one.symbol === 'AE' && one.stress === 1) ? 'AA' : symbol,
    ),
  );
  await page.keyboard.press('Control+z');
  await expect.poll(() => documentOf(app)).toEqual(before);
});

test('a sound pressed twice is chosen anew by its letters, a word pressed twice is said otherwise', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const at = await rowAt(page, 60);
  const vowel = before.phonemes.find(({ symbol }) => symbol === 'AE')!;
  const middle = (vowel.fromSample + vowel.toSample) / 4000;
  await page.mouse.dblclick(at(middle).x, at(middle).y);
  const dialog = page.getByRole('dialog', { name: /^Which sound is it\?/ });
  await dialog.getByRole('combobox').fill('ee');
  await expect(dialog.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await saved(page);
  const after = await documentOf(app);
  expect(after.phonemes.find(({ id }) => id === vowel.id)).toMatchObject({ symbol: 'IY', inked: true, fromSample: vowel.fromSample });
  expect(after.words.find(({ id }) => id === vowel.word)).toMatchObject({ inked: true });
  await page.mouse.dblclick(at(middle).x, at(0).y - 26);
  await expect(page.getByRole('dialog', { name: 'What is said here' })).toBeVisible();
});
