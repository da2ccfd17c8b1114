/** Anybody can work here: no fault by the rules of WCAG 2.1 A and AA, by day and by night, and nothing needs a mouse. */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, openDemo, test } from '../app.js';

const STEPS = ['chart', 'listen', 'key', 'hand-off'];

for (const theme of ['day', 'night']) {
  test(`no fault on any page by ${theme}`, async ({ page, app }) => {
    await page.addInitScript((chosen) => localStorage.setItem('zest-theme', chosen), theme);
    const check = async (): Promise<void> => {
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
      expect(violations.map(({ id, nodes }) => ({ id, where: nodes.map((node) => node.html.slice(0, 160)) }))).toEqual([]);
    };
    await page.goto(app.url('/'));
    await expect(page.getByRole('heading', { name: 'The wet stamp' })).toBeVisible();
    await check();
    for (const step of STEPS) {
      await openDemo(page, app, 'the-wet-stamp', step);
      await check();
    }
    for (const kind of ['sprites', 'keys', 'weights', 'timeline', 'sheet', 'shots', 'film', 'numbers', 'bundle']) {
      await openDemo(page, app, 'the-wet-stamp', `hand-off?as=${kind}`);
      await expect(page.getByTestId('counts')).toBeVisible();
      await check();
    }
    await page.goto(app.url('/charts/odette-front'));
    await expect(page.getByTestId('desk')).toBeVisible();
    for (const side of ['Finish', 'Head']) {
      await page.getByRole('button', { name: side, exact: true }).click();
      await check();
    }
    await page.getByRole('button', { name: 'Line up' }).click();
    await check();
  });
}

test('nothing that matters is below the fold at 1280 by 800', async ({ page, app }) => {
  for (const step of STEPS) {
    await openDemo(page, app, 'the-wet-stamp', step);
    const { scrolls, width } = await page.evaluate(() => ({
      scrolls: document.documentElement.scrollHeight > innerHeight,
      width: document.documentElement.scrollWidth,
    }));
    expect(scrolls).toBe(false);
    expect(width).toBe(1280);
  }
});

test('a scene is opened, keyed and saved from the keyboard alone, with the focus in sight', async ({ page, app }) => {
  await page.goto(app.url('/'));
  const link = page.getByRole('link', { name: /A complaint/ });
  for (let press = 0; press < 12 && !(await link.evaluate((element) => element === document.activeElement)); press++)
    await page.keyboard.press('Tab');
  await expect(link).toBeFocused();
  expect(await link.evaluate((element) => getComputedStyle(element).outlineStyle)).toBe('solid');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/scenes\//);
  await expect(page.getByTestId('easel')).toHaveCount(1);
  await page.keyboard.press('End');
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('readout')).toContainText('Drop, ink');
  await page.keyboard.press('Control+KeyZ');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
});

test('a scene that is not there says so and leads back', async ({ page, app }) => {
  await page.goto(app.url('/scenes/nowhere/key'));
  await expect(page.getByText('There is no such scene.')).toBeVisible();
  await page.goto(app.url('/lost/page'));
  await page.getByRole('link', { name: 'Go to the scenes' }).click();
  await expect(page.getByRole('heading', { name: 'Night Post' })).toBeVisible();
});

test('a scene is removed after asking', async ({ page, app }) => {
  await page.goto(app.url('/'));
  const { length } = await app.json<unknown[]>('/api/scenes');
  await page.getByRole('button', { name: /^What to do with A complaint/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Remove' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { name: 'A complaint at low tide' })).toBeVisible();
  await page.getByRole('button', { name: /^What to do with A complaint/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Remove' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'A complaint at low tide' })).toBeHidden();
  expect((await app.json<unknown[]>('/api/scenes')).length).toBe(length - 1);
});

/** What lies over the page, opened from a control by keys: its page, the control, and the entry of its menu. */
const OVER_THE_PAGE: readonly (readonly [path: string, control: string | RegExp, entry?: string])[] = [
  ['/', 'New production'],
  ['/', /^What to do with Night Post/, 'Another name'],
  ['/', /^What to do with Night Post/, 'Remove'],
  ['/', /^What to do with A complaint/, 'Remove'],
  ['/scenes/the-wet-stamp/chart', 'Line up'],
  ['/scenes/the-wet-stamp/chart', /^Charts/, 'New chart…'],
  ['/scenes/the-wet-stamp/key', 'How it sounds here'],
  ['/scenes/the-wet-stamp/key', /Scene settings/],
];

test('Escape puts away what lies over the page, and the control that opened it has the focus again', async ({ page, app }) => {
  for (const [path, control, entry] of OVER_THE_PAGE) {
    await test.step(`${path} ${String(control)} ${entry ?? ''}`, async () => {
      if (!page.url().endsWith(path)) await page.goto(app.url(path));
      const opener = page.getByRole('button', { name: control }).first();
      await opener.focus();
      await page.keyboard.press('Enter');
      if (entry) {
        await page.getByRole('menuitem', { name: entry }).focus();
        await page.keyboard.press('Enter');
      }
      const over = page.locator('[role=dialog], [role=alertdialog]');
      await expect(over).toBeVisible();
      await expect.poll(() => over.evaluate((element) => element.contains(document.activeElement))).toBe(true);
      await page.keyboard.press('Escape');
      await expect(over).toBeHidden();
      await expect(opener).toBeFocused();
    });
  }
});

test('nothing that cannot be seen takes the focus', async ({ page, app }) => {
  for (const path of ['/', ...STEPS.map((step) => `/scenes/the-wet-stamp/${step}`)]) {
    await page.goto(app.url(path));
    await expect(page.getByRole(path === '/' ? 'heading' : 'navigation').first()).toBeVisible();
    await page.waitForTimeout(500);
    const seen: string[] = [];
    for (let press = 0; press < 90; press++) {
      await page.keyboard.press('Tab');
      const unseen = await page.evaluate(async () => {
        // What comes into sight by having the focus may take a moment.
        await Promise.all(
          document
            .getAnimations()
            .filter((one) => one instanceof CSSTransition)
            .map((one) => one.finished),
        );
        const element = document.activeElement as HTMLElement;
        if (element === document.body) return null;
        const { width, height } = element.getBoundingClientRect();
        const isSeen = element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && width > 1 && height > 1;
        return isSeen ? '' : element.outerHTML.slice(0, 160);
      });
      if (unseen === null) break;
      if (unseen) seen.push(unseen);
    }
    expect(seen, path).toEqual([]);
  }
});
