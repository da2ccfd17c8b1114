/** Recordings in a scene: several of them, for several speakers, moved, trimmed, silenced, replaced, and recorded here. */
import type { Page } from '@playwright/test';
import type { Clip, SceneView } from '@zest-jaw/core';
import { join } from 'node:path';
import { readFileSync, writeFileSync } from 'node:fs';
import { type App, drag, expect, joinedLines, mouthLane, openDemo, saved, SENTENCES, SPEECH, takeIt, test, tryLoudness } from '../app.js';

const documentOf = async (app: App, scene: string): Promise<SceneView['document']> =>
  (await app.json<SceneView>(`/api/scenes/${scene}`)).document;

/** Where a frame's left edge is on the lane of clips, in the first system. */
async function onClips(page: Page, frame: number): Promise<{ x: number; y: number }> {
  const box = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const { perFrame, left, y } = await page.evaluate(() => {
    const sheet = window.document.querySelector('[data-testid=bar-sheet]') as HTMLElement;
    return { perFrame: Number(sheet.dataset['perFrame']), left: Number(sheet.dataset['left']), y: Number(sheet.dataset['clipsY']) };
  });
  return { x: box.x + left + frame * perFrame, y: box.y + y + 9 };
}

async function slide(page: Page, from: { x: number; y: number }, frames: number): Promise<void> {
  const step = (await onClips(page, 1)).x - (await onClips(page, 0)).x;
  await drag(page, from, { x: from.x + frames * step, y: from.y });
}

async function openRecordings(page: Page, app: App, scene = 'the-wet-stamp'): Promise<void> {
  await openDemo(page, app, scene, 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.getByRole('radio', { name: 'Recordings' }).click();
}

test('mouths keyed by loudness go with their clip when it is slid, by the lane and by number', async ({ page, app }) => {
  await tryLoudness(page, app);
  await takeIt(page);
  await saved(page);
  const opens = async (): Promise<string[]> =>
    (await documentOf(app, 'the-wet-stamp')).exposures.filter(({ drawing }) => drawing === 'drop').map(({ from, to }) => `${from}-${to}`);
  const before = await opens();
  expect(before.length).toBeGreaterThan(2);
  const later = (spans: readonly string[], by: number): string[] =>
    spans.map((span) => span.replace(/\d+/g, (frame) => String(Number(frame) + by)));
  await openRecordings(page, app);
  await slide(page, await onClips(page, 30), 6);
  await expect(page.getByLabel('Slide to')).toHaveValue('7');
  await saved(page);
  expect(await opens()).toEqual(later(before, 6));
  await page.getByLabel('Slide to').fill('11');
  await page.keyboard.press('Enter');
  await expect.poll(opens).toEqual(later(before, 10));
});

test('a clip is slid and trimmed by its lane; words and pencil go with it, and each drag is one undo', async ({ page, app }) => {
  await openRecordings(page, app);
  const before = await documentOf(app, 'the-wet-stamp');
  const [clip] = before.clips;
  const middle = await onClips(page, 30);
  await slide(page, middle, 6);
  await expect(page.getByLabel('Slide to')).toHaveValue('7');
  await saved(page);
  const slid = await documentOf(app, 'the-wet-stamp');
  expect(slid.clips[0]).toMatchObject({ atFrame: 6, fromSample: 0, toSample: clip!.toSample });
  // The scene grew to hold it, the pencil moved by as much, the ink stayed.
  expect(slid.settings[0]!.lengthFrames).toBe(before.settings[0]!.lengthFrames + 6);
  const start = (document: typeof slid, drawing: string) => document.exposures.find((exposure) => exposure.drawing === drawing)!.from;
  expect(start(slid, 'press') - start(before, 'press')).toBe(6);
  expect(slid.exposures.filter((exposure) => exposure.inked)).toEqual(before.exposures.filter((exposure) => exposure.inked));

  await page.keyboard.press('Control+KeyZ');
  await expect(page.getByLabel('Slide to')).toHaveValue('1');
  await saved(page);
  expect(await documentOf(app, 'the-wet-stamp')).toEqual(before);

  // The head trimmed away: what is left is heard where it was.
  await slide(page, { ...(await onClips(page, 0)), x: (await onClips(page, 0)).x + 3 }, 12);
  await expect(page.getByLabel('Trim its start')).toHaveValue('13');
  await saved(page);
  const trimmed = await documentOf(app, 'the-wet-stamp');
  expect(trimmed.clips[0]).toMatchObject({ atFrame: 12, fromSample: 24_000, toSample: clip!.toSample });
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^Please, / })).toHaveCount(0);
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^stamp, / })).toBeAttached();

  // By number too, and out again; a drag given up with Escape changes nothing.
  await page.getByLabel('Trim its start').fill('1');
  await page.keyboard.press('Enter');
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^Please, / })).toBeAttached();
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 90, middle.y, { steps: 3 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(page.getByLabel('Slide to')).toHaveValue('1');
});

