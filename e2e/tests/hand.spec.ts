/** The pointer's hand on the lane: several mouths chosen, a selection slid and retimed by dragging, mouths snapped to the hold. */
import type { Exposure, SceneView } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { type App, drag, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';
const laneOf = async (app: App): Promise<readonly Exposure[]> => (await sceneDocument(app, SCENE)).exposures;

/** Points of the lane of mouths, with the whole scene in one row. */
async function laneAt(page: Page): Promise<(frame: number) => { x: number; y: number }> {
  await page.keyboard.press('Shift+8');
  const sheet = page.getByTestId('bar-sheet');
  await expect(sheet).toHaveAttribute('data-zoom', '172');
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const [left, perFrame, mouthY] = await Promise.all(
    ['left', 'per-frame', 'mouth-y'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))),
  );
  return (frame) => ({ x: box.x + left! + frame * perFrame!, y: box.y + mouthY! + 30 });
}

test('mouths are chosen one by one, or all of a drawing, then inked, exchanged and deleted in one step each', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  const at = await laneAt(page);
  const [one, other] = [before[2]!, before[6]!];
  await page.keyboard.down('Control');
  for (const { from, to } of [one, other]) {
    const { x, y } = at((from + to) / 2);
    await page.mouse.click(x, y);
  }
  await page.keyboard.up('Control');
  await expect(page.getByTestId('chosen')).toHaveCount(2);
  await page.keyboard.press('x');
  await saved(page);
  const swapped = await laneOf(app);
  expect(swapped.filter(({ id }) => id === one.id || id === other.id)).toEqual([
    { ...one, drawing: 'ring', inked: true, plays: [] },
    { ...other, drawing: 'ring', inked: true, plays: [] },
  ]);
  await page.keyboard.press('Backspace');
  await saved(page);
  expect(await laneOf(app)).toHaveLength(before.length - 2);
  await expect(page.getByTestId('chosen')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(() => laneOf(app)).toEqual(before);
  // All of a drawing, by a key.
  const pencil = before.find(({ inked, drawing }) => !inked && before.filter((same) => same.drawing === drawing).length > 2)!;
  const { x, y } = at(pencil.from + 0.5);
  await page.mouse.click(x, y);
  await page.keyboard.press('Control+Shift+a');
  const alike = before.filter(({ drawing }) => drawing === pencil.drawing);
  await expect(page.getByTestId('chosen')).toHaveCount(alike.length);
  await page.keyboard.press('i');
  await saved(page);
  expect((await laneOf(app)).filter(({ drawing }) => drawing === pencil.drawing).every(({ inked }) => inked)).toBe(true);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('chosen')).toHaveCount(0);
});

test('a selection is slid by its middle, a phrase made a fifth shorter by its end in three actions, a mouth slid with Alt', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  const at = await laneAt(page);
  let actions = 0;
  await page.mouse.click(at(20).x, at(20).y);
  await page.keyboard.press('n');
  actions += 1;
  const band = page.getByTestId('selection');
  const width = async (): Promise<number> => (await band.boundingBox())!.width;
  const phrase = await width();
  const box = (await band.boundingBox())!;
  const end = { x: box.x + box.width - 2, y: at(0).y };
  await drag(page, end, { x: end.x - box.width * 0.2, y: end.y }, { held: true });
  await expect(page.getByTestId('drag-said')).toHaveText(/^\d+ → \d+ frames, (79|80|81) %$/);
  await page.mouse.up();
  actions += 1;
  expect(actions).toBeLessThanOrEqual(3);
  await saved(page);
  expect((await width()) / phrase).toBeCloseTo(0.8, 1);
  const shorter = await laneOf(app);
  expect(shorter.every(({ from, to }) => to > from)).toBe(true);
  expect(shorter).not.toEqual(before);
  // Slid by its middle, there and back is nothing; given up with Escape, too.
  const middle = { x: box.x + box.width * 0.3, y: at(0).y };
  await drag(page, middle, { x: middle.x + (at(4).x - at(0).x), y: middle.y }, { held: true });
  await expect(page.getByTestId('drag-said')).toHaveText('4 frames later');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await saved(page);
  await expect.poll(() => laneOf(app)).toEqual(shorter);
  await page.keyboard.press('Control+z');
  await expect.poll(() => laneOf(app)).toEqual(before);
  // One mouth between its neighbours, with Alt.
  await page.keyboard.press('Escape');
  const roomy = before.findIndex(
    ({ from, to }, index) => index > 1 && to - from >= 3 && before[index + 1]!.to - before[index + 1]!.from >= 3,
  );
  const held = before[roomy]!;
  await page.keyboard.down('Alt');
  await drag(page, at((held.from + held.to) / 2), at((held.from + held.to) / 2 + 1), { held: true });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await saved(page);
  expect((await laneOf(app)).find(({ id }) => id === held.id)).toMatchObject({ from: held.from + 1, to: held.to + 1, inked: true });
});

test('mouths start on the grid of the hold when they are to, and anywhere when not', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Alt+g');
  await page.keyboard.press('x');
  await saved(page);
  expect((await laneOf(app)).find(({ drawing, inked, from }) => drawing === 'ring' && inked && from < 12)?.from).toBe(8);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Alt+g');
  await page.keyboard.press('x');
  await saved(page);
  expect((await laneOf(app)).find(({ drawing, inked, from }) => drawing === 'ring' && inked && from < 12)?.from).toBe(9);
});

