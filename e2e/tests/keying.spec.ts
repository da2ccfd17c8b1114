/** Putting mouths by hand: ink, undo, keying again, saving, and two people at once. */
import type { Page } from '@playwright/test';
import { drag, expect, type ExposureCell, mouthLane, openDemo, takeIt, test, tryLoudness } from '../app.js';

const inkOf = (lane: readonly ExposureCell[]): ExposureCell[] => lane.filter((cell) => cell.inked);

async function goTo(page: Page, frame: number): Promise<void> {
  await page.keyboard.press('Home');
  for (let at = 0; at < frame; at++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(frame));
}

test('a keycap puts that mouth at the playhead, in ink; undo and redo; it is there after a restart', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry');
  const before = await mouthLane(page);
  await goTo(page, 12);
  const split = before.find((cell) => cell.from <= 12 && 12 < cell.to)!;
  await page.keyboard.press('KeyX');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'ring');
  await expect(page.getByTestId('readout')).toContainText('Ring, ink');
  const after = await mouthLane(page);
  expect(after.find((cell) => cell.from === 12)).toEqual({ from: 12, to: split.to, drawing: 'ring', inked: true });

  await page.keyboard.press('Control+KeyZ');
  expect(await mouthLane(page)).toEqual(before);
  await page.keyboard.press('Control+Shift+KeyZ');
  expect(await mouthLane(page)).toEqual(after);
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  expect(await mouthLane(page)).toEqual(after);
  await app.restart();
  await page.reload();
  expect(await mouthLane(page)).toEqual(after);
});

test('keying again with other rules moves only pencil', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  expect(inkOf(before).length).toBeGreaterThan(5);
  await page.getByRole('button', { name: 'Feel Natural' }).click();
  await page.getByLabel('Hold', { exact: true }).fill('3');
  await expect(page.getByText(/\d+ mouths would change\./)).toBeVisible();
  // Shown, tinted, and not yet taken.
  expect((await page.getByRole('gridcell', { name: /, proposed$/ }).count()) > 3).toBe(true);
  await takeIt(page);
  await page.getByRole('button', { name: 'Close the feel' }).click();
  const after = await mouthLane(page);
  expect(inkOf(after)).toEqual(inkOf(before));
  expect(after.length).toBeLessThan(before.length);
  await page.getByRole('button', { name: 'Key again' }).click();
  await expect(page.getByText('The pencil is already as the rules have it.')).toBeVisible();
  expect(await mouthLane(page)).toEqual(after);
});

test('ink and back to pencil, by keys', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.keyboard.press('End');
  await expect(page.getByTestId('readout')).toContainText('pencil');
  await page.keyboard.press('KeyI');
  await expect(page.getByTestId('readout')).toContainText('ink');
  await page.keyboard.press('Shift+KeyI');
  await expect(page.getByTestId('readout')).toContainText('pencil');
  await page.keyboard.press('Shift+KeyI');
  await expect(page.getByText('This mouth is in pencil already.')).toBeVisible();
});

test('every mouth of the tray is a button with its keycap, and the exposure keys find each exposure', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const tray = page.getByRole('group', { name: 'Tray' }).getByRole('button', { name: /^Put / });
  await expect(tray).toHaveCount(13);
  await expect(tray.nth(10)).toHaveAttribute('aria-keyshortcuts', 'Z');
  const lane = await mouthLane(page);
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', String(lane[1]!.from));
  await page.keyboard.press('ArrowUp');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '0');
  await page.keyboard.press('Shift+Slash');
  await expect(page.getByRole('dialog', { name: 'All keys' })).toBeVisible();
  // A keycap pressed in a dialog puts no mouth.
  await page.keyboard.press('KeyZ');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-drawing', 'rest');
});

test('without the server work goes on, says so, and is sent when it is back', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.route('**/api/scenes/a-complaint', (route) => (route.request().method() === 'PATCH' ? route.abort() : route.continue()));
  await goTo(page, 40);
  await page.keyboard.press('KeyX');
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  // The tab is closed and opened again: what was not saved is still there, and goes out.
  await page.reload();
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  expect((await mouthLane(page)).find((cell) => cell.from === 40)).toMatchObject({ drawing: 'ring', inked: true });
  await page.unroute('**/api/scenes/a-complaint');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  expect((await mouthLane(page)).find((cell) => cell.from === 40)).toMatchObject({ drawing: 'ring', inked: true });
});

