/** `npm run screenshots`: one picture of each main view, from the demo, into docs/screenshots. */
import { chromium } from '@playwright/test';
import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt, ROOT } from './ensureBuilt.mjs';

ensureBuilt(['core', 'engine', 'server', 'web']);
const folder = mkdtempSync(join(tmpdir(), 'zest-shots-'));
const shots = join(ROOT, 'docs/screenshots');
mkdirSync(shots, { recursive: true });

const server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], { env: { ...process.env, ZEST_DATA: folder, PORT: '0' } });
const origin = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => /http:\S+/.exec(chunk) && resolve(/http:\S+/.exec(chunk)[0])),
);
const browser = await chromium.launch({
  executablePath: execFileSync('which', ['chromium']).toString().trim(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-sync'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function open(path) {
  await page.goto(origin + path);
  await page.waitForLoadState('networkidle');
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(600);
}

const shoot = (name) => page.screenshot({ path: join(shots, `${name}.png`) });

await open('/');
await shoot('home');
await page.getByLabel('Recording for a new scene').setInputFiles(join(ROOT, 'demo/voices/a-complaint.wav'));
await page.getByLabel('What is said').fill('My parcel is soaked, (sighs) it smells of herring, and it hums.');
await page.waitForTimeout(400);
await shoot('new-scene');
for (const [step, name, scene] of [
  ['chart', 'chart', 'a-complaint'],
  ['listen', 'listen', 'the-wet-stamp'],
  ['hand-off', 'hand-off', 'the-wet-stamp'],
]) {
  await open(`/scenes/${scene}/${step}`);
  await shoot(name);
}
await open('/scenes/the-wet-stamp/key');
for (let press = 0; press < 51; press++) await page.keyboard.press('ArrowRight');
await page.waitForTimeout(400);
await shoot('key');
await page.evaluate(() => localStorage.setItem('zest-theme', 'night'));
await open('/scenes/a-complaint/key');
for (let press = 0; press < 16; press++) await page.keyboard.press('ArrowRight');
await page.waitForTimeout(400);
await shoot('key-night');
await browser.close();
server.kill();
rmSync(folder, { recursive: true, force: true });
