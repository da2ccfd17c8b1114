/** Mouths from the animator's own files: taken in, named, laid on the face, and talking. */
import type { Locator, Page } from '@playwright/test';
import { lookToSvg, starterChart, type ChartView, type SceneView } from '@zest-jaw/core';
import { svgToPng } from '@zest-jaw/engine';
import { strFromU8, unzipSync, zipSync } from 'fflate';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type App, expect, hearTryOut, mouthLane, openDemo, saved, test } from '../app.js';

const chart = starterChart('Made', 'clay');
/** What an animator might call the thirteen. */
const NAMES: Readonly<Record<string, string>> = {
  rest: 'closed',
  press: 'MBP',
  bite: 'f_v',
  tip: 'th',
  lift: 'L',
  teeth: 'ss',
  push: 'sh',
  back: 'k',
  spread: 'ee',
  mid: 'eh',
  drop: 'ah',
  ring: 'oh',
  pucker: 'oo',
};
const mouths = chart.drawings.map((drawing, index) => ({
  name: NAMES[drawing.id]!,
  markup: lookToSvg(chart.settings[0]!.style, drawing, { idPrefix: `m${index}-` }),
}));

const svg = (inner: string, width = 140, height = 130): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${inner}</svg>`;
const GROUPS = svg(mouths.map(({ name, markup }) => `<g id="${name}" transform="translate(70 40)">${markup}</g>`).join(''));
const SHEET = svgToPng(
  svg(
    `<rect width="640" height="560" fill="#fbf7ee"/>${mouths.map(({ markup }, index) => `<g transform="translate(${80 + (index % 4) * 150} ${60 + Math.floor(index / 4) * 130})">${markup}</g>`).join('')}`,
    640,
    560,
  ),
);
const PAGES = Object.fromEntries(
  mouths.map(({ name, markup }) => [`mouths/${name}.png`, svgToPng(svg(`<g transform="translate(70 40)">${markup}</g>`))]),
);

const file = (name: string, content: string | Uint8Array): { name: string; mimeType: string; buffer: Buffer } => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(content),
});
const choose = (page: Page, ...files: ReturnType<typeof file>[]): Promise<void> =>
  page.getByLabel('Mouths to import', { exact: true }).setInputFiles(files);
const cards = (page: Page): Locator => page.getByRole('listbox', { name: 'Drawings in tray order' }).getByRole('option');
const odette = async (app: App): Promise<ChartView['document']> => (await app.json<ChartView>('/api/charts/odette-front')).document;

async function toKey(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByRole('group', { name: 'Tray' })).toBeVisible();
}

test('an SVG whose groups are mouths takes the place of a starter, and the scene talks with them', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  const lane = (await app.json<SceneView>('/api/scenes/a-complaint')).document.exposures;
  await choose(page, file('mouths.svg', GROUPS));
  const dialog = page.getByRole('dialog', { name: '13 mouths found' });
  await expect(dialog.getByText('MBP → Press')).toBeVisible();
  await expect(dialog.getByLabel('Take closed as')).toHaveValue('rest');
  await expect(dialog.getByLabel('What oo plays')).toHaveText('Pucker');
  await dialog.getByRole('button', { name: 'Take 13 mouths' }).click();
  await expect(cards(page)).toHaveCount(13);
  await expect(cards(page).nth(1)).toContainText('MBP');
  await saved(page);
  expect((await odette(app)).drawings.every((drawing) => drawing.art.kind === 'placed')).toBe(true);
  // Measured from the picture: the most open is the one that is.
  await page.getByRole('button', { name: 'By opening' }).click();
  await page.getByRole('menuitem', { name: 'Order them, each keeps its key' }).click();
  await expect(cards(page).last()).toContainText('ah');
  await page.getByRole('button', { name: /^Undo/ }).click();
  const tryOut = page.getByRole('region', { name: 'Try-out' });
  await tryOut.getByRole('button', { name: /^Yours/ }).click();
  await hearTryOut(page, 4);
  // What was keyed before is still keyed, ink and all; it only looks otherwise now.
  await toKey(page);
  const cells = await mouthLane(page);
  expect(cells.map(({ from, to, drawing, inked }) => [from, to, drawing, inked])).toEqual(
    lane.map(({ from, to, drawing, inked }) => [from, to, drawing, inked]),
  );
  await expect(page.getByTestId('easel').locator('[data-part=mouth] image')).toHaveAttribute('href', /\/api\/assets\/[0-9a-f]{64}/);
  // And so it is handed on: the pictures in the zip are not empty.
  await page.getByRole('link', { name: 'Hand off' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save pictures' }).click();
  const zip = unzipSync(readFileSync(await (await download).path()));
  const sizes = Object.values(zip).map((bytes) => bytes.length);
  expect(new Set(sizes).size).toBeGreaterThan(4);
  expect(strFromU8(zip[Object.keys(zip)[0]!]!.slice(1, 4))).toBe('PNG');
});

test('a sheet of mouths is cut by its figures or by a grid, and laid on the face by the upper lip', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  await choose(page, file('sheet.png', SHEET));
  await page.getByRole('dialog', { name: 'One mouth found' }).getByRole('radio', { name: 'Separate figures' }).click();
  const dialog = page.getByRole('dialog', { name: '13 mouths found' });
  await expect(dialog.getByText('figure 13 of 13')).toBeAttached();
  await dialog.getByRole('radio', { name: 'A grid' }).click();
  const grid = page.getByRole('dialog', { name: /mouths found/ });
  await grid.getByLabel('rows').fill('4');
  // The last three cells are empty.
  await expect(page.getByRole('dialog', { name: '13 mouths found' }).getByText('cell 13 of 16')).toBeAttached();
  await dialog.getByRole('radio', { name: 'Separate figures' }).click();
  await expect(dialog.getByText('figure 2 of 13')).toBeVisible();
  await dialog.getByLabel('What sheet 2 plays').click();
  await page.getByRole('menuitemcheckbox', { name: 'Press' }).click();
  await page.keyboard.press('Escape');
  await expect(dialog.getByLabel('What sheet 2 plays')).toHaveText('Press');
  await dialog.getByLabel('Take sheet 2 as').selectOption('press');
  await dialog.getByLabel('Label of sheet 2').fill('Tight');
  for (let index = 3; index <= 13; index++) await dialog.getByLabel(`Take sheet ${index} as`, { exact: true }).selectOption('out');
  await dialog.getByRole('button', { name: 'Take 2 mouths' }).click();
  await expect(cards(page)).toHaveCount(14);
  await saved(page);
  const { drawings } = await odette(app);
  expect(drawings.find((drawing) => drawing.id === 'press')).toMatchObject({ label: 'Tight', keycap: 'W', groups: ['press'] });
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(cards(page)).toHaveCount(13);
  await saved(page);
  expect((await odette(app)).drawings.every((drawing) => drawing.art.kind === 'built')).toBe(true);
});

test('a zip of pictures named by sounds, with a bad one among them', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  await choose(page, file('set.zip', zipSync({ ...PAGES, 'mouths/broken.png': new Uint8Array([1, 2, 3]) })));
  const dialog = page.getByRole('dialog', { name: '13 mouths found' });
  await expect(dialog.getByText(/broken.png is not a picture that can be used/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Take 13 mouths' }).click();
  await expect(page.getByTestId('coverage')).toContainText('All 13 sound groups have a mouth.');
  // They lie as on their pages; lining up by the page moves nothing.
  await page.getByRole('button', { name: 'Line up' }).click();
  await page.getByRole('radio', { name: 'As on the page' }).click();
  await expect(page.getByText(/Nothing would move/)).toBeVisible();
});

test('a folder of pictures, chosen or dropped, with folders inside', async ({ page, app }) => {
  const folder = join(app.folder, 'bramble mouths');
  mkdirSync(join(folder, 'round'), { recursive: true });
  for (const [path, bytes] of Object.entries(PAGES).slice(0, 4)) writeFileSync(join(folder, path.replace('mouths/', '')), bytes);
  writeFileSync(join(folder, 'round', 'oo.png'), PAGES['mouths/oo.png']!);
  await openDemo(page, app, 'a-complaint', 'chart');
  await page.getByLabel('Folder of mouths to import').setInputFiles(folder);
  const dialog = page.getByRole('dialog', { name: '5 mouths found' });
  await expect(dialog.getByLabel('Take oo as')).toHaveValue('pucker');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  // Dropped on the page, as files are.
  const transfer = await page.evaluateHandle((base64) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const data = new DataTransfer();
    data.items.add(new File([bytes], 'oh.png', { type: 'image/png' }));
    return data;
  }, Buffer.from(PAGES['mouths/oh.png']!).toString('base64'));
  await page.locator('main').dispatchEvent('drop', { dataTransfer: transfer });
  await expect(page.getByRole('dialog', { name: 'One mouth found' }).getByLabel('Take oh as')).toHaveValue('ring');
});

test('what cannot be used is refused in a sentence, and nothing of it stays', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  const before = await odette(app);
  for (const [name, content, sentence] of [
    ['bad.svg', svg('<script>alert(1)</script><rect width="9" height="9"/>'), /bad.svg contains a script/],
    ['far.svg', svg('<image href="http://example.org/a.png"/>'), /refers to something outside the file/],
    ['out.zip', zipSync({ '../../out.png': SHEET }), /would be put outside its folder/],
    ['page.png', '<html></html>', /page.png is not a picture that can be used/],
  ] as const) {
    await choose(page, file(name, content));
    const dialog = page.getByRole('dialog', { name: 'These cannot be used' });
    await expect(dialog.getByText(sentence)).toBeVisible();
    await dialog.getByRole('button', { name: 'Close' }).click();
  }
  await expect(cards(page)).toHaveCount(13);
  // Given up half way, it goes too.
  await choose(page, file('mouths.svg', GROUPS));
  const dialog = page.getByRole('dialog', { name: '13 mouths found' });
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();
  expect(await odette(app)).toEqual(before);
});

test('a head from a picture with a jaw piece that follows the opening', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  await page.getByRole('button', { name: 'Head', exact: true }).click();
  const chooser = page.getByLabel('Picture of the head or the jaw');
  await page.getByRole('button', { name: 'Picture…' }).click();
  await chooser.setInputFiles(
    file(
      'head.svg',
      svg(
        '<circle cx="150" cy="150" r="140" fill="#8fa3b2"/><g><circle cx="110" cy="100" r="12"/></g><g><circle cx="190" cy="100" r="12"/></g>',
        300,
        300,
      ),
    ),
  );
  await saved(page);
  await expect.poll(async () => (await odette(app)).head[0]!.width).toBe(300);
  await page.getByRole('button', { name: 'Choose one…' }).click();
  await chooser.setInputFiles(file('jaw.svg', svg('<rect width="80" height="40" fill="#5f7382"/>', 80, 40)));
  await expect(page.getByLabel('Travel')).toBeVisible();
  const jaw = page.getByTestId('desk').locator('image').nth(1);
  const yOf = async (): Promise<number> => Number(await jaw.getAttribute('y'));
  await cards(page).filter({ hasText: 'Rest' }).click();
  const shut = await yOf();
  await cards(page).filter({ hasText: 'Drop' }).click();
  await expect.poll(yOf).toBeGreaterThan(shut + 10);
  await page.getByLabel('Turn').fill('12');
  await saved(page);
  expect((await odette(app)).head[0]).toMatchObject({ mouth: { angle: 12 }, jaw: { travel: expect.any(Number) } });
});

test('a character with two charts goes over from one to the other inside a scene', async ({ page, app }) => {
  const made = await fetch(app.url('/api/charts'), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Odette, angry', characterId: 'odette', size: 6, style: 'pen' }),
  });
  const { id } = (await made.json()) as { id: string };
  await openDemo(page, app, 'a-complaint');
  const views = page.getByRole('group', { name: 'Chart from the playhead on' });
  await expect(views.getByRole('button', { name: 'front' })).toHaveAttribute('aria-pressed', 'true');
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+ArrowRight');
  await views.getByRole('button', { name: 'angry' }).click();
  await expect(page.getByRole('group', { name: 'Tray' }).getByRole('button', { name: /^Put / })).toHaveCount(6);
  await saved(page);
  const scene = async (): Promise<SceneView['document']> => (await app.json<SceneView>('/api/scenes/a-complaint')).document;
  expect((await scene()).views).toMatchObject([{ chartId: id, from: 36 }]);
  // Keyed again, every mouth there is one of the six, and before it one of the thirteen.
  await page.getByRole('button', { name: 'Key again' }).click();
  await expect(page.getByText(/the ink stayed|already as the rules have it/)).toBeVisible();
  await saved(page);
  const six = new Set((await app.json<ChartView>(`/api/charts/${id}`)).document.drawings.map((drawing) => drawing.id));
  for (const exposure of (await scene()).exposures) if (exposure.from >= 36) expect(six.has(exposure.drawing)).toBe(true);
  await page.keyboard.press('Home');
  await expect(page.getByRole('group', { name: 'Tray' }).getByRole('button', { name: /^Put / })).toHaveCount(13);
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Control+KeyZ');
  await saved(page);
  await expect.poll(async () => (await scene()).views.length).toBe(0);
});
