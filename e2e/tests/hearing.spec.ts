/** Listening: slowly, over and over, and recordings of every kind. */
import { writeWave, type SceneView } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { expect, joinedLines, openDemo, SENTENCES, SPEECH, test } from '../app.js';

test('a phrase is heard at a quarter of its speed, looped with a gap, its ends moved while it plays', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.getByRole('button', { name: 'How it sounds here' }).click();
  await page.getByLabel('Loop gap, s').fill('0.3');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await expect(page.getByRole('radio', { name: 'Quarter speed' })).toBeChecked();
  for (let press = 0; press < 8; press++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('KeyL');
  const loop = page.getByRole('button', { name: /^Loop the phrase/ });
  await expect(loop).toHaveAttribute('aria-pressed', 'true');
  // The picture follows: frames go by one after the other.
  const easel = page.getByTestId('easel');
  const frame = async (): Promise<number> => Number(await easel.getAttribute('data-frame'));
  const first = await frame();
  await expect.poll(frame).toBeGreaterThan(first + 2);
  const before = await frame();
  await page.keyboard.press('BracketRight');
  // It goes on from where it was.
  await expect.poll(frame).toBeGreaterThan(before);
  await page.keyboard.press('Digit1');
  await expect(loop).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test(
  'over two minutes, with the page busy, every picture is that of the sound heard when it was put there',
  { tag: '@waits' },
  async ({ page, app }) => {
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
  },
);

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
  const wordsBefore = (await scene()).words.length;
  await page.getByRole('button', { name: 'Make these the reading' }).click();
  // Words are there already: how many would go is said first, and less than all can be chosen.
  const asking = page.getByRole('dialog', { name: `${wordsBefore} words would be replaced` });
  await asking.getByRole('button', { name: 'Keep what was read' }).click();
  expect((await scene()).words).toHaveLength(wordsBefore);
  // The marked span alone: what was read after it stays.
  const lastWord = (await scene()).words.at(-1)!;
  await page.getByRole('button', { name: 'Make these the reading' }).click();
  await asking.getByRole('button', { name: /^From the first mark to the last/ }).click();
  // Undone is what the page knows of: it is told of the reading a moment after the server has it.
  const wordsOnPage = page.locator('[role=row][aria-label=words] [role=gridcell]');
  await expect(wordsOnPage.filter({ hasText: /^above/ })).toHaveCount(1);
  const { text, fromSample, toSample } = lastWord;
  expect((await scene()).words.at(-1)).toMatchObject({ text, fromSample, toSample });
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => (await scene()).words.length).toBe(wordsBefore);
  await page.getByRole('button', { name: 'Make these the reading' }).click();
  await asking.getByRole('button', { name: /^All of it/ }).click();
  await expect(wordsOnPage).toHaveCount(1);
  const { phonemes, words, exposures, tracks } = await scene();
  expect(words.map(({ text }) => text)).toEqual(['above']);
  expect(phonemes.map(({ symbol }) => symbol).slice(0, 2)).toEqual(['M', 'UW']);
  expect(exposures.find(({ track, from, to }) => track === tracks[0]!.id && from <= 31 && 31 < to)!.drawing).toBe('pucker');
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

test('a recording may be MP3, Ogg Vorbis, Opus or FLAC; AAC and the sound of a film are read by the browser', async ({ page, app }) => {
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
  // Clicks at known times: what the browser reads must not be late by the encoder's delay.
  const clicks = [0.25, 1, 1.625];
  const signal = Int16Array.from({ length: 2 * 48_000 }, (_, index) => {
    const at = index / 48_000;
    const near = clicks.find((click) => Math.abs(at - click) < 0.0005);
    const click = near === undefined ? 0 : Math.cos(4000 * Math.PI * (at - near)) * Math.cos(1000 * Math.PI * (at - near));
    return Math.round((0.02 * Math.sin(440 * Math.PI * at) + 0.8 * click) * 32_767);
  });
  const source = join(app.folder, 'clicks.wav');
  writeFileSync(source, writeWave(signal, 48_000));
  for (const [name, kind] of [
    ['clicks.m4a', 'an AAC recording (M4A)'],
    ['clicks.mov', 'a film (MOV)'],
    ['clicks.webm', 'a film (WebM or Matroska)'],
  ] as const) {
    const path = join(app.folder, name);
    const sound = ['-i', source];
    const film = ['-f', 'lavfi', '-i', 'color=black:s=32x32:d=2:r=10'];
    const codecs = name.endsWith('.webm') ? ['-c:v', 'libvpx', '-c:a', 'libopus'] : ['-c:v', 'mpeg4', '-c:a', 'aac', '-b:a', '128k'];
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', ...(name.endsWith('.m4a') ? [] : film), ...sound, ...codecs, path]);
    await page.goto(app.url('/'));
    await page.getByLabel('Recording for a new scene').setInputFiles(path);
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByText(`“${name}” is ${kind}: this browser read its sound`)).toBeVisible();
    await dialog.getByRole('button', { name: 'Read the track' }).click();
    await expect(page).toHaveURL(/\/scenes\/.+\/key/);
    const id = /scenes\/([^/]+)/.exec(page.url())![1]!;
    const [clip] = (await app.json<SceneView>(`/api/scenes/${id}`)).document.clips;
    const wave = new DataView(await (await fetch(app.url(`/api/assets/${clip!.audio}`))).arrayBuffer());
    for (const at of clicks) {
      const [from, to] = [Math.round((at - 0.06) * 48_000), Math.round((at + 0.06) * 48_000)];
      let loudest = from;
      const level = (sample: number): number => Math.abs(wave.getInt16(44 + 2 * sample, true));
      for (let sample = from; sample < to; sample++) if (level(sample) > level(loudest)) loudest = sample;
      expect(Math.abs(loudest / 48_000 - at)).toBeLessThan(0.003);
    }
  }
});
