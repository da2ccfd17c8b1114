/** Mouths played in while the line is heard, a keycap held while scrubbing, and the hand's own delay. */
import type { Exposure } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import { type App, expect, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-wet-stamp';
const laneOf = async (app: App): Promise<readonly Exposure[]> => (await sceneDocument(app, SCENE)).exposures;
const frameNow = async (page: Page): Promise<number> => Number(await page.getByTestId('easel').getAttribute('data-frame'));

/** Presses a keycap once a frame has come, held until another has; answers with the frames shown when it was pressed and let go. */
async function pressAt(page: Page, key: string, from: number, to: number): Promise<{ down: number; up: number }> {
  return page.evaluate(
    async ([code, first, last]) => {
      const easel = document.querySelector('[data-testid=easel]') as HTMLElement;
      const until = (frame: number): Promise<number> =>
        new Promise((resolve) => {
          const look = (): void => {
            const now = Number(easel.dataset['frame']);
            if (now >= frame) resolve(now);
            else requestAnimationFrame(look);
          };
          look();
        });
      const down = await until(first);
      document.body.dispatchEvent(new KeyboardEvent('keydown', { code, key: code, bubbles: true }));
      const up = await until(last);
      document.body.dispatchEvent(new KeyboardEvent('keyup', { code, key: code, bubbles: true }));
      return { down, up };
    },
    [key, from, to] as const,
  );
}

test('mouths are played in at half speed, drawn as they come, played over where one presses, and taken as ink', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = await laneOf(app);
  await page.keyboard.press('2');
  await page.keyboard.press('5');
  const bar = page.getByRole('region', { name: 'Playing in' });
  await expect(bar).toContainText('Armed.');
  await bar.getByRole('button', { name: 'on the hold' }).click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const drop = await pressAt(page, 'KeyZ', 8, 12);
  const ring = await pressAt(page, 'KeyX', 18, 22);
  // Drawn while it plays.
  await expect(
    page
      .locator('[role=gridcell]')
      .filter({ hasText: /^Drop, .*played in$/ })
      .first(),
  ).toBeAttached();
  const rest = await pressAt(page, 'KeyQ', 30, 33);
  await expect.poll(() => frameNow(page)).toBeGreaterThan(36);
  await page.keyboard.press('Space');
  await expect(bar).toContainText('3 mouths played in');
  // Nothing is in the scene yet.
  expect(await laneOf(app)).toEqual(before);
  // A second run replaces only where one presses.
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const bite = await pressAt(page, 'KeyE', 24, 26);
  await page.keyboard.press('Space');
  await expect(bar).toContainText(/[45] mouths played in/);
  await bar.getByRole('button', { name: 'Take as ink' }).click();
  await saved(page);
  const lane = await laneOf(app);
  const startOf = (drawing: string): number => lane.find((one) => one.drawing === drawing && one.inked)!.from;
  // Each starts within a frame of what was shown, which is what was heard, when it was pressed.
  for (const [drawing, shown] of [
    ['drop', drop],
    ['ring', ring],
    ['bite', bite],
  ] as const)
    expect(Math.abs(startOf(drawing) - shown.down)).toBeLessThanOrEqual(1);
  expect(lane.find(({ from, to }) => from <= rest.down + 1 && rest.down + 1 < to)).toMatchObject({ drawing: 'rest', inked: true });
  // It is one step of undo.
  await page.keyboard.press('Control+z');
  await expect.poll(() => laneOf(app)).toEqual(before);
});

test('what was played in can be left; with the hand’s delay it is laid earlier', async ({ page, app }) => {
  await page.addInitScript(() => localStorage.setItem('zest-sound', JSON.stringify({ reactionMs: 250 })));
  await openDemo(page, app, SCENE);
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const before = await laneOf(app);
  await page.getByRole('button', { name: 'Play mouths in (5)' }).click();
  const bar = page.getByRole('region', { name: 'Playing in' });
  await expect(bar).toContainText('hand 250 ms');
  await bar.getByRole('button', { name: 'on the hold' }).click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const pressed = await pressAt(page, 'KeyX', 40, 44);
  await page.keyboard.press('Space');
  const cell = page
    .locator('[role=gridcell]')
    .filter({ hasText: /^Ring, .*played in$/ })
    .first();
  // 250 ms at 24 frames a second are six frames.
  const from = Number(await cell.getAttribute('data-from'));
  expect(Math.abs(from - (pressed.down - 6))).toBeLessThanOrEqual(1);
  await bar.getByRole('button', { name: 'Leave them' }).click();
  await expect(cell).toHaveCount(0);
  await page.keyboard.press('5');
  await expect(bar).toBeHidden();
  expect(await laneOf(app)).toEqual(before);
});

test('a keycap held while stepping puts its mouth on every frame that is passed, in one step', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const before = await laneOf(app);
  for (let frame = 0; frame < 9; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.down('x');
  for (let frame = 0; frame < 6; frame++) await page.keyboard.press('ArrowRight');
  await page.keyboard.up('x');
  await saved(page);
  const lane = await laneOf(app);
  for (let frame = 9; frame <= 15; frame++)
    expect(lane.find(({ from, to }) => from <= frame && frame < to)).toMatchObject({ drawing: 'ring', inked: true });
  // Let go, steps put nothing.
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await saved(page);
  expect(await laneOf(app)).toEqual(lane);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(() => laneOf(app)).toEqual(before);
});

test('the tap test says how late the hand is, and how steadily', { tag: '@alone' }, async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  await page.getByRole('button', { name: 'How it sounds here' }).click();
  await page.getByRole('button', { name: /^Tap test/ }).click();
  const tap = page.getByRole('button', { name: /^Tap here/ });
  await expect(tap).toBeVisible();
  // A hand that comes down some 150 ms after each clap is heard.
  await tap.evaluate(async (button) => {
    let heard = 0;
    await new Promise<void>((resolve) => {
      const watch = new MutationObserver(() => {
        const now = Number(/(\d+) of 12/.exec(button.textContent ?? '')?.[1] ?? 0);
        if (now <= heard) return;
        heard = now;
        setTimeout(() => button.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true })), 150);
        if (heard === 12) resolve();
      });
      watch.observe(button, { childList: true, characterData: true, subtree: true });
    });
  });
  const said = page.getByText(/ms late in the middle, half of the taps within \d+ ms of that; 1[0-2] of 12 claps answered\./);
  await expect(said).toBeVisible();
  const late = Number(/^(\d+) ms/.exec(await said.innerText())![1]);
  expect(late).toBeGreaterThan(120);
  expect(late).toBeLessThan(400);
  await expect(page.getByRole('slider', { name: 'Hand, ms late' })).not.toHaveValue('0');
});
