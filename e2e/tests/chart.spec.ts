/** Changing a mouth chart: shapes, names, keys and what plays what, seen at once in the scene. */
import type { Locator, Page } from '@playwright/test';
import type { BuiltArt, ChartView } from '@zest-jaw/core';
import { type App, drag, expect, hearTryOut, openDemo, test } from '../app.js';

const SAVED = 'saved';

/** The step is loaded when it is opened: until it is there, the buttons of the one before still are. */
async function toChart(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Chart', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Drawings' })).toBeVisible();
}

async function toKey(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByRole('group', { name: 'Tray' })).toBeVisible();
}

const cards = (page: Page): Locator => page.getByRole('listbox', { name: 'Drawings in tray order' }).getByRole('option');
const card = (page: Page, label: string): Locator => cards(page).filter({ hasText: new RegExp(`^\\d+[A-Z]?${label}`) });
const mouthOnDesk = (page: Page): Locator => page.getByTestId('desk').locator('[data-part=mouth]');
const saved = (page: Page): Promise<void> => expect(page.getByTestId('save-state')).toHaveText(SAVED);

async function drawingOf(app: App, chart: string, id: string): Promise<ChartView['document']['drawings'][number]> {
  const view = await app.json<ChartView>(`/api/charts/${chart}`);
  return view.document.drawings.find((drawing) => drawing.id === id)!;
}

const jawOf = async (app: App, chart: string, id: string): Promise<number> => ((await drawingOf(app, chart, id)).art as BuiltArt).shape.jaw;

test('a mouth is reshaped by its handles and by keys, worn by the easel, undone, and there after a restart', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  await card(page, 'Drop').click();
  const before = await mouthOnDesk(page).innerHTML();
  // By mouse: the jaw's handle, up by a third of the opening.
  const handle = page.locator('[data-handle=jaw]');
  const box = (await handle.boundingBox())!;
  await drag(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: box.x + box.width / 2, y: box.y - 60 });
  await saved(page);
  const dragged = await jawOf(app, 'bramble-front', 'drop');
  expect(dragged).toBeLessThan(0.9);
  expect(dragged).toBeGreaterThan(0.4);
  expect(await mouthOnDesk(page).innerHTML()).not.toBe(before);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Jaw down')).toHaveValue('1');
  // By keys: the handle, then the slider.
  await handle.focus();
  for (let press = 0; press < 6; press++) await page.keyboard.press('ArrowUp');
  await expect(page.getByLabel('Jaw down')).not.toHaveValue('1');
  const jaw = page.getByLabel('Jaw down');
  await jaw.focus();
  for (let press = 0; press < 10; press++) await page.keyboard.press('ArrowLeft');
  const shaped = Number(await jaw.inputValue());
  expect(shaped).toBeLessThan(0.85);
  await saved(page);
  // The scene wears the new mouth without reloading.
  await toKey(page);
  await page.keyboard.press('KeyZ');
  expect(await page.getByTestId('easel').locator('[data-part=mouth]').innerHTML()).not.toBe(before);
  await toChart(page);
  await card(page, 'Drop').click();
  // A slow machine may part the changes into several steps of undo.
  for (let step = 0; step < 40 && (await page.getByLabel('Jaw down').inputValue()) !== '1'; step++)
    await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Jaw down')).toHaveValue('1');
  await page.getByRole('button', { name: /^Redo/ }).click();
  await saved(page);
  const kept = await jawOf(app, 'bramble-front', 'drop');
  expect(kept).toBeLessThan(1);
  await app.restart();
  expect(await jawOf(app, 'bramble-front', 'drop')).toBe(kept);
});

test('a drawing is copied, named, tagged, given a key and a group, dragged to its place, and replaced where it is used before it goes', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  await expect(cards(page)).toHaveCount(13);
  await card(page, 'Ring').click();
  await page.getByRole('button', { name: 'Copy into a new drawing' }).click();
  await expect(cards(page)).toHaveCount(14);
  await expect(page.getByLabel('Label')).toHaveValue('Ring copy');
  await page.getByLabel('Label').fill('Hoot');
  await page.getByLabel('Tags').fill('loud, surprised');
  await page.getByLabel('Keycap').selectOption('B');
  await page.getByRole('group', { name: 'Plays' }).getByRole('button', { name: 'Push', exact: true }).click();
  await card(page, 'Hoot').dragTo(card(page, 'Bite'), { steps: 12 });
  await expect(cards(page).nth(2)).toContainText('Hoot');
  await page.getByRole('button', { name: 'Towards the front of the tray' }).click();
  await expect(cards(page).nth(1)).toContainText('Hoot');
  await saved(page);
  const { document } = await app.json<ChartView>('/api/charts/odette-front');
  const hoot = document.drawings.find((drawing) => drawing.label === 'Hoot')!;
  expect(hoot).toMatchObject({ number: 14, place: 1, keycap: 'B', groups: ['push'], tags: ['loud', 'surprised'] });

  await toKey(page);
  await page.keyboard.press('KeyB');
  await expect(page.getByTestId('readout')).toContainText('Hoot, ink');
  await saved(page);
  await toChart(page);
  await card(page, 'Hoot').click();
  await page.getByRole('button', { name: 'Remove this drawing' }).click();
  const dialog = page.getByRole('dialog', { name: '“Hoot” is in use' });
  await expect(dialog).toContainText('“A complaint at low tide”');
  await dialog.getByRole('radio', { name: 'Ring' }).click();
  await dialog.getByRole('button', { name: /Put the other in its place/ }).click();
  await expect(cards(page)).toHaveCount(13);
  await expect(page.getByTestId('coverage')).toContainText('Missing: Push');
  await toKey(page);
  await expect(page.getByTestId('readout')).toContainText('Ring, ink');
});