test('two windows: changes elsewhere in the scene go together, changes of the same mouth keep both versions', async ({
  page,
  app,
  context,
}) => {
  await openDemo(page, app, 'the-last-ferry');
  const other = await context.newPage();
  await openDemo(other, app, 'the-last-ferry');
  await goTo(page, 60);
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  // The other window changes another mouth, and has both.
  await goTo(other, 120);
  await other.keyboard.press('KeyC');
  await expect(other.getByTestId('save-state')).toHaveText('saved');
  expect((await mouthLane(other)).find((cell) => cell.from === 60)).toMatchObject({ drawing: 'drop', inked: true });

  // At once: what the other does has not arrived here when this one puts its own.
  await page.route('**/api/scenes/**', (route) => route.abort());
  await goTo(other, 60);
  await other.keyboard.press('KeyQ');
  await expect(other.getByTestId('save-state')).toHaveText('saved');
  await page.keyboard.press('KeyF');
  await expect(page.getByTestId('save-state')).toHaveText('not saved yet');
  await page.unroute('**/api/scenes/**');
  await expect(page.getByRole('dialog', { name: 'This scene was changed elsewhere' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on with mine' }).click();
  await expect(page.getByText('The last ferry (my version)')).toBeVisible();
  const copy = (await mouthLane(page)).find((cell) => cell.from === 60);
  expect(copy).toMatchObject({ drawing: 'spread', inked: true });
  await openDemo(page, app, 'the-last-ferry');
  expect((await mouthLane(page)).find((cell) => cell.from === 60)).toMatchObject({ drawing: 'rest', inked: true });
  await other.close();
});

test('a feel is changed while a phrase loops: the face follows, only pencil moves, and leaving it changes nothing', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.keyboard.press('j');
  const feels = page.getByRole('group', { name: 'Feels' });
  await feels.getByRole('button', { name: 'Replacement' }).click();
  await expect(page.getByText(/\d+ mouths would change\./)).toBeVisible();
  const tried = await mouthLane(page);
  expect(tried.length).toBeLessThan(before.length);
  expect(inkOf(tried)).toEqual(inkOf(before));
  // It goes on looping.
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect.poll(() => mouthLane(page)).toEqual(before);
  await feels.getByRole('button', { name: 'Limited' }).click();
  await takeIt(page);
  const taken = await mouthLane(page);
  for (const { from, inked } of taken) if (!inked && !taken.some((cell) => cell.inked && cell.to === from)) expect(from % 2).toBe(0);
  await expect(page.getByRole('button', { name: 'Feel Limited' })).toBeVisible();
  // One step of undo: the rules and the pencil go back together.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Feel Natural' })).toBeVisible();
  expect(await mouthLane(page)).toEqual(before);
});

test('a chart that plays other sounds: what would change is shown when the scene is keyed next, before it is taken', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  await page.getByRole('link', { name: 'Chart', exact: true }).click();
  await page.locator('[role=option][data-drawing=drop]').click();
  await page.getByRole('group', { name: 'Plays' }).getByRole('button', { name: 'Teeth', exact: true }).click();
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByText('The chart plays other sounds than when this was keyed.')).toBeVisible();
  await takeIt(page);
  const after = await mouthLane(page);
  expect(inkOf(after)).toEqual(inkOf(before));
  expect(after.filter((cell) => !cell.inked && cell.drawing === 'drop').length).toBeGreaterThan(
    before.filter((cell) => !cell.inked && cell.drawing === 'drop').length,
  );
});

