/** Handing on: the files are opened and looked into. */
import { AxeBuilder } from '@axe-core/playwright';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { truthOfWave, type SceneDocument } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import sharp from 'sharp';
import { expect, openDemo, saved, sceneDocument, test } from '../app.js';

/** Goes to a kind of file. */
const kind = (page: Page, name: string): Promise<void> =>
  page
    .getByRole('navigation', { name: 'What is handed off' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();

/** Presses a button, and opens what is saved. */
async function savedBy(page: Page, button: string): Promise<{ name: string; bytes: Uint8Array; text: string }> {
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  const download = await downloading;
  const bytes = new Uint8Array(readFileSync(await download.path()));
  return { name: download.suggestedFilename(), bytes, text: Buffer.from(bytes).toString('utf8') };
}

const rowsOf = (csv: string): string[][] => Papa.parse<string[]>(csv, { skipEmptyLines: true }).data;

interface SceneAnswer {
  readonly document: SceneDocument;
}

/** Width, height and colour type of a PNG (ISO/IEC 15948, 11.2.2 IHDR); 6 is truecolour with alpha. */
function header(png: Uint8Array): { width: number; height: number; colourType: number } {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  expect([...png.slice(0, 8)]).toEqual([137, 80, 78, 71, 13, 10, 26, 10]);
  return { width: view.getUint32(16), height: view.getUint32(20), colourType: png[25]! };
}

test('numbered pictures with transparency, named and counted as asked', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  await page.getByLabel('Base name').fill('shot7');
  await expect(page.getByText('no digits')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save pictures' })).toBeDisabled();
  await page.getByLabel('Base name').fill('bramble-mouth');
  await page.getByLabel('First number').fill('101');
  await page.getByLabel('Size').selectOption('512x512');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save pictures' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('bramble-mouth.zip');
  const files = unzipSync(readFileSync(await download.path()));
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-wet-stamp');
  const names = Object.keys(files).sort();
  expect(names).toHaveLength(document.settings[0]!.lengthFrames);
  expect(names[0]).toBe('bramble-mouth0101.png');
  expect(names.at(-1)).toBe(`bramble-mouth0${100 + names.length}.png`);
  expect(header(files[names[0]!]!)).toEqual({ width: 512, height: 512, colourType: 6 });
  // Frames that show one drawing are one picture; frames that show another are not.
  const pictureOf = (frame: number): string => Buffer.from(files[names[frame]!]!).toString('base64');
  const [first, second] = document.exposures;
  expect(pictureOf(first!.from)).toBe(pictureOf(first!.to - 1));
  expect(pictureOf(first!.from)).not.toBe(pictureOf(second!.from));

  // The corners of a picture are clear and its middle is not: drawn on a canvas in the browser, not by what wrote it.
  const alphas = await page.evaluate(
    async (encoded) => {
      const image = new Image();
      image.src = `data:image/png;base64,${encoded}`;
      await image.decode();
      const canvas = new OffscreenCanvas(image.width, image.height);
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0);
      const alpha = (x: number, y: number): number => context.getImageData(x, y, 1, 1).data[3]!;
      return {
        corner: alpha(1, 1),
        opaque: context.getImageData(0, 0, image.width, image.height).data.filter((_, index) => index % 4 === 3 && _ === 255).length,
      };
    },
    pictureOf(document.exposures.find((exposure) => exposure.drawing === 'drop')!.from),
  );
  expect(alphas.corner).toBe(0);
  expect(alphas.opaque).toBeGreaterThan(2000);
});

test('pictures with the head on them', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'hand-off');
  await page.getByLabel('mouth on the head').check();
  await page.getByLabel('Size').selectOption('1280x720');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save pictures' }).click();
  const files = unzipSync(readFileSync(await (await downloading).path()));
  expect(Object.keys(files)).toHaveLength(90);
  const png = files['odette0001.png']!;
  expect(header(png)).toEqual({ width: 1280, height: 720, colourType: 6 });
  expect(png.length).toBeGreaterThan(10_000);
});

