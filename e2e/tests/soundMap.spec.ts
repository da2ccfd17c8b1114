/** The sound map: sounds moved by hand and by keyboard, groups of one's own, a map proposed, and what it does to the scene. */
import { AxeBuilder } from '@axe-core/playwright';
import type { ChartView } from '@zest-jaw/core';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { type App, dragOnto, expect, openDemo, saved, sceneDocument, takeIt, test } from '../app.js';

const SCENE = 'the-wet-stamp';

async function openMap(page: Page, app: App): Promise<void> {
  await openDemo(page, app, SCENE, 'chart');
  await page.getByRole('button', { name: 'Sound map' }).click();
  await expect(page.getByRole('region', { name: 'Sound map' })).toBeVisible();
}
async function chartOf(app: App): Promise<ChartView['document']> {
  const { tracks } = await sceneDocument(app, SCENE);
  return (await app.json<ChartView[]>('/api/charts')).find(({ id }) => id === tracks[0]!.chartId)!.document;
}
const soundsOf = async (app: App, name: string): Promise<readonly string[]> =>
  (await chartOf(app)).groups.find((group) => group.name === name)?.phonemes ?? [];
const chip = (page: Page, symbol: string) => page.locator(`[data-sound="${symbol}"]`);

test('a sound is dragged to another group, several chosen with it; the scene says how many mouths would change', async ({ page, app }) => {
  await openMap(page, app);
  await chip(page, 'ER').click();
  await chip(page, 'R').click({ modifiers: ['Control'] });
  await expect(chip(page, 'R')).toHaveAttribute('aria-pressed', 'true');
  await dragOnto(page, chip(page, 'R'), page.getByRole('region', { name: 'Group Mid' }));
  await expect.poll(() => soundsOf(app, 'Mid')).toEqual(['EH', 'AH', 'AE', 'ER', 'R']);
  const preview = page.getByRole('region', { name: 'What it changes of the pencil' });
  await expect(preview.getByRole('status')).toContainText(/\d+ mouths? would change/);
  await preview.getByRole('button', { name: 'Take it' }).click();
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect.poll(() => soundsOf(app, 'Pucker')).toContain('R');
});

test('a mouth dragged onto a group plays it, and what it played stays its own', async ({ page, app }) => {
  await openMap(page, app);
  const lift = page.getByRole('region', { name: 'Group Lift' });
  const mouths = page.getByRole('group', { name: 'Mouths to drag onto a group' });
  await dragOnto(page, mouths.getByTitle('Drop: drag it onto a group'), lift);
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'drop')?.groups).toEqual(['drop', 'lift']);
  await expect(lift.getByRole('button', { name: 'Drop no longer plays Lift' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'drop')?.groups).toEqual(['drop']);
});

test('by keyboard alone: a sound found by its letters, moved by typing, a group of one’s own made of it', async ({ page, app }) => {
  await openMap(page, app);
  await chip(page, 'IY').focus();
  await page.keyboard.type('sh');
  await expect(chip(page, 'SH')).toBeFocused();
  await page.keyboard.press('Enter');
  const move = page.getByRole('dialog', { name: 'The sound looks like' });
  await move.getByRole('combobox').fill('tee');
  await page.keyboard.press('Enter');
  await expect.poll(() => soundsOf(app, 'Teeth')).toContain('SH');
  // Arrows go where the eye goes: from sh to its neighbour with voice.
  await chip(page, 'SH').focus();
  await page.keyboard.press('ArrowRight');
  await expect(chip(page, 'ZH')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Group', exact: true }).click();
  const own = page.getByRole('dialog', { name: 'A group of your own' });
  await own.getByLabel('What it is called').fill('Grr');
  await page.keyboard.press('Enter');
  await expect.poll(() => soundsOf(app, 'Grr')).toEqual(['ZH']);
  await expect(page.getByRole('region', { name: 'Group Grr' })).toBeVisible();
  await page.getByRole('button', { name: 'What can be done with Grr' }).click();
  await page.getByRole('menuitemcheckbox', { name: /Must be seen/ }).click();
  await expect.poll(async () => (await chartOf(app)).groups.find(({ name }) => name === 'Grr')?.must).toBe(true);
});

test('a map is proposed for a chart whose mouths play nothing, seen before it is taken; what a hand chose stays', async ({ page, app }) => {
  await openMap(page, app);
  const before = await chartOf(app);
  // Two mouths are put where nobody would: one by hand.
  const lift = page.getByRole('region', { name: 'Group Lift' });
  await lift.getByRole('button', { name: 'Another drawing for Lift' }).click();
  await page.getByRole('menuitem', { name: / Drop$/ }).click();
  await lift.getByRole('button', { name: 'Lift no longer plays Lift' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'drop')?.groups).toEqual(['drop', 'lift']);
  const tip = page.getByRole('region', { name: 'Group Tip' });
  await tip.getByRole('button', { name: 'Tip no longer plays Tip' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'tip')?.groups).toEqual([]);
  await page.getByRole('button', { name: 'Propose' }).click();
  const panel = page.getByRole('region', { name: 'Proposed map' });
  await expect(panel.getByRole('status')).toContainText('1 of 13 groups');
  await expect(panel).toContainText('Tip → Tip');
  await panel.getByRole('button', { name: 'Take it' }).click();
  await expect(panel).toBeHidden();
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'tip')?.groups).toEqual(['tip']);
  // By hand it was Drop, and it still is.
  expect((await chartOf(app)).drawings.find(({ id }) => id === 'drop')!.groups).toEqual(['drop', 'lift']);
  for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await chartOf(app)).drawings.map(({ groups }) => groups))
    .toEqual(before.drawings.map(({ groups }) => groups));
});

