/** Listening: slowly, over and over, and recordings of every kind. */
import type { Page } from '@playwright/test';
import type { SceneView } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { expect, joinedLines, openDemo, SENTENCES, SPEECH, test } from '../app.js';

/** What is started on the sound device: the length of its buffer and its start, in seconds. */
async function hearBuffers(page: Page): Promise<() => Promise<{ seconds: number; when: number }[]>> {
  await page.addInitScript(() => {
    const heard: { seconds: number; when: number }[] = [];
    Object.assign(window, { heard });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
      heard.push({ seconds: this.buffer?.duration ?? 0, when });
      return start.call(this, when, ...rest);
    };
  });
  return () => page.evaluate(() => (window as unknown as { heard: { seconds: number; when: number }[] }).heard);
}

test('a phrase is heard at a quarter of its speed, looped with a gap, its ends moved while it plays', async ({ page, app }) => {
  const heard = await hearBuffers(page);
  await openDemo(page, app, 'the-wet-stamp');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.getByRole('button', { name: 'How it sounds here' }).click();
  await page.getByLabel('Loop gap, s').fill('0.3');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await expect(page.getByRole('radio', { name: 'Quarter speed' })).toBeChecked();
  for (let press = 0; press < 8; press++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('KeyL');
  await expect(page.getByRole('button', { name: /^Loop the phrase/ })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => (await heard()).at(-1)!.seconds).toBeGreaterThan(8);
  // The picture follows: frames go by one after the other.
  const easel = page.getByTestId('easel');
  const first = Number(await easel.getAttribute('data-frame'));
  await expect.poll(async () => Number(await easel.getAttribute('data-frame'))).toBeGreaterThan(first + 2);
  const before = (await heard()).at(-1)!.seconds;
  await page.keyboard.press('BracketRight');
  // One frame more at a quarter of the speed: a sixth of a second.
  await expect.poll(async () => (await heard()).at(-1)!.seconds - before).toBeCloseTo(4 / 24, 2);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  // At full speed again the recording itself is played.
  await page.keyboard.press('Digit1');
  await page.keyboard.press('KeyP');
  await expect.poll(async () => (await heard()).at(-1)!.seconds).toBeCloseTo(7.1, 0);
  await page.keyboard.press('Space');
});

test('over two minutes, with the page busy, every picture is that of the sound heard when it was put there', async ({ page, app }) => {
  const { file, script } = joinedLines(app, 'slt', 0, 24);
  // The lines three times over: more than two minutes.
  const once = readFileSync(file);
  const long = Buffer.concat([once, once.subarray(44), once.subarray(44)]);
  long.writeUInt32LE(long.length - 8, 4);
  long.writeUInt32LE(long.length - 44, 40);
  const made = await app.makeScene(long, { script, frameRate: '24', characterId: 'bramble' });
  await fetch(app.url(`/api/jobs/${made.jobId}`), { method: 'DELETE' });
  await page.addInitScript(() => {
    const told = { time: 0, latency: 0, when: -1, offset: 0 };
    Object.assign(window, { told });
    // What the page is told by the sound device's clock, when it asks.
    const tell = (owner: object, property: string, key: 'time' | 'latency'): void => {
      const { get } = Object.getOwnPropertyDescriptor(owner, property)!;
      Object.defineProperty(owner, property, {
        configurable: true,
        get() {
          return (told[key] = get!.call(this) as number);
        },
      });
    };
    tell(BaseAudioContext.prototype, 'currentTime', 'time');
    tell(AudioContext.prototype, 'outputLatency', 'latency');
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, duration = 0) {
      Object.assign(told, { when, offset });
      return start.call(this, when, offset, duration);
    };
  });
  await openDemo(page, app, made.sceneId);
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => (window as unknown as { told: { when: number } }).told.when >= 0);
  const { seconds, worst, shown } = await page.evaluate(async () => {
    const { told } = window as unknown as { told: { time: number; latency: number; when: number; offset: number } };
    const easel = window.document.querySelector('[data-testid=easel]') as HTMLElement;
    const since = (): number => told.time - told.when - told.latency + told.offset;
    let [worst, count, last] = [0, 0, -1];
    while (since() < 121) {
      // In the callbacks of a picture, after the page's own, which was asked for first: what it decided is on the page now.
      await new Promise((resolve) => requestAnimationFrame(resolve));
      const frame = Number(easel.dataset['frame']);
      if (since() > 0.2) worst = Math.max(worst, Math.abs(Math.floor(since() * 24) - frame));
      if (frame !== last) count += 1;
      last = frame;
      // Work that keeps the page from painting for most of a frame.
      const until = performance.now() + 24;
      while (performance.now() < until);
    }
    return { seconds: since(), worst, shown: count };
  });
  expect(seconds).toBeGreaterThan(120);
  expect(worst).toBeLessThanOrEqual(1);
  // It drops pictures rather than slip.
  expect(shown).toBeGreaterThan(100);
});

