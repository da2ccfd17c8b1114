/** A server that a room shares: signing in, two people in one scene, a device by a link, and somebody shown out. */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, mouthLane, ownAddress, roomTest as test, PASSPHRASE, type App } from '../app.js';
import type { Browser, Page } from '@playwright/test';

const KEY = '/scenes/the-wet-stamp/key';

const comeIn = async (page: Page, name: string, passphrase = PASSPHRASE): Promise<void> => {
  await page.getByLabel('What the others call you').fill(name);
  await page.getByLabel('The passphrase of the room').fill(passphrase);
  await page.keyboard.press('Enter');
};

/** Somebody at a computer of their own, signed in, with the scene open. */
async function somebody(browser: Browser, app: Pick<App, 'url'>, name: string, ignoreHTTPSErrors = false): Promise<Page> {
  const page = await (await browser.newContext({ ignoreHTTPSErrors })).newPage();
  await page.goto(app.url(KEY));
  await comeIn(page, name);
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
  return page;
}

test('nothing is shown to whoever has not signed in, and a wrong passphrase says so', async ({ page, app }) => {
  expect(new URL(app.url('/')).hostname).toBe(ownAddress());
  await page.goto(app.url(KEY));
  await expect(page.getByRole('heading', { name: 'This one is shared by a room' })).toBeVisible();
  await expect(page.getByTestId('bar-sheet')).toHaveCount(0);
  await comeIn(page, 'Mara', 'three gulls');
  await expect(page.getByRole('alert')).toHaveText('That is not the passphrase of this room. Ask who started Zest Jaw.');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  await comeIn(page, 'Mara');
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
  // It is remembered, and so is the name.
  await page.reload();
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
  await page.goto(app.url('/room'));
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByLabel('What the others call you')).toHaveValue('Mara');
});

test('two people in one scene see where the other is and what the other does, and lose nothing', async ({ browser, app }) => {
  const [mara, tom] = [await somebody(browser, app, 'Mara'), await somebody(browser, app, 'Tom Weir')];
  await expect(mara.getByRole('button', { name: 'Tom Weir, at frame 1' })).toBeVisible();
  await expect(tom.getByRole('button', { name: 'Mara, at frame 1' })).toBeVisible();
  for (let step = 0; step < 4; step++) await tom.keyboard.press('ArrowRight');
  await expect(mara.getByRole('button', { name: 'Tom Weir, at frame 5' })).toBeVisible();
  await expect(mara.getByTestId('other-playhead')).toHaveText('Tom Weir');
  // What one does the other sees, without a reload.
  await tom.keyboard.press('KeyZ');
  const droppedAt = (from: number) => async (): Promise<string | undefined> => {
    const lane = await mouthLane(mara);
    return lane.find((one) => one.from <= from && one.to > from)?.drawing;
  };
  const drop = await mouthLane(tom).then((lane) => lane.find((one) => one.from <= 4 && one.to > 4)!.drawing);
  await expect.poll(droppedAt(4)).toBe(drop);
  // A press goes where the other is; both then work, and have both.
  await mara.getByRole('button', { name: 'Tom Weir, at frame 5' }).click();
  await expect(mara.getByTestId('other-playhead')).toBeVisible();
  for (let step = 0; step < 20; step++) await mara.keyboard.press('ArrowRight');
  await mara.keyboard.press('KeyX');
  await tom.keyboard.press('End');
  await tom.keyboard.press('KeyC');
  for (const page of [mara, tom]) await expect(page.getByTestId('save-state')).toHaveText('saved');
  await expect.poll(async () => JSON.stringify(await mouthLane(mara)) === JSON.stringify(await mouthLane(tom))).toBe(true);
  // Undo takes back one's own.
  await mara.keyboard.press('Control+KeyZ');
  await expect(mara.getByTestId('save-state')).toHaveText('saved');
  await expect.poll(droppedAt(4)).toBe(drop);
  // The history says who.
  await mara.getByRole('button', { name: /^History/ }).click();
  const history = mara.getByRole('region', { name: 'History' });
  await expect(history.getByRole('button', { name: /Tom Weir/ })).toHaveCount(2);
  await expect(history.getByRole('button', { name: /Mara/ })).toHaveCount(2);
  // Whoever leaves is gone.
  await tom.context().close();
  await expect(mara.getByTestId('other-playhead')).toHaveCount(0);
  await mara.context().close();
});