test('six mouths that play nothing are fitted whole, what is lost is said, and three sounds are moved by hand', async ({ page, app }) => {
  const address = '/api/charts/bramble-far';
  const chartNow = async (): Promise<ChartView> => app.json<ChartView>(address);
  const { document, revision } = await chartNow();
  // Six mouths of one's own, as they come: none of them plays a sound.
  const ops = document.drawings.map((drawing) => ({
    op: 'put',
    table: 'drawings',
    id: drawing.id,
    before: drawing,
    after: { ...drawing, groups: [] },
  }));
  const body = JSON.stringify({ baseRevision: revision, patchId: 'six-of-ones-own', reason: 'group.drawing', ops });
  expect((await fetch(app.url(address), { method: 'PATCH', headers: { 'content-type': 'application/json' }, body })).status).toBe(200);
  await page.goto(app.url('/charts/bramble-far?map'));
  await page.getByRole('button', { name: 'Propose' }).click();
  const panel = page.getByRole('region', { name: 'Proposed map' });
  await expect(panel.getByRole('status')).toContainText('13 of 13 groups');
  await expect(panel).toContainText('look alike');
  await panel.getByRole('button', { name: /^Take/ }).click();
  await expect
    .poll(async () => (await chartNow()).document.drawings.flatMap(({ groups }) => groups).sort())
    .toEqual(document.groups.map(({ id }) => id).sort());
  // Three sounds look otherwise on this face, chosen one by one and moved together.
  for (const symbol of ['CH', 'JH', 'R']) await chip(page, symbol).click({ modifiers: ['Control'] });
  await chip(page, 'R').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('dialog', { name: '3 sounds look like' }).getByRole('combobox').fill('tee');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await chartNow()).document.groups.find(({ id }) => id === 'teeth')?.phonemes)
    .toEqual(expect.arrayContaining(['S', 'CH', 'JH', 'R']));
});

