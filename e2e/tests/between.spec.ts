/** Between drawings and beside lanes: in-betweens, pushes, smears, feels that add them; lanes that blend, go with another, rest. */
import {
  chartsWithOneOffs,
  facesOfFrames,
  madeOf,
  pictureSvg,
  type ChartDocument,
  type ChartView,
  type SceneDocument,
} from '@zest-jaw/core';
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { addLane, type App, expect, mouthLane, openDemo, saved, sceneDocument, test } from '../app.js';
import { differsFromPicture, hrefOf } from '../pixels.js';

const SCENE = 'the-last-ferry';

const chartsOf = async (app: App): Promise<Map<string, ChartDocument>> =>
  new Map((await app.json<ChartView[]>('/api/charts')).map(({ id, document }) => [id, document]));
const drawingsOf = async (page: Page): Promise<string[]> => (await mouthLane(page)).map(({ drawing }) => drawing);
const mouthOf = (document: SceneDocument): string => document.tracks.find(({ kind }) => kind === 'mouth')!.id;

/** The first mouth of the lane that is held for at least so many frames, before one of another drawing that has two. */
async function longMouth(page: Page, frames: number): Promise<number> {
  const lane = await mouthLane(page);
  const at = lane.findIndex(({ from, drawing }, index) => {
    const [next, after] = [lane[index + 1], lane[index + 2]];
    return index > 0 && next && after && next.from - from >= frames && next.drawing !== drawing && after.from - next.from >= 2;
  });
  return at;
}
async function goToMouth(page: Page, index: number): Promise<void> {
  await page.keyboard.press('Home');
  for (let step = 0; step < index; step++) await page.keyboard.press('ArrowDown');
}

test('an in-between by its key, its share, a smear and a push by slider and by handle: each undone, each as the picture has it', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  const before = await drawingsOf(page);
  const at = await longMouth(page, 4);
  await goToMouth(page, at);
  await page.keyboard.press('Alt+i');
  await expect.poll(async () => madeOf((await drawingsOf(page))[at + 1]!).mix?.share).toBe(0.5);
  const { a, b } = madeOf((await drawingsOf(page))[at + 1]!).mix!;
  expect([before[at], before[at + 1]]).toEqual([a, b]);
  await goToMouth(page, at + 1);
  await page.keyboard.press('Alt+Period');
  await expect.poll(async () => madeOf((await drawingsOf(page))[at + 1]!).mix?.share).toBe(0.6);

  await page.keyboard.press('Alt+b');
  const panel = page.getByRole('region', { name: 'Between mouths' });
  await panel.getByRole('slider', { name: 'Taller, %' }).fill('140');
  await expect.poll(async () => madeOf((await drawingsOf(page))[at + 1]!).push?.height).toBe(1.4);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  const handle = page.getByRole('slider', { name: 'Wider or narrower' });
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 12, box.y + box.height / 2, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => madeOf((await drawingsOf(page))[at + 1]!).push?.width ?? 1).toBeGreaterThan(1.05);
  await saved(page);

  const document = await sceneDocument(app, SCENE);
  const charts = new Map(chartsWithOneOffs(document, await chartsOf(app)));
  const frame = (await mouthLane(page))[at + 1]!.from;
  const look = facesOfFrames(document, mouthOf(document), charts)[frame]!;
  expect(madeOf(look.drawing).push).toBeDefined();
  const picture = pictureSvg(charts.get(look.chartId)!, look, { width: 400, height: 400, withHead: true, charts }, hrefOf);
  await expect.poll(() => differsFromPicture(page, picture)).toBe(0);

  // Alt+S smears into the mouth that comes next.
  await page.keyboard.press('Escape');
  await goToMouth(page, at + 2);
  await page.keyboard.press('Alt+s');
  await expect
    .poll(async () => (await drawingsOf(page)).some((id) => madeOf(id).push?.height === 1.3 || madeOf(id).push?.width === 1.3))
    .toBe(true);
  for (let step = 0; step < 5; step++) await page.keyboard.press('Control+z');
  await expect.poll(() => drawingsOf(page)).toEqual(before);
});