test('a chart is changed beside its scene: what it changes of the pencil is shown at once, goes with the change, and is taken there', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  await page.getByRole('link', { name: 'Chart', exact: true }).click();
  await page.locator('[role=option][data-drawing=mid]').click();
  const spread = page.getByRole('group', { name: 'Plays' }).getByRole('button', { name: 'Spread', exact: true });
  const preview = page.getByRole('region', { name: 'What it changes of the pencil' });
  await expect(preview).toHaveCount(0);
  await spread.click();
  await expect(preview.getByText(/\d+ mouths would change\./)).toBeVisible();
  // Taken back, nothing would change any more.
  await page.keyboard.press('Control+KeyZ');
  await expect(preview).toHaveCount(0);
  await spread.click();
  await preview.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByText('Taken. The ink stayed.')).toBeVisible();
  await expect(preview).toHaveCount(0);
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  const after = await mouthLane(page);
  expect(inkOf(after)).toEqual(inkOf(before));
  expect(after.some((cell) => !cell.inked && cell.drawing === 'spread')).toBe(false);
  expect(before.some((cell) => !cell.inked && cell.drawing === 'spread')).toBe(true);
  // It has been decided on: the Key step does not ask again.
  await expect(page.getByRole('button', { name: 'Take it' })).toHaveCount(0);
});

test('a phrase has a feel of its own: only its pencil changes, it is named on the sheet, and it goes by the rest again', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  await page.keyboard.press('End');
  await page.keyboard.press('j');
  await page.getByRole('radio', { name: 'a phrase' }).click();
  await expect(page.getByTestId('feel-span')).toContainText('lighthouse');
  await page.getByRole('group', { name: 'Feels' }).getByRole('button', { name: 'Replacement' }).click();
  await takeIt(page);
  const after = await mouthLane(page);
  const [first] = (await page.getByTestId('feel-span').textContent())!.match(/(?<=Frames )\d+/)!;
  const phrase = Number(first) - 1;
  const around = (lane: readonly ExposureCell[]): ExposureCell[] => lane.filter((cell) => cell.to < phrase);
  expect(around(after)).toEqual(around(before));
  expect(after.filter((cell) => cell.from >= phrase).length).toBeLessThan(before.filter((cell) => cell.from >= phrase).length);
  await expect(page.getByRole('gridcell', { name: /, feel Replacement, pencil$/ }).first()).toBeAttached();
  // The track is as natural as before, and a phrase that has no feel of its own says so.
  await page.keyboard.press('Home');
  await expect(page.getByTestId('feel-span')).toContainText('Please');
  await expect(page.getByRole('button', { name: 'As the rest' })).toHaveCount(0);
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'As the rest' }).click();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(() => mouthLane(page)).toEqual(before);
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  await page.reload();
  expect(await mouthLane(page)).toEqual(before);
});

test('an edge between two mouths is dragged: the one that starts there is ink, and stays when the pencil is keyed again', async ({
  page,
  app,
}) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  const held = before.find((cell, index) => !cell.inked && index > 1 && cell.to - cell.from >= 4)!;
  const sheet = page.getByTestId('bar-sheet');
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const { perFrame, left, y } = await sheet.evaluate((element) => ({
    perFrame: Number(element.dataset['perFrame']),
    left: Number(element.dataset['left']),
    y: Number(element.dataset['mouthY']),
  }));
  const at = (frame: number): number => box.x + left + frame * perFrame;
  const drag = async (from: number, to: number): Promise<void> => {
    await page.mouse.move(at(from), box.y + y + 30);
    await page.mouse.down();
    await page.mouse.move(at((from + to) / 2), box.y + y + 30);
    await page.mouse.move(at(to), box.y + y + 30);
  };
  await drag(held.from, held.from + 2);
  await page.mouse.up();
  const moved = { ...held, from: held.from + 2, inked: true };
  expect((await mouthLane(page)).find((cell) => cell.from === moved.from)).toEqual(moved);
  await page.keyboard.press('k');
  await expect(page.getByText(/the ink stayed|already as the rules have it/)).toBeVisible();
  expect((await mouthLane(page)).find((cell) => cell.from === moved.from)).toEqual(moved);
  // Given up with Escape, a drag changes nothing; and each drag is one undo.
  const kept = await mouthLane(page);
  await drag(moved.from, moved.from + 1);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect(await mouthLane(page)).toEqual(kept);
  for (let undone = 0; undone < 2 && !(await mouthLane(page)).every((cell, index) => cell.from === before[index]?.from); undone++)
    await page.keyboard.press('Control+KeyZ');
  expect(await mouthLane(page)).toEqual(before);
});

