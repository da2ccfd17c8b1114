/** Further parts of a face: lanes of their own, blinks by rule, drawings put by key, parts made on a head. */
import type { ChartView, SceneDocument } from '@zest-jaw/core';
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { addLane, expect, mouthLane, openDemo, saved, sceneDocument, test } from '../app.js';

const SCENE = 'the-last-ferry';

/** No fault of access on what the page shows. */
async function expectAccess(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
}

const laneOf = (document: SceneDocument, part: string): SceneDocument['exposures'] => {
  const track = document.tracks.find((one) => one.part === part)!.id;
  return document.exposures.filter((exposure) => exposure.track === track);
};

test('the demo’s lids blink; the lane is gone to by keys, blinks otherwise, more often, or not at all, and each is undone', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const mouths = await mouthLane(page);
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByRole('button', { name: 'Lids', exact: true })).toBeVisible();
  const lids = await mouthLane(page);
  expect(lids.map(({ drawing }) => drawing)).toEqual(laneOf(await sceneDocument(app, SCENE), 'Lids').map(({ drawing }) => drawing));
  expect(lids.filter(({ drawing }) => drawing === 'shut').length).toBeGreaterThan(1);
  // The tray is that of the lids, and the whole face is on the easel with them as they are at the playhead.
  await expect(page.getByRole('button', { name: /Shut/ }).first()).toBeVisible();
  const easel = page.getByTestId('easel').first();
  await expect(easel.locator('[data-part="Lids"]')).toHaveCount(1);
  const open = await easel.locator('[data-part="Lids"]').innerHTML();
  for (let step = 0; step < 2; step++) await page.keyboard.press('ArrowDown');
  await expect.poll(() => easel.locator('[data-part="Lids"]').innerHTML()).not.toBe(open);

  await page.keyboard.press('j');
  const panel = page.getByRole('region', { name: 'By itself' });
  await expectAccess(page);
  await panel.getByRole('slider', { name: 'A minute' }).fill('40');
  await expect(page.getByRole('button', { name: /By itself blinks 40 a minute/ })).toBeVisible();
  await saved(page);
  const more = laneOf(await sceneDocument(app, SCENE), 'Lids').filter(({ drawing }) => drawing === 'shut').length;
  expect(more).toBeGreaterThan(lids.filter(({ drawing }) => drawing === 'shut').length);
  await expect(panel.getByTestId('blinks')).toHaveText(`${more} blinks in this scene.`);
  await panel.getByRole('button', { name: 'No blinks' }).click();
  await expect.poll(async () => (await mouthLane(page)).map(({ drawing }) => drawing)).toEqual(['open']);
  for (let step = 0; step < 2; step++) await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await mouthLane(page)).map(({ from, drawing }) => [from, drawing]))
    .toEqual(lids.map(({ from, drawing }) => [from, drawing]));

  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(async () => (await mouthLane(page)).map(({ drawing }) => drawing)).toEqual(mouths.map(({ drawing }) => drawing));
});

test('a lane for the brows is made, a drawing put by its keycap in ink; muted they rest, hidden they are gone, and the lane goes with one press', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  await addLane(page, 'brows');
  await expect.poll(async () => (await mouthLane(page)).map(({ drawing }) => drawing)).toEqual(['level']);
  for (let step = 0; step < 6; step++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('w');
  await expect
    .poll(async () => (await mouthLane(page)).filter(({ inked }) => inked).map(({ from, drawing }) => [from, drawing]))
    .toEqual([[6, 'up']]);
  const brows = page.getByTestId('easel').first().locator('[data-part="Brows"]');
  const up = await brows.innerHTML();
  await saved(page);
  // Keyed again, the ink stays.
  await page.getByRole('button', { name: 'Key again' }).click();
  await saved(page);
  expect(laneOf(await sceneDocument(app, SCENE), 'Brows').filter(({ inked }) => inked)).toHaveLength(1);
  await page.getByRole('button', { name: 'Brows', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: /Muted/ }).click();
  await expect.poll(() => brows.innerHTML()).not.toBe(up);
  await page.getByRole('button', { name: 'Brows', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: /Muted/ }).click();
  await expect.poll(() => brows.innerHTML()).toBe(up);
  // Hidden they are not there at all.
  await page.getByRole('button', { name: 'Brows', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: /Hidden/ }).click();
  await expect(brows).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => brows.innerHTML()).toBe(up);
  await page.getByRole('button', { name: 'Brows', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Take the lane of brows away' }).click();
  await saved(page);
  expect((await sceneDocument(app, SCENE)).tracks.map(({ part }) => part)).toEqual([undefined, 'Lids']);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).tracks.map(({ part }) => part)).toEqual([undefined, 'Lids', 'Brows']);
});

