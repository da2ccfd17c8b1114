/** What leaves the loudspeaker, recorded: loops that do not slip, steps and stops that do not click, slow sound that comes at once. */
import type { Page } from '@playwright/test';
import { expect, openDemo, test, type App } from '../app.js';
import {
  framesAsTones,
  frequencyAt,
  longestHole,
  maybeFrameOfTone,
  recorded,
  recordOutput,
  rewind,
  shownOn,
  stepsAbove,
  tapeOf,
  type Shown,
} from '../recorder.js';

test.use({ bypassCSP: true });

/** A scene whose every frame sounds otherwise. */
async function openTones(page: Page, app: App, frames: number): Promise<void> {
  await recordOutput(page);
  const made = await app.makeScene(framesAsTones(frames), { script: '', frameRate: '24', characterId: 'bramble' });
  await fetch(app.url(`/api/jobs/${made.jobId}`), { method: 'DELETE' });
  await openDemo(page, app, made.sceneId);
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  // The device opens with the first sound, the tape a moment later.
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await tapeOf(page)).samples.length).toBeGreaterThan(0);
}

/** The key of a speed, how slow it is, how many frames go round, and how late the headphones are. */
const LOOPS = [
  ['Digit1', 1, 6, 0],
  ['Digit1', 1, 6, 300],
  ['Digit2', 2, 4, 300],
  ['Digit3', 4, 3, 300],
  ['Digit4', 8, 2, 300],
] as const;

for (const [key, slowness, frames, delayMs] of LOOPS)
  test(
    `a loop at 1/${slowness} of its speed, ${delayMs} ms late: the frame shown is the frame heard, round after round`,
    { tag: '@alone' },
    async ({ page, app }) => {
      await page.addInitScript((delay) => localStorage.setItem('zest-sound', JSON.stringify({ outputDelayMs: delay })), delayMs);
      await openTones(page, app, 40);
      for (let frame = 0; frame < 4; frame++) await page.keyboard.press('ArrowRight');
      for (let frame = 1; frame < frames; frame++) await page.keyboard.press('Shift+ArrowRight');
      await page.keyboard.press(key);
      const seconds = (21 * frames * slowness) / 24 + delayMs / 1000;
      let shown: Shown[] = [];
      const tape = await recorded(page, delayMs, async () => {
        await page.keyboard.press('KeyL');
        const recordedSeconds = async (): Promise<number> => (await tapeOf(page)).samples.length / 48_000;
        await expect.poll(recordedSeconds, { intervals: [500] }).toBeGreaterThan(seconds + 0.2);
        shown = await shownOn(page);
        await page.keyboard.press('KeyL');
      });
      // Where one frame turns into the next either may be heard: a slow window is 43 ms wide, and taken up to 6.7 ms of the sound aside.
      const blur = slowness === 1 ? 0.012 : 0.022 + 0.0067 * slowness;
      let looked = 0;
      const wrong: number[][] = [];
      const frameAt = (time: number): number | undefined => maybeFrameOfTone(frequencyAt(tape, Math.round(time * 48_000)));
      for (const { heardAt, frame } of shown) {
        const around = [frameAt(heardAt - blur), frameAt(heardAt), frameAt(heardAt + blur)];
        if (around.some((heard) => heard === undefined || heard !== around[0])) continue;
        looked += 1;
        if (around[0] !== frame) wrong.push([heardAt, frame, around[0]!]);
      }
      expect(looked).toBeGreaterThan(30);
      expect(wrong).toEqual([]);
      // Rounds follow one another without a hole: only the fades at their ends.
      expect(longestHole(tape)).toBeLessThan(0.004);
      expect(stepsAbove(tape, 0.2)).toEqual([]);
    },
  );

test('steps, one quickly after the other, stops and jumps never cut the sound hard', { tag: '@alone' }, async ({ page, app }) => {
  await openTones(page, app, 200);
  const tape = await recorded(page, 0, async () => {
    await page.keyboard.press('Home');
    for (let press = 0; press < 20; press++) {
      await page.keyboard.press('ArrowRight');
      await page.waitForTimeout(press % 3 === 0 ? 10 : 25);
    }
    for (let turn = 0; turn < 5; turn++) {
      await page.keyboard.press('Space');
      await page.waitForTimeout(90 + turn * 17);
      await page.keyboard.press('Space');
    }
    await page.keyboard.press('KeyL');
    await page.waitForTimeout(200);
    for (const key of ['BracketRight', 'BracketRight', 'Digit2', 'Digit1', 'Shift+BracketRight']) {
      await page.keyboard.press(key);
      await page.waitForTimeout(130);
    }
    await page.keyboard.press('KeyL');
    await page.waitForTimeout(300);
  });
  expect(tape.samples.some((value) => Math.abs(value) > 0.3)).toBe(true);
  // The steepest the loudest and highest of these tones is: 2 π f A / 48 000, and two of them over one another.
  const steepestTone = (2 * Math.PI * 3130 * 0.366) / 48_000;
  expect(stepsAbove(tape, 2 * steepestTone)).toEqual([]);
  expect(Math.abs(tape.samples.at(-1)!)).toBe(0);
});

test('slow sound of two minutes is heard at once, at every speed', { tag: '@alone' }, async ({ page, app }) => {
  await openTones(page, app, 2880);
  for (const key of ['Digit2', 'Digit3', 'Digit4']) {
    await page.keyboard.press('Home');
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
    await rewind(page);
    const pressed = await page.evaluate(() => (window as unknown as { devices: AudioContext[] }).devices.at(-1)!.currentTime);
    await page.keyboard.press('Space');
    await expect.poll(async () => (await tapeOf(page)).samples.some((value) => Math.abs(value) > 0.1)).toBe(true);
    const { at, samples } = await tapeOf(page);
    // The device's clock, not the wall's: how busy the machine is says nothing about it. Told, and bounded far above what was measured.
    const first = (at + samples.findIndex((value) => Math.abs(value) > 0.1)) / 48_000 - pressed;
    test.info().annotations.push({ type: 'first sound, s', description: `${key}: ${first.toFixed(3)}` });
    expect(first).toBeLessThan(3);
    await page.waitForTimeout(600);
    expect(longestHole(await tapeOf(page))).toBeLessThan(0.02);
    await page.keyboard.press('Space');
    await page.waitForTimeout(100);
  }
});

test('nudging the end of a loop while it plays does not begin the round anew', { tag: '@alone' }, async ({ page, app }) => {
  await openTones(page, app, 40);
  for (let frame = 0; frame < 23; frame++) await page.keyboard.press('Shift+ArrowRight');
  await rewind(page);
  await page.keyboard.press('KeyL');
  await page.waitForTimeout(500);
  for (let turn = 0; turn < 3; turn++) await page.keyboard.press('BracketRight');
  await page.waitForTimeout(2200);
  const shown = (await shownOn(page)).map(({ frame }) => frame);
  // Before, the playhead stood at the end of what was selected.
  const from = shown.indexOf(2);
  // Up to the end of the longer round it never goes back.
  const end = shown.findIndex((frame, index) => index > from && frame < shown[index - 1]!);
  expect(shown[end - 1]).toBe(27);
});