test('a map goes out as JSON and comes in again; one that is none is refused; the page has no fault of access', async ({ page, app }) => {
  await openMap(page, app);
  await page.getByRole('button', { name: 'Map', exact: true }).click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Take the map out' }).click();
  const map = JSON.parse(readFileSync(await (await downloading).path(), 'utf8')) as {
    name: string;
    groups: { id: string; name: string; phonemes: string[] }[];
  };
  const moved = { ...map, groups: map.groups.map((group) => (group.id === 'back' ? { ...group, name: 'Throat' } : group)) };
  const field = page.getByLabel('A map to bring in');
  const file = (content: string) => ({ name: 'ours.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  await field.setInputFiles(file('{}'));
  await expect(page.getByText(/ours.json: This is not a map of sounds/)).toBeVisible();
  await field.setInputFiles(file(JSON.stringify(moved)));
  const offered = page.getByRole('dialog', { name: /^The map “Sound map”/ });
  // Renamed only: nothing moves.
  await expect(offered).not.toContainText('→');
  await offered.getByRole('button', { name: 'Leave it' }).click();
  await field.setInputFiles(file(JSON.stringify({ ...moved, name: 'Other', groups: moved.groups.filter(({ id }) => id !== 'tip') })));
  const other = page.getByRole('dialog', { name: 'The map “Other” on this chart' });
  await expect(other).toContainText('Groups that goTip');
  await expect(other).toContainText('θ → no group');
  await other.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('region', { name: 'Group Throat' })).toBeVisible();
  await expect(page.getByText('In no group: ð θ.')).toBeVisible();
  // Kept for the production, it is there for its other charts.
  await page.getByRole('button', { name: 'Map', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Keep it/ }).click();
  await page.getByLabel('Its name').fill('Gruff');
  await page.keyboard.press('Enter');
  // Forgotten, it comes back with one press.
  await page.getByRole('button', { name: 'Map', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Forget “Gruff”' }).click();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await page.goto(app.url('/charts/odette-front?map'));
  await page.getByRole('button', { name: 'Map', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Put “Gruff” on this chart…' }).click();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('region', { name: 'Group Throat' })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html.slice(0, 120))])).toEqual([]);
});

test('a diphthong is made one shape, and a sound is heard as the scene says it', async ({ page, app }) => {
  await openMap(page, app);
  await chip(page, 'AY').click();
  await page.getByLabel('ends as').selectOption({ label: 'one shape' });
  await expect.poll(async () => (await chartOf(app)).settings[0]!.diphthongs).toEqual([{ symbol: 'AY', second: null }]);
  await page.getByLabel('begins as').selectOption({ label: 'Mid' });
  await expect.poll(async () => (await chartOf(app)).settings[0]!.diphthongs).toEqual([{ symbol: 'AY', first: 'mid', second: null }]);
  await page.getByRole('button', { name: 'In the scene' }).click();
  // No sound of this scene is oy.
  await chip(page, 'OY').click();
  await expect(page.getByRole('button', { name: 'In the scene' })).toBeHidden();
});

test('in Key a sound pressed with Ctrl opens its place on the map', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const sheet = page.getByTestId('bar-sheet');
  await expect(sheet).toHaveAttribute('data-waves', '1');
  const document = await sceneDocument(app, SCENE);
  const vowel = document.phonemes.find(({ symbol }) => symbol === 'AE')!;
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const [left, perFrame] = await Promise.all(['left', 'per-frame'].map(async (name) => Number(await sheet.getAttribute(`data-${name}`))));
  const middle = (vowel.fromSample + vowel.toSample) / 4000;
  await page.keyboard.down('Control');
  await page.mouse.click(box.x + left! + middle * perFrame!, box.y + 60);
  await page.keyboard.up('Control');
  await expect(page.getByRole('region', { name: 'Sound map' })).toBeVisible();
  await expect(chip(page, 'AE')).toHaveAttribute('aria-pressed', 'true');
});

test('a pressed sound is heard and seen; sounds of other languages have their places, are moved, and have no voice only where none has', async ({
  page,
  app,
}) => {
  await openMap(page, app);
  // What is played is told by the element that plays it.
  await page.evaluate(() => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    HTMLMediaElement.prototype.play = function (this: HTMLMediaElement) {
      this.addEventListener('loadedmetadata', () => heard.push(this.duration), { once: true });
      this.load();
      return Promise.resolve();
    };
  });
  const heard = (): Promise<number[]> => page.evaluate(() => (window as unknown as { heard: number[] }).heard);
  await chip(page, 'IY').click();
  await expect.poll(async () => (await heard()).length).toBe(1);
  await chip(page, 'SH').click();
  await expect.poll(async () => (await heard()).length).toBe(2);
  for (const seconds of await heard()) expect(seconds).toBeGreaterThan(0.2);
  await expect(chip(page, 'y')).toHaveCount(0);
  await page.getByRole('button', { name: 'All languages' }).click();
  await chip(page, 'y').click();
  const details = page.getByRole('status').filter({ hasText: 'close front rounded vowel' });
  await expect(details).toContainText('placed with Pucker by how it looks');
  await expect.poll(async () => (await heard()).length).toBe(3);
  await page.keyboard.press('Enter');
  await page.getByRole('dialog', { name: 'The sound looks like' }).getByRole('combobox').fill('spr');
  await page.keyboard.press('Enter');
  await expect.poll(() => soundsOf(app, 'Spread')).toContain('y');
  await chip(page, 'ʘ').click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeDisabled();
  // A group that has one is shown with all languages from the start.
  await saved(page);
  await page.reload();
  await expect(chip(page, 'y')).toBeVisible();
});

test('mouths of a group take turns, or are those with a tag that a phrase asks for', async ({ page, app }) => {
  await openMap(page, app);
  const drop = page.getByRole('region', { name: 'Group Drop' });
  await drop.getByRole('button', { name: 'Another drawing for Drop' }).click();
  await page.getByRole('menuitem', { name: / Mid$/ }).click();
  await drop.getByRole('button', { name: 'What can be done with Drop' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Its mouths take turns' }).click();
  await expect.poll(async () => (await chartOf(app)).groups.find(({ id }) => id === 'drop')?.inTurn).toBe(true);
  await expect(drop).toContainText('in turn');
  const preview = page.getByRole('region', { name: 'What it changes of the pencil' });
  await preview.getByRole('button', { name: 'Take it' }).click();
  await page.getByRole('button', { name: 'Back to the drawings' }).click();
  await page.getByRole('option', { name: '10 Mid' }).click();
  await page.getByLabel('Tags').fill('angry');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await chartOf(app)).drawings.find(({ id }) => id === 'mid')?.tags).toEqual(['angry']);
  await saved(page);
  await openDemo(page, app, SCENE, 'key');
  await page.getByRole('button', { name: /^Feel/ }).click();
  await page.getByLabel('Mouths with the tag').selectOption('angry');
  await takeIt(page);
  await saved(page);
  const { tracks, exposures } = await sceneDocument(app, SCENE);
  expect(tracks[0]!.rules).toMatchObject({ tag: 'angry' });
  const pencilled = exposures.filter(({ inked }) => !inked).map(({ drawing }) => drawing);
  expect(pencilled).not.toContain('drop');
  expect(pencilled).toContain('mid');
});