test('pictures only where they change, with their holds, and each drawing once as WebP on a colour', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-wet-stamp');
  const changes = document.exposures.filter((one, index, all) => index === 0 || all[index - 1]!.drawing !== one.drawing);
  await page.getByLabel('Which').selectOption('changes');
  await page.getByLabel('Size').selectOption('512x512');
  await page.getByLabel('Digits').selectOption('6');
  const files = unzipSync((await savedBy(page, 'Save pictures')).bytes);
  const holds = rowsOf(strFromU8(files['holds.csv']!)).slice(1);
  expect(Object.keys(files)).toHaveLength(changes.length + 1);
  expect(holds.map(([name, from]) => [name, Number(from)])).toEqual(
    changes.map(({ from }) => [`bramble${String(from + 1).padStart(6, '0')}.png`, from + 1]),
  );
  expect(holds.reduce((sum, row) => sum + Number(row[2]), 0)).toBe(document.settings[0]!.lengthFrames);
  await page.getByLabel('Which').selectOption('chart');
  await page.getByLabel('Format').selectOption('webp');
  await page.getByLabel('on a colour, not transparent').check();
  await expect(page.getByTestId('counts')).toHaveText('bramble000001.webp to bramble000013.webp.');
  const drawings = unzipSync((await savedBy(page, 'Save pictures')).bytes);
  expect(Object.keys(drawings)).toHaveLength(13);
  // WebP by its own header (RFC 9649): RIFF, WEBP, and a lossless chunk.
  const [webp] = Object.values(drawings);
  expect([strFromU8(webp!.subarray(0, 4)), strFromU8(webp!.subarray(8, 12))]).toEqual(['RIFF', 'WEBP']);
  expect(strFromU8(webp!.subarray(12))).toContain('VP8L');
});

test('the exposure sheet as CSV, with a row a frame', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'hand-off');
  await kind(page, 'Exposure sheet');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save sheet as CSV' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('The last ferry.csv');
  const rows = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-last-ferry');
  expect(rows[0]).toBe('frame,timecode,words,sounds,Bramble mouth,Bramble drawing,Bramble keyed');
  expect(rows).toHaveLength(document.settings[0]!.lengthFrames + 1);
  expect(rows[1]).toMatch(/^1001,00:00:00:00,,,1,Rest,/);
  expect(rows.join('\n')).toContain('pelicans');
  const served = await (await fetch(app.url('/api/scenes/the-last-ferry/sheet.csv'))).text();
  expect(served.trim().split('\r\n')).toEqual(rows);
});

test('a key list, weights and curves say what the scene shows, counted as asked, and what was chosen is kept', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'hand-off');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-last-ferry');
  const { lengthFrames, firstFrame } = document.settings[0]!;
  await kind(page, 'Key list');
  await expect(page.getByTestId('counts')).toHaveText(`Frames ${firstFrame} to ${firstFrame + lengthFrames - 1} at 25 fps.`);
  await page.getByLabel('a guard key at the end of each hold').check();
  await page.getByLabel('The first frame is').selectOption('0');
  await expect(page.getByRole('region', { name: 'As it will be written' })).toContainText('guard');
  const keys = await savedBy(page, 'Save as CSV');
  expect(keys.name).toBe('The last ferry, Bramble keys.csv');
  const [head, ...rows] = rowsOf(keys.text);
  expect(head).toEqual(['frame', 'number', 'drawing', 'kind']);
  expect(rows.filter(([, , , what]) => what === 'key').map(([frame]) => Number(frame))).toEqual(
    document.exposures.filter((one, index, all) => index === 0 || all[index - 1]!.drawing !== one.drawing).map(({ from }) => from),
  );
  expect(rows.at(-1)![0]).toBe(String(lengthFrames - 1));
  const asJson = JSON.parse((await savedBy(page, 'Save as JSON')).text) as { counting: string; keys: unknown[] };
  expect(asJson.keys).toHaveLength(rows.length);
  // Chosen once, it is so the next time.
  await page.reload();
  await expect(page.getByLabel('a guard key at the end of each hold')).toBeChecked();
  await kind(page, 'Weights');
  await page.getByLabel('Comes in at once').fill('3');
  const weights = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(weights).toHaveLength(lengthFrames + 1);
  for (const row of weights.slice(1)) expect(Math.abs(row.slice(1).reduce((sum, cell) => sum + Number(cell), 0) - 1)).toBeLessThan(1e-3);
  await kind(page, 'Curves');
  // Loud where it is said, silent before.
  await expect(page.getByRole('region', { name: 'As it will be written' })).toContainText(/-\d+\.\d+/);
  const curves = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(curves[0]).toEqual(['frame', 'opening', 'width', 'rounding', 'loudness']);
  expect(Math.max(...curves.slice(1).map((row) => Number(row[4])))).toBeGreaterThan(-30);
});