test('by keys the mouth at the playhead starts here, and ends here; it is ink, and each is one undo', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const before = await mouthLane(page);
  const at = before.findIndex((cell, index) => !cell.inked && index > 1 && cell.to - cell.from >= 4);
  const held = before[at]!;
  await goTo(page, held.from + 1);
  await page.keyboard.press('Semicolon');
  const started = await mouthLane(page);
  expect(started[at]).toEqual({ ...held, from: held.from + 1, inked: true });
  expect(started[at - 1]!.to).toBe(held.from + 1);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Quote');
  const ended = await mouthLane(page);
  expect(ended[at]!.to).toBe(held.from + 3);
  expect(ended[at + 1]).toMatchObject({ from: held.from + 3, inked: true });
  await page.keyboard.press('Control+KeyZ');
  expect(await mouthLane(page)).toEqual(started);
  await page.keyboard.press('Control+KeyZ');
  expect(await mouthLane(page)).toEqual(before);
});

test('a feel of one’s own is kept by the production, and forgotten', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  await page.keyboard.press('j');
  await page.getByRole('slider', { name: 'Settle' }).fill('5');
  await page.getByRole('radio', { name: 'quick sounds too' }).click();
  await page.getByLabel('Name of your own feel').fill('Night shift');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const feels = page.getByRole('group', { name: 'Feels' });
  await expect(feels.getByRole('button', { name: 'Night shift' })).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  // There in another scene of the production, after a reload.
  await openDemo(page, app, 'a-complaint');
  await page.keyboard.press('j');
  await feels.getByRole('button', { name: 'Night shift' }).click();
  await expect(page.getByRole('slider', { name: 'Settle' })).toHaveValue('5');
  await expect(page.getByRole('radio', { name: 'quick sounds too' })).toBeChecked();
  await page.getByLabel('Name of your own feel').fill('natural');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('There is a feel “natural” already.')).toBeVisible();
  await page.getByRole('button', { name: 'Forget “Night shift”' }).click();
  await expect(feels.getByRole('button', { name: 'Night shift' })).toHaveCount(0);
});

test('a part is keyed, inked, turned back and erased; the rest stays', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  await page.keyboard.press('k');
  await expect(page.getByText('The pencil is already as the rules have it.')).toBeVisible();
  const before = await mouthLane(page);
  const act = async (name: string): Promise<void> => {
    await page.getByRole('button', { name: 'Pencil and ink' }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await act('Erase pencil: the phrase at the playhead');
  const erased = await mouthLane(page);
  const phraseEnd = Math.min(...inkOf(before).map((cell) => cell.from));
  expect(erased.filter((cell) => cell.to <= phraseEnd).every((cell) => cell.drawing === 'rest')).toBe(true);
  expect(inkOf(erased)).toEqual(inkOf(before));
  await act('Key: the phrase at the playhead');
  await expect.poll(() => mouthLane(page)).toEqual(before);
  for (let frame = 0; frame < 8; frame++) await page.keyboard.press('Shift+ArrowRight');
  await act('Ink: the selected frames');
  expect((await mouthLane(page)).filter((cell) => cell.from <= 8).every((cell) => cell.inked)).toBe(true);
  await act('To pencil: the whole scene');
  expect(inkOf(await mouthLane(page))).toEqual([]);
  await act('Ink: the whole scene');
  await expect(page.getByTestId('inked')).toHaveText('Inked 100 %');
});

test('why a mouth is here, in words, follows the playhead', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  await page.keyboard.press('y');
  const why = page.getByRole('region', { name: 'Why this mouth' });
  await expect(why).toContainText('Nobody has spoken yet.');
  await page.keyboard.press('ArrowDown');
  await expect(why).toContainText('Press plays Press. It must be seen');
  await expect(why).toContainText('would lose lips that must be seen');
  const inked = inkOf(await mouthLane(page))[0]!;
  for (let step = 0; step < 60 && !(await why.textContent())!.includes('You decided it'); step++) await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('readout')).toHaveAttribute('data-frame', String(inked.from));
  // Of ink, what the rules would have had in its place.
  await expect(why).toContainText('The rules would have');
  await page.getByRole('button', { name: 'Close the reasons' }).click();
  await expect(page.getByRole('group', { name: 'Tray' })).toBeVisible();
});

