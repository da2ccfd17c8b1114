/** `npm run screenshots`: one picture of each main view, from the demo, into docs/screenshots. */
import { chromium } from '@playwright/test';
import { chromiumPath } from '../e2e/chromium.mjs';
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt, ROOT } from './ensureBuilt.mjs';

ensureBuilt(['core', 'engine', 'server', 'web']);
const { lookToSvg, starterChart } = await import('../core/dist/index.js');
const folder = mkdtempSync(join(tmpdir(), 'zest-shots-'));
const shots = join(ROOT, 'docs/screenshots');
mkdirSync(shots, { recursive: true });

const server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], { env: { ...process.env, ZEST_DATA: folder, PORT: '0' } });
const origin = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => /http:\S+/.exec(chunk) && resolve(/http:\S+/.exec(chunk)[0])),
);
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-sync'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function open(path) {
  await page.goto(origin + path);
  await page.waitForLoadState('networkidle');
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(600);
}

/** An SVG as an animator's drawing program writes it: a group for each mouth, named as one does. */
function groupedSvg() {
  const names = ['closed', 'MBP', 'f_v', 'th', 'L', 'ss', 'sh', 'k', 'ee', 'eh', 'ah', 'oh', 'oo'];
  const chart = starterChart('Made', 'clay');
  const groups = chart.drawings.map(
    (drawing, index) =>
      `<g id="${names[index]}" transform="translate(70 40)">${lookToSvg(chart.settings[0].style, drawing, { idPrefix: `m${index}-` })}</g>`,
  );
  return Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 140 130">${groups.join('')}</svg>`);
}

const shoot = (name) => page.screenshot({ path: join(shots, `${name}.png`) });

await open('/');
await shoot('home');
// The whole face: a pose put over a phrase, the head turned towards the next key of its place, lids that blink below.
await open('/scenes/the-last-ferry/key');
await page.keyboard.press('Alt+KeyP');
const place = page.getByRole('region', { name: 'Place' });
await place.getByRole('radio', { name: 'The whole head' }).click();
for (const [presses, turned] of [
  [20, '0'],
  [14, '-9'],
  [20, '4'],
]) {
  for (let press = 0; press < presses; press++) await page.keyboard.press('ArrowRight');
  const slider = place.getByRole('slider', { name: 'Turned, °' });
  if (turned === '0') await place.getByRole('button', { name: 'Key here' }).click();
  else await slider.fill(turned);
  await slider.blur();
}
for (let press = 0; press < 20; press++) await page.keyboard.press('ArrowLeft');
await page.keyboard.press('Shift+Digit2');
await page.waitForTimeout(600);
await shoot('face');
for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z');
await page.waitForTimeout(600);
for (const [step, name, scene] of [
  ['chart', 'chart', 'a-complaint'],
  ['listen', 'listen', 'the-wet-stamp'],
  ['hand-off', 'hand-off', 'the-wet-stamp'],
]) {
  await open(`/scenes/${scene}/${step}`);
  await shoot(name);
}
// A second voice in a scene.
await open('/scenes/the-last-ferry/listen');
await page.getByRole('radio', { name: 'Recordings' }).click();
await page.getByLabel('A recording for the scene').setInputFiles(join(ROOT, 'demo/voices/a-complaint.wav'));
const placing = page.getByRole('dialog');
await placing
  .getByLabel('What is said')
  .fill('My parcel is soaked, it smells of herring, and it hums. I wish to speak to the snail in charge.');
await placing.getByLabel('Who speaks').selectOption({ label: 'Odette' });
await placing.getByLabel('Begins at frame').fill('1040');
await page.getByRole('button', { name: 'Place it' }).click();
await page
  .locator('[role=gridcell]')
  .filter({ hasText: /^herring, / })
  .waitFor({ state: 'attached' });
await page.waitForTimeout(500);
await shoot('recordings');
await open('/scenes/a-complaint/shoot/mouth1');
const stage = page.getByTestId('stage');
await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Practice camera' });
await page.locator('[data-testid=live][data-open=true]').waitFor();
await page.keyboard.press('h');
for (let press = 0; press < 24; press++) {
  await page.keyboard.press('Space');
  await page.waitForTimeout(250);
}
await page.waitForTimeout(1500);
await shoot('shoot');
// Another mouth than the one asked for, as somebody would have put it on.
const pictures = '/api/scenes/a-complaint/shooting/mouth1/pictures';
const [first] = await (await fetch(origin + pictures)).json();
const wrong = new FormData();
wrong.append('picture', await (await fetch(`${origin}/api/assets/${first.asset}`)).blob(), 'wrong.jpg');
wrong.append('chartId', 'odette-front');
const asked = (await (await fetch(origin + pictures)).json())[12];
wrong.append('drawing', asked.drawing);
wrong.append('practice', 'yes');
await fetch(`${origin}${pictures}/12`, { method: 'PUT', body: wrong });
await open('/scenes/a-complaint/shoot/mouth1/take');
await page.getByRole('button', { name: 'Look for wrong mouths' }).click();
await page.getByText(/doubted\.$/).waitFor();
await page
  .getByRole('button', { name: /^Go to frame/ })
  .first()
  .click();
await page.waitForTimeout(400);
await shoot('take');
const [{ id: production }] = await (await fetch(`${origin}/api/productions`)).json();
await open(`/productions/${production}/hand-off`);
await shoot('several');
await open('/scenes/the-wet-stamp/key');
for (let press = 0; press < 51; press++) await page.keyboard.press('ArrowRight');
await page.waitForTimeout(400);
await shoot('key');

