/** A head that moves: numbered pictures in the place of the head, a mouth that follows a patch of them or is pressed by hand, handed off as seen. */
import { chartsWithOneOffs, facesOfFrames, pictureSvg, placesOf, type ChartDocument, type ChartView } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { type App, drag, expect, openDemo, saved, sceneDocument, test } from '../app.js';
import { differsFromPicture, hrefOf } from '../pixels.js';

const hasFfmpeg = (process.env['PATH'] ?? '').split(delimiter).some((path) => existsSync(join(path, 'ffmpeg')));

const SCENE = 'the-last-ferry';
const SIDE = 400;

/** How far the head has come on each picture, in pixels of the picture. */
const PATH = [0, 6, 13, 19, 24, 20, 12, 5].map((x, index) => ({ x, y: Math.round(4 * Math.sin(index)) }));

/** A head with a nose and ears that has come so far, as a numbered picture. */
async function numbered(
  page: Page,
  { x, y }: { x: number; y: number },
  index: number,
): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE}" height="${SIDE}"><g transform="translate(${x} ${y})"><ellipse cx="190" cy="195" rx="150" ry="175" fill="#e9bd93"/><circle cx="140" cy="150" r="14" fill="#2f2430"/><circle cx="240" cy="150" r="14" fill="#2f2430"/><path d="M186 168 L172 214 L206 218 Z" fill="#a9653f"/><circle cx="182" cy="206" r="6" fill="#51281a"/></g></svg>`;
  await page.setContent(`<body style="margin:0">${svg}</body>`);
  const buffer = await page.screenshot({ clip: { x: 0, y: 0, width: SIDE, height: SIDE }, omitBackground: true });
  return { name: `nod.${String(index + 1).padStart(4, '0')}.png`, mimeType: 'image/png', buffer };
}

async function bring(page: Page, app: App): Promise<void> {
  const files = [];
  for (const [index, at] of PATH.entries()) files.push(await numbered(page, at, index));
  await openDemo(page, app, SCENE);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Pictures of the head…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pictures of the head' });
  await dialog.getByLabel('Pictures of the head', { exact: true }).setInputFiles(files);
  await expect(dialog.getByTestId('chosen-pictures')).toContainText('8 files: nod.0001.png');
  await dialog.getByRole('button', { name: 'Lay them' }).click();
}

const follower = (page: Page): ReturnType<Page['getByRole']> => page.getByRole('dialog', { name: 'The mouth follows the pictures' });
const ownKeys = async (app: App): Promise<[number, number, boolean][]> => {
  const document = await sceneDocument(app, SCENE);
  const mouth = document.tracks.find(({ kind }) => kind === 'mouth')!;
  return placesOf(document, { track: mouth.id, of: 'own' }).map(({ frame, x, pencil }) => [frame, x, pencil === true]);
};

test('eight pictures are the head, on twos; the mouth follows the nose, and what is handed off is what is seen', async ({ page, app }) => {
  await bring(page, app);
  const dialog = follower(page);
  await expect(dialog.getByTestId('picture-number')).toHaveText('Picture 1 of 8');
  expect((await new AxeBuilder({ page }).include('[role=dialog]').analyze()).violations).toEqual([]);
  // A patch about the nose.
  const box = (await dialog.getByTestId('picture-to-follow').boundingBox())!;
  const at = (x: number, y: number): { x: number; y: number } => ({
    x: box.x + (x / SIDE) * box.width,
    y: box.y + (y / SIDE) * box.height,
  });
  await drag(page, at(160, 160), at(220, 228));
  await dialog.getByRole('button', { name: 'Follow it' }).click();
  await expect(dialog.getByTestId('followed')).toHaveText('Found on all 8 pictures.');
  await dialog.getByRole('button', { name: 'Put the mouth there' }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);

  const head = (await app.json<ChartView[]>('/api/charts')).find(({ document }) =>
    document.head[0]?.parts?.some(({ role }) => role === 'head'),
  )!;
  const unit = Math.min(head.document.head[0]!.width, head.document.head[0]!.height) / SIDE;
  const keys = await ownKeys(app);
  expect(keys.slice(0, 9).map(([frame]) => frame)).toEqual([0, 2, 4, 6, 8, 10, 12, 14, 16]);
  for (const [index, [, x, pencil]] of keys.slice(0, 8).entries()) {
    expect(Math.abs(x - PATH[index]!.x * unit)).toBeLessThan(unit);
    expect(pencil).toBe(true);
  }
  // On the easel the picture is there, the built head is not, and each frame is the picture that is handed off.
  const document = await sceneDocument(app, SCENE);
  const charts = chartsWithOneOffs(
    document,
    new Map<string, ChartDocument>((await app.json<ChartView[]>('/api/charts')).map((chart) => [chart.id, chart.document])),
  );
  const mouth = document.tracks.find(({ kind }) => kind === 'mouth')!;
  const looks = facesOfFrames(document, mouth.id, charts);
  await page.keyboard.press('Home');
  for (const frame of [0, 2, 4]) {
    await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(frame));
    await expect(page.locator('[data-testid=easel] [data-part="Head"] image')).toHaveCount(1);
    const svg = pictureSvg(
      charts.get(mouth.chartId)!,
      looks[frame],
      { width: SIDE, height: SIDE, withHead: true, charts },
      (hash) => new URL(`/api/assets/${hash}`, page.url()).href,
    );
    expect(await differsFromPicture(page, svg)).toBeLessThanOrEqual(2);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
  }
  // The places go with one step of undo, the lane of pictures with the next; both come again.
  await page.keyboard.press('Control+KeyZ');
  await saved(page);
  await expect.poll(() => ownKeys(app)).toEqual([]);
  await page.keyboard.press('Control+KeyZ');
  await expect(page.locator('[data-testid=easel] [data-part="Head"]')).toHaveCount(0);
  await saved(page);
  await page.keyboard.press('Control+Shift+KeyZ');
  await expect(page.locator('[data-testid=easel] [data-part="Head"]')).toHaveCount(1);
});

