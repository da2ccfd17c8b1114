/** The page's own thread in scenes of ten and of thirty minutes: how long it is kept at a time while a hand works. */
import { performance } from 'node:perf_hooks';
import { joinedLines, sceneOf } from './sound.mjs';

const SAMPLE_RATE = 48_000;

/** A scene as long as asked, its one clip a recording the server has, said by the labelled lines one after another. */
function longScene({ core, chart, labelled }, { minutes, audio, characterId, chartId }) {
  const lengthFrames = minutes * 60 * 24;
  const lengthSamples = lengthFrames * 2000;
  let count = 0;
  const newId = () => `b${(count += 1)}`;
  const made = core.newScene({
    title: `${minutes} minutes`,
    frameRate: { num: 24, den: 1 },
    firstFrame: 1,
    chartId,
    chart,
    rules: core.DEFAULT_RULES,
    clip: { characterId, audio, fileName: 'long.wav', lengthSamples, script: '', language: 'en' },
  });
  // Room at the end, so that it can be slid.
  const scene = { ...made, clips: [{ ...made.clips[0], toSample: lengthSamples - 20 * SAMPLE_RATE }] };
  const [words, phonemes] = [[], []];
  let at = 4800;
  for (let line = 0; at < lengthSamples - 24 * SAMPLE_RATE; line++) {
    const { sounds } = labelled[line % labelled.length];
    for (let from = 0; from < sounds.length; from += 4) {
      const own = sounds.slice(from, from + 4);
      phonemes.push(
        ...own.map((sound) => ({ symbol: sound.symbol, from: sound.from + at, to: sound.to + at, confidence: 0.9, word: words.length })),
      );
      words.push({ text: `word${words.length}`, from: own[0].from + at, to: own.at(-1).to + at, confidence: 0.9 });
    }
    at += sounds.at(-1).to + 9600;
  }
  const reading = { sampleRate: SAMPLE_RATE, durationSamples: lengthSamples, words, phonemes, warnings: [] };
  const read = core.applyPatch(core.SCENE_KIND, scene, core.takeReading(scene, scene.clips[0].id, reading, newId));
  const keyed = core.applyPatch(core.SCENE_KIND, read, core.pencilKeyed(read, new Map([[chartId, chart]]), newId));
  return { document: keyed, sounds: phonemes.length, exposures: keyed.exposures.length };
}

/** What a clip slid by half a second changes of a scene: operations, and bytes of JSON. */
export function slideOf(core, document, chartId, chart) {
  let count = 0;
  const newId = () => `s${(count += 1)}`;
  const slid = core.slideClip(document, document.clips[0].id, 12, newId);
  const patch = core.withPencilKeyed(document, slid, new Map([[chartId, chart]]), newId);
  return { ops: patch.ops.length, bytes: JSON.stringify(patch).length };
}

/** Counts how long the page's thread is kept at a time, between one message to itself and the next. */
function watchThread() {
  const channel = new MessageChannel();
  const watch = { longest: 0, over: 0, last: performance.now(), on: false };
  channel.port1.onmessage = () => {
    const now = performance.now();
    const gap = now - watch.last;
    watch.last = now;
    if (watch.on) {
      watch.longest = Math.max(watch.longest, gap);
      if (gap > 16) watch.over += 1;
      channel.port2.postMessage(0);
    }
  };
  Object.assign(window, {
    watchStart: () => {
      Object.assign(watch, { longest: 0, over: 0, last: performance.now(), on: true });
      channel.port2.postMessage(0);
    },
    watchEnd: () => {
      watch.on = false;
      return { longest: watch.longest, over: watch.over };
    },
  });
}

/** From a key press to the end of the frame that shows what it did, in milliseconds. */
export async function paintedAfter(page, key) {
  await page.evaluate(() => {
    Object.assign(window, {
      painted: new Promise((resolve) =>
        window.addEventListener(
          'keydown',
          () => {
            const from = performance.now();
            requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - from), 0));
          },
          { once: true, capture: true },
        ),
      ),
    });
  });
  await page.keyboard.press(key);
  return page.evaluate(() => window.painted);
}

async function during(page, act) {
  await page.evaluate(() => window.watchStart());
  await act();
  return page.evaluate(() => window.watchEnd());
}

