/** Films and moving pictures: what others find in them. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { truthOfWave } from '@zest-jaw/core';
import sharp from 'sharp';
import { expect, openDemo, sceneDocument, test } from '../app.js';
import { changeFrames, mouth } from '../faults.js';
import type { SceneAnswer } from '../handedOff.js';

/** What ffprobe and ffmpeg find in a film: frames, rate, and the sound as 16 bits at 48 000 Hz. */
function probed(file: string): { frames: number; rate: string; size: string; sound: Int16Array } {
  const asked = ['-v', 'error', '-count_frames', '-select_streams', 'v:0', '-of', 'csv=p=0', '-show_entries'];
  const [width, height, rate, frames] = execFileSync('ffprobe', [...asked, 'stream=width,height,r_frame_rate,nb_read_frames', file], {
    encoding: 'utf8',
  })
    .trim()
    .split(',');
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 's16le', '-'], { maxBuffer: 1e9 });
  return { frames: Number(frames), rate: rate!, size: `${width}x${height}`, sound: new Int16Array(Uint8Array.from(raw).buffer) };
}

/** By how many samples one sound lies after another, at most so many either way. */
function lagOf(sound: Int16Array, other: Int16Array, most: number): number {
  let [best, lag] = [-1, 0];
  const [from, to] = [48_000, Math.min(other.length, 48_000 * 4)];
  for (let shift = -most; shift <= most; shift += 6) {
    let sum = 0;
    for (let index = from; index < to; index += 7) sum += sound[index + shift]! * other[index]!;
    if (sum > best) [best, lag] = [sum, shift];
  }
  return lag;
}

for (const [scene, rate] of [
  ['the-wet-stamp', '24/1'],
  ['a-complaint', '12/1'],
] as const)
  test(`a film of ${scene} has exactly the scene’s frames, and its sound where it is`, async ({ page, app }) => {
    await openDemo(page, app, scene, 'hand-off?as=film');
    await page.getByLabel('Size').selectOption('640x360');
    await page.getByLabel('frame number').check();
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save film' }).click();
    const film = await (await downloading).path();
    await expect(page.getByText(/^\d+ frames saved/)).toBeVisible();
    const { document } = await app.json<SceneAnswer>(`/api/scenes/${scene}`);
    const found = probed(film);
    expect(found).toMatchObject({ frames: document.settings[0]!.lengthFrames, rate, size: '640x360' });
    const wave = new Uint8Array(await (await fetch(app.url(`/api/assets/${document.clips[0]!.audio}`))).arrayBuffer());
    const truth = truthOfWave(wave);
    if ('refusal' in truth) throw new Error(truth.refusal);
    // Opus is not the wave it was made of, but it lies where it lay, to an eighth of a millisecond.
    expect(Math.abs(lagOf(found.sound, truth.samples, 600))).toBeLessThanOrEqual(6);
  });