test('where the patch is lost it says so, and the mouth is pressed by hand from there, by mouse and by keys', async ({ page, app }) => {
  await bring(page, app);
  const dialog = follower(page);
  await dialog.getByRole('radio', { name: 'Press it by hand' }).click();
  const picture = dialog.getByTestId('picture-to-follow');
  const box = (await picture.boundingBox())!;
  for (let index = 0; index < 3; index++) {
    await expect(dialog.getByTestId('picture-number')).toHaveText(`Picture ${index + 1} of 8`);
    await picture.click({ position: { x: box.width * (0.45 + 0.05 * index), y: box.height * 0.7 } });
  }
  await expect(dialog.getByTestId('followed')).toHaveText('3 of 8 pressed.');
  // By keys: where it was on the one before, a little further, and on.
  await picture.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect(dialog.getByTestId('picture-number')).toHaveText('Picture 5 of 8');
  await expect(dialog.getByTestId('followed')).toHaveText('4 of 8 pressed.');
  await dialog.getByRole('button', { name: 'Put the mouth there' }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
  const keys = await ownKeys(app);
  const xs = keys.slice(0, 4).map(([, x]) => x);
  expect([...xs].sort((a, b) => a - b)).toEqual(xs);
  expect(keys.slice(0, 4).every(([, , pencil]) => !pencil)).toBe(true);
  // A patch of one tone is told, and followed nowhere.
  await page
    .getByRole('button', { name: 'Lanes', exact: true })
    .or(page.getByRole('button', { name: 'Head', exact: true }))
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'The mouth follows the pictures…' }).click();
  await drag(
    page,
    { x: box.x + box.width * 0.62, y: box.y + box.height * 0.6 },
    { x: box.x + box.width * 0.7, y: box.y + box.height * 0.68 },
  );
  await dialog.getByRole('button', { name: 'Follow it' }).click();
  await expect(dialog.getByTestId('followed')).toContainText('one tone');
});

