/** Readings of recordings that are not clean lines. */
import type { SceneView } from '@zest-jaw/core';
import { ditherTo16Bit, floatsOf16Bit, resample, truthOfWave, writeWave } from '@zest-jaw/core';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { type App, expect, joinedLines, mouthLane, openDemo, readAgain, SENTENCES, SPEECH, test } from '../app.js';

const line = (voice: string, number: number): Float32Array => {
  const truth = truthOfWave(readFileSync(join(SPEECH, `${voice}-${String(number).padStart(2, '0')}.wav`)));
  if ('refusal' in truth) throw new Error(truth.refusal);
  return floatsOf16Bit(truth.samples);
};

/** A WAV file of samples at 48 kHz. */
function fileOf(app: App, name: string, samples: Float32Array): string {
  const file = join(app.folder, name);
  writeFileSync(file, writeWave(ditherTo16Bit(samples), 48_000));
  return file;
}

async function newScene(page: Page, app: App, file: string, script: string): Promise<void> {
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(file);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What is said').fill(script);
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(page).toHaveURL(/\/scenes\/.+\/key/);
  await expect(page.getByTestId('reading-progress')).toBeHidden({ timeout: 400_000 });
}

const document = async (page: Page, app: App): Promise<SceneView['document']> =>
  (await app.json<SceneView>(`/api/scenes/${/scenes\/([^/]+)/.exec(page.url())![1]!}`)).document;

test('a cartoon voice, six semitones up, is read whole', async ({ page, app }) => {
  const high = resample(line('slt', 9), Math.round(48_000 * Math.SQRT2), 48_000);
  await newScene(page, app, fileOf(app, 'high.wav', high), SENTENCES[9]!);
  await expect(page.getByText('6 words', { exact: true })).toBeVisible();
  expect((await mouthLane(page)).filter((cell) => cell.drawing === 'press').length).toBeGreaterThan(2);
});

test('a made-up name is guessed and said so, then said by the production and read again', async ({ page, app }) => {
  await newScene(page, app, join(SPEECH, 'slt-09.wav'), 'My mother makes marmelaid in May.');
  await expect(page.getByText(/Pronunciation guessed from spelling: marmelaid/)).toBeVisible();
  await expect(page.getByRole('gridcell', { name: /^marmelaid, .*guessed from its spelling$/ })).toBeAttached();
  await page.getByRole('link', { name: 'Listen', exact: true }).click();
  await page.getByRole('button', { name: /Spoken in General American/ }).click();
  await page.getByLabel('th as f or v: fink for think').check();
  await page.getByRole('link', { name: 'Pronunciations of this production' }).click();
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.getByLabel('Word', { exact: true }).fill('Marmelaid');
  await page.getByLabel('Said', { exact: true }).fill('???');
  await expect(page.getByRole('status')).toContainText('cannot be read as sounds');
  await expect(page.getByRole('button', { name: 'Add' })).toBeDisabled();
  await page.getByLabel('Said', { exact: true }).fill('MAR-muh-layd');
  await expect(page.getByRole('status')).toContainText('/');
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByLabel('How marmelaid is said')).toHaveValue('MAR-muh-layd');
  // Brought in from a text file, searched, changed, removed.
  const list = join(app.folder, 'names.txt');
  writeFileSync(list, '# names\nbramble\t/ˈbræmbəl/\nodette oh-DET\n');
  await page.getByLabel('Pronunciations to bring in').setInputFiles(list);
  await expect(page.getByLabel('How odette is said')).toBeVisible();
  await page.getByLabel('Search the words').fill('odet');
  await expect(page.getByRole('list', { name: 'Pronunciations' }).getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'Remove odette' }).click();
  await expect(page.getByText('No word like that.')).toBeVisible();
  await page.getByLabel('Search the words').fill('');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'As a text file' }).click();
  expect(readFileSync((await (await download).path())!, 'utf8')).toBe('bramble\t/ˈbræmbəl/\nmarmelaid\tMAR-muh-layd\n');
  writeFileSync(list, 'bramble');
  await page.getByLabel('Pronunciations to bring in').setInputFiles(list);
  await expect(page.getByText(/names.txt: Line 1, “bramble”, has no sounds/)).toBeVisible();

  await page.goBack();
  await expect(page.getByRole('button', { name: /British|General American, and 1 more/ })).toBeVisible();
  await readAgain(page);
  await expect(page.getByText(/guessed from spelling/)).toBeHidden();
  await expect(page.getByRole('gridcell', { name: /guessed from its spelling/ })).toHaveCount(0);
  await expect.poll(async () => (await document(page, app)).words.map((word) => word.text)).toContain('marmelaid');
});