test('a film shows the scene and a pass of it, side by side and one after the other, named', async ({ page, app }) => {
  const SCENE = 'a-complaint';
  const headers = { 'content-type': 'application/json' };
  const body = JSON.stringify({ name: 'Before lunch', why: '', byItself: false });
  expect((await fetch(app.url(`/api/scenes/${SCENE}/passes`), { method: 'POST', headers, body })).ok).toBe(true);
  // Since then ten frames show another mouth.
  await changeFrames(app, SCENE, (frames) => frames.fill(mouth('drop', true), 40, 50));
  await openDemo(page, app, SCENE, 'hand-off?as=film');
  await page.getByLabel('Size').selectOption('640x360');
  await page.getByLabel('Beside a pass, to choose from').selectOption({ label: 'Before lunch' });
  const save = async (): Promise<{ path: string; name: string }> => {
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save film' }).click();
    const download = await downloading;
    return { path: await download.path(), name: download.suggestedFilename() };
  };
  const frameOf = async (file: string, frame: number, left: number): Promise<Buffer> => {
    const png = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', file, '-vf', `select=eq(n\\,${frame})`, '-vframes', '1', '-f', 'image2pipe', '-c:v', 'png', '-'],
      {
        maxBuffer: 1e8,
      },
    );
    return sharp(png).extract({ left, top: 100, width: 320, height: 180 }).greyscale().raw().toBuffer();
  };
  const apart = (a: Buffer, b: Buffer): number => a.reduce((sum, value, index) => sum + Math.abs(value - b[index]!), 0) / a.length;
  const { lengthFrames } = (await sceneDocument(app, SCENE)).settings[0]!;
  const side = await save();
  expect(side.name).toBe('A complaint at low tide, Odette, beside Before lunch.webm');
  expect(probed(side.path)).toMatchObject({ frames: lengthFrames, size: '640x360' });
  // The same mouth on both where nothing was changed, another where something was.
  const same = apart(await frameOf(side.path, 20, 0), await frameOf(side.path, 20, 320));
  const other = apart(await frameOf(side.path, 45, 0), await frameOf(side.path, 45, 320));
  expect(other).toBeGreaterThan(2 * same);
  await page.getByRole('radio', { name: 'one after the other' }).click();
  await expect(page.getByTestId('counts')).toContainText(`${2 * lengthFrames} frames`);
  const after = await save();
  const found = probed(after.path);
  expect(found.frames).toBe(2 * lengthFrames);
  const [one, two] = [await frameOf(after.path, 45, 160), await frameOf(after.path, 45 + lengthFrames, 160)];
  const [still, stays] = [await frameOf(after.path, 20, 160), await frameOf(after.path, 20 + lengthFrames, 160)];
  expect(apart(one, two)).toBeGreaterThan(2 * apart(still, stays));
  // The second has the sound from its beginning.
  const half = Math.round((lengthFrames / 12) * 48_000);
  expect(Math.abs(lagOf(found.sound.subarray(half), found.sound.subarray(0, half), 600))).toBeLessThanOrEqual(12);
});

test('a film can be given up, and nothing is saved', async ({ page, app }) => {
  await openDemo(page, app, 'the-wet-stamp', 'hand-off?as=film');
  await page.getByLabel('Size').selectOption('1920x1080');
  let files = 0;
  page.on('download', () => (files += 1));
  await page.getByRole('button', { name: 'Save film' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Given up; nothing was saved.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save film' })).toBeEnabled();
  expect(files).toBe(0);
});

test('a part of the scene as GIF and as animated PNG, and a film with the line below', async ({ page, app }) => {
  await openDemo(page, app, 'a-complaint', 'hand-off?as=film');
  await page.getByLabel('Size').selectOption('640x360');
  await page.getByLabel('First frame').fill('11');
  await page.getByLabel('Last frame').fill('5');
  await expect(page.getByTestId('counts')).toContainText('The last frame comes before the first.');
  await expect(page.getByRole('button', { name: 'Save film' })).toBeDisabled();
  await page.getByLabel('Last frame').fill('40');
  await expect(page.getByTestId('counts')).toHaveText('30 frames at 12 fps, 11 to 40.');
  await page.getByLabel('the line below: wave, words and mouths').check();
  const saveFilm = async (): Promise<string> => {
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save film' }).click();
    return (await downloading).path();
  };
  expect(probed(await saveFilm())).toMatchObject({ frames: 30, rate: '12/1', size: '640x360' });
  await page.getByLabel('the line below: wave, words and mouths').uncheck();
  const { exposures } = await sceneDocument(app, 'a-complaint');
  const starts = new Set(exposures.filter(({ from, to }) => to > 10 && from < 40).map(({ from }) => Math.max(10, from)));
  for (const [kind, format] of [
    ['gif', 'gif'],
    ['apng', 'png'],
  ] as const) {
    await page.getByLabel('Format').selectOption(kind);
    const path = await saveFilm();
    const seconds = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'packet=duration_time', '-of', 'csv=p=0', path], {
      encoding: 'utf8',
    })
      .trim()
      .split('\n')
      .map((line) => Number.parseFloat(line));
    // A picture for each mouth, together as long as the frames.
    expect(seconds).toHaveLength(starts.size);
    expect(Math.abs(seconds.reduce((sum, one) => sum + one, 0) - 30 / 12)).toBeLessThan(0.011);
    expect((await sharp(readFileSync(path)).metadata()).format).toBe(format);
  }
});
