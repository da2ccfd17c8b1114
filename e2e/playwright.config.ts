import { defineConfig } from '@playwright/test';
import { chromiumPath } from './chromium.mjs';

/** Debian's Chromium, kept from calling anybody. */
const args =
  '--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync';

export default defineConfig({
  testDir: 'tests',
  outputDir: 'results',
  // Each test has a server of its own. Two at a time on two cores, and beside them those that mostly wait for the clock of the
  // sound; those that measure what comes out of the sound device run alone.
  workers: 3,
  fullyParallel: true,
  retries: 0,
  // Readings run on whatever machine there is: nothing here depends on how fast.
  timeout: 600_000,
  expect: { timeout: Number(process.env['ZEST_PATIENCE'] ?? 180_000) },
  reporter: process.env['ZEST_REPORT'] ? [['list'], ['json', { outputFile: process.env['ZEST_REPORT'] }]] : [['list']],
  projects: [
    { name: 'waiting', grep: /@waits/, workers: 1 },
    { name: 'together', grepInvert: /@alone|@waits/, workers: 2 },
    { name: 'alone', grep: /@alone/, workers: 1, dependencies: ['together', 'waiting'] },
  ],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: chromiumPath(), args: args.split(' ') },
    // A trace of every step takes two fifths of the time: asked for when something is looked into.
    trace: process.env['ZEST_TRACE'] ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
  },
});