// The map of the sounds, with a map proposed for one mouth that plays nothing.
await open('/scenes/the-wet-stamp/chart?map=OW');
await page.getByRole('region', { name: 'Group Lift' }).getByRole('button', { name: 'Lift no longer plays Lift' }).focus();
await page.keyboard.press('Enter');
await page.getByRole('button', { name: 'Propose' }).click();
await page.getByText('Lift → Lift').waitFor();
await shoot('sound-map');
await page.keyboard.press('Control+z');
await page.waitForTimeout(600);
await open('/scenes/the-wet-stamp/key');
// A feel tried before it is taken; left again.
await page.keyboard.press('l');
await page.keyboard.press('j');
await page.getByRole('group', { name: 'Feels' }).getByRole('button', { name: 'Limited' }).click();
await page.waitForTimeout(1200);
await page.keyboard.press('Space');
await page.waitForTimeout(300);
await shoot('feel');
await page.getByRole('button', { name: 'Leave it' }).click();
await page.keyboard.press('u');
await page.keyboard.press('y');
await page.keyboard.press('Home');
for (let press = 0; press < 5; press++) await page.keyboard.press('ArrowDown');
await page.waitForTimeout(800);
await page.keyboard.press('u');
await page.keyboard.press('y');

// Mouths taken in from a file.
await open('/scenes/the-wet-stamp/chart');
await page
  .getByLabel('Mouths to import', { exact: true })
  .setInputFiles({ name: 'mouths.svg', mimeType: 'image/svg+xml', buffer: groupedSvg() });
await page.getByRole('button', { name: /^Take/ }).waitFor();
await page.waitForTimeout(500);
await shoot('import');
await page.getByRole('button', { name: 'Cancel' }).click();

// A mouth for some frames only, on the desk over the one before it.
await open('/scenes/a-complaint/key');
for (let press = 0; press < 26; press++) await page.keyboard.press('ArrowRight');
await page.keyboard.press('Alt+KeyO');
await page.getByTestId('desk').waitFor();
await page.getByLabel('Label').fill('Shout');
await page.keyboard.press('Enter');
await page.waitForTimeout(600);
await page.keyboard.press('Escape');
// The exposure sheet, with the scene's history beside it.
await page.waitForTimeout(700);
await page.keyboard.press('Shift+Comma');
await page.waitForTimeout(700);
await page.keyboard.press('KeyE');
await page.waitForTimeout(700);
await page.keyboard.press('KeyH');
await page.keyboard.press('Control+KeyH');
await page.getByRole('region', { name: 'History' }).getByRole('button', { name: /slid/ }).waitFor();
await page.waitForTimeout(600);
await shoot('exposure-sheet');
// A line with some mouths that are wrong, checked; held against a pass of how it was; looked at by somebody else.
const stamp = '/api/scenes/the-wet-stamp';
const asJson = (method, path, body) =>
  page.evaluate(
    async ([how, where, what]) => {
      const answer = await fetch(where, {
        method: how,
        headers: { 'content-type': 'application/json' },
        body: what && JSON.stringify(what),
      });
      return answer.json().catch(() => null);
    },
    [method, path, body],
  );
await asJson('POST', `${stamp}/passes`, { name: 'As the plan had it', why: 'before the second look', byItself: false });
const { document: line, revision } = await asJson('GET', stamp);
const at = (frame) => line.exposures.find(({ from, to }) => from <= frame && frame < to);
const put = (before, after) => ({ op: 'put', table: 'exposures', id: (before ?? after).id, before, after });
const [closure, before, rest] = [at(12), at(10), at(70)];
await asJson('PATCH', stamp, {
  baseRevision: revision,
  patchId: 'wrong-mouths',
  reason: 'exposure.put',
  ops: [
    put(closure, { ...closure, drawing: before.drawing }),
    put(rest, { ...rest, to: 69 }),
    put(null, { ...rest, id: 'open', from: 69, to: 77, drawing: 'drop', plays: [] }),
    put(null, { ...rest, id: 'rests', from: 77 }),
  ],
});
for (const [frame, by, text] of [
  [44, 'The director', 'He should not smile yet.'],
  [92, 'Sound', 'The p is late for me.'],
])
  await asJson('POST', `${stamp}/remarks`, { frame, by, text, strokes: frame === 44 ? [[44, 52, 47, 60, 53, 61, 57, 52]] : [] });
await page.evaluate(() => localStorage.removeItem('zest-looking'));
await open('/scenes/the-wet-stamp/check');
await page.getByRole('radio', { name: 'By kind' }).click();
await page.locator('[data-testid=note][data-kind=open-in-pause]').getByRole('button').first().click();
await page.getByText('Mends it:').waitFor();
await page.waitForTimeout(900);
await shoot('check');
await open('/scenes/the-wet-stamp/check?show=curves');
await page.locator('.recharts-surface').first().waitFor();
await page.waitForTimeout(900);
await shoot('curves');
await open('/scenes/the-wet-stamp/check?show=passes');
await page.getByTestId('pass').last().getByRole('button').first().click();
await page.getByTestId('compare').waitFor();
await page.keyboard.press('KeyD');
await page.waitForTimeout(900);
await shoot('passes');
await open('/scenes/the-wet-stamp/review');
await page.getByRole('slider', { name: 'Frame' }).fill('44');
await page.waitForTimeout(700);
await shoot('review');
// A large easel by night, the mouths before and after seen through.
await page.keyboard.press('KeyH');
await page.evaluate(() => localStorage.setItem('zest-theme', 'night'));
await open('/scenes/the-wet-stamp/key');
for (let press = 0; press < 51; press++) await page.keyboard.press('ArrowRight');
await page.keyboard.press('KeyO');
await page.keyboard.press('Backquote');
await page.waitForTimeout(600);
await shoot('key-night');
await browser.close();
server.kill();
rmSync(folder, { recursive: true, force: true });
