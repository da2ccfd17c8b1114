/** The reading mended by hand: edges dragged, words accepted, said otherwise, split; and it outlives reading again. */
import type { SceneDocument } from '@zest-jaw/core';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { type App, drag, expect, openDemo, readAgain, saved, sceneDocument, SPEECH, test } from '../app.js';

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
  await drag(page, { x: at(edge).x, y: at(edge).y }, { x: at(edge + 3).x, y: at(0).y });
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
  await readAgain(page);
  const again = await documentOf(app);
  expect(wordNamed(again, 'stamp')).toMatchObject({ fromSample: stamp.fromSample, toSample: stamp.toSample, inked: true });
  expect(again.words.map(({ text }) => text)).toEqual(before.words.map(({ text }) => text));
});

test('a drag is one step of undo with its mouths, with Alt a gap opens, and Escape gives it up', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const at = await rowAt(page, 34);
  const edge = wordNamed(before, 'stamp').toSample / 2000;
  await drag(page, { x: at(edge).x, y: at(edge).y }, { x: at(edge - 3).x, y: at(0).y });
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
  await expect(dialog.getByRole('radio', { name: /as you wrote it/ })).toBeChecked();
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

test('reading again shows what would change, by phrase; a phrase is taken, the rest left, and both come back', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  await page.getByRole('button', { name: 'Read the track again' }).click();
  const offer = page.getByRole('region', { name: 'Read again' });
  await expect(offer.getByRole('status')).toContainText(/moved, [\d.]+ frames? at most/);
  expect(await documentOf(app)).toEqual(before);
  // It waits for whoever comes back.
  await page.reload();
  await offer.getByRole('button', { name: '2 phrases' }).click();
  const phrase = offer.getByRole('listitem').filter({ hasText: 'Mrs Pelican' });
  await phrase.getByRole('button', { name: 'Take' }).click();
  await expect(offer.getByRole('button', { name: '2 phrases' })).toBeHidden();
  await saved(page);
  const taken = await documentOf(app);
  const first = before.words.findIndex(({ text }) => text === 'Mrs');
  expect(taken.words.slice(0, first)).toEqual(before.words.slice(0, first));
  expect(taken.words.slice(first)).not.toEqual(before.words.slice(first));
  expect(taken.exposures.filter(({ inked }) => inked)).toEqual(before.exposures.filter(({ inked }) => inked));
  await offer.getByRole('button', { name: 'Leave it' }).click();
  await expect(offer).toBeHidden();
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await expect(offer).toBeHidden();
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(() => documentOf(app)).toEqual(before);
});

test('a word is said otherwise in the way that fits what is heard, always in this production', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const stamp = wordNamed(before, 'stamp');
  await page.getByRole('button', { name: 'stamp', exact: true }).click();
  await page.keyboard.press('t');
  const dialog = page.getByRole('dialog', { name: 'What is said here' });
  await expect(dialog.getByRole('radio', { name: /as it is now/ })).toBeChecked();
  await expect(dialog.getByRole('radio', { name: /from the dictionary/ })).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Word' }).fill('stomp');
  await expect(dialog.getByRole('radio', { name: /stɑmp.*from the dictionary.*fits \d+ %/ })).toBeChecked();
  await dialog.getByLabel('Always in this production').check();
  await dialog.getByRole('button', { name: 'Set' }).click();
  await expect(page.getByText('“stomp” is said so in this production')).toBeVisible();
  await saved(page);
  const after = await documentOf(app);
  const sounds = after.phonemes.filter(({ word }) => word === stamp.id);
  expect(sounds.map(({ symbol }) => symbol)).toEqual(['S', 'T', 'AA', 'M', 'P']);
  // Where they are heard, not evenly; the words beside it are as they were.
  expect(new Set(sounds.map(({ fromSample, toSample }) => toSample - fromSample)).size).toBeGreaterThan(2);
  expect(after.words.filter(({ id }) => id !== stamp.id)).toEqual(before.words.filter(({ id }) => id !== stamp.id));
  // The script says it too.
  await expect(page.getByLabel('Script', { exact: true })).toHaveValue(/the wet stomp beside/);
  const [production] = await app.json<{ id: string }[]>('/api/productions');
  expect(await app.json(`/api/productions/${production!.id}/pronunciations`)).toContainEqual({ word: 'stomp', said: 'S T AA1 M P' });
});