/** @returns what was done, how long the longest stretch was in milliseconds, and how many were over 16 ms */
async function workOn(page, origin, id) {
  const rows = [];
  const note = async (what, act) => rows.push({ what, ...(await during(page, act)) });
  await page.goto(`${origin}/scenes/${id}/key`);
  await page.locator('[data-testid=bar-sheet][data-waves="1"] canvas').first().waitFor({ timeout: 120_000 });
  const paint = await page.evaluate(() =>
    performance.getEntriesByName('bar-sheet-system').map(({ startTime, duration }) => [startTime + duration, duration]),
  );
  const firstPaint = paint[0][0];
  await page.waitForTimeout(2500);
  await note('a mouth put by its key', async () => {
    await page.keyboard.press('KeyZ');
    await page.waitForTimeout(700);
  });
  await note('it is taken back', async () => {
    await page.keyboard.press('Control+KeyZ');
    await page.waitForTimeout(700);
  });
  const presses = [];
  for (const key of ['KeyZ', 'KeyX', 'KeyC', 'KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyZ', 'KeyX', 'KeyC', 'KeyA']) {
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(700);
    presses.push(await paintedAfter(page, key));
    await page.waitForTimeout(700);
  }
  await page.keyboard.press('KeyY');
  await page.waitForTimeout(800);
  await note('Why? is open, thirty frames are stepped over', async () => {
    for (let step = 0; step < 30; step++) await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(400);
  });
  await page.keyboard.press('KeyU');
  await page.waitForTimeout(1500);
  await page.keyboard.press('KeyJ');
  const slider = page.getByRole('slider', { name: /calm/i }).first();
  await slider.waitFor();
  await page.waitForTimeout(500);
  await note('a rule is dragged, the crib open', async () => {
    await slider.focus();
    for (let press = 0; press < 12; press++) {
      await page.keyboard.press('ArrowRight');
      await page.waitForTimeout(120);
    }
    await page.waitForTimeout(1500);
  });
  await note('what was tried is taken', async () => {
    await page.getByRole('button', { name: 'Take it' }).first().click();
    await page.waitForTimeout(1500);
  });
  await page.keyboard.press('KeyU');
  await page.keyboard.press('Escape');
  await page.waitForTimeout(800);
  const wheel = async (sheet, deltaY, turns) => {
    await page.getByTestId(sheet).hover();
    for (let turn = 0; turn < turns; turn++) {
      await page.mouse.wheel(0, deltaY);
      await page.waitForTimeout(40);
    }
    await page.waitForTimeout(400);
  };
  await note('the bar sheet is scrolled by thirty turns of the wheel', () => wheel('bar-sheet', 240, 30));
  await note('it is zoomed by the wheel, in and out', async () => {
    await page.keyboard.down('Control');
    await wheel('bar-sheet', -120, 10);
    await wheel('bar-sheet', 120, 10);
    await page.keyboard.up('Control');
  });
  await note('the whole scene in one row', async () => {
    await page.keyboard.press('Shift+Digit8');
    await page.waitForTimeout(900);
  });
  await page.keyboard.press('Digit8');
  await page.waitForTimeout(900);
  await note('the exposure sheet is opened', async () => {
    await page.keyboard.press('KeyH');
    await page.getByTestId('upright-sheet').waitFor();
    await page.waitForTimeout(700);
  });
  await note('it is scrolled by thirty turns of the wheel', () => wheel('upright-sheet', 240, 30));
  await note('a mouth put on it by its key', async () => {
    await page.keyboard.press('KeyZ');
    await page.waitForTimeout(700);
  });
  await page.keyboard.press('KeyH');
  await page.getByRole('link', { name: 'Listen' }).click();
  const sheet = page.getByTestId('bar-sheet');
  await sheet.waitFor();
  await page.waitForTimeout(1500);
  const { left, perFrame, y } = await sheet.evaluate(({ dataset }) => ({
    left: +dataset.left,
    perFrame: +dataset.perFrame,
    y: +dataset.clipsY,
  }));
  const box = await sheet.boundingBox();
  const x = box.x + left + perFrame * 12;
  await page.mouse.move(x, box.y + y + 8);
  await page.mouse.down();
  await note('a clip is slid by thirty frames', async () => {
    for (let step = 1; step <= 30; step++) {
      await page.mouse.move(x + step * perFrame, box.y + y + 8);
      await page.waitForTimeout(30);
    }
  });
  await note('it is let go, and the pencil follows', async () => {
    await page.mouse.up();
    await page.waitForTimeout(2500);
  });
  await page.getByRole('link', { name: 'Hand off' }).click();
  await note('Hand off is opened', async () => {
    await page.getByRole('heading', { name: 'Numbered pictures' }).waitFor();
    await page.waitForTimeout(800);
  });
  return {
    rows,
    press: median(presses),
    firstPaint,
    system: paint.map(([, duration]) => duration).sort((a, b) => a - b)[paint.length >> 1],
  };
}