test('a line is marked by ear while it plays, made the reading, and the mouths follow it', async ({ page, app }) => {
  await openDemo(page, app, 'the-last-ferry', 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const scene = async (): Promise<SceneView['document']> => (await app.json<SceneView>('/api/scenes/the-last-ferry')).document;
  // While it plays: where typing began is where the mark is, however long the word takes to type.
  await page.keyboard.press('Digit4');
  await page.keyboard.press('Space');
  await page.keyboard.press('KeyM');
  const field = page.getByLabel(/^What do you hear at frame/);
  await expect(field).toBeFocused();
  await field.pressSequentially('mm', { delay: 40 });
  await page.keyboard.press('Enter');
  await expect(field).toHaveValue('');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  for (const [presses, text] of [
    [2, 'above'],
    [1, 'oo'],
    [1, '-'],
  ] as const) {
    await page.keyboard.press('Home');
    for (let press = 0; press < presses * 30 + (text === '-' ? 12 : 0); press++) await page.keyboard.press('ArrowRight');
    await page.keyboard.press('KeyM');
    await field.fill(text);
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
  }
  const marks = page.getByRole('list', { name: 'Marks' }).getByRole('listitem');
  await expect(marks).toHaveCount(4);
  await page.getByRole('button', { name: 'oo: a frame later' }).click();
  await expect(page.getByTestId('save-state')).toHaveText('saved');
  expect((await scene()).marks.map(({ frame, text }) => [frame, text]).slice(1)).toEqual([
    [31, 'oo'],
    [42, '–'],
    [60, 'above'],
  ]);
  await page.getByRole('button', { name: 'Make these the reading' }).click();
  await expect(page.getByText(/The marks are the reading now/)).toBeVisible();
  const { phonemes, words, exposures } = await scene();
  expect(words.map(({ text }) => text)).toEqual(['above']);
  expect(phonemes.map(({ symbol }) => symbol).slice(0, 2)).toEqual(['M', 'UW']);
  expect(exposures.find(({ from, to }) => from <= 31 && 31 < to)!.drawing).toBe('pucker');
  // Undone like anything else: the marks go one by one.
  await page.getByRole('button', { name: 'Remove above' }).click();
  await expect(marks).toHaveCount(3);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(marks).toHaveCount(4);
});

test('the wave shows its loudness when asked, and the readout the level of a frame', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'listen');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  const sheet = page.getByTestId('bar-sheet').locator('canvas').first();
  const plain = await sheet.screenshot();
  await page.getByRole('button', { name: 'Loudness' }).click();
  await expect.poll(async () => (await sheet.screenshot()).equals(plain)).toBe(false);
  await expect(page.getByTestId('readout')).toContainText('silent');
  for (let press = 0; press < 12; press++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('readout')).toContainText(/-\d+ dB/);
});

test('what is in the recording is said in Listen, with what to do about it', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'listen');
  await page.getByRole('radio', { name: 'Recordings' }).click();
  const facts = page.getByTestId('clip-facts');
  await expect(facts).toContainText('% speech');
  await expect(facts).toContainText('quiet under it');
  await expect(facts).toContainText('Clean');
});

const hasFfmpeg = (process.env['PATH'] ?? '').split(delimiter).some((path) => existsSync(join(path, 'ffmpeg')));

test('a recording may be MP3, Ogg Vorbis, Opus or FLAC; AAC is refused in a sentence', async ({ page, app }) => {
  test.skip(!hasFfmpeg, 'Debian’s ffmpeg makes the files.');
  const make = (name: string): string => {
    const file = join(app.folder, name);
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', join(SPEECH, 'slt-09.wav'), file]);
    return file;
  };
  for (const name of ['line.mp3', 'line.ogg', 'line.opus', 'line.flac']) {
    await page.goto(app.url('/'));
    await page.getByLabel('Recording for a new scene').setInputFiles(make(name));
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('What is said').fill(SENTENCES[9]!);
    await dialog.getByRole('button', { name: 'Read the track' }).click();
    await expect(page).toHaveURL(/\/scenes\/.+\/key/);
    await expect(page.getByText('6 words', { exact: true })).toBeVisible();
    const id = /scenes\/([^/]+)/.exec(page.url())![1]!;
    const { document } = await app.json<SceneView>(`/api/scenes/${id}`);
    expect(document.clips[0]).toMatchObject({ fileName: name });
    // As long as the WAV it was made from, to a hundredth of a second or an MP3 frame.
    expect(document.clips[0]!.lengthSamples / 48_000).toBeCloseTo(2.35, 0);
  }
  await page.goto(app.url('/'));
  await page.getByLabel('Recording for a new scene').setInputFiles(make('line.m4a'));
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('alert')).toContainText('AAC (M4A), which cannot be read here');
});
