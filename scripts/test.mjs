/**
 * `npm test`: everything that must hold, on a fresh machine. Installs what is missing, then
 * lint, types, unit and end-to-end tests. The last line is `N passed, N failed`.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { ensureBuilt, ensureInstalled, ROOT } from './ensureBuilt.mjs';

const reports = mkdtempSync(join(tmpdir(), 'zest-test-'));
let passed = 0;
let failed = 0;

function run(command, args, env = {}) {
  return spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } }).status ?? 1;
}

const bin = (name) => join(ROOT, 'node_modules/.bin', name);
const isOnPath = (name) => (process.env.PATH ?? '').split(delimiter).some((folder) => existsSync(join(folder, name)));
const heading = (text) => console.log(`\n— ${text}`);

/**
 * Chromium drives the interface, best the one without a window, which takes two thirds of the time; the recordings
 * of alsa-utils are the outside check of a human voice, the encoders of ffmpeg that of every kind of recording.
 * Packages of each in the order in which they serve, with what shows that they are here.
 */
const DEBIAN = [
  [
    ['chromium-headless-shell', () => isOnPath('chromium-headless-shell')],
    ['chromium', () => ['chromium', 'chromium-browser', 'google-chrome'].some(isOnPath)],
  ],
  [['alsa-utils', () => existsSync('/usr/share/sounds/alsa/Front_Center.wav')]],
  [['ffmpeg', () => isOnPath('ffmpeg')]],
];

function ensureDebianPackages() {
  const wanted = DEBIAN.filter(([[, isHere]]) => !isHere());
  if (wanted.length === 0) return;
  const mayInstall = existsSync('/etc/debian_version') && process.getuid?.() === 0;
  const apt = (...args) => mayInstall && run('apt-get', ['-qq', ...args], { DEBIAN_FRONTEND: 'noninteractive' }) === 0;
  if (mayInstall) heading(`Installing ${wanted.map(([[name]]) => name).join(', ')}`);
  apt('update');
  for (const ways of wanted) {
    if (ways.some(([name, isHere]) => isHere() || apt('install', '-y', name))) continue;
    const [name] = ways.at(-1);
    console.log(`Missing: ${name}. On Debian: apt-get install ${name}`);
  }
}

/** A check that passes or fails as a whole. */
function check(name, status) {
  if (status === 0) passed += 1;
  else failed += 1;
  console.log(`${status === 0 ? '✓' : '✗'} ${name}`);
}

/** Counts a report's tests; a runner that left none has failed as a whole. */
function count(name, file, read) {
  try {
    const [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')));
    passed += good;
    failed += bad;
    if (good + bad === 0) check(`${name} ran no test`, 1);
  } catch {
    check(`${name} did not finish`, 1);
  }
}

try {
  ensureInstalled();
} catch (error) {
  console.error(error.message);
  console.log('0 passed, 1 failed');
  process.exit(1);
}
ensureDebianPackages();

/** Checks that need nothing of one another, side by side; what each says is shown whole, one after the other. */
async function checkTogether(checks) {
  const ended = checks.map(
    ([name, command, args]) =>
      new Promise((resolve) => {
        const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
        const said = [];
        child.stdout.on('data', (chunk) => said.push(chunk));
        child.stderr.on('data', (chunk) => said.push(chunk));
        child.on('error', (error) => resolve([name, 1, String(error)]));
        child.on('close', (code) => resolve([name, code ?? 1, Buffer.concat(said).toString()]));
      }),
  );
  for (const result of ended) {
    const [name, status, text] = await result;
    if (text.trim()) console.log(text.trimEnd());
    check(name, status);
  }
}

heading('Lint and types');
check('core, engine, server, cli', run(bin('tsc'), ['-b']));
await checkTogether([
  ['eslint', bin('eslint'), ['.', '--max-warnings', '0']],
  ['prettier', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['types of tests', bin('tsc'), ['-p', 'tsconfig.tests.json']],
  ['types of web', bin('tsc'), ['-p', 'web', '--noEmit']],
  ['types of e2e', bin('tsc'), ['-p', 'e2e', '--noEmit']],
]);

heading('Build');
try {
  ensureBuilt(['core', 'engine', 'server', 'cli', 'web']);
  check('build', 0);
} catch (error) {
  console.error(error.message);
  check('build', 1);
}

heading('Unit');
const unit = join(reports, 'unit.json');
const unitStatus = run(bin('jest'), ['--json', `--outputFile=${unit}`]);
count('jest', unit, (report) => [report.numPassedTests, report.numFailedTests + report.numRuntimeErrorTestSuites]);
if (unitStatus !== 0 && failed === 0) check('jest', unitStatus);

heading('End to end');
const e2e = join(reports, 'e2e.json');
const e2eStatus = run('npm', ['run', '-s', 'e2e', '-w', 'e2e'], { ZEST_REPORT: e2e });
count('playwright', e2e, (report) => [report.stats.expected, report.stats.unexpected + report.stats.flaky + report.errors.length]);
if (e2eStatus !== 0 && failed === 0) check('playwright', e2eStatus);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