test('a timeline, captions and a shooting list', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-wet-stamp');
  await kind(page, 'Timeline');
  const timeline = await savedBy(page, 'Save as OTIO');
  expect(timeline.name).toBe('The wet stamp.otio');
  const { tracks } = JSON.parse(timeline.text) as { tracks: { children: { kind: string; children: { OTIO_SCHEMA: string }[] }[] } };
  expect(tracks.children.map((track) => track.kind)).toEqual(['Video', 'Audio']);
  await kind(page, 'Captions and labels');
  await page.getByLabel('Format').selectOption('srt');
  const captions = await savedBy(page, 'Save as SRT');
  expect(captions.text.replace(/\s+/g, ' ')).toContain('Please put the wet stamp');
  await kind(page, 'Pull list and shots');
  await expect(page.getByText(/\d+ mouths to pull from the tray, \d+ swaps/)).toBeVisible();
  await page.getByLabel('The camera is').selectOption('twos');
  const printed = await savedBy(page, 'Save as PDF');
  expect(printed.name).toBe('The wet stamp shooting list.pdf');
  expect(strFromU8(printed.bytes.subarray(0, 5))).toBe('%PDF-');
  const shots = rowsOf((await savedBy(page, 'Save as CSV')).text);
  expect(shots.slice(1).reduce((sum, row) => sum + Number(row[5]), 0)).toBe(Math.ceil(document.settings[0]!.lengthFrames / 2));
});

test('a sheet to be printed, sprites, and a bundle that opens beside the scene', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off');
  await kind(page, 'Exposure sheet');
  await page.getByLabel('Paper').selectOption('Letter');
  const sheet = await savedBy(page, 'Save sheet as PDF');
  expect(sheet.name).toBe('The wet stamp exposure sheet.pdf');
  expect(strFromU8(sheet.bytes.subarray(0, 5))).toBe('%PDF-');
  await kind(page, 'Sprite sheet');
  await page.getByLabel('Width of a mouth’s square').selectOption('128');
  const sprites = unzipSync((await savedBy(page, 'Save sprites')).bytes);
  const { width, height } = JSON.parse(strFromU8(sprites['sprites.json']!)) as { width: number; height: number };
  expect(header(sprites['sprites.png']!)).toEqual({ width, height, colourType: 6 });
  await kind(page, 'Scene bundle');
  const bundle = await savedBy(page, 'Save bundle');
  await page.goto(app.url('/'));
  await page
    .getByLabel('Bundle to open')
    .setInputFiles({ name: bundle.name, mimeType: 'application/zip', buffer: Buffer.from(bundle.bytes) });
  await expect(page).toHaveURL(/\/scenes\/[0-9a-f-]{36}\/key/);
  await expect(page.getByText('The wet stamp 2')).toBeVisible();
  const cards = await app.json<{ id: string; title: string }[]>('/api/scenes');
  const [opened, before] = await Promise.all(
    [cards.find(({ title }) => title === 'The wet stamp 2')!.id, 'the-wet-stamp'].map((id) => app.json<SceneAnswer>(`/api/scenes/${id}`)),
  );
  expect(opened!.document.exposures).toEqual(before!.document.exposures);
  // What is none is told, and home stays.
  await page.goto(app.url('/'));
  await page.getByLabel('Bundle to open').setInputFiles({ name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText(/notes\.zip: This is not a bundle/)).toBeVisible();
});

