/** Numbered pictures handed off: the files are opened and looked into. */
import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import sharp from 'sharp';
import { expect, openDemo, test } from '../app.js';
import { header, rowsOf, savedBy, type SceneAnswer } from '../handedOff.js';

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
