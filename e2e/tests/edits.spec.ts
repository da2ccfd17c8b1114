/** What a hand does to a lane of mouths, by keys, counted in actions as an animator would count them. */
import type { Exposure, SceneDocument } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { type App, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';

const documentOf = (app: App): Promise<SceneDocument> => sceneDocument(app, SCENE);
const laneOf = async (app: App): Promise<readonly Exposure[]> => (await documentOf(app)).exposures;

/** A hand whose actions are counted: a key, or a drag. */
function handOf(page: Page): { press: (key: string) => Promise<void>; count: () => number } {
  let count = 0;
  return {
    press: async (key) => {
      count += 1;
      await page.keyboard.press(key);
    },
    count: () => count,
  };
}

/** To a frame, counted from 0, without counting how. */
async function goTo(page: Page, frame: number): Promise<void> {
  await page.keyboard.press('Home');
  for (let second = 0; second < Math.floor(frame / 24); second++) await page.keyboard.press('Control+ArrowRight');
  for (let at = 0; at < frame % 24; at++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(frame));
}

test('the whole lane goes a frame earlier by one key, ink and pencil alike, and back by undo', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  const hand = handOf(page);
  await hand.press('Shift+Comma');
  await expect(page.getByTestId('announced')).toHaveText('The whole lane is a frame earlier.');
  await saved(page);
  const after = await laneOf(app);
  expect(hand.count()).toBe(1);
  expect(after.map(({ from }) => from).slice(1)).toEqual(before.map(({ from }) => from - 1).slice(1));
  expect(after.map(({ inked }) => inked)).toEqual(before.map(({ inked }) => inked));
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(() => laneOf(app)).toEqual(before);
});

test('a mouth is held two longer with the rest pushed along, frames go in and out, each in few actions', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  const at = before.findIndex(({ from }) => from > 20);
  const [held, next] = [before[at]!, before[at + 1]!];
  await goTo(page, held.from);
  const hand = handOf(page);
  await hand.press('Shift+Equal');
  await hand.press('Shift+Equal');
  expect(hand.count()).toBeLessThanOrEqual(2);
  await saved(page);
  const pushed = await laneOf(app);
  expect(pushed.find(({ id }) => id === held.id)).toMatchObject({ from: held.from, to: held.to + 2, inked: true });
  expect(pushed.find(({ id }) => id === next.id)).toMatchObject({ from: next.from + 2, to: next.to + 2 });
  // Six frames in: as many as are selected.
  await goTo(page, held.from);
  for (let frame = 1; frame < 6; frame++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+Enter');
  await saved(page);
  const inserted = await laneOf(app);
  expect(inserted.find(({ id }) => id === next.id)).toMatchObject({ from: next.from + 8 });
  // And out again.
  await page.keyboard.press('Control+Backspace');
  await saved(page);
  expect((await laneOf(app)).find(({ id }) => id === next.id)).toMatchObject({ from: next.from + 2 });
});

test('a mouth is exchanged in a range, a phrase copied to another place, set on threes, reversed and made shorter', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  await goTo(page, 30);
  const hand = handOf(page);
  await hand.press('n');
  await hand.press('Period');
  expect(hand.count()).toBe(2);
  await expect(page.getByTestId('announced')).toContainText('mouths that were exchanged');
  await saved(page);
  const stepped = await laneOf(app);
  const seen = (lane: readonly Exposure[], frame: number): string | undefined =>
    lane.find(({ from, to }) => from <= frame && frame < to)?.drawing;
  const frames = Array.from({ length: 40 }, (_, frame) => frame + 15);
  expect(frames.every((frame) => seen(stepped, frame) !== seen(before, frame))).toBe(true);
  expect(seen(stepped, 120)).toBe(seen(before, 120));
  // The phrase lies where it is copied to, frame for frame.
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Escape');
  await goTo(page, 100);
  await page.keyboard.press('Control+v');
  await expect(page.getByTestId('announced')).toContainText('Pasted');
  await saved(page);
  const pasted = await laneOf(app);
  const start = stepped.find(({ id }) => !before.some((one) => one.id === id))?.from ?? 0;
  expect(Array.from({ length: 60 }, (_, frame) => seen(pasted, 100 + frame))).toEqual(
    Array.from({ length: 60 }, (_, frame) => seen(stepped, start + frame)),
  );
  await goTo(page, 30);
  await page.keyboard.press('n');
  await page.keyboard.press('Alt+3');
  await expect(page.getByTestId('announced')).toContainText('mouths set to a hold');
  await page.keyboard.press('Control+b');
  await expect(page.getByTestId('announced')).toContainText('reversed');
  await page.keyboard.press('Alt+Minus');
  await expect(page.getByTestId('announced')).toContainText('retimed');
});