/** What ffprobe and ffmpeg find in a film: frames, rate, and the sound as 16 bits at 48 000 Hz. */
function probed(file: string): { frames: number; rate: string; size: string; sound: Int16Array } {
  const asked = ['-v', 'error', '-count_frames', '-select_streams', 'v:0', '-of', 'csv=p=0', '-show_entries'];
  const [width, height, rate, frames] = execFileSync('ffprobe', [...asked, 'stream=width,height,r_frame_rate,nb_read_frames', file], {
    encoding: 'utf8',
  })
    .trim()
    .split(',');
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 's16le', '-'], { maxBuffer: 1e9 });
  return { frames: Number(frames), rate: rate!, size: `${width}x${height}`, sound: new Int16Array(Uint8Array.from(raw).buffer) };
}

/** By how many samples one sound lies after another, at most so many either way. */
function lagOf(sound: Int16Array, other: Int16Array, most: number): number {
  let [best, lag] = [-1, 0];
  const [from, to] = [48_000, Math.min(other.length, 48_000 * 4)];
  for (let shift = -most; shift <= most; shift += 6) {
    let sum = 0;
    for (let index = from; index < to; index += 7) sum += sound[index + shift]! * other[index]!;
    if (sum > best) [best, lag] = [sum, shift];
  }
  return lag;
}

for (const [scene, rate] of [
  ['the-wet-stamp', '24/1'],
  ['a-complaint', '12/1'],
] as const)
  test(`a film of ${scene} has exactly the scene’s frames, and its sound where it is`, async ({ page, app }) => {
    await openDemo(page, app, scene, 'hand-off?as=film');
    await page.getByLabel('Size').selectOption('640x360');
    await page.getByLabel('frame number').check();
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save film' }).click();
    const film = await (await downloading).path();
    await expect(page.getByText(/^\d+ frames saved/)).toBeVisible();
    const { document } = await app.json<SceneAnswer>(`/api/scenes/${scene}`);
    const found = probed(film);
    expect(found).toMatchObject({ frames: document.settings[0]!.lengthFrames, rate, size: '640x360' });
    const wave = new Uint8Array(await (await fetch(app.url(`/api/assets/${document.clips[0]!.audio}`))).arrayBuffer());
    const truth = truthOfWave(wave);
    if ('refusal' in truth) throw new Error(truth.refusal);
    // Opus is not the wave it was made of, but it lies where it lay, to an eighth of a millisecond.
    expect(Math.abs(lagOf(found.sound, truth.samples, 600))).toBeLessThanOrEqual(6);
  });