test('the crib: a plan to key by hand against, with figures', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  const crib = page.getByRole('gridcell', { name: /^crib: / });
  await expect(crib).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(crib.first()).toBeAttached();
  const figures = page.getByTestId('crib-figures');
  await expect(figures).toContainText('% as the crib');
  // The hand puts another mouth: the share falls, and the crib stays as it was.
  const told = async (): Promise<number> => Number(/(\d+) %/.exec((await figures.textContent())!)![1]);
  const [share, lane] = [await told(), await crib.allTextContents()];
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('z');
  await expect.poll(told).toBeLessThan(share);
  expect(await crib.allTextContents()).toEqual(lane);
  await page.keyboard.press('u');
  await expect(crib).toHaveCount(0);
});

test('a line is keyed by hand against the crib, from an empty lane on', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.getByRole('button', { name: 'Pencil and ink' }).click();
  await page.getByRole('menuitem', { name: 'To pencil: the whole scene' }).click();
  await page.keyboard.press('u');
  await page.getByRole('button', { name: 'Erase the pencil' }).click();
  await expect.poll(async () => (await mouthLane(page)).length).toBe(1);
  await expect(page.getByTestId('crib-figures')).toHaveText('Nothing inked yet');
  // The mouths of the crib, put one after another by their keycaps.
  const crib = (await page.getByRole('gridcell', { name: /^crib: / }).allTextContents()).slice(0, 6).map((text) => {
    const [, label, first] = /^crib: (.+), frames? (\d+)/.exec(text)!;
    return { label: label!, first: Number(first) };
  });
  const tray = page.getByRole('group', { name: 'Tray' });
  const start = crib[0]!.first;
  for (const { label, first } of crib) {
    await goTo(page, first - start);
    const keycap = await tray
      .getByRole('button')
      .filter({ hasText: new RegExp(`${label}$`) })
      .getAttribute('aria-keyshortcuts');
    await page.keyboard.press(`Key${keycap}`);
  }
  await expect(page.getByTestId('crib-figures')).toContainText('on time');
  const lane = await mouthLane(page);
  expect(lane.slice(0, 6).map(({ from, inked }) => ({ first: from + start, inked }))).toEqual(
    crib.map(({ first }) => ({ first, inked: true })),
  );
});

test('a clip without words is keyed by how loud it is, between a floor and a peak that are dragged', async ({ page, app }) => {
  await tryLoudness(page, app);
  const byLoudness = await mouthLane(page);
  expect(byLoudness[0]!.drawing).toBe('rest');
  expect(new Set(byLoudness.map((cell) => cell.drawing)).size).toBeGreaterThan(4);
  // The peak is dragged up: the mouth opens less.
  const sheet = page.getByTestId('bar-sheet');
  const [box, y, height] = [
    (await sheet.boundingBox())!,
    Number(await sheet.getAttribute('data-wave-y')),
    Number(await sheet.getAttribute('data-wave-height')),
  ];
  const peak = Number(await sheet.getAttribute('data-peak'));
  const at = box.y + y + height - 2 - (1 + peak / 50) * (height - 4);
  await drag(page, { x: box.x + 300, y: at }, { x: box.x + 300, y: box.y + y + 3 });
  await expect.poll(async () => Number(await sheet.getAttribute('data-peak'))).toBeGreaterThan(peak);
  const wide = (lane: readonly { drawing: string; from: number; to: number }[]): number =>
    lane.filter(({ drawing }) => drawing === 'drop').reduce((sum, { from, to }) => sum + to - from, 0);
  await expect.poll(async () => wide(await mouthLane(page))).toBeLessThan(wide(byLoudness));
  // From the keyboard too: the floor raised, more of it rests.
  const resting = (lane: readonly ExposureCell[]): number =>
    lane.filter(({ drawing }) => drawing === 'rest').reduce((sum, { from, to }) => sum + to - from, 0);
  const rested = resting(await mouthLane(page));
  const floor = page.getByRole('slider', { name: 'Floor' });
  await floor.focus();
  for (let press = 0; press < 25; press++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => resting(await mouthLane(page))).toBeGreaterThan(rested);
  expect(Number(await floor.inputValue())).toBeLessThan(Number(await page.getByRole('slider', { name: 'Peak' }).inputValue()));
  await takeIt(page);
});