test('several in-betweens over a selection, with an ease; the panel says where there is no room', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  const lane = await mouthLane(page);
  const at = await longMouth(page, 4);
  await goToMouth(page, at);
  await page.keyboard.press('Alt+b');
  const panel = page.getByRole('region', { name: 'Between mouths' });
  // From this mouth to the next: a frame of it at least.
  const frames = lane[at + 1]!.from - lane[at]!.from + 1;
  for (let step = 0; step < frames - 1; step++) await page.keyboard.press('Shift+ArrowRight');
  await panel.getByRole('radio', { name: 'slow in' }).click();
  await panel.getByRole('radio', { name: '2', exact: true }).click();
  await panel.getByRole('button', { name: 'Put in-betweens' }).click();
  await expect.poll(async () => (await drawingsOf(page)).slice(at + 1, at + 3).map((id) => madeOf(id).mix?.share)).toEqual([0.556, 0.889]);
  await page.keyboard.press('Control+z');
  await expect.poll(() => drawingsOf(page)).toEqual(lane.map(({ drawing }) => drawing));
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  await panel.getByRole('button', { name: 'Put an in-between' }).click();
  await saved(page);
});

test('the feel Full adds in-betweens to the pencil; the lane blends, and is cut again', async ({ page, app }) => {
  await openDemo(page, app, SCENE);
  await page.keyboard.press('j');
  const feel = page.getByRole('region', { name: 'Feel' });
  await feel.getByRole('button', { name: 'Full', exact: true }).click();
  await expect(feel.getByRole('slider', { name: 'In-betweens' })).toHaveValue('0.65');
  await feel.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(async () => (await drawingsOf(page)).filter((id) => madeOf(id).mix).length).toBeGreaterThan(0);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: 'They blend over 6 frames' }).click();
  await saved(page);
  const document = await sceneDocument(app, SCENE);
  expect(document.tracks.find(({ kind }) => kind === 'mouth')!.blend).toBe(6);
  // Somewhere in the line the easel shows what is between two keys.
  const lane = await mouthLane(page);
  const held = new Set(lane.map(({ drawing }) => drawing));
  await page.keyboard.press('Home');
  const seen = new Set<string>();
  const easel = page.getByTestId('easel').first();
  for (let step = 0; step < 40; step++) {
    await page.keyboard.press('ArrowRight');
    seen.add((await easel.getAttribute('data-drawing'))!);
  }
  expect([...seen].filter((id) => madeOf(id).mix && !held.has(id)).length).toBeGreaterThan(0);
});

test('a lane goes with the mouth by a table, follows what is put there in one step, is folded, muted and locked by the keyboard', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  await addLane(page, 'brows');
  await expect.poll(() => drawingsOf(page)).toEqual(['level']);
  await page.keyboard.press('j');
  const panel = page.getByRole('region', { name: 'By itself' });
  // By how far the mouth opens, and taken back; then by one of its drawings.
  await panel.getByLabel('What it shows').selectOption('opens by half or more');
  await panel.getByLabel('What this lane shows then').selectOption('Up');
  await panel.getByRole('button', { name: 'Link them' }).click();
  await expect(panel.getByRole('list', { name: 'Links' })).toContainText('the mouth opens by half or more: “Up”');
  await expect.poll(async () => new Set(await drawingsOf(page))).toEqual(new Set(['level', 'up']));
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(() => drawingsOf(page)).toEqual(['level']);
  await panel.getByLabel('What it shows').selectOption('Drop');
  await panel.getByLabel('What this lane shows then').selectOption('Up');
  await panel.getByRole('button', { name: 'Link them' }).click();
  await expect(panel.getByRole('list', { name: 'Links' })).toContainText('the mouth “Drop”: “Up”');
  await saved(page);
  const upsOf = async (): Promise<number> => {
    const { tracks, exposures } = await sceneDocument(app, SCENE);
    const brows = tracks.find(({ part }) => part === 'Brows')!.id;
    return exposures.filter(({ track, drawing }) => track === brows && drawing === 'up').reduce((sum, { from, to }) => sum + to - from, 0);
  };
  const ups = await upsOf();
  // A mouth that is put leads the brows, in the same step of undo.
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Home');
  await page.keyboard.press('z');
  await saved(page);
  await expect.poll(upsOf).toBeGreaterThan(ups);
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(upsOf).toBe(ups);

  // Folded by its key while it is worked on, it is a line beside the others.
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+f');
  await page.keyboard.press('Alt+m');
  await saved(page);
  const lane = (await sceneDocument(app, SCENE)).tracks.find(({ part }) => part === 'Brows')!;
  expect([lane.folded, lane.muted]).toEqual([true, true]);
  await page.getByRole('button', { name: 'Brows', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: /Locked/ }).click();
  await saved(page);
  await page.keyboard.press('w');
  await expect(page.getByText('The lane of brows is locked. Unlock it in Lanes to change it.')).toBeVisible();
  await expect.poll(upsOf).toBe(ups);
});