test('a film can be given up, and nothing is saved', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off?as=film');
  await page.getByLabel('Size').selectOption('1920x1080');
  let files = 0;
  page.on('download', () => (files += 1));
  await page.getByRole('button', { name: 'Save film' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Given up; nothing was saved.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save film' })).toBeEnabled();
  expect(files).toBe(0);
});

test('a column of numbers is pasted into the lane, told what it is, and taken back in one step; our own sheet comes in again', async ({
  page,
  app,
}) => {
  const documentNow = async (): Promise<SceneDocument> => (await app.json<SceneAnswer>('/api/scenes/the-last-ferry')).document;
  await openDemo(page, app, 'the-last-ferry', 'hand-off?as=sheet');
  const before = await documentNow();
  const sheet = await savedBy(page, 'Save sheet as CSV');
  await kind(page, 'Numbers brought in');
  const pasted = page.getByLabel('Numbers, pasted');
  await pasted.fill('hello\nthere');
  await expect(page.getByText(/No cell of that column names a drawing/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lay them into the lane' })).toBeDisabled();
  await pasted.fill('2\n2\n11\n\n\n99\n12');
  await expect(page.getByTestId('counts')).toHaveText('3 mouths over frames 1001 to 1007.');
  await expect(page.getByText('No drawing of this chart: 99')).toBeVisible();
  await page.getByRole('button', { name: 'Lay them into the lane' }).click();
  await saved(page);
  const laid = (await documentNow()).exposures.filter(({ from }) => from < 7);
  expect(laid.slice(0, 2).map(({ from, to, drawing, inked }) => [from, to, drawing, inked])).toEqual([
    [0, 2, 'press', true],
    [2, 5, 'drop', true],
  ]);
  expect(laid.at(-1)).toMatchObject({ from: 6, to: 7, drawing: 'ring', inked: true });
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await documentNow()).exposures).toEqual(before.exposures);
  // Our own sheet is read as what it is: nothing changes but that it is ink.
  await page
    .getByLabel('Sheet or key list to bring in')
    .setInputFiles({ name: 'sheet.csv', mimeType: 'text/csv', buffer: Buffer.from(sheet.bytes) });
  await expect(page.getByLabel('Column 5 is')).toHaveValue('drawing');
  await page.getByRole('button', { name: 'Lay them into the lane' }).click();
  await expect(page.getByText(/laid into the lane in ink|same mouths are here already/)).toBeVisible();
  await saved(page);
  const after = await documentNow();
  const shown = ({ exposures, settings }: SceneDocument): string[] => {
    const frames = new Array<string>(settings[0]!.lengthFrames).fill('');
    for (const { from, to, drawing } of exposures) frames.fill(drawing, from, to);
    return frames;
  };
  expect(shown(after)).toEqual(shown(before));
});

test('swaps are left out by a slider, lips that meet stay, and it is one step of undo', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'hand-off?as=swaps');
  const slider = page.getByLabel('Swaps left out');
  await expect(page.getByTestId('counts')).toHaveText(/^41 swaps, 0 fewer than keyed; another mouth in 0 of 90 frames\.$/);
  await slider.fill((await slider.getAttribute('max'))!);
  const counts = await page.getByTestId('counts').innerText();
  const [, swaps, spared] = /^(\d+) swaps, (\d+) fewer/.exec(counts)!;
  expect(Number(swaps) + Number(spared)).toBe(41);
  expect(Number(spared)).toBeGreaterThan(9);
  const before = (await sceneDocument(app, 'a-complaint')).exposures;
  await page.getByRole('button', { name: 'Take it into the lane' }).click();
  await expect(page.getByText(`${spared} swaps are left out, in one step of undo.`)).toBeVisible();
  await saved(page);
  const after = (await sceneDocument(app, 'a-complaint')).exposures;
  expect(after.length - 1).toBe(Number(swaps));
  const closed = before.filter(({ drawing }) => drawing === 'press');
  expect(closed.length).toBeGreaterThan(2);
  for (const { from, to } of closed) expect(after.some((one) => one.drawing === 'press' && one.from <= from && one.to >= to)).toBe(true);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(async () => (await sceneDocument(app, 'a-complaint')).exposures.length).toBe(before.length);
});