test('a second speaker answers: placed, read, heard and keyed in a lane of its own; muted and soloed', async ({ page, app }) => {
  await openRecordings(page, app);
  await page.getByLabel('A recording for the scene').setInputFiles(join(SPEECH, 'kal16-09.wav'));
  const dialog = page.getByRole('dialog', { name: 'One more recording' });
  await dialog.getByLabel('What is said').fill(SENTENCES[9]!);
  await dialog.getByLabel('Who speaks').selectOption({ label: 'Odette' });
  await dialog.getByLabel('Begins at frame').fill('60');
  await dialog.getByRole('button', { name: 'Place it' }).click();
  await expect(page.getByRole('radio', { name: 'Odette' })).toBeChecked();
  await expect(page.getByTestId('reading-progress')).toBeHidden();
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^marmalade, / })).toBeAttached();
  await saved(page);
  const document = await documentOf(app, 'the-wet-stamp');
  expect(document.clips.map((clip) => [clip.characterId, clip.atFrame])).toEqual([
    ['bramble', 0],
    ['odette', 59],
  ]);
  expect(document.words.find((word) => word.text === 'marmalade')!.clip).toBe(document.clips[1]!.id);

  // Her lane in the Key step, on her own face; his is untouched.
  await page.getByRole('link', { name: 'Key', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Odette' })).toBeVisible();
  const hers = await mouthLane(page);
  expect(hers.filter((cell) => cell.drawing === 'press').length).toBeGreaterThan(2);
  // A feel of her own; his mouths stand below hers, stay as they are, and are worked on when they are pressed.
  const his = page.getByRole('row', { name: 'mouths of Bramble' }).getByRole('gridcell');
  const lane = await his.allTextContents();
  expect(lane.length).toBeGreaterThan(10);
  await page.keyboard.press('j');
  await page.getByRole('group', { name: 'Feels' }).getByRole('button', { name: 'Limited' }).click();
  await expect(page.getByText(/\d+ mouths would change\./)).toBeVisible();
  // What is tried on her is not tried on him.
  await page.getByRole('radio', { name: 'Bramble' }).click();
  await expect(page.getByText('As it is keyed.')).toBeVisible();
  await page.getByRole('radio', { name: 'Odette' }).click();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('button', { name: 'Feel Limited' })).toBeVisible();
  expect((await mouthLane(page)).length).toBeLessThan(hers.length);
  expect(await his.allTextContents()).toEqual(lane);
  const sheet = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  const below = Number(await page.getByTestId('bar-sheet').getAttribute('data-others-y'));
  await page.mouse.click(sheet.x + 300, sheet.y + below + 12);
  await expect(page.getByRole('heading', { name: 'Bramble' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Feel Natural' })).toBeVisible();
  await page.getByRole('radio', { name: 'Odette' }).click();
  await page.getByRole('radio', { name: 'Bramble' }).click();
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^Please, / })).toBeAttached();
  expect(await mouthLane(page)).not.toEqual(hers);

  // Both on one sheet; pictures of whoever is chosen.
  await page.getByRole('link', { name: 'Hand off' }).click();
  const kinds = page.getByRole('navigation', { name: 'What is handed off' });
  await kinds.getByRole('button', { name: /^Exposure sheet/ }).click();
  await expect(page.getByRole('columnheader', { name: 'Bramble mouth' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Odette mouth' })).toBeVisible();
  await kinds.getByRole('button', { name: /^Numbered pictures/ }).click();
  await expect(page.getByLabel('Base name')).toHaveValue('bramble');
  await page.getByRole('radio', { name: 'Odette' }).click();
  await expect(page.getByLabel('Base name')).toHaveValue('odette');

  // What is heard: both, then one.
  await page.getByRole('link', { name: 'Listen', exact: true }).click();
  await page.getByRole('radio', { name: 'Recordings' }).click();
  await page.evaluate(() => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (...rest) {
      heard.push(this.buffer?.duration ?? 0);
      return start.apply(this, rest);
    };
  });
  const heard = (): Promise<number[]> => page.evaluate(() => (window as unknown as { heard: number[] }).heard.splice(0));
  const play = async (): Promise<number> => {
    await page.keyboard.press('Home');
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
    await page.keyboard.press('Space');
    return (await heard()).length;
  };
  expect(await play()).toBe(2);
  await page.getByRole('button', { name: 'Mute kal16-09.wav' }).click();
  expect(await play()).toBe(1);
  await page.getByRole('button', { name: 'Mute kal16-09.wav' }).click();
  await page.getByRole('button', { name: 'Solo the-wet-stamp.wav' }).click();
  expect(await play()).toBe(1);
});

test('a better take comes in the old one’s place; the old reading is marked until it is read', async ({ page, app }) => {
  await openRecordings(page, app);
  await page.getByRole('button', { name: 'A better take…' }).click();
  await page.getByLabel('A recording for the scene').setInputFiles(join(SPEECH, 'slt-09.wav'));
  const dialog = page.getByRole('dialog', { name: /A better take of “the-wet-stamp.wav”/ });
  await dialog.getByRole('button', { name: 'Put it in its place' }).click();
  await expect(page.getByText('The words and sounds here are those of the take before.')).toBeVisible();
  await saved(page);
  const { clips, words } = await documentOf(app, 'the-wet-stamp');
  expect(clips[0]).toMatchObject({ fileName: 'slt-09.wav', atFrame: 0, fromSample: 0 });
  expect(words[0]!.text).toBe('Please');
  await page.getByRole('radio', { name: 'Script' }).click();
  await page.getByLabel('Script', { exact: true }).fill(SENTENCES[9]!);
  await page.getByRole('radio', { name: 'Recordings' }).click();
  await page.getByRole('button', { name: 'Read this one' }).click();
  await expect(page.getByText('The words and sounds here are those of the take before.')).toBeHidden();
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^marmalade, / })).toBeAttached();
});

