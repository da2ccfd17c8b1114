/** How fast recordings come in, are heard and are drawn. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';

/** Minutes of the labelled lines, one after the other. Shape: samples at 48 kHz. */
export function joinedLines(lines, core, minutes) {
  const samples = new Int16Array(minutes * 60 * 48_000);
  let at = 0;
  for (let index = 0; at < samples.length; index++) {
    const line = core.truthOfWave(lines[index % lines.length].wave).samples;
    samples.set(line.subarray(0, samples.length - at), at);
    at += line.length;
  }
  return samples;
}

/** Decoding ten minutes of MP3 to 48 kHz and measuring what is in it; undefined without ffmpeg to make the file. */
export async function benchDecoding(samples, core, decodeRecording) {
  const folder = mkdtempSync(join(tmpdir(), 'zest-mp3-'));
  try {
    const { writeFileSync } = await import('node:fs');
    writeFileSync(join(folder, 'ten.wav'), core.writeWave(samples, 48_000));
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', 'ten.wav', '-ar', '44100', '-ac', '2', '-b:a', '192k', 'ten.mp3'], {
      cwd: folder,
    });
    const bytes = readFileSync(join(folder, 'ten.mp3'));
    const started = performance.now();
    const truth = await decodeRecording(bytes);
    if ('refusal' in truth) throw new Error(truth.refusal);
    return performance.now() - started;
  } catch (error) {
    if (error.code === 'ENOENT') return undefined;
    throw error;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Sends a recording and makes a scene of it, unread; answers with the scene's id. */
export async function sceneOf(origin, wave) {
  const call = async (method, path, body) => {
    const isForm = body instanceof FormData;
    const response = await fetch(`${origin}/api${path}`, {
      method,
      body: isForm ? body : JSON.stringify(body),
      ...(!isForm && { headers: { 'content-type': 'application/json' } }),
    });
    return response.json();
  };
  const form = new FormData();
  form.append('recording', new Blob([wave]), 'ten.wav');
  // While the wave was made the server gave up the connection that was open: the first request finds that out.
  await fetch(`${origin}/api/productions`).catch(() => undefined);
  const { id } = await call('POST', '/recordings', form);
  while ((await (await fetch(`${origin}/api/jobs/${id}`)).json()).state !== 'done')
    await new Promise((resolve) => setTimeout(resolve, 100));
  const made = await call('POST', '/scenes', { recordingId: id, script: 'hello', frameRate: '24', characterId: 'bramble' });
  await fetch(`${origin}/api/jobs/${made.jobId}`, { method: 'DELETE' });
  return made.sceneId;
}

/** From a press of an arrow key to the start of the frame's sound, as the sound device is asked for it, and ten minutes of wave drawn. */
export async function benchHearing(page, origin, wave) {
  const sceneId = await sceneOf(origin, wave);
  await page.addInitScript(() => {
    const heard = [];
    Object.assign(window, { heard });
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
      const { currentTime, baseLatency } = this.context;
      heard.push(performance.now() + (Math.max(0, when - currentTime) + baseLatency) * 1000);
      return start.call(this, when, ...rest);
    };
    window.addEventListener('keydown', (event) => (window.pressed = event.timeStamp), { capture: true });
  });
  await page.goto(`${origin}/scenes/${sceneId}/key`);
  const whole = page.locator('[data-testid=bar-sheet][data-waves="1"] canvas').first();
  await whole.waitFor();
  const systems = await page.evaluate(() => performance.getEntriesByName('bar-sheet-system').map(({ duration }) => duration));
  // The first press opens the sound device; what follows is how it is all day.
  const sounds = [];
  for (let press = 0; press < 12; press++) {
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction((count) => window.heard.length >= count, press + 1);
    sounds.push(await page.evaluate(() => window.heard.at(-1) - window.pressed));
  }
  return { sound: sounds.slice(1), first: sounds[0], systems };
}