test('what is seen is kept as a pose, put over a selection and to the end of a phrase by its key, in every lane at once', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  await addLane(page, 'brows');
  await expect.poll(async () => (await mouthLane(page)).length).toBe(1);
  // Up on stressed words by themselves, on more of them, and no longer.
  await page.keyboard.press('j');
  const panel = page.getByRole('region', { name: 'By itself' });
  await panel.getByRole('button', { name: 'Go up' }).click();
  const ups = async (): Promise<number> =>
    (await mouthLane(page)).filter(({ drawing }) => drawing === 'up').reduce((sum, { from, to }) => sum + to - from, 0);
  await expect.poll(ups).toBeGreaterThan(0);
  const few = await ups();
  await panel.getByRole('slider', { name: 'Of them, %' }).fill('100');
  await expect.poll(ups).toBeGreaterThan(few);
  await panel.getByRole('button', { name: 'Not up by itself' }).click();
  await expect.poll(ups).toBe(0);
  await panel.getByRole('button', { name: 'Close by itself' }).click();
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Poses', exact: true }).click();
  await page.getByRole('menuitem', { name: /Keep what is seen/ }).click();
  const asking = page.getByRole('dialog', { name: 'Keep what is seen as a pose' });
  await asking.getByLabel('Name').fill('Furious');
  await asking.getByRole('button', { name: 'Keep it' }).click();
  await expect(asking).toBeHidden();
  const brows = async (): Promise<(readonly [number, number, string])[]> =>
    laneOf(await sceneDocument(app, SCENE), 'Brows')
      .filter(({ inked }) => inked)
      .map(({ from, to, drawing }) => [from, to, drawing] as const);
  await page.keyboard.press('q');
  for (let step = 0; step < 60; step++) await page.keyboard.press('ArrowRight');
  // Here the second phrase is said; the pose holds as long as it does.
  await page.keyboard.press('Shift+Digit4');
  await saved(page);
  const document = await sceneDocument(app, SCENE);
  const pose = (await brows()).find(([from]) => from === 60)!;
  expect([pose[0], pose[2]]).toEqual([60, 'cross']);
  expect(pose[1]).toBeGreaterThan(70);
  expect(pose[1]).toBeLessThan(document.settings[0]!.lengthFrames);
  const lids = laneOf(document, 'Lids').filter(({ inked }) => inked);
  expect(lids.map(({ from, to }) => [from, to])).toEqual([[60, pose[1]]]);
  // One step of undo for all of it.
  await page.keyboard.press('Control+z');
  await saved(page);
  const after = await sceneDocument(app, SCENE);
  expect([laneOf(after, 'Lids').some(({ inked }) => inked), (await brows()).some(([from]) => from === 60)]).toEqual([false, false]);
  // It is the head's: another scene of the same face has it.
  await openDemo(page, app, 'the-wet-stamp');
  await page.getByRole('button', { name: 'Poses', exact: true }).click();
  await page.getByRole('menuitem', { name: /Furious/ }).click();
  await saved(page);
  expect((await sceneDocument(app, 'the-wet-stamp')).tracks.map(({ part }) => part)).toEqual([undefined, 'Lids', 'Brows']);
});

