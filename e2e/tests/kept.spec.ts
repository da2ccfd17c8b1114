/** Nothing is lost, and there is always a way back: every control is kept, undo reaches to the beginning, a full disk costs nothing. */
import type { Locator, Page } from '@playwright/test';
import type { SceneCard, SceneView } from '@zest-jaw/core';
import { spawn } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type App, expect, mouthLane, openDemo, readAgain, ROOT, saved, SPEECH, test } from '../app.js';

const document = async (app: App, id: string): Promise<SceneView['document']> => (await app.json<SceneView>(`/api/scenes/${id}`)).document;

/** What every slider, field, list and switch of a panel says, by its name. */
async function controlsOf(panel: Locator): Promise<Record<string, string>> {
  return panel.evaluate((element) => {
    const named: Record<string, string> = {};
    const controls = element.querySelectorAll<HTMLInputElement>('input:not([type=file]), select, button[aria-pressed]');
    [...controls].forEach((control, index) => {
      const name = control.getAttribute('aria-label') ?? control.labels?.[0]?.textContent ?? control.textContent ?? '';
      const value = control.matches('button')
        ? control.getAttribute('aria-pressed')
        : control.type === 'checkbox'
          ? String(control.checked)
          : control.value;
      named[`${index} ${name.trim()}`] = value ?? '';
    });
    return named;
  });
}

/** Moves every slider of a panel by one step; answers with how many there are. */
async function moveSliders(page: Page, panel: Locator): Promise<number> {
  const sliders = panel.locator('input[type=range]:enabled');
  const count = await sliders.count();
  for (let index = 0; index < count; index++) {
    const slider = sliders.nth(index);
    const isAtEnd = await slider.evaluate((element: HTMLInputElement) => Number(element.value) >= Number(element.max));
    await slider.focus();
    await page.keyboard.press(isAtEnd ? 'ArrowLeft' : 'ArrowRight');
  }
  return count;
}

for (const side of ['Mouth', 'Finish', 'Head'] as const)
  test(`every slider of the Chart step is kept: ${side}`, async ({ page, app }) => {
    const open = async (): Promise<Locator> => {
      await openDemo(page, app, 'the-wet-stamp', 'chart');
      await page.getByRole('button', { name: side, exact: true }).click();
      return page.getByRole('group', { name: 'What to change' }).locator('..');
    };
    let panel = await open();
    const before = await controlsOf(panel);
    const moved = await moveSliders(page, panel);
    expect(moved).toBeGreaterThan(1);
    await saved(page);
    const after = await controlsOf(panel);
    expect(Object.keys(after).filter((name) => after[name] !== before[name]).length).toBeGreaterThanOrEqual(moved);
    await page.reload();
    panel = await open();
    await expect.poll(() => controlsOf(panel)).toEqual(after);
    await expect(page.getByRole('button', { name: /not taken/ })).toHaveCount(0);
  });

test('what a drawing is called, its number, tags, key and groups are kept', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'chart');
  await page.getByLabel('No.').fill('41');
  await page.getByLabel('Label').fill('Lull');
  await page.getByLabel('Tags').fill('sleepy');
  await page.getByLabel('Tags').press('Enter');
  await page.getByLabel('Keycap').selectOption('V');
  await page.getByLabel('Keycap').blur();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('No.')).toHaveValue('41');
  await expect(page.getByLabel('Label')).toHaveValue('Lull');
  await expect(page.getByLabel('Tags')).toHaveValue('sleepy');
  await expect(page.getByLabel('Keycap')).toHaveValue('V');
  await page.getByLabel('No.').fill('two');
  await page.getByLabel('No.').blur();
  await expect(page.getByText('“two” is no number of a mouth')).toBeVisible();
});

test('gain, silence, solo and who speaks are kept, and undo is there for each', async ({ page, app }) => {
  const open = async (): Promise<void> => {
    await openDemo(page, app, 'the-last-ferry', 'listen');
    await page.getByRole('radio', { name: 'Recordings' }).click();
  };
  await open();
  await page.getByLabel('Gain, dB').focus();
  await page.keyboard.press('ArrowRight');
  await page.getByLabel('Who speaks').selectOption({ label: 'Odette' });
  for (const name of [/^Mute/, /^Solo/]) await page.getByRole('button', { name }).first().click();
  await saved(page);
  const [clip] = (await document(app, 'the-last-ferry')).clips;
  expect(clip).toMatchObject({ gainDb: 0.5, characterId: 'odette', muted: true, soloed: true });
  await page.reload();
  await open();
  expect((await document(app, 'the-last-ferry')).clips).toEqual([clip]);
  for (let step = 0; step < 4; step++) await page.keyboard.press('Control+KeyZ');
  await expect
    .poll(async () => (await document(app, 'the-last-ferry')).clips[0])
    .toMatchObject({ gainDb: 0, characterId: 'bramble', muted: false, soloed: false });
});