test('cards are chosen and put in order from the keyboard alone', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  await page.keyboard.press('KeyZ');
  await expect(page.getByLabel('Label')).toHaveValue('Drop');
  await page.keyboard.press('BracketLeft');
  await expect(page.getByLabel('Label')).toHaveValue('Mid');
  await card(page, 'Bite').focus();
  await page.keyboard.press('F2');
  await expect(page.getByText(/^Bite (picked up|is over Bite)\.$/)).toBeAttached();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('Bite is over Press.')).toBeAttached();
  await page.keyboard.press('Enter');
  await expect(cards(page).nth(1)).toContainText('Bite');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'All keys' })).toContainText('pick a card up');
});

test('the onion skin, flipping and copying into others', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  await card(page, 'Drop').click();
  await page.getByLabel('Onion skin of').check();
  await expect(page.getByTestId('desk').locator('[data-part=onion]')).toBeVisible();
  // Any drawing dropped on the desk is laid under the one on it.
  await card(page, 'Teeth').dragTo(page.getByTestId('desk'), { steps: 15 });
  await expect(page.getByLabel('Drawing under this one')).toHaveValue('teeth');
  const drop = await mouthOnDesk(page).innerHTML();
  await page.getByTestId('desk').focus();
  await page.keyboard.down('Slash');
  await expect.poll(() => mouthOnDesk(page).innerHTML()).not.toBe(drop);
  await page.keyboard.up('Slash');
  await expect.poll(() => mouthOnDesk(page).innerHTML()).toBe(drop);
  await page.getByRole('button', { name: /Copy into other drawings/ }).click();
  const dialog = page.getByRole('dialog', { name: /Copy “Drop” into others/ });
  await dialog.getByRole('button', { name: 'Mid' }).click();
  await dialog.getByRole('button', { name: 'Copy into 1' }).click();
  await saved(page);
  expect((await drawingOf(app, 'bramble-front', 'mid')).art).toEqual((await drawingOf(app, 'bramble-front', 'drop')).art);
});

test('registration by mouse and by keys, by crosses and by the upper lip, and undone', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  const placement = async (): Promise<{ x: number; y: number; scale: number }> => {
    await saved(page);
    return (await drawingOf(app, 'bramble-front', 'ring')).placement;
  };
  await card(page, 'Ring').click();
  await page.getByRole('button', { name: 'Place', exact: true }).click();
  const desk = (await page.getByTestId('desk').boundingBox())!;
  const middle = { x: desk.x + desk.width / 2, y: desk.y + desk.height / 2 };
  await drag(page, { x: middle.x, y: middle.y }, { x: middle.x + 40, y: middle.y + 20 });
  const dragged = await placement();
  expect(dragged.x).toBeGreaterThan(5);
  expect(dragged.y).toBeGreaterThan(2);
  expect(dragged.scale).toBe(1);
  await page.getByTestId('desk').focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Equal');
  const nudged = await placement();
  expect(nudged.scale).toBeCloseTo(1.01, 6);
  expect(nudged.x).toBeCloseTo((dragged.x - 0.5) * 1.01, 4);
  expect(nudged.y).toBeCloseTo((dragged.y + 5) * 1.01, 4);
  await page.getByRole('button', { name: 'Line up' }).click();
  const dialog = page.getByRole('dialog', { name: 'Line up' });
  await dialog.getByRole('radio', { name: 'By their crosses' }).click();
  await dialog.getByRole('button', { name: 'Move 1 drawing' }).click();
  expect(await placement()).toMatchObject({ x: 0, y: 0 });
  // The cross marked somewhere else, and lined up by it again.
  await page.getByRole('button', { name: 'Cross', exact: true }).click();
  await page.mouse.click(middle.x + 30, middle.y);
  await page.getByRole('button', { name: 'Line up' }).click();
  await dialog.getByRole('radio', { name: 'By their crosses' }).click();
  await dialog.getByRole('button', { name: 'Move 1 drawing' }).click();
  expect((await placement()).x).toBeLessThan(-4);
  await page.getByRole('button', { name: /^Undo/ }).click();
  expect(await placement()).toMatchObject({ x: 0, y: 0 });
});