test('a head and a mouth are moved over time, by numbers, by the mouse and by keys, as the picture has it; each is undone', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE);
  await page.keyboard.press('Alt+p');
  const panel = page.getByRole('region', { name: 'Place' });
  await panel.getByRole('radio', { name: 'The whole head' }).click();
  await panel.getByRole('slider', { name: 'Turned, °' }).fill('-10');
  await page.getByRole('slider', { name: 'Turned, °' }).blur();
  for (let step = 0; step < 12; step++) await page.keyboard.press('ArrowRight');
  await panel.getByRole('slider', { name: 'Turned, °' }).fill('10');
  await panel.getByRole('radio', { name: 'The mouth' }).click();
  const box = (await page.getByRole('button', { name: 'Drag to move, or arrow keys' }).boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 14, box.y + box.height / 2 + 6, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  const document = await sceneDocument(app, SCENE);
  expect(document.places.map(({ of, frame, angle }) => [of, frame, angle])).toEqual([
    ['head', 0, -10],
    ['head', 12, 10],
    ['own', 12, 0],
  ]);
  const own = document.places.find(({ of }) => of === 'own')!;
  expect(Math.hypot(own.x, own.y)).toBeGreaterThan(8);
  // The key goes a frame later apart from its mouth, and back by undo.
  await panel.getByRole('button', { name: 'A frame later' }).click();
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '13');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places.map(({ of, frame }) => [of, frame])).toContainEqual(['own', 13]);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places).toEqual(document.places);
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '12');
  // Its lozenge on the lane is dragged: the keys there go together, past none, and Escape gives it up.
  const sheet = page.getByTestId('bar-sheet');
  const area = (await sheet.boundingBox())!;
  const [left, perFrame, lane] = await sheet.evaluate(({ dataset }) =>
    [dataset['left'], dataset['perFrame'], dataset['mouthY']].map(Number),
  );
  const lozenge = (frame: number) => [area.x + left! + (frame + 0.5) * perFrame!, area.y + lane! + 2] as const;
  await page.mouse.move(...lozenge(12));
  await page.mouse.down();
  await page.mouse.move(...lozenge(15), { steps: 4 });
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '15');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '12');
  await page.mouse.move(...lozenge(12));
  await page.mouse.down();
  await page.mouse.move(...lozenge(16), { steps: 4 });
  await page.mouse.up();
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places.map(({ of, frame }) => [of, frame])).toEqual([
    ['head', 0],
    ['head', 16],
    ['own', 16],
  ]);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places).toEqual(document.places);
  for (let press = 0; press < 4; press++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('easel')).toHaveAttribute('data-frame', '12');
  // The knob on the lower edge of its box skews it.
  const knob = (await page.locator('[data-handle=skew]').boundingBox())!;
  await page.mouse.move(knob.x + knob.width / 2, knob.y + knob.height / 2);
  await page.mouse.down();
  await page.mouse.move(knob.x + knob.width / 2 + 12, knob.y + knob.height / 2, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  const skewed = (await sceneDocument(app, SCENE)).places.find(({ frame, of }) => of === 'own' && frame === 12)!;
  expect(skewed.skew).toBeGreaterThan(5);
  expect(skewed.x).toBe(own.x);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places).toEqual(document.places);
  // Half way between the two keys, as in what is handed off.
  await page.getByRole('button', { name: 'Close the place' }).click();
  await page.keyboard.press('Home');
  for (let step = 0; step < 7; step++) await page.keyboard.press('ArrowRight');
  const charts = new Map(chartsWithOneOffs(document, await chartsOf(app)));
  const look = facesOfFrames(document, mouthOf(document), charts)[7]!;
  expect(look.place?.headMoved).toMatch(/rotate/);
  const picture = pictureSvg(charts.get(look.chartId)!, look, { width: 400, height: 400, withHead: true, charts }, hrefOf);
  await expect.poll(() => differsFromPicture(page, picture)).toBe(0);
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  await saved(page);
  expect((await sceneDocument(app, SCENE)).places).toEqual([]);
});