test('a word changed in the script is read anew where it is; a word pressed in it is gone to', async ({ page, app }) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const script = page.getByLabel('Script', { exact: true });
  await script.fill(before.clips[0]!.script.replace('wet stamp', 'wet (bang) stomp'));
  await script.blur();
  await expect(page.getByRole('button', { name: 'stomp', exact: true })).toBeVisible();
  await saved(page);
  const after = await documentOf(app);
  const stamp = wordNamed(before, 'stamp');
  expect(after.words.find(({ id }) => id === stamp.id)).toMatchObject({
    text: 'stomp',
    fromSample: stamp.fromSample,
    toSample: stamp.toSample,
  });
  expect(after.phonemes.filter(({ word }) => word === stamp.id).map(({ symbol }) => symbol)).toEqual(['S', 'T', 'AA', 'M', 'P']);
  expect(after.clips[0]!.script).toContain('wet (bang) stomp');
  // The playhead goes to the word that is pressed, and its word is lit.
  const at = await script.evaluate((field: HTMLTextAreaElement) => field.value.indexOf('parcel') + 2);
  await script.evaluate((field: HTMLTextAreaElement, place) => field.setSelectionRange(place, place), at);
  await script.dispatchEvent('click');
  await expect(page.getByTestId('lit')).toHaveText('parcel');
  await script.blur();
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(() => documentOf(app)).toEqual(before);
});

test('a word and a sound are put in, several words are stretched, a laugh is marked and is no speech for any reading', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE, 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = await documentOf(app);
  // Into the pause after the parcel.
  await page.getByRole('button', { name: 'parcel', exact: true }).click();
  const parcel = wordNamed(before, 'parcel');
  const frames = Math.ceil(parcel.toSample / 2000) - Math.round(parcel.fromSample / 2000) + 1;
  for (let frame = 0; frame < frames; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('w');
  const dialog = page.getByRole('dialog', { name: 'A word put in' });
  await dialog.getByRole('textbox', { name: 'Word' }).fill('now');
  await expect(dialog.getByRole('radio', { name: /naʊ/ })).toBeChecked();
  await dialog.getByRole('button', { name: 'Set' }).click();
  await saved(page);
  const put = await documentOf(app);
  expect(wordNamed(put, 'now')).toMatchObject({ inked: true });
  expect(put.clips[0]!.script).toContain('parcel now.');
  await page.keyboard.press('Control+z');
  // A sound put in, then taken out.
  await page.getByRole('button', { name: 'wet', exact: true }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('s');
  const sound = page.getByRole('dialog', { name: /^Which sound follows/ });
  await sound.getByRole('combobox').fill('ee');
  await page.keyboard.press('Enter');
  await expect(sound).toBeHidden();
  await saved(page);
  expect((await documentOf(app)).phonemes).toHaveLength(before.phonemes.length + 1);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(() => documentOf(app)).toEqual(before);
  // Two words selected, a frame longer: what follows them gives the room up or says that there is none.
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const sheet = page.getByTestId('bar-sheet');
  const [left, perFrame] = await Promise.all(['left', 'per-frame'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))));
  const select = async (from: number, to: number): Promise<void> => {
    await page.keyboard.down('Shift');
    await drag(
      page,
      { x: box.x + left! + (from + 0.5) * perFrame!, y: box.y + 60 },
      { x: box.x + left! + (to - 0.5) * perFrame!, y: box.y + 60 },
    );
    await page.keyboard.up('Shift');
  };
  const [first, last] = [wordNamed(before, 'blue'), parcel];
  await select(Math.floor(first.fromSample / 2000), Math.ceil(last.toSample / 2000));
  await page.keyboard.press('Control+Period');
  await saved(page);
  const stretched = await documentOf(app);
  expect(wordNamed(stretched, 'parcel').toSample).toBe(last.toSample + 2000);
  expect(wordNamed(stretched, 'blue')).toMatchObject({ fromSample: first.fromSample, inked: true });
  await page.keyboard.press('Control+z');
  // A laugh where a word is read: marked, its mouths proposed, and read again it stays.
  const blue = [Math.round(first.fromSample / 2000), Math.round(first.toSample / 2000)] as const;
  await select(...blue);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/.*/).last().fill('laugh');
  await page.getByRole('option', { name: /A laugh is what is selected/ }).click();
  await saved(page);
  const laughing = await documentOf(app);
  expect(laughing.clips[0]!.notSpeech).toMatchObject([{ kind: 'laugh', inked: true }]);
  expect(laughing.words.some(({ text }) => text === 'blue')).toBe(false);
  await expect(page.getByRole('gridcell', { name: /a laugh/ }).first()).toBeAttached();
  await readAgain(page);
  const again = await documentOf(app);
  expect(again.clips[0]!.notSpeech).toEqual(laughing.clips[0]!.notSpeech);
  expect(again.words.some(({ text }) => text === 'blue')).toBe(false);
  await select(...blue);
  await page.keyboard.press('Shift+KeyX');
  await expect(page.getByRole('region', { name: 'Read again' })).toContainText('1 word and 3 sounds otherwise');
});