test('a line is keyed by hand from an empty lane in at most one and a half actions a mouth', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  // The lane is emptied first: what is counted is the keying.
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+Backspace');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^After a keycap it/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'It goes to the next sound' }).click();
  await goTo(page, 5);
  const hand = handOf(page);
  // Four seconds of it, by what is heard; where the same mouth is held on, the same key again.
  const keys = 'wtfagwsatrasedaw'.repeat(3).split('');
  let frame = 5;
  for (const key of keys) {
    if (frame >= 101) break;
    await hand.press(key);
    await expect.poll(async () => Number(await page.getByTestId('easel').getAttribute('data-frame'))).toBeGreaterThan(frame);
    frame = Number(await page.getByTestId('easel').getAttribute('data-frame'));
  }
  expect(frame).toBeGreaterThanOrEqual(95);
  await saved(page);
  const mouths = (await laneOf(app)).filter(({ from, to }) => from >= 5 && to <= 172);
  expect(mouths.every(({ inked }) => inked)).toBe(true);
  expect(mouths.length).toBeGreaterThan(20);
  expect(hand.count() / mouths.length).toBeLessThanOrEqual(1.5);
  // One drawing for another all through the lane is one key.
  const here = mouths.find(({ from, to }) => from <= frame && frame < to)!.drawing;
  await page.keyboard.press('Shift+KeyX');
  await expect(page.getByTestId('announced')).toContainText('has taken its place');
  await saved(page);
  expect((await laneOf(app)).some(({ drawing }) => drawing === here)).toBe(false);
  const easel = page.getByTestId('easel');
  const worn = await easel.getAttribute('data-drawing');
  // Held, the mouth before is on the easel.
  await page.keyboard.down('9');
  await expect(easel).not.toHaveAttribute('data-drawing', worn!);
  await page.keyboard.up('9');
  await expect(easel).toHaveAttribute('data-drawing', worn!);
});

test('a command is found by its words, by words people use for it, and says when it cannot be done', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  await page.keyboard.press('Control+k');
  // Typed before it is there it does nothing to the scene: L would loop.
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: /^Loop the phrase/, includeHidden: true })).toHaveAttribute('aria-pressed', 'false');
  const list = page.getByRole('dialog', { name: 'What would you like to do?' });
  await expect(list.getByRole('combobox')).toBeFocused();
  await list.getByRole('combobox').fill('backwards');
  await expect(list.getByRole('option', { name: /Reverse the selected mouths/ })).toHaveAttribute('aria-disabled', 'true');
  await expect(list.getByText('select frames first')).toBeVisible();
  await list.getByRole('combobox').fill('whole lane earlier');
  await expect(list.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(list).toBeHidden();
  await saved(page);
  await expect.poll(async () => (await laneOf(app))[1]!.from).toBe(before[1]!.from - 1);
  // So is the menu under the right button, at the frame that was pressed.
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await laneOf(app))[1]!.from).toBe(before[1]!.from);
  const sheet = page.getByTestId('bar-sheet');
  const [left, perFrame, mouthY] = await Promise.all(
    ['left', 'per-frame', 'mouth-y'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))),
  );
  await sheet.click({ button: 'right', position: { x: left! + perFrame! * (before[2]!.from + 0.5), y: mouthY! + 10 } });
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(before[2]!.from));
  await page.getByRole('menuitem', { name: /^Join with the mouth before/ }).click();
  await expect.poll(async () => (await laneOf(app)).length).toBe(before.length - 1);
  // The page of keys is made of the same table.
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'All keys' }).getByText('The whole lane a frame earlier')).toBeVisible();
});

test('forty edits of every kind are undone to the first state byte for byte, after a reload in the middle', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const first = JSON.stringify(await documentOf(app));
  const edits = [
    'Period',
    'Equal',
    'Shift+Equal',
    'Alt+ArrowRight',
    'Shift+Comma',
    'KeyE',
    'Minus',
    'Shift+Backspace',
    'Backslash',
    'Control+Enter',
  ];
  const frames = [12, 40, 66, 90];
  let done = 0;
  const edit = async (frame: number): Promise<void> => {
    await goTo(page, frame);
    for (const key of edits) {
      await page.keyboard.press(key);
      done += 1;
    }
    await saved(page);
  };
  for (const frame of frames.slice(0, 2)) await edit(frame);
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  for (const frame of frames.slice(2)) await edit(frame);
  expect(done).toBe(40);
  expect(JSON.stringify(await documentOf(app))).not.toBe(first);
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  for (let step = 0; step < 60 && JSON.stringify(await documentOf(app)) !== first; step++) {
    await page.keyboard.press('Control+z');
    await page.waitForTimeout(60);
    await saved(page);
  }
  expect(JSON.stringify(await documentOf(app))).toBe(first);
});

test('a key is changed, its clash told, kept over a reload, taken out and brought in as JSON', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  await goTo(page, before[2]!.from + 1);
  await page.keyboard.press('Shift+?');
  await page.getByRole('button', { name: 'Keys of your own…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Keys of your own' });
  await dialog.getByLabel('Look for one').fill('split');
  await dialog.getByRole('button', { name: 'Key of Split the mouth at the playhead' }).click();
  await page.keyboard.press('Backslash');
  await expect(dialog.getByRole('alert')).toContainText('“Join with the mouth before”');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('button', { name: 'Key of Split the mouth at the playhead' })).toHaveText('\\');
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Take out' }).click();
  const file = await (await download).path();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await goTo(page, before[2]!.from + 1);
  await page.keyboard.press('Backslash');
  await saved(page);
  expect(await laneOf(app)).toHaveLength(before.length + 1);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('keys of your own');
  await page.keyboard.press('Enter');
  await dialog.getByRole('button', { name: 'All as they came' }).click();
  await dialog.getByLabel('Look for one').fill('split');
  await expect(dialog.getByRole('button', { name: 'Key of Split the mouth at the playhead' })).toHaveText('/');
  await dialog.getByLabel('A file of keys').setInputFiles(file);
  await expect(dialog.getByRole('button', { name: 'Key of Split the mouth at the playhead' })).toHaveText('\\');
});