test('a full disk costs no mouth: they wait, say why, and go through when there is room', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  let isFull = true;
  await page.route('**/api/scenes/the-wet-stamp', (route) =>
    isFull && route.request().method() === 'PATCH'
      ? route.fulfill({ status: 500, contentType: 'application/problem+json', body: JSON.stringify({ detail: 'The disk is full.' }) })
      : route.fallback(),
  );
  for (const key of ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyS', 'KeyD']) {
    for (let step = 0; step < 3; step++) await page.keyboard.press('ArrowRight');
    await page.keyboard.press(key);
  }
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  await page.getByRole('button', { name: 'Why?' }).first().click();
  await expect(page.getByText('The disk is full.')).toBeVisible();
  const put = await mouthLane(page);
  expect(put).not.toEqual(before);
  // Even a closed tab keeps them.
  await page.reload();
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  expect(await mouthLane(page)).toEqual(put);
  isFull = false;
  await page.getByRole('banner').getByRole('button', { name: 'Why?' }).click();
  await page.getByRole('button', { name: 'Try now' }).click();
  await saved(page);
  await page.reload();
  await saved(page);
  expect(await mouthLane(page)).toEqual(put);
});

test('undo reaches back over a reading, a reload and leaving, to how the scene began', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const first = await document(app, 'the-wet-stamp');
  await page.keyboard.press('KeyZ');
  await saved(page);
  await page.getByRole('link', { name: 'Listen' }).click();
  await readAgain(page, 'Only this phrase');
  // One step for the whole reading, then the mouth from before it.
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Control+KeyZ');
  await expect.poll(async () => (await document(app, 'the-wet-stamp')).exposures).toEqual(first.exposures);
  await page.keyboard.press('Control+Shift+KeyZ');
  await page.keyboard.press('Control+Shift+KeyZ');
  await saved(page);
  await page.goto(app.url('/'));
  await openDemo(page, app, 'the-wet-stamp');
  for (let step = 0; step < 12; step++) await page.keyboard.press('Control+KeyZ');
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled();
  await saved(page);
  const begun = await document(app, 'the-wet-stamp');
  expect(begun.phonemes).toEqual(first.phonemes);
  expect(begun.exposures).toEqual(first.exposures);
});

test('everything is selected on the sheet, and a keycap fills what is selected', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  await page.keyboard.press('Control+KeyA');
  expect(await page.evaluate(() => String(window.getSelection()))).toBe('');
  await page.keyboard.press('KeyZ');
  await expect.poll(async () => (await mouthLane(page)).map(({ drawing, inked }) => [drawing, inked])).toEqual([['drop', true]]);
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Home');
  for (let step = 0; step < 9; step++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('KeyC');
  await expect.poll(async () => (await mouthLane(page))[0]).toMatchObject({ from: 0, to: 10, drawing: 'pucker', inked: true });
  await saved(page);
});

test('a frame rate is changed: shown before it is taken, mouths kept in time, undone in one step', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await document(app, 'the-wet-stamp');
  await page.getByRole('button', { name: /Scene settings/ }).click();
  await page.getByRole('button', { name: 'Another frame rate…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Another frame rate' });
  await dialog.getByLabel('Frames a second').fill('ten thousand');
  await expect(dialog.getByTestId('rate-change')).toContainText('It may be 1 to 120');
  await dialog.getByLabel('Frames a second').fill('48');
  await expect(dialog.getByTestId('rate-change')).toContainText('172 frames become 344. No mouth is lost.');
  await dialog.getByRole('button', { name: 'Take it' }).click();
  await saved(page);
  const after = await document(app, 'the-wet-stamp');
  expect(after.exposures.map(({ from, to }) => [from, to])).toEqual(before.exposures.map(({ from, to }) => [2 * from, 2 * to]));
  await page.keyboard.press('Control+KeyZ');
  await expect.poll(() => document(app, 'the-wet-stamp')).toEqual(before);
});