test('a film is the plate behind the head, a picture a frame, the last one staying, as it is handed off', async ({ page, app }) => {
  test.skip(!hasFfmpeg, 'Debian’s ffmpeg makes the film.');
  const file = join(app.folder, 'harbour.webm');
  const made = 'testsrc=size=320x200:rate=25:duration=0.4';
  execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-f', 'lavfi', '-i', made, '-c:v', 'libvpx', '-b:v', '2M', file]);
  await openDemo(page, app, SCENE);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Pictures of the head…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pictures of the head' });
  await dialog.getByLabel('Pictures of the head', { exact: true }).setInputFiles(file);
  await dialog.getByRole('radio', { name: 'The plate behind it' }).click();
  // What is typed key by key is let be until it is whole.
  await dialog.getByLabel('From frame').selectText();
  await page.keyboard.type('1003');
  await expect(dialog.getByLabel('From frame')).toHaveValue('1003');
  await dialog.getByLabel('Frames for each').fill('1');
  await dialog.getByRole('radio', { name: 'It stays' }).click();
  await dialog.getByRole('button', { name: 'Lay them' }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
  const document = await sceneDocument(app, SCENE);
  const lane = document.tracks.find(({ part }) => part === 'Plate')!;
  const shown = document.exposures.filter(({ track }) => track === lane.id);
  expect(shown.map(({ from }) => from)).toEqual([2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
  expect(new Set(shown.map(({ drawing }) => drawing)).size).toBe(10);
  expect(shown.at(-1)!.to).toBe(document.settings[0]!.lengthFrames);
  const easel = page.getByTestId('easel');
  const charts = chartsWithOneOffs(
    document,
    new Map<string, ChartDocument>((await app.json<ChartView[]>('/api/charts')).map((chart) => [chart.id, chart.document])),
  );
  const mouth = document.tracks.find(({ kind }) => kind === 'mouth')!;
  await page.keyboard.press('Home');
  await expect(easel.locator('[data-part="Plate"]')).toHaveCount(0);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  const look = facesOfFrames(document, mouth.id, charts)[2];
  // Behind everything, the head's own art before it.
  await expect(easel.locator('svg > [data-part="Plate"] image')).toHaveCount(1);
  const svg = pictureSvg(charts.get(mouth.chartId)!, look, { width: SIDE, height: SIDE, withHead: true, charts }, hrefOf);
  await expect.poll(() => differsFromPicture(page, svg)).toBeLessThanOrEqual(2);
});

test('a film with nothing behind it keeps its ground clear', async ({ page, app }) => {
  test.skip(!hasFfmpeg, 'Debian’s ffmpeg makes the film.');
  const file = join(app.folder, 'mast.webm');
  const made =
    "testsrc=size=320x200:rate=12:duration=0.5,format=yuva420p,geq=lum='lum(X,Y)':cb='cb(X,Y)':cr='cr(X,Y)':a='if(lt(X,160),0,255)'";
  execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-f', 'lavfi', '-i', made, '-c:v', 'libvpx-vp9', '-pix_fmt', 'yuva420p', file]);
  await openDemo(page, app, SCENE);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Pictures of the head…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pictures of the head' });
  await dialog.getByLabel('Pictures of the head', { exact: true }).setInputFiles(file);
  await dialog.getByRole('radio', { name: 'The plate behind it' }).click();
  await dialog.getByLabel('Frames for each').fill('1');
  await dialog.getByRole('button', { name: 'Lay them' }).click();
  await expect(dialog).toHaveCount(0);
  await page.keyboard.press('Home');
  const plate = page.getByTestId('easel').locator('[data-part="Plate"] image');
  const alphas = await plate.evaluate(async (image: SVGImageElement) => {
    const bitmap = await createImageBitmap(await (await fetch(image.href.baseVal)).blob());
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    context.drawImage(bitmap, 0, 0);
    const alphaAt = (x: number): number => context.getImageData(x, 32, 1, 1).data[3]!;
    return { clear: alphaAt(bitmap.width / 4), drawn: alphaAt((bitmap.width * 3) / 4) };
  });
  expect(alphas.drawn).toBeGreaterThan(240);
  expect(alphas.clear).toBeLessThan(16);
});

test('what is no picture is said, and nothing is laid', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await sceneDocument(app, SCENE);
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('combobox').fill('numbered pictures');
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Pictures of the head' });
  await dialog
    .getByLabel('Pictures of the head', { exact: true })
    .setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('not a picture at all') });
  await dialog.getByRole('button', { name: 'Lay them' }).click();
  await expect(dialog.getByRole('alert')).toContainText('notes.png is not a picture that can be used');
  await dialog
    .getByLabel('Pictures of the head', { exact: true })
    .setInputFiles({ name: 'notes.webm', mimeType: 'video/webm', buffer: Buffer.from('not a film at all') });
  await dialog.getByRole('button', { name: 'Lay them' }).click();
  await expect(dialog.getByRole('alert')).toContainText('This film cannot be shown by the browser.');
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  expect(await sceneDocument(app, SCENE)).toEqual(before);
});

test('left while pictures are on their way, nothing is put on the head and nothing laid', async ({ page, app }) => {
  let release = (): void => undefined;
  const released = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/accept', async (route) => {
    await released;
    await route.continue();
  });
  const parts: string[] = [];
  page.on('request', (request) => request.url().endsWith('/parts') && parts.push(request.url()));
  const accepting = page.waitForRequest('**/accept');
  await bring(page, app);
  const before = await sceneDocument(app, SCENE);
  await accepting;
  const accepted = page.waitForResponse('**/accept');
  await page.getByRole('dialog', { name: 'Pictures of the head' }).getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  release();
  await (await accepted).finished();
  // What would come next has had its turn.
  await page.evaluate(async () => (await fetch('/api/scenes')).text());
  await page.reload();
  await saved(page);
  expect(parts).toEqual([]);
  expect(await sceneDocument(app, SCENE)).toEqual(before);
});