test('a device comes in by a link, looks and says what it sees, and changes nothing', async ({ browser, app }) => {
  const mara = await somebody(browser, app, 'Mara');
  await mara.goto(app.url('/scenes/the-wet-stamp/review'));
  await mara.getByRole('button', { name: 'Link for another device' }).click();
  const link = await mara.getByLabel('The link', { exact: true }).inputValue();
  expect(link).toContain(`${app.url('/in')}?to=%2Fscenes%2Fthe-wet-stamp%2Freview#`);
  const tablet = await (await browser.newContext()).newPage();
  await tablet.goto(link);
  await expect(tablet.getByTestId('review')).toBeVisible();
  expect(new URL(tablet.url()).pathname).toBe('/scenes/the-wet-stamp/review');
  await tablet.getByLabel('Who you are').fill('At the stage');
  await tablet.getByLabel('What you see').fill('The jaw is late.');
  await tablet.getByRole('button', { name: 'Leave it here' }).click();
  await expect(tablet.getByRole('list', { name: 'Remarks' })).toContainText('The jaw is late.');
  await expect(tablet.getByRole('button', { name: 'Link for another device' })).toHaveCount(0);
  // What it may not do is told, and not kept.
  await tablet.goto(app.url(KEY));
  await expect(tablet.getByTestId('bar-sheet')).toBeVisible();
  await tablet.keyboard.press('KeyZ');
  await expect(tablet.getByText(/By this link one can look and shoot/).first()).toBeVisible();
  await expect(tablet.getByTestId('save-state')).toHaveText('saved');
  await tablet.goto(app.url('/room'));
  await expect(tablet.getByText('The room is for those who signed in')).toBeVisible();
  // Shown out, it is a stranger; the link leads in until it is taken away.
  await mara.goto(app.url('/room'));
  await mara.getByRole('button', { name: /^Show out: Review/ }).click();
  await expect(mara.getByRole('button', { name: /^Show out/ })).toHaveCount(0);
  await mara.getByRole('button', { name: /^Take away: Review/ }).click();
  await expect(mara.getByText('There is none.')).toBeVisible();
  const { violations } = await new AxeBuilder({ page: mara }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  await tablet.goto(link);
  await expect(tablet.getByText('This link does not lead in')).toBeVisible();
  for (const page of [mara, tablet]) await page.context().close();
});

test('whoever is shown out in the middle of work signs in again, and what was done goes in', async ({ browser, app }) => {
  const [mara, tom] = [await somebody(browser, app, 'Mara'), await somebody(browser, app, 'Tom')];
  const room = await mara.context().newPage();
  await room.goto(app.url('/room'));
  await room.getByLabel('As it is now').fill(PASSPHRASE);
  await room.getByLabel('As it is to be, 12 letters or more').fill('too short');
  await room.getByRole('button', { name: 'Change it' }).click();
  await expect(room.getByRole('alert')).toContainText('12 to 128');
  await room.getByLabel('As it is now').fill(PASSPHRASE);
  await room.getByLabel('As it is to be, 12 letters or more').fill('a pier above the moon');
  await room.getByRole('button', { name: 'Change it' }).click();
  await expect(room.getByText(/The passphrase is another one now/)).toBeVisible();
  await tom.keyboard.press('KeyZ');
  const dialog = tom.getByRole('dialog', { name: 'Sign in again' });
  await expect(dialog).toBeVisible();
  await tom.keyboard.press('Escape');
  await expect(dialog).toBeVisible();
  await comeIn(tom, 'Tom', 'a pier above the moon');
  await expect(dialog).toHaveCount(0);
  await expect(tom.getByTestId('save-state')).toHaveText('saved');
  // Whoever changed it went on undisturbed, and has what the other did.
  await expect.poll(async () => JSON.stringify(await mouthLane(mara)) === JSON.stringify(await mouthLane(tom))).toBe(true);
  expect((await mouthLane(mara))[0]!.inked).toBe(true);
  for (const page of [mara, tom]) await page.context().close();
});

test.describe('encrypted', () => {
  test.use({ isEncrypted: true, ignoreHTTPSErrors: true });

  test('signs in, saves, hears of the others and has a microphone to ask for, all over HTTPS', async ({ browser, app }) => {
    expect(app.url('/')).toMatch(/^https:/);
    const [mara, tom] = [await somebody(browser, app, 'Mara', true), await somebody(browser, app, 'Tom Weir', true)];
    // A browser withholds it from pages that are not secure (W3C Secure Contexts).
    expect(await mara.evaluate(() => [isSecureContext, 'mediaDevices' in navigator])).toEqual([true, true]);
    const [cookie] = await mara.context().cookies();
    expect(cookie).toMatchObject({ name: '__Host-zest-room', secure: true, httpOnly: true, sameSite: 'Strict', path: '/' });
    await expect(mara.getByRole('button', { name: 'Tom Weir, at frame 1' })).toBeVisible();
    await mara.keyboard.press('KeyZ');
    await expect(mara.getByTestId('save-state')).toHaveText('saved');
    await expect.poll(async () => JSON.stringify(await mouthLane(tom)) === JSON.stringify(await mouthLane(mara))).toBe(true);
    for (const page of [mara, tom]) await page.context().close();
  });
});