test('a mouth drawn with the pen: lines, a fill, the eraser, a line moved and removed, each undone', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'chart');
  await card(page, 'Mid').click();
  await page.getByRole('button', { name: 'Draw it' }).click();
  const desk = page.getByTestId('desk');
  const box = (await desk.boundingBox())!;
  const at = (x: number, y: number): [number, number] => [box.x + box.width * x, box.y + box.height * y];
  const stroke = async (points: readonly (readonly [number, number])[]): Promise<void> => {
    await page.mouse.move(...at(...points[0]!));
    await page.mouse.down();
    for (const point of points.slice(1)) await page.mouse.move(...at(...point), { steps: 3 });
    await page.mouse.up();
  };
  const marks = mouthOnDesk(page).locator('path');
  await stroke(
    Array.from(
      { length: 25 },
      (_, step) => [0.5 + 0.2 * Math.cos((step * Math.PI) / 12), 0.5 + 0.16 * Math.sin((step * Math.PI) / 12)] as const,
    ),
  );
  await expect(marks).toHaveCount(1);
  // Two quick strokes are two steps of undo.
  for (const y of [0.8, 0.85])
    await stroke([
      [0.4, y],
      [0.6, y],
    ]);
  await expect(marks).toHaveCount(3);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(marks).toHaveCount(2);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(marks).toHaveCount(1);
  await page.getByRole('button', { name: 'Fill', exact: true }).click();
  await page.getByRole('button', { name: 'Colour of the inside' }).click();
  await page.mouse.click(...at(0.5, 0.5));
  await expect(marks).toHaveCount(2);
  // Outside the line there is nothing to fill.
  await page.mouse.click(...at(0.1, 0.1));
  await expect(page.getByText(/Nothing was filled/)).toBeVisible();
  await expect(page.getByRole('meter', { name: 'darkness' })).not.toHaveAttribute('aria-valuenow', '0');
  await page.getByRole('button', { name: 'Erase', exact: true }).click();
  await stroke([
    [0.2, 0.5],
    [0.8, 0.5],
  ]);
  // The line falls in two, the fill loses a stripe.
  await expect(marks).toHaveCount(3);
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  const whole = await mouthOnDesk(page).innerHTML();
  await page.mouse.move(...at(0.5, 0.34));
  await page.mouse.down();
  await page.mouse.move(...at(0.5, 0.24), { steps: 5 });
  await page.mouse.up();
  await expect.poll(() => mouthOnDesk(page).innerHTML()).not.toBe(whole);
  await page.keyboard.press('Delete');
  await expect(marks).toHaveCount(2);
  await saved(page);
  expect((await drawingOf(app, 'bramble-front', 'mid')).art).toMatchObject({ kind: 'drawn' });
  for (let step = 0; step < 3; step++) await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(marks).toHaveCount(2);
  await expect(page.getByText('Drawn by hand')).toBeVisible();
  for (let step = 0; step < 3; step++) await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText('Built from parameters')).toBeVisible();
});

test('a starter of six mouths for a new character talks at once', async ({ page, app }) => {
  await page.goto(app.url('/'));
  await page.getByRole('button', { name: 'New character' }).click();
  const dialog = page.getByRole('dialog', { name: 'New character' });
  await dialog.getByLabel('Who').fill('Pebble');
  await dialog.getByRole('radio', { name: '6', exact: true }).click();
  await dialog.getByRole('radio', { name: /Cut paper/ }).click();
  await dialog.getByRole('button', { name: 'Make the chart' }).click();
  await expect(page.getByLabel('Name of the chart')).toHaveValue('Pebble, front');
  await expect(cards(page)).toHaveCount(6);
  await expect(page.getByTestId('coverage')).toContainText('All 13 sound groups have a mouth.');
  await hearTryOut(page, 3);
  // Variants: two redrawn looks that boil.
  await card(page, 'Rest').click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  await page.getByLabel('What the variants are for').selectOption('cycle');
  await saved(page);
  const [chart] = (await app.json<ChartView[]>('/api/charts')).filter((view) => view.name === 'Pebble, front');
  expect(chart!.document.drawings[0]).toMatchObject({ motion: 'cycle', variants: [{}, {}] });
  // A second view of the same face, copied from this one.
  await page.getByRole('button', { name: /^Charts/ }).click();
  await page.getByRole('menuitem', { name: 'New chart…' }).click();
  await page.getByRole('radio', { name: 'A copy of “Pebble, front”' }).click();
  await page.getByRole('button', { name: 'Make the chart' }).click();
  await expect(page.getByLabel('Name of the chart')).toHaveValue('Pebble, three-quarter');
  await expect(page.getByRole('button', { name: 'Charts (2)' })).toBeVisible();
});