test('several scenes go out at once: found, sorted and chosen, named by a pattern, in one zip', async ({ page, app }) => {
  await page.goto(app.url('/'));
  await page.getByRole('link', { name: 'Hand off several at once' }).click();
  const rows = page.getByRole('table').locator('tbody tr');
  await expect(rows).toHaveCount(3);
  await page.getByRole('button', { name: 'Frames' }).click();
  await expect(rows.first()).toContainText('A complaint at low tide');
  await page.getByRole('button', { name: 'Frames' }).click();
  await expect(rows.first()).toContainText('The last ferry');
  await page.getByLabel('Find scenes').fill('bramble');
  await expect(rows).toHaveCount(2);
  await page.getByRole('checkbox', { name: 'The wet stamp' }).uncheck();
  await expect(page.getByRole('button', { name: 'Hand off 1 scene' })).toBeVisible();
  await page.getByLabel('Find scenes').fill('');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  const pattern = page.getByLabel('Files are called');
  await pattern.fill('{take}');
  await expect(page.getByTestId('example')).toContainText('“{take}” stands for nothing.');
  await expect(page.getByRole('button', { name: 'Hand off 2 scenes' })).toBeDisabled();
  await pattern.fill('{number} {scene} {what}');
  await page.getByRole('checkbox', { name: 'Exposure sheet, PDF' }).uncheck();
  await page.getByRole('checkbox', { name: 'Exposure sheet, CSV' }).check();
  await expect(page.getByTestId('example')).toHaveText('For example 001 The last ferry keys.csv');
  const { name, bytes } = await savedBy(page, 'Hand off 2 scenes');
  expect(name).toBe('Night Post 2 scenes.zip');
  expect(Object.keys(unzipSync(bytes)).sort()).toEqual([
    '001 The last ferry exposure sheet.csv',
    '001 The last ferry keys.csv',
    '002 A complaint at low tide exposure sheet.csv',
    '002 A complaint at low tide keys.csv',
  ]);
  await expect(page.getByText('Saved, all of it.')).toBeVisible();
  // What was chosen is kept for this production.
  await page.reload();
  await expect(page.getByLabel('Files are called')).toHaveValue('{number} {scene} {what}');
});

/** A PNG of one colour. */
async function plainPicture(width: number, height: number): Promise<Buffer> {
  return sharp({ create: { width, height, channels: 4, background: { r: 40, g: 120, b: 90, alpha: 1 } } })
    .png()
    .toBuffer();
}

test('the mouth on a template, cut to its ink with its places, and the same files straight into a folder', async ({ page, app }) => {
  // The browser's own private folder stands for one that is chosen.
  await page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async () => (await navigator.storage.getDirectory()).getDirectoryHandle('chosen', { create: true }),
    });
  });
  await openDemo(page, app, 'a-complaint', 'hand-off');
  await page.getByLabel('Which').selectOption({ label: 'each drawing of the chart once' });
  await page.getByRole('radio', { name: 'mouth on a template' }).check();
  await expect(page.getByText('Choose the picture that the mouth is put on.')).toBeVisible();
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a picture' }).click();
  await (await choosing).setFiles({ name: 'plate.png', mimeType: 'image/png', buffer: await plainPicture(400, 300) });
  await expect(page.getByLabel('Width in pixels')).toHaveValue('400');
  await expect(page.getByLabel('Height in pixels')).toHaveValue('300');
  await page.getByRole('slider', { name: 'Across' }).fill('100');
  await page.getByRole('slider', { name: 'Turn' }).fill('90');
  // With the template every pixel is its green but for the mouth, which lies where it was put.
  const whole = unzipSync((await savedBy(page, 'Save pictures')).bytes);
  const names = Object.keys(whole).sort();
  const { data, info } = await sharp(whole[names.at(-1)!]!).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([400, 300]);
  const green = (x: number, y: number): boolean => data[(y * 400 + x) * 4] === 40 && data[(y * 400 + x) * 4 + 1] === 120;
  expect([green(5, 5), green(390, 290), green(300, 150)]).toEqual([true, true, true]);
  let inked = 0;
  for (let y = 0; y < 300; y++) for (let x = 0; x < 200; x++) if (!green(x, y)) inked += 1;
  expect(inked).toBeGreaterThan(200);
  // Without it there is the mouth alone, cut to its ink; the table says where it lay, and it is there, pixel for pixel.
  await page.getByLabel('the template is written with the mouth').uncheck();
  const clear = unzipSync((await savedBy(page, 'Save pictures')).bytes);
  await page.getByLabel('cut to the ink, with a table of places').check();
  const cut = unzipSync((await savedBy(page, 'Save pictures')).bytes);
  const rows = Papa.parse<Record<string, string>>(strFromU8(cut['places.csv']!), { header: true, skipEmptyLines: true }).data;
  expect(rows).toHaveLength(names.length);
  for (const row of rows) {
    const own = await sharp(cut[row['picture']!]!).metadata();
    expect([own.width, own.height]).toEqual([Number(row['width']), Number(row['height'])]);
    const back = await sharp({ create: { width: 400, height: 300, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } } })
      .composite([{ input: Buffer.from(cut[row['picture']!]!), left: Number(row['left']), top: Number(row['top']) }])
      .raw()
      .toBuffer();
    const wanted = await sharp(clear[row['picture']!]!).ensureAlpha().raw().toBuffer();
    let differ = 0;
    for (let at = 3; at < wanted.length; at += 4) if (Math.abs(wanted[at]! - back[at]!) > 1) differ += 1;
    expect(differ).toBe(0);
  }
  await page.getByRole('button', { name: 'Save into a folder' }).click();
  /** What is in the folder by now: nothing while it is being written. */
  const readBack = (): Promise<Record<string, number[]>> =>
    page.evaluate(async () => {
      const found: Record<string, number[]> = {};
      try {
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('chosen');
        for await (const [name, handle] of folder as unknown as AsyncIterable<[string, FileSystemFileHandle]>)
          found[name] = [...new Uint8Array(await (await handle.getFile()).arrayBuffer())];
        return found;
      } catch {
        return {};
      }
    });
  await expect.poll(async () => Object.keys(await readBack()).sort()).toEqual(Object.keys(cut).sort());
  await expect(page.getByText(/^\d+ pictures saved\.$/)).toBeVisible();
  const written = await readBack();
  for (const [name, bytes] of Object.entries(written)) expect(Buffer.compare(Buffer.from(bytes), Buffer.from(cut[name]!))).toBe(0);
});