test('in Key a word is mended by its menu and by a double press, and its mouths follow', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await documentOf(app);
  const at = await rowAt(page, 34);
  const stamp = wordNamed(before, 'stamp');
  const middle = (stamp.fromSample + stamp.toSample) / 4000;
  await page.mouse.dblclick(at(middle).x, at(0).y);
  const dialog = page.getByRole('dialog', { name: 'What is said here' });
  await dialog.getByRole('textbox', { name: 'Word' }).fill('blue');
  await expect(dialog.getByRole('radio', { name: /blu/ })).toBeChecked();
  await dialog.getByRole('button', { name: 'Set' }).click();
  await saved(page);
  const after = await documentOf(app);
  expect(after.words.find(({ id }) => id === stamp.id)).toMatchObject({ text: 'blue', inked: true });
  expect(after.exposures).not.toEqual(before.exposures);
  await page.mouse.click(at(middle).x, at(0).y, { button: 'right' });
  await page.getByRole('menuitem', { name: /Take the word out/ }).click();
  await saved(page);
  expect((await documentOf(app)).words.some(({ id }) => id === stamp.id)).toBe(false);
});

test('captions hold a long take to their times; a table of symbols is kept; labels dropped with a recording are its reading', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE, 'listen');
  const before = await documentOf(app);
  const file = (name: string, content: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(content) });
  const field = page.getByLabel('A file of labels');
  await field.setInputFiles(
    file(
      'talk.srt',
      '1\n00:00:00,800 --> 00:00:03,000\nPlease put the wet stamp beside the blue parcel.\n\n2\n00:00:03,000 --> 00:00:06,000\nMrs Pelican mailed nine pumpkin pies to the lighthouse.\n',
    ),
  );
  const captions = page.getByRole('dialog', { name: 'Labels in talk.srt' });
  await expect(captions.getByRole('listitem')).toHaveCount(2);
  await captions.getByRole('button', { name: 'Read by them' }).click();
  const offer = page.getByRole('region', { name: 'Read again' });
  await expect(offer).toContainText('words');
  await offer.getByRole('button', { name: /^Take/ }).last().click();
  await saved(page);
  const read = await documentOf(app);
  expect(read.clips[0]!.script).toContain('\nMrs Pelican mailed nine');
  expect(wordNamed(read, 'stamp').fromSample).toBeGreaterThan(wordNamed(before, 'stamp').fromSample - 4800);
  // Symbols of somebody's own, kept as a table for the next file.
  const strange = '0.5\t0.7\tqa\n0.7\t0.9\tqe\n';
  await field.setInputFiles(file('own.tsv', strange));
  const dialog = page.getByRole('dialog', { name: 'Labels in own.tsv' });
  await dialog.getByLabel('Words are in').selectOption('-1');
  await dialog.getByLabel('Sounds are in').selectOption('0');
  await dialog.getByLabel('What qa is taken for').selectOption('AA');
  await dialog.getByLabel('Keep this table as').fill('Ours');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await field.setInputFiles(file('own.tsv', strange));
  await dialog.getByLabel('Words are in').selectOption('-1');
  await dialog.getByLabel('Sounds are in').selectOption('0');
  await dialog.getByLabel('A table that was kept').selectOption('Ours');
  await expect(dialog.getByLabel('What qa is taken for')).toHaveValue('AA');
  await expect(dialog.getByRole('status')).toContainText('0 words and 1 sound become');
  await page.keyboard.press('Escape');
  // A recording and its labels, dropped on the home page together.
  await page.goto(app.url('/'));
  const wave = readFileSync(join(SPEECH, 'slt-09.wav')).toString('base64');
  const dropped = await page.evaluateHandle((bytes) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File(['0.2\t0.5\tmy\n0.5\t0.9\tmother\n'], 'line.tsv'));
    transfer.items.add(new File([Uint8Array.from(atob(bytes), (letter) => letter.charCodeAt(0))], 'line.wav', { type: 'audio/wav' }));
    return transfer;
  }, wave);
  await page.getByTestId('home').dispatchEvent('drop', { dataTransfer: dropped });
  const scene = page.getByRole('dialog', { name: 'New scene' });
  await expect(scene.getByText('line.tsv: 2 words and 0 sounds are its reading.')).toBeVisible();
  await scene.getByRole('button', { name: 'Read the track' }).click();
  await page.waitForURL(/\/scenes\/.+\/key/);
  const id = /scenes\/([^/]+)/.exec(page.url())![1]!;
  await expect.poll(async () => (await sceneDocument(app, id)).words.map(({ text }) => text)).toEqual(['my', 'mother']);
});