test('the menu under the right button is that of what is pressed: a mouth, a word, the ruler; and opens by its key', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const at = await laneAt(page);
  const sheet = page.getByTestId('bar-sheet');
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const menu = page.getByRole('menu');
  await page.mouse.click(at(20).x, at(20).y, { button: 'right' });
  await expect(menu.getByRole('menuitem', { name: /^Split the mouth/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.mouse.click(at(20).x, box.y + 30, { button: 'right' });
  await menu.getByRole('menuitem', { name: /^Select the word/ }).click();
  await expect(page.getByTestId('selection')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.mouse.click(at(20).x, box.y + 8, { button: 'right' });
  await menu.getByRole('menuitem', { name: /^As many frames a row as suit/ }).click();
  await expect(sheet).toHaveAttribute('data-zoom', 'fits');
  await page.keyboard.press('Shift+F10');
  await expect(menu.getByRole('menuitem', { name: /^Split the mouth/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(menu).toBeHidden();
  // In Listen it is that of the clip.
  await page.getByRole('link', { name: 'Listen' }).click();
  await expect(page.getByRole('heading', { name: 'Wave and reading' })).toBeVisible();
  await expect(sheet).toHaveAttribute('data-waves', '1');
  const [left, perFrame, clipsY] = await Promise.all(
    ['left', 'per-frame', 'clips-y'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))),
  );
  await sheet.click({ button: 'right', position: { x: left! + 20 * perFrame!, y: clipsY! + 8 } });
  await menu.getByRole('menuitem', { name: 'Mute the recording' }).click();
  await saved(page);
  const muted = (await (await fetch(app.url(`/api/scenes/${SCENE}`))).json()) as SceneView;
  expect(muted.document.clips[0]!.muted).toBe(true);
});

test('a phrase is copied to its twin, lined up by its first word, in four actions', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  const at = await laneAt(page);
  const { document } = (await (await fetch(app.url(`/api/scenes/${SCENE}`))).json()) as SceneView;
  const starts = document.words.map(({ fromSample, text }) => ({ text, frame: Math.round(fromSample / 2000) }));
  const first = starts.find(({ text }) => text === 'Please')!.frame;
  const twin = starts.find(({ text }) => text === 'Mrs')!.frame;
  await page.mouse.click(at(first + 1).x, at(0).y);
  let actions = 0;
  for (const key of ['n', 'Control+c']) {
    await page.keyboard.press(key);
    actions += 1;
  }
  await page.mouse.click(at(twin + 1).x, at(0).y);
  actions += 1;
  await page.keyboard.press('Control+Alt+v');
  actions += 1;
  expect(actions).toBeLessThanOrEqual(4);
  await saved(page);
  const after = await laneOf(app);
  const seen = (lane: readonly Exposure[], frame: number): string | undefined =>
    lane.find(({ from, to }) => from <= frame && frame < to)?.drawing;
  for (let frame = -2; frame < 50; frame++) expect(seen(after, twin + frame)).toBe(seen(before, first + frame));
  expect(seen(after, first + 10)).toBe(seen(before, first + 10));
});

test('across a turn of the head edits keep to their chart, and what is copied there becomes what plays the same', async ({ page, app }) => {
  const made = await fetch(app.url('/api/charts'), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Bramble, side', characterId: 'bramble', size: 6, style: 'pen' }),
  });
  const { id } = (await made.json()) as { id: string };
  await openDemo(page, app, SCENE);
  for (let second = 0; second < 4; second++) await page.keyboard.press('Control+ArrowRight');
  await page.getByRole('group', { name: 'Chart from the playhead on' }).getByRole('button', { name: 'side' }).click();
  await saved(page);
  const six = new Set(
    ((await (await fetch(app.url(`/api/charts/${id}`))).json()) as { document: { drawings: { id: string }[] } }).document.drawings.map(
      (drawing) => drawing.id,
    ),
  );
  // A selection over the turn is refused in a sentence.
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Period');
  await expect(page.getByText(/where the head turns to another chart/)).toBeVisible();
  // Copied from before the turn and pasted after it, each mouth is one of the six, or told as missing.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  for (let frame = 0; frame < 8; frame++) await page.keyboard.press('ArrowRight');
  for (let frame = 0; frame < 20; frame++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Escape');
  await page.keyboard.press('End');
  await page.keyboard.press('Control+ArrowLeft');
  await page.keyboard.press('Control+ArrowLeft');
  await page.keyboard.press('Control+v');
  await saved(page);
  const pasted = (await laneOf(app)).filter(({ from, inked }) => from >= 122 && inked);
  expect(pasted.length).toBeGreaterThan(2);
  for (const { drawing } of pasted) expect(six.has(drawing)).toBe(true);
  // Pushing a mouth before the turn moves nothing after it.
  const after = (await laneOf(app)).filter(({ from }) => from >= 96);
  await page.keyboard.press('Home');
  for (let frame = 0; frame < 8; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+Equal');
  await saved(page);
  expect((await laneOf(app)).filter(({ from }) => from >= 96)).toEqual(after);
});
