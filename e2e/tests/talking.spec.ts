/** The demo talks: picture and sound together, frame by frame, by playing, stepping and scrubbing. */
import type { Page } from '@playwright/test';
import { truthOfWave, type SceneDocument } from '@zest-jaw/core';
import { expect, openDemo, test } from '../app.js';

interface SceneAnswer {
  readonly document: SceneDocument;
}

/** Records every sound that is started: `[context time, seconds into the recording, seconds long]`. */
async function hearSounds(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const heard: number[][] = [];
    Object.assign(window, { heard });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, duration = 0) {
      heard.push([when, offset, duration]);
      const from = Math.round(offset * 48_000);
      const samples = this.buffer!.getChannelData(0).slice(from, from + Math.round(duration * 48_000));
      Object.assign(window, { lastHeard: Array.from(samples) });
      return start.call(this, when, offset, duration);
    };
  });
}

const soundsHeard = (page: Page): Promise<number[][]> => page.evaluate(() => (window as unknown as { heard: number[][] }).heard);

test('the home page shows the demo scenes, and one press of Space makes one talk', async ({ page, app }) => {
  await hearSounds(page);
  await page.goto(app.url('/'));
  for (const title of ['The wet stamp', 'A complaint at low tide', 'The last ferry'])
    await expect(page.getByRole('heading', { name: title })).toBeVisible();
  await page.getByRole('link', { name: /The wet stamp/ }).click();
  // Home has an easel on every card.
  await expect(page.getByTestId('bar-sheet')).toBeVisible();
  const easel = page.getByTestId('easel');
  await expect(easel).toHaveAttribute('data-drawing', 'rest');

  // Every picture shown while it plays, as the page shows it.
  await page.evaluate(() => {
    const shown: [number, string][] = [];
    Object.assign(window, { shown });
    const element = window.document.querySelector('[data-testid=easel]') as HTMLElement;
    new MutationObserver(() => shown.push([Number(element.dataset['frame']), element.dataset['drawing']!])).observe(element, {
      attributes: true,
      attributeFilter: ['data-frame', 'data-drawing'],
    });
  });
  await page.keyboard.press('Space');
  await expect.poll(() => page.evaluate(() => (window as unknown as { shown: unknown[] }).shown.length)).toBeGreaterThan(0);
  // It plays to the end, and the playhead goes back to where it began.
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(easel).toHaveAttribute('data-frame', '0');

  const shown = await page.evaluate(() => (window as unknown as { shown: [number, string][] }).shown);
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-wet-stamp');
  const played = shown.slice(0, -1);
  for (const [frame, drawing] of played)
    expect(document.exposures.find(({ from, to }) => from <= frame && frame < to)!.drawing).toBe(drawing);
  for (const [index, [frame]] of played.entries()) if (index > 0) expect(frame).toBeGreaterThanOrEqual(played[index - 1]![0]);
  expect(new Set(played.map(([, drawing]) => drawing)).size).toBeGreaterThan(6);
  const [sound] = await soundsHeard(page);
  expect(sound![1]).toBe(0);
  expect(sound![2]).toBeCloseTo(document.clips[0]!.lengthSamples / 48_000, 3);
});

test('the arrow keys step one frame and let that frame be heard', async ({ page, app }) => {
  await hearSounds(page);
  await openDemo(page, app, 'the-last-ferry');
  const easel = page.getByTestId('easel');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  for (let press = 0; press < 3; press++) await page.keyboard.press('ArrowRight');
  await expect(easel).toHaveAttribute('data-frame', '3');
  await expect(page.getByTestId('readout')).toContainText('1004');
  await page.keyboard.press('ArrowLeft');
  await expect(easel).toHaveAttribute('data-frame', '2');
  await expect.poll(async () => (await soundsHeard(page)).length).toBe(4);
  const last = (await soundsHeard(page)).at(-1)!;
  expect(last[2]).toBeCloseTo(1 / 25, 5);
  // It is the recording from two frames on, sample for sample, once it has faded in.
  const { document } = await app.json<SceneAnswer>('/api/scenes/the-last-ferry');
  const wave = new Uint8Array(await (await fetch(app.url(`/api/assets/${document.clips[0]!.audio}`))).arrayBuffer());
  const truth = truthOfWave(wave);
  if ('refusal' in truth) throw new Error(truth.refusal);
  const heard = await page.evaluate(() => (window as unknown as { lastHeard: number[] }).lastHeard);
  const from = (2 / 25) * 48_000;
  expect(heard).toHaveLength(48_000 / 25);
  for (let at = 240; at < heard.length; at++) expect(Math.abs(heard[at]! - truth.samples[from + at]! / 32_768)).toBeLessThan(1e-4);
  expect(truth.samples.subarray(from, from + heard.length).some((value) => value !== 0)).toBe(true);
  expect(Math.abs(heard[0]!)).toBe(0);
});

test('clicking and dragging on a system scrubs', async ({ page, app }) => {
  await hearSounds(page);
  await openDemo(page, app, 'the-wet-stamp');
  const easel = page.getByTestId('easel');
  const canvas = page.locator('canvas[data-system="0"]');
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 60);
  await page.mouse.down();
  const clicked = Number(await easel.getAttribute('data-frame'));
  expect(clicked).toBeGreaterThan(5);
  await page.mouse.move(box.x + 500, box.y + 60, { steps: 12 });
  await page.mouse.up();
  const dragged = Number(await easel.getAttribute('data-frame'));
  expect(dragged).toBeGreaterThan(clicked + 10);
  expect((await soundsHeard(page)).length).toBeGreaterThan(5);
  await page.mouse.move(box.x + 300, box.y + 60);
  await expect(easel).toHaveAttribute('data-frame', String(dragged));
  // A second system starts where the first one ends.
  const second = (await page.locator('canvas[data-system="1"]').boundingBox())!;
  await page.mouse.click(second.x + 60, second.y + 60);
  expect(Number(await easel.getAttribute('data-frame'))).toBeGreaterThan(dragged);
});

test('a phrase loops until it is stopped, and stays inside its ends', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint');
  const easel = page.getByTestId('easel');
  await page.keyboard.press('KeyL');
  await expect(page.getByRole('button', { name: /Loop the phrase/ })).toHaveAttribute('aria-pressed', 'true');
  const frames = await easel.evaluate(
    (element) =>
      new Promise<number[]>((resolve) => {
        const seen: number[] = [];
        const observer = new MutationObserver(() => {
          const frame = Number((element as HTMLElement).dataset['frame']);
          seen.push(frame);
          const wrapped = seen.findIndex((value, index) => index > 0 && value < seen[index - 1]!);
          if (wrapped > 0 && seen.length > wrapped + 3) {
            observer.disconnect();
            resolve(seen);
          }
        });
        observer.observe(element, { attributes: true, attributeFilter: ['data-frame'] });
      }),
  );
  const { document } = await app.json<SceneAnswer>('/api/scenes/a-complaint');
  const secondPhrase = Math.floor((document.words.find((word) => word.text === 'I')!.fromSample / 48_000) * 12);
  expect(Math.max(...frames)).toBeLessThan(secondPhrase);
  await page.keyboard.press('KeyL');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});