test('a take is recorded with the practice microphone, counted in, heard, used and read', async ({ page, app }) => {
  await openRecordings(page, app, 'the-last-ferry');
  await page.getByRole('button', { name: 'Record…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Record a take' });
  await dialog.getByRole('combobox', { name: 'Microphone' }).selectOption({ label: 'Practice microphone' });
  // The quiet of the room shows that it is on.
  await expect.poll(async () => Number(await dialog.getByRole('meter').getAttribute('aria-valuenow'))).toBeGreaterThan(-60);
  await dialog.getByRole('radio', { name: '2' }).click();
  await dialog.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByTestId('count-in')).toHaveText('2');
  await expect(page.getByTestId('count-in')).toHaveText('1');
  await expect(dialog.getByText('recording', { exact: true })).toBeVisible();
  // Its voice is heard, and the picture runs with it.
  await expect.poll(async () => Number(await dialog.getByRole('meter').getAttribute('aria-valuenow'))).toBeGreaterThan(-30);
  const easel = dialog.getByTestId('easel');
  await expect.poll(async () => Number(await easel.getAttribute('data-frame'))).toBeGreaterThan(5);
  await page.waitForTimeout(3200);
  await dialog.getByRole('button', { name: 'Stop' }).click();
  const frame = async (): Promise<number> => Number(await easel.getAttribute('data-frame'));
  expect(await frame()).toBe(0);
  await dialog.getByRole('button', { name: 'Listen to it' }).click();
  await expect.poll(frame).toBeGreaterThan(5);
  // The picture stops with the take, long before the scene ends.
  let last = -1;
  await expect
    .poll(
      async () => {
        const [before, now] = [last, await frame()];
        last = now;
        return now === before;
      },
      { intervals: [400], timeout: 15_000 },
    )
    .toBe(true);
  expect(last).toBeLessThan(150);
  await dialog.getByRole('button', { name: 'Use this take' }).click();
  const placing = page.getByRole('dialog', { name: 'One more recording' });
  await expect(placing.getByLabel('What is said')).toHaveValue('Five pelicans a broom and the moon above the bay');
  await placing.getByRole('button', { name: 'Place it' }).click();
  await expect(placing).toBeHidden();
  await expect(page.locator('[role=gridcell]').filter({ hasText: /^broom, / })).toBeAttached();
  await saved(page);
  const { clips, words } = await documentOf(app, 'the-last-ferry');
  const take = clips.find((clip: Clip) => clip.fileName === 'Take 2.wav')!;
  expect(words.filter((word) => word.clip === take.id).map((word) => word.text)).toEqual(
    expect.arrayContaining(['pelicans', 'broom', 'moon', 'bay']),
  );
  expect(take.lengthSamples / 48_000).toBeGreaterThan(3);
});

test('the scene counts from its own first frame, may end before a clip, and says so', async ({ page, app }) => {
  await openRecordings(page, app);
  const settings = page.getByRole('button', { name: /Scene settings/ });
  await settings.click();
  await page.getByLabel('First frame').fill('1001');
  await page.getByLabel('Length, frames').fill('150');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(settings).toContainText('frames 1001–1150');
  await expect(page.getByTestId('readout')).toContainText('1001');
  await expect(page.getByLabel('Slide to')).toHaveValue('1001');
  await expect(page.getByText('“the-wet-stamp.wav” runs 22 frames past the end of the scene.')).toBeVisible();
  await page.getByRole('button', { name: 'Let the scene grow' }).click();
  await expect(settings).toContainText('frames 1001–1172');
  await settings.click();
  await page.getByLabel('First frame').fill('half');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByText('The first frame is “half”.')).toBeVisible();
});