test('held lines live when they are to: the same frame the same each time, the mouth’s and a part’s', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const mouth = page.getByTestId('easel').first().locator('[data-part="mouth"]');
  const drawn = async (steps: number): Promise<string[]> => {
    await page.keyboard.press('Home');
    const seen: string[] = [];
    for (let step = 0; step < steps; step++) {
      await expect(page.getByTestId('easel').first()).toHaveAttribute('data-frame', String(step));
      seen.push(await mouth.innerHTML());
      await page.keyboard.press('ArrowRight');
    }
    return seen;
  };
  // The first mouth is held for some frames: a still one is the same in all of them.
  expect(new Set((await drawn(4)).slice(0, 4)).size).toBe(1);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: 'They live a lot' }).click();
  await saved(page);
  const first = await drawn(4);
  expect(first[0]).toBe(first[1]);
  expect(first[2]).not.toBe(first[0]);
  expect(await drawn(4)).toEqual(first);
  // The lids for themselves.
  const lids = page.getByTestId('easel').first().locator('[data-part="Lids"]');
  const still = await lids.innerHTML();
  await page.keyboard.press('Home');
  expect(await lids.innerHTML()).toBe(still);
  await page.keyboard.press('Alt+ArrowDown');
  await page.getByRole('button', { name: 'Lids', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: 'They live a little' }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => lids.innerHTML()).not.toBe(still);
  await saved(page);
  expect((await sceneDocument(app, SCENE)).tracks.map(({ boil }) => boil)).toEqual([0.8, 0.3]);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).tracks.map(({ boil }) => boil)).toEqual([0.8, undefined]);
});

test('a new head is given brows, lids and eyes; one is moved, follows another, and is drawn on the face', async ({ page, app }) => {
  const { id } = (await (
    await fetch(app.url('/api/charts'), {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Pip, front', style: 'pen', size: 6 }),
    })
  ).json()) as { id: string };
  const partsNow = async (): Promise<NonNullable<ChartView['document']['head'][0]['parts']>> =>
    (await app.json<ChartView>(`/api/charts/${id}`)).document.head[0]!.parts ?? [];
  await page.goto(app.url(`/charts/${id}`));
  await page.getByRole('button', { name: 'Head', exact: true }).click();
  const parts = page.getByTestId('parts');
  await parts.getByRole('button', { name: 'Add brows, lids and eyes' }).click();
  await expect(parts.getByRole('listitem')).toHaveCount(3);
  await parts.getByRole('button', { name: 'Add brows, lids and eyes' }).click();
  await expect(page.getByText('This head has eyes, lids, brows already.')).toBeVisible();
  await parts.getByRole('button', { name: 'Brows', exact: true }).click();
  await expectAccess(page);
  await parts.getByRole('slider', { name: 'Down' }).fill('90');
  await parts.getByRole('combobox', { name: 'What Brows moves with' }).selectOption({ label: 'eyes' });
  await saved(page);
  const [eyes, , brows] = await partsNow();
  expect([brows!.at.y, brows!.follows]).toEqual([90, eyes!.id]);
  await parts.getByRole('textbox', { name: 'Name of another part' }).fill('Left hand');
  await parts.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(parts.getByRole('listitem')).toHaveCount(4);
  // What carried another is taken away: the other is on the head again.
  await parts.getByRole('button', { name: 'Eyes', exact: true }).click();
  await parts.getByRole('button', { name: 'Take eyes away' }).click();
  await saved(page);
  expect((await partsNow()).map(({ name, follows }) => [name, follows])).toEqual([
    ['Lids', undefined],
    ['Brows', undefined],
    ['Left hand', undefined],
  ]);
  await parts.getByRole('link', { name: 'Draw Lids' }).click();
  await expect(page.getByText('6 drawings of a part of the face: no sound plays them.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Drawing desk' }).locator('[data-part="Brows"]')).toHaveCount(1);
  await expectAccess(page);
});
