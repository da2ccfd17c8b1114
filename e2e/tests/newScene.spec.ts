/** From a recording on the home page to a talking mouth, and what is said when it cannot be. */
import { join } from 'node:path';
import { readFileSync, writeFileSync } from 'node:fs';
import { expect, joinedLines, mouthLane, SENTENCES, SPEECH, test } from '../app.js';

test('a WAV file dropped on the home page becomes a keyed scene, with progress on the way', async ({ page, app }) => {
  const { file, script } = joinedLines(app, 'slt', 0, 6);
  await page.goto(app.url('/'));
  // A real drop: the file is carried by the drag event, not by the file field.
  const dropped = await page.evaluateHandle(
    ([encoded, name]) => {
      const data = new DataTransfer();
      const content = Uint8Array.from(atob(encoded), (letter) => letter.charCodeAt(0));
      data.items.add(new File([content], name, { type: 'audio/wav' }));
      return data;
    },
    [readFileSync(file).toString('base64'), 'six lines.wav'] as const,
  );
  await page.getByTestId('home').dispatchEvent('drop', { dataTransfer: dropped });
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Title')).toHaveValue('six lines');
  await dialog.getByLabel('What is said').fill(script);
  await dialog.getByLabel('Frame rate').selectOption('25');
  await dialog.getByLabel('Mouths on').selectOption('1');
  await dialog.getByRole('radio', { name: 'Odette' }).click();
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(page.getByRole('progressbar', { name: 'Reading the track' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Odette' })).toBeVisible();
  await expect(page.getByTestId('reading-progress')).toBeHidden();
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^Please, / })).toBeAttached();
  const lane = await mouthLane(page);
  expect(lane.every((cell) => !cell.inked)).toBe(true);
  expect(lane.filter((cell) => cell.drawing === 'press').length).toBeGreaterThan(3);
  await expect(page.getByText('25 fps · on ones')).toBeVisible();

  // The reading is there after a reload and after the server has been away.
  await app.restart();
  await page.reload();
  expect(await mouthLane(page)).toEqual(lane);
});

test('what cannot be a scene is said in a sentence, and nothing typed is lost', async ({ page, app }) => {
  await page.goto(app.url('/'));
  const before = (await app.json<unknown[]>('/api/scenes')).length;
  const notSound = join(app.folder, 'shopping.wav');
  writeFileSync(notSound, 'herring, string, stamps');
  await page.getByLabel('Recording for a new scene').setInputFiles(notSound);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('alert')).toContainText('not a recording that can be read');
  await expect(dialog.getByRole('button', { name: 'Read the track' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Not now' }).click();

  const silence = join(app.folder, 'nothing.wav');
  const header = readFileSync(join(SPEECH, 'slt-00.wav')).subarray(0, 44);
  header.writeUInt32LE(0, 40);
  writeFileSync(silence, header);
  await page.getByLabel('Recording for a new scene').setInputFiles(silence);
  await dialog.getByLabel('What is said').fill('hello');
  await expect(dialog.getByRole('alert')).toContainText('no sound');
  await expect(dialog.getByLabel('What is said')).toHaveValue('hello');
  await dialog.getByRole('button', { name: 'Not now' }).click();

  await page.getByLabel('Recording for a new scene').setInputFiles(join(SPEECH, 'slt-09.wav'));
  await dialog.getByLabel('What is said').fill('herring and string');
  await dialog.getByLabel('Frame rate').selectOption('other');
  await dialog.getByLabel('Frames a second').fill('0');
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(dialog.getByRole('alert')).toContainText('The frame rate is “0”');
  await expect(dialog.getByLabel('What is said')).toHaveValue('herring and string');
  await dialog.getByRole('button', { name: 'Not now' }).click();
  expect((await app.json<unknown[]>('/api/scenes')).length).toBe(before);
});

test('a script that is not what is said is told, mended on the Listen step, and read again', async ({ page, app }) => {
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(join(SPEECH, 'slt-09.wav'));
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What is said').fill(`${SENTENCES[0]} ${SENTENCES[1]} ${SENTENCES[2]} ${SENTENCES[4]}`);
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(page.getByText(/could not be found in this recording|do not fit well/)).toBeVisible();
  await page.getByRole('link', { name: 'Go to Listen' }).click();
  await page.getByLabel('Script').fill(SENTENCES[9]!);
  await page.getByRole('button', { name: 'Read the track again' }).click();
  await expect(page.getByRole('button', { name: 'marmalade' })).toBeVisible();
  await page.getByRole('button', { name: 'marmalade' }).click();
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByTestId('readout')).toContainText('marmalade');
  expect((await mouthLane(page)).filter((cell) => cell.drawing === 'press').length).toBeGreaterThan(3);
});

test('a reading can be cancelled', async ({ page, app }) => {
  const { file, script } = joinedLines(app, 'kal16', 0, 6);
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(file);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What is said').fill(script);
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await page.getByTestId('reading-progress').getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('The reading was cancelled')).toBeVisible();
  // The next one works: the worker that was stopped has been replaced.
  await page.getByRole('link', { name: 'Go to Listen' }).click();
  await page.getByRole('button', { name: 'Read the track again' }).click();
  await expect(page.getByRole('button', { name: 'Pelican' })).toBeVisible();
});
