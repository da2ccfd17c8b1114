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
  type Tape,
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

interface Held {
  /** Pictures whose moment falls where one frame alone is heard. */
  readonly looked: number;
  /** Those that showed another: when, what was shown, what was heard. */
  readonly wrong: readonly (readonly number[])[];
}

/** What was shown, held against what was heard at that moment. */
function heldAgainst(tape: Tape, shown: readonly Shown[], slowness: number): Held {
  // Where one frame turns into the next either may be heard: a slow window is 43 ms wide, and taken up to 6.7 ms of the sound aside.
  const blur = slowness === 1 ? 0.012 : 0.022 + 0.0067 * slowness;
  const frameAt = (time: number): number | undefined => maybeFrameOfTone(frequencyAt(tape, Math.round(time * 48_000)));
  let looked = 0;
  const wrong: number[][] = [];
  for (const { heardAt, frame } of shown) {
    const around = [frameAt(heardAt - blur), frameAt(heardAt), frameAt(heardAt + blur)];
    if (around.some((heard) => heard === undefined || heard !== around[0])) continue;
    looked += 1;
    if (around[0] !== frame) wrong.push([heardAt, frame, around[0]!]);
  }
  return { looked, wrong };
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
      let held: Held = { looked: 0, wrong: [] };
      const tape = await recorded(page, delayMs, async () => {
        await page.keyboard.press('KeyL');
        // Twenty rounds at least, and on until enough was seen: a busy machine paints seldom.
        const looked = async (): Promise<number> => {
          const soFar = await tapeOf(page);
          held = heldAgainst(soFar, await shownOn(page), slowness);
          return soFar.samples.length / 48_000 > seconds + 0.2 ? held.looked : 0;
        };
        await expect.poll(looked, { intervals: [1000] }).toBeGreaterThan(30);
        await page.keyboard.press('KeyL');
      });
      expect(held.wrong).toEqual([]);
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
  const firstSound = async (key: string): Promise<{ first: number; hole: number }> => {
    await page.keyboard.press('Home');
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
    await rewind(page);
    const pressed = await page.evaluate(() => (window as unknown as { devices: AudioContext[] }).devices.at(-1)!.currentTime);
    await page.keyboard.press('Space');
    await expect.poll(async () => (await tapeOf(page)).samples.some((value) => Math.abs(value) > 0.1)).toBe(true);
    const { at, samples } = await tapeOf(page);
    const first = (at + samples.findIndex((value) => Math.abs(value) > 0.1)) / 48_000 - pressed;
    await page.waitForTimeout(600);
    const hole = longestHole(await tapeOf(page));
    await page.keyboard.press('Space');
    await page.waitForTimeout(100);
    return { first, hole };
  };
  for (const key of ['Digit2', 'Digit3', 'Digit4']) {
    // A machine that is busy elsewhere may be late once; what is stretched whole before it sounds is late each time.
    let heard = await firstSound(key);
    for (let turn = 1; turn < 4 && (heard.first >= 3 || heard.hole >= 0.02); turn++) heard = await firstSound(key);
    test.info().annotations.push({ type: 'first sound, s', description: `${key}: ${heard.first.toFixed(3)}` });
    expect(heard.first).toBeLessThan(3);
    expect(heard.hole).toBeLessThan(0.02);
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