test('a part of the scene as GIF and as animated PNG, and a film with the line below', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'hand-off?as=film');
  await page.getByLabel('Size').selectOption('640x360');
  await page.getByLabel('First frame').fill('11');
  await page.getByLabel('Last frame').fill('5');
  await expect(page.getByTestId('counts')).toContainText('The last frame comes before the first.');
  await expect(page.getByRole('button', { name: 'Save film' })).toBeDisabled();
  await page.getByLabel('Last frame').fill('40');
  await expect(page.getByTestId('counts')).toHaveText('30 frames at 12 fps, 11 to 40.');
  await page.getByLabel('the line below: wave, words and mouths').check();
  const saveFilm = async (): Promise<string> => {
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save film' }).click();
    return (await downloading).path();
  };
  expect(probed(await saveFilm())).toMatchObject({ frames: 30, rate: '12/1', size: '640x360' });
  await page.getByLabel('the line below: wave, words and mouths').uncheck();
  const { exposures } = await sceneDocument(app, 'a-complaint');
  const starts = new Set(exposures.filter(({ from, to }) => to > 10 && from < 40).map(({ from }) => Math.max(10, from)));
  for (const [kind, format] of [
    ['gif', 'gif'],
    ['apng', 'png'],
  ] as const) {
    await page.getByLabel('Format').selectOption(kind);
    const path = await saveFilm();
    const seconds = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'packet=duration_time', '-of', 'csv=p=0', path], {
      encoding: 'utf8',
    })
      .trim()
      .split('\n')
      .map((line) => Number.parseFloat(line));
    // A picture for each mouth, together as long as the frames.
    expect(seconds).toHaveLength(starts.size);
    expect(Math.abs(seconds.reduce((sum, one) => sum + one, 0) - 30 / 12)).toBeLessThan(0.011);
    expect((await sharp(readFileSync(path)).metadata()).format).toBe(format);
  }
});