test('an improvised line: what was not said is struck through, what the script lacks is sounds', async ({ page, app }) => {
  const script = 'My mother often makes elephant marmalade in May.';
  await newScene(page, app, join(SPEECH, 'slt-09.wav'), script);
  await expect(page.getByText(/Not heard in this recording:/)).toBeVisible();
  await page.getByRole('link', { name: 'Listen', exact: true }).click();
  await expect(page.locator('s', { hasText: 'elephant' })).toBeVisible();
  const found = (await document(page, app)).words.map((word) => word.text);
  expect(found).toEqual(expect.arrayContaining(['mother', 'makes', 'marmalade', 'May']));
});

test('a line nobody wrote down is read by its sounds', async ({ page, app }) => {
  await newScene(page, app, join(SPEECH, 'slt-09.wav'), '');
  await expect(page.getByText(/Read without a script/)).toBeVisible();
  const { words, phonemes } = await document(page, app);
  expect(words).toEqual([]);
  expect(phonemes.length).toBeGreaterThan(10);
  // Its lips meet at least where they do most plainly.
  expect((await mouthLane(page)).filter((cell) => cell.drawing === 'press').length).toBeGreaterThan(1);
});

test('a take of more than a minute is read stretch by stretch, with the words counted', async ({ page, app }) => {
  test.setTimeout(1_200_000);
  const { file, script } = joinedLines(app, 'slt', 0, 24);
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(file);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What is said').fill(script);
  await dialog.getByRole('button', { name: 'Read the track' }).click();
  await expect(page.getByText(/\d+ of 196 words found/)).toBeVisible({ timeout: 400_000 });
  await expect(page.getByTestId('reading-progress')).toBeHidden({ timeout: 600_000 });
  const { words, clips } = await document(page, app);
  expect(words.length).toBeGreaterThan(180);
  expect(words.at(-1)!.toSample).toBeGreaterThan(clips[0]!.lengthSamples * 0.95);
});

test('a piece of music is told from speech', async ({ page, app }) => {
  // Four chords of three sines with their octaves, a second each.
  const chords = [
    [262, 330, 392],
    [220, 262, 330],
    [294, 349, 440],
    [196, 247, 294],
  ];
  const music = Float32Array.from({ length: 4 * 48_000 }, (_, index) => {
    const chord = chords[Math.floor(index / 48_000)]!;
    return chord.reduce(
      (sum, hertz) =>
        sum + 0.1 * (Math.sin((2 * Math.PI * hertz * index) / 48_000) + 0.4 * Math.sin((4 * Math.PI * hertz * index) / 48_000)),
      0,
    );
  });
  await newScene(page, app, fileOf(app, 'music.wav', music), '');
  await expect(page.getByText(/No speech could be made out/)).toBeVisible();

  // After a line it is marked, and no word of the line is stretched over it.
  const spoken = line('slt', 9);
  const both = new Float32Array(spoken.length + music.length);
  both.set(spoken);
  both.set(music, spoken.length);
  await newScene(page, app, fileOf(app, 'both.wav', both), SENTENCES[9]!);
  await expect(page.getByRole('gridcell', { name: /^not speech, frames 5\d to/ }).first()).toBeAttached();
  expect((await document(page, app)).words.at(-1)!.toSample).toBeLessThan(spoken.length);
});

test('the accent and the language of a recording are kept', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'listen');
  await page.getByRole('button', { name: /Spoken in General American/ }).click();
  await page.getByLabel('Accent').selectOption({ label: 'British' });
  await page.getByLabel('Language of this recording').selectOption({ label: 'French' });
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Spoken in French' })).toBeVisible();
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  await page.getByRole('button', { name: 'Spoken in French' }).click();
  await page.getByLabel('Language of this recording').selectOption({ label: 'English' });
  await expect(page.getByLabel('Accent')).toHaveValue('gb');
});

test('one phrase is read again, or only what is doubtful; the rest stays as it was', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = (await app.json<SceneView>('/api/scenes/the-wet-stamp')).document;
  await page.getByRole('button', { name: 'Pelican' }).click();
  await readAgain(page, 'Only this phrase');
  const words = async (): Promise<SceneView['document']['words']> =>
    (await app.json<SceneView>('/api/scenes/the-wet-stamp')).document.words;
  await expect.poll(async () => JSON.stringify(await words())).not.toBe(JSON.stringify(before.words));
  const after = await words();
  expect(after.map((word) => word.text)).toEqual(before.words.map((word) => word.text));
  // The first phrase ends with the parcel.
  const first = before.words.findIndex((word) => word.text === 'parcel') + 1;
  expect(after.slice(0, first)).toEqual(before.words.slice(0, first));
  await expect(page.getByTestId('reading-progress')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Only what is doubtful' })).toBeVisible();
});