/** The scene with lanes for further parts of the face: lids that blink, brows that go up, and others put by hand now and then. */
async function withFaceLanes({ core }, origin, document, chartId, lanes) {
  const json = async (path) => (await fetch(`${origin}/api${path}`)).json();
  const view = await json(`/charts/${chartId}`);
  const [head] = view.document.head;
  // More parts than a starter has: further eyes, each a part of its own.
  const [eyes] = head.parts;
  const more = Array.from({ length: Math.max(0, lanes - 1 - head.parts.length) }, (_, index) => ({
    ...eyes,
    id: `more${index}`,
    name: `More ${index + 1}`,
  }));
  const parts = [...head.parts, ...more].slice(0, lanes - 1);
  const { id: patchId, ...patched } = core.setHead(view.document, { ...head, parts: [...head.parts, ...more] }, () => `parts${lanes}`);
  await fetch(`${origin}/api/charts/${chartId}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ baseRevision: view.revision, patchId, ...patched }),
  });
  const charts = new Map((await json('/charts')).map((chart) => [chart.id, chart.document]));
  let [scene, count] = [document, 0];
  const newId = () => `f${(count += 1)}`;
  const apply = (patch) => (scene = core.applyPatch(core.SCENE_KIND, scene, patch));
  for (const part of parts) {
    apply(core.addPartLane(scene, { mouth: scene.tracks[0].id, part }, charts.get(part.chartId), newId));
    const lane = core.maybePartLane(scene, scene.tracks[0].characterId, part.name);
    const chart = charts.get(part.chartId);
    const { shut, up } = core.ruledDrawings(chart);
    if (shut) apply(core.setBlinks(scene, lane.id, { perMinute: 20, seed: 1 }, newId));
    else if (up) apply(core.setLifts(scene, lane.id, { share: 0.4 }, newId));
    else
      for (let frame = 30; frame < core.sceneSettings(scene).lengthFrames; frame += 48)
        apply(
          core.putDrawing(scene, { track: lane.id, frame, drawing: chart.drawings[(frame / 6) % chart.drawings.length].id }, chart, newId),
        );
  }
  const started = performance.now();
  const patch = core.pencilKeyed(scene, charts, newId);
  const keyed = performance.now() - started;
  return { document: apply(patch), keyed };
}

/**
 * @param lanes how many the face has: its mouth's, and those of further parts
 * @returns for each length what was measured, and the times of the longest stretches
 */
export async function benchAtSize(project, page, origin, lengths = [10, 30], lanes = 1) {
  const { core, labelled } = project;
  await page.addInitScript(watchThread);
  const results = [];
  for (const minutes of lengths) {
    const id = await sceneOf(origin, core.writeWave(joinedLines(labelled, core, minutes), SAMPLE_RATE));
    const { document } = await (await fetch(`${origin}/api/scenes/${id}`)).json();
    const [{ audio }, [{ characterId, chartId }]] = [document.clips[0], document.tracks];
    const { document: chart } = await (await fetch(`${origin}/api/charts/${chartId}`)).json();
    const long = longScene({ core, chart, labelled }, { minutes, audio, characterId, chartId });
    const face = lanes > 1 ? await withFaceLanes(project, origin, long.document, chartId, lanes) : { document: long.document };
    const copy = await fetch(`${origin}/api/scenes/copies`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ title: `${minutes} minutes`, document: face.document }),
    });
    const kept = await copy.json();
    results.push({
      minutes,
      lanes,
      slide: slideOf(core, long.document, chartId, chart),
      sounds: long.sounds,
      exposures: face.document.exposures.length,
      keyed: face.keyed,
      ...(await workOn(page, origin, kept.id)),
    });
  }
  return results;
}

const median = (list) => list.sort((a, b) => a - b)[list.length >> 1];

/** How long Home's list and a change of a chart take with so many scenes, in milliseconds. */
export async function benchManyScenes(origin, counts = [100, 1000]) {
  const call = async (path, method = 'GET', body = undefined) => {
    const started = performance.now();
    const response = await fetch(`${origin}/api${path}`, {
      method,
      ...(body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
    const answer = await response.json();
    return { answer, time: performance.now() - started };
  };
  const results = [];
  const { answer: first } = await call('/scenes');
  let have = first.length;
  for (const count of counts) {
    for (; have < count; have++) await call('/scenes/the-wet-stamp/copies', 'POST', {});
    const lists = [];
    for (let turn = 0; turn < 5; turn++) lists.push((await call('/scenes')).time);
    const changes = [];
    for (let turn = 0; turn < 5; turn++) {
      const { answer: chart } = await call('/charts/bramble-front');
      const [settings] = chart.document.settings;
      const after = { ...settings, name: `Bramble ${count} ${turn}` };
      const ops = [{ op: 'put', table: 'settings', id: 'chart', before: settings, after }];
      const body = { baseRevision: chart.revision, patchId: `bench-${count}-${turn}`, reason: 'chart.name', ops };
      changes.push((await call('/charts/bramble-front', 'PATCH', body)).time);
    }
    results.push({ count, list: median(lists), chart: median(changes) });
  }
  return results;
}
