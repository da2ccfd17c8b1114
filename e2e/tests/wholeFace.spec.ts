/** A whole face from one layered file: its head, its mouths and its parts, talking and blinking in a scene. */
import { lookToSvg, starterChart, starterParts, type ChartView, type Drawing } from '@zest-jaw/core';
import { addLane, expect, mouthLane, openDemo, saved, test } from '../app.js';

const chart = starterChart('Made', 'clay');
const { style } = chart.settings[0]!;
const NAMES: Readonly<Record<string, string>> = {
  rest: 'rest',
  press: 'mbp',
  teeth: 'ss',
  drop: 'ah',
  pucker: 'oo',
  spread: 'ee',
  bite: 'fv',
};
const parts = starterParts('Made', style, { x: 200, y: 162, apart: 50, across: 20, tall: 23, lid: '#f0c08e', brow: '#33202f', hang: 0.2 });

const markup = (drawing: Drawing, id: string): string => lookToSvg(style, drawing, { idPrefix: `${id}-` });
const layer = (name: string, place: string, drawings: readonly (readonly [string, Drawing])[]): string =>
  `<g id="${name}">${drawings
    .map(
      ([label, drawing], index) =>
        `<g id="${name === 'Mouth' ? label : label.toLowerCase()}" transform="${place}">${markup(drawing, `${name}${index}`)}</g>`,
    )
    .join('')}</g>`;
const partLayer = (name: string): string => {
  const found = parts.find(({ part }) => part.name === name)!;
  const { x, y, scale } = found.part.at;
  // An empty layer is no drawing: lids that are open are not drawn at all in the starter.
  const drawings = found.chart.drawings.filter(({ art }) => art.kind !== 'drawn' || art.marks.length > 0);
  return layer(
    name,
    `translate(${x} ${y}) scale(${scale})`,
    drawings.map((drawing) => [drawing.label, drawing] as const),
  );
};
const FACE = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" viewBox="0 0 400 400"><g id="Head"><ellipse cx="200" cy="200" rx="170" ry="185" fill="#f0c08e"/></g>${layer(
  'Mouth',
  'translate(200 270)',
  chart.drawings.filter(({ id }) => NAMES[id]).map((drawing) => [NAMES[drawing.id]!, drawing] as const),
)}${partLayer('Lids')}${partLayer('Brows')}</svg>`;

test('one file brings the head, the mouths and every part on a chart of its own; the face talks and blinks', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  await page.getByRole('link', { name: 'Chart', exact: true }).click();
  await page
    .getByLabel('Mouths to import', { exact: true })
    .setInputFiles({ name: 'face.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(FACE) });
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('heading', { name: 'A whole face found' })).toBeVisible();
  const list = dialog.getByRole('list', { name: 'Parts of the face' });
  await expect(list.getByRole('listitem')).toHaveCount(4);
  await expect(list).toContainText('7 mouths');
  await dialog.getByRole('button', { name: 'Take the face' }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);

  const made = await app.json<ChartView>('/api/charts/odette-front');
  const head = made.document.head[0]!;
  expect(head.art.kind).toBe('picture');
  const own = head.parts!.filter(({ name }) => ['Lids', 'Brows'].includes(name));
  expect(own.map(({ name }) => name).sort()).toEqual(['Brows', 'Lids']);
  for (const part of own) {
    const { document } = await app.json<ChartView>(`/api/charts/${part.chartId}`);
    expect(document.settings[0]!.part).toBe(true);
    expect(document.drawings.length).toBeGreaterThan(1);
    expect(part.order).toBeGreaterThan(0);
  }
  // The mouths lie on the head where the file has them: its cross at 200, 270 of the page, the head's own corner at 30, 15.
  expect(Math.abs(head.mouth.x - (200 - 30))).toBeLessThan(6);
  const played = made.document.drawings.filter(({ art }) => art.kind === 'placed');
  expect(played).toHaveLength(7);

  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await addLane(page, 'lids');
  await expect(page.getByRole('button', { name: 'Lids', exact: true })).toBeVisible();
  await page.keyboard.press('j');
  await page.getByRole('region', { name: 'By itself' }).getByRole('button', { name: 'Blink' }).click();
  const shut = (await app.json<ChartView>(`/api/charts/${own.find(({ name }) => name === 'Lids')!.chartId}`)).document.drawings.find(
    ({ label }) => label.toLowerCase() === 'shut',
  )!.id;
  await expect.poll(async () => (await mouthLane(page)).filter(({ drawing }) => drawing === shut).length).toBeGreaterThan(0);
  const blink = (await mouthLane(page)).findIndex(({ drawing }) => drawing === shut);
  const easel = page.getByTestId('easel').first();
  await page.keyboard.press('Home');
  const open = await easel.locator('[data-part="Lids"]').innerHTML();
  for (let step = 0; step < blink; step++) await page.keyboard.press('ArrowDown');
  await expect.poll(() => easel.locator('[data-part="Lids"]').innerHTML()).not.toBe(open);
  // Every one of the mouths that were taken is a picture on the face.
  await expect(easel.locator('[data-part="mouth"] image')).toHaveCount(1);
});