test('frames are selected with Shift, played and looped; a held arrow plays on and stops when it is let go', async ({ page, app }) => {
  await openRecordings(page, app);
  for (let press = 0; press < 10; press++) await page.keyboard.press('ArrowRight');
  for (let press = 0; press < 5; press++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByTestId('selection')).toBeVisible();
  const frame = async (): Promise<number> => Number(await page.getByTestId('readout').getAttribute('data-frame'));
  expect(await frame()).toBe(15);
  await page.keyboard.press('KeyP');
  // It plays the six frames and returns to their start.
  await expect.poll(frame).toBe(10);
  await page.keyboard.press('KeyL');
  await expect(page.getByRole('button', { name: /^Loop/ })).toHaveAttribute('aria-pressed', 'true');
  for (let look = 0; look < 20; look++) {
    const now = await frame();
    expect(now >= 10 && now <= 15).toBe(true);
    await page.waitForTimeout(30);
  }
  await page.keyboard.press('Space');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('selection')).toHaveCount(0);

  await page.keyboard.press('Home');
  // Held: the browser repeats the key.
  await page.keyboard.down('ArrowRight');
  await page.keyboard.down('ArrowRight');
  await expect.poll(frame).toBeGreaterThan(4);
  await page.keyboard.up('ArrowRight');
  const stopped = await frame();
  await page.waitForTimeout(300);
  expect(await frame()).toBe(stopped);
  await page.keyboard.down('ArrowLeft');
  await page.keyboard.down('ArrowLeft');
  await expect.poll(frame).toBe(0);
  await page.keyboard.up('ArrowLeft');

  // Shift and the mouse, over any lane.
  const sheet = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  await page.keyboard.down('Shift');
  await drag(page, { x: sheet.x + 200, y: sheet.y + 8 }, { x: sheet.x + 320, y: sheet.y + 130 });
  await page.keyboard.up('Shift');
  await expect(page.getByTestId('selection')).toBeVisible();
});

test('dragging over any lane lets every frame on the way be heard', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'key');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.evaluate(() => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, duration = 0) {
      heard.push(duration);
      return start.call(this, when, offset, duration);
    };
  });
  const sheet = (await page.locator('canvas[data-system="0"]').boundingBox())!;
  // Ruler, words, sounds, wave and mouths, from the top down.
  for (const share of [0.04, 0.16, 0.28, 0.45, 0.8]) {
    await page.evaluate(() => (window as unknown as { heard: number[] }).heard.splice(0));
    const y = sheet.y + sheet.height * share;
    await drag(page, { x: sheet.x + 90, y: y }, { x: sheet.x + 330, y: y });
    const heard = await page.evaluate(() => (window as unknown as { heard: number[] }).heard);
    expect(heard.length).toBeGreaterThanOrEqual(9);
    for (const seconds of heard) expect(seconds).toBeCloseTo(1 / 24, 3);
  }
});

test('an ear mark is dragged in its lane', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'listen');
  await page.getByRole('radio', { name: 'By ear' }).click();
  await page.getByLabel(/What do you hear/).fill('hum');
  await page.keyboard.press('Enter');
  await saved(page);
  const clips = await onClips(page, 0);
  // The lane of marks lies just above that of clips.
  await slide(page, { x: clips.x + 1, y: clips.y - 22 }, 8);
  await saved(page);
  expect((await documentOf(app, 'the-wet-stamp')).marks).toMatchObject([{ frame: 8, text: 'hum' }]);
  await page.keyboard.press('Control+KeyZ');
  await saved(page);
  expect((await documentOf(app, 'the-wet-stamp')).marks).toMatchObject([{ frame: 0 }]);
});

test('a long recording shows how far its decoding is, and can be given up', async ({ page, app }) => {
  const { file } = joinedLines(app, 'slt', 0, 24);
  const once = readFileSync(file);
  // Ten minutes of it.
  const long = Buffer.concat([once, ...Array.from({ length: 10 }, () => once.subarray(44))]);
  long.writeUInt32LE(long.length - 8, 4);
  long.writeUInt32LE(long.length - 44, 40);
  const path = join(app.folder, 'long.wav');
  writeFileSync(path, long);
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(path);
  const dialog = page.getByRole('dialog');
  const bar = dialog.getByRole('progressbar', { name: 'Decoding the recording' });
  await expect.poll(async () => Number(await bar.getAttribute('aria-valuenow'))).toBeGreaterThan(25);
  await expect(dialog.getByRole('button', { name: 'Read the track' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();
  // The decoder is free for the next one.
  await page.getByLabel('Recording for a new scene').setInputFiles(join(SPEECH, 'slt-09.wav'));
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Read the track' })).toBeEnabled();
});
