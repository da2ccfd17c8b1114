/** Handing on: the files are opened and looked into. */
import { readFileSync } from 'node:fs';
import type { SceneDocument } from '@zest-jaw/core';
import { unzipSync } from 'fflate';
import { expect, openDemo, test } from '../app.js';

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

test('the exposure sheet as CSV, with a row a frame', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'hand-off');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save sheet' }).click();
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