test('productions are made, named and removed, a scene is copied, a character without lines goes', async ({ page, app }) => {
  await page.goto(app.url('/'));
  await page.getByRole('button', { name: 'New production' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Harbour at dawn');
  await page.getByRole('button', { name: 'Make it' }).click();
  const production = page.getByRole('region', { name: 'Harbour at dawn' });
  await production.getByRole('button', { name: 'New character' }).click();
  await page.getByLabel('Who').fill('Gull');
  await page.getByRole('radio', { name: 'Nothing: I bring my own' }).click();
  await page.getByRole('button', { name: 'Make the chart' }).click();
  await expect(page).toHaveURL(/\/charts\//);
  await expect(page.getByRole('listbox', { name: 'Drawings in tray order' }).getByRole('option')).toHaveCount(1);
  await page.goto(app.url('/'));
  await page.getByRole('button', { name: 'Remove Gull' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('Gull')).toHaveCount(0);
  await page.getByRole('button', { name: 'Remove Bramble' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText(/Bramble speaks in/)).toBeVisible();
  await page.getByRole('button', { name: 'What to do with The wet stamp' }).click();
  await page.getByRole('menuitem', { name: 'Copy' }).click();
  await expect(page.getByRole('heading', { name: 'The wet stamp, copy' })).toBeVisible();
  await page.getByRole('button', { name: 'What to do with Harbour at dawn' }).click();
  await page.getByRole('menuitem', { name: 'Another name' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Harbour at dusk');
  await page.getByRole('button', { name: 'Name it so' }).click();
  await page.getByRole('button', { name: 'What to do with Harbour at dusk' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('Harbour at dusk')).toHaveCount(0);
  expect(await app.json<SceneCard[]>('/api/scenes')).toHaveLength(5);
});

test('a recording dropped on any step is placed on Listen', async ({ page, app }) => {
  const bytes = readFileSync(join(SPEECH, 'slt-09.wav')).toString('base64');
  for (const step of ['key', 'chart', 'hand-off', 'listen']) {
    await openDemo(page, app, 'the-wet-stamp', step);
    const data = await page.evaluateHandle((base64) => {
      const transfer = new DataTransfer();
      const content = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
      transfer.items.add(new File([content], 'gull.wav', { type: 'audio/wav' }));
      return transfer;
    }, bytes);
    await page.getByRole('main').dispatchEvent('drop', { dataTransfer: data });
    await expect(page).toHaveURL(/\/listen$/);
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByLabel('What is said')).toBeVisible();
    await page.keyboard.press('Escape');
  }
});

test('without a browser’s own store a scene opens all the same, and says what is not kept', async ({ page, app }) => {
  await page.addInitScript(() => {
    for (const name of ['localStorage', 'indexedDB'])
      Object.defineProperty(window, name, {
        configurable: true,
        get() {
          throw new DOMException('not here', 'SecurityError');
        },
      });
  });
  await openDemo(page, app, 'the-wet-stamp');
  await expect(page.getByText('This browser keeps nothing aside.')).toBeVisible();
  await page.keyboard.press('KeyZ');
  await saved(page);
  await expect(page.getByTestId('readout')).toContainText('Drop, ink');
});

test('a second start on the same data folder says so, and leaves the first one alone', async ({ page, app }) => {
  const second = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
    env: { ...process.env, ZEST_DATA: app.folder, PORT: '0' },
  });
  let said = '';
  second.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  expect(await new Promise((resolve) => second.on('exit', resolve))).toBe(1);
  expect(said).toContain('is in use by another Zest Jaw');
  await openDemo(page, app, 'the-wet-stamp');
});

for (const [width, height] of [
  [1024, 700],
  [2560, 1440],
] as const)
  test(`at ${width} by ${height} nothing is cut off, and the sheet uses the page`, async ({ page, app }) => {
    await page.setViewportSize({ width, height });
    for (const step of ['chart', 'listen', 'key', 'hand-off']) {
      await openDemo(page, app, 'the-wet-stamp', step);
      const cut = await page.evaluate(() => {
        const isCut = (element: Element): boolean => {
          const { left, right, width: wide } = element.getBoundingClientRect();
          return wide > 0 && (right > innerWidth + 1 || left < -1);
        };
        return {
          scrolls: window.document.documentElement.scrollWidth > innerWidth,
          cut: [...window.document.querySelectorAll('button, a, input, select')].filter(isCut).map((element) => element.textContent),
        };
      });
      expect(cut).toEqual({ scrolls: false, cut: [] });
    }
    await openDemo(page, app, 'the-wet-stamp');
    const keycaps = await page
      .getByRole('group', { name: 'Tray' })
      .getByRole('button')
      .evaluateAll((buttons) => buttons.map((button) => button.getBoundingClientRect()));
    for (const [index, one] of keycaps.entries())
      for (const other of keycaps.slice(index + 1))
        expect(
          one.right <= other.left + 1 || other.right <= one.left + 1 || one.bottom <= other.top + 1 || other.bottom <= one.top + 1,
        ).toBe(true);
    if (height === 1440) expect(await page.locator('canvas[data-system]').count()).toBeGreaterThan(1);
  });

test('a damaged database is shown as far as it can be read, says so on every page, and nothing is changed', async ({ page, app }) => {
  const file = join(app.folder, 'zest-jaw.db');
  await app.restart(() => {
    // The end of it is missing, as a full disk leaves it.
    const bytes = readFileSync(file);
    writeFileSync(file, bytes.subarray(0, bytes.length - 40 * 4096));
  });
  await page.goto(app.url('/'));
  const said = page.getByRole('alert').filter({ hasText: 'The database is damaged.' });
  await expect(said).toContainText(/nothing can be changed: .*\d+ charts?.*npm run restore -- /);
  // A chart is looked at; what is tried with it is not taken, and kept here.
  await page.getByRole('link', { name: 'front' }).first().click();
  await expect(said).toBeVisible();
  await page.getByLabel('Label').fill('Another name');
  await page.getByLabel('Label').blur();
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  await page.getByRole('button', { name: 'Why?' }).click();
  await expect(page.getByRole('dialog', { name: 'What is not saved' })).toContainText('nothing can be changed');
});
