/**
 * `npm run torture [-- --files N --kinds .mp3,.ogg --kills N --seed N]`: files that chance has damaged through every decoder, and a server that is
 * killed in the middle of whatever it does, on a disk that runs full, beside another on the same folder, and by a clock that
 * jumps. Says what became of each, and ends with 1 where something was lost or not told.
 * By itself as much as a night: ten thousand files of each kind, three hundred kills.
 */
import { execFileSync, spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { ensureBuilt, ROOT } from './ensureBuilt.mjs';

const { values } = parseArgs({
  options: {
    files: { type: 'string', default: '10000' },
    kinds: { type: 'string' },
    kills: { type: 'string', default: '300' },
    seed: { type: 'string', default: '1' },
  },
});
/** Of these kinds only: a night can be spread over several evenings. */
const isWanted = (name) => values.kinds?.split(',').some((kind) => name.endsWith(kind)) ?? true;
const [FILES, KILLS, SEED] = [values.files, values.kills, values.seed].map(Number);

ensureBuilt(['core', 'engine', 'server']);
const core = await import('../core/dist/index.js');
const { svgToPng } = await import('../engine/dist/index.js');
const { WorkerPool } = await import('../server/dist/workers/workerPool.js');
const { Overstepped } = await import('../server/dist/workers/processPool.js');

const folder = mkdtempSync(join(tmpdir(), 'zest-torture-'));
const VOICE = join(ROOT, 'core/fixtures/speech/slt-09.wav');
const faults = [];

/** Numbers from 0 to 1 that are the same for the same words. */
function chance(...words) {
  let state = createHash('sha256')
    .update([SEED, ...words].join(' '))
    .digest()
    .readUInt32LE();
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Some bytes changed, left out, doubled, put in or made nothing of; the head of a file more often than the rest. */
function damaged(bytes, random) {
  let now = Buffer.from(bytes);
  const place = () => Math.floor((random() < 0.4 ? random() ** 4 : random()) * now.length);
  for (let times = 1 + Math.floor(random() * 4); times > 0; times--) {
    const [at, length, how] = [place(), 1 + Math.floor(random() ** 3 * 400), Math.floor(random() * 6)];
    if (how === 0) for (let index = 0; index < 12; index++) now[place()] = Math.floor(random() * 256);
    else if (how === 1) now[at] ^= 1 << Math.floor(random() * 8);
    else if (how === 2) now = Buffer.concat([now.subarray(0, at), now.subarray(at + length)]);
    else if (how === 3) now = Buffer.concat([now.subarray(0, at + length), now.subarray(at)]);
    else if (how === 4) now.fill(random() < 0.5 ? 0 : 255, at, Math.min(now.length, at + length));
    else if (random() < 0.3) now = now.subarray(0, at);
    if (now.length === 0) return Buffer.from([0]);
  }
  return now;
}

async function seedsOfPictures() {
  const chart = core.starterChart('Torture', 'clay');
  const { style } = chart.settings[0];
  const groups = chart.drawings.map((drawing, index) => {
    const mouth = core.lookToSvg(style, drawing, { idPrefix: `m${index}-` });
    return `<g id="${drawing.id}" transform="translate(70 40)">${mouth}</g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="140" height="130" viewBox="0 0 140 130"><style>.a{fill:red}</style>${groups.join('')}</svg>`;
  const png = Buffer.from(svgToPng(svg));
  const frames = await sharp(png).raw().toBuffer({ resolveWithObject: true });
  const raw = { width: frames.info.width, height: frames.info.height * 2, channels: frames.info.channels, pageHeight: frames.info.height };
  const xml =
    '<?xml version="1.0"?><image w="140" h="130"><stack><layer name="ah" src="a.png"/><stack name="oh"><layer src="a.png" x="3"/></stack></stack></image>';
  return {
    'a.png': png,
    'a.jpg': await sharp(png).jpeg().toBuffer(),
    'a.webp': await sharp(png).webp().toBuffer(),
    'a.gif': await sharp(Buffer.concat([frames.data, frames.data]), { raw })
      .gif()
      .toBuffer(),
    'a.svg': Buffer.from(svg),
    'a.ora': Buffer.from(zipSync({ 'stack.xml': strToU8(xml), 'a.png': png })),
    'a.zip': Buffer.from(zipSync({ 'mouths/ah.png': png, 'mouths/oh.svg': strToU8(svg) })),
  };
}

/** The same line in every kind of recording; those that need ffmpeg where it is there. */
function seedsOfRecordings() {
  const seeds = { 'a.wav': readFileSync(VOICE) };
  for (const [name, args] of [
    ['a.flac', ['-c:a', 'flac']],
    ['a.mp3', ['-c:a', 'libmp3lame', '-b:a', '64k']],
    ['a.ogg', ['-c:a', 'libvorbis']],
    ['a.opus', ['-c:a', 'libopus']],
  ])
    try {
      execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', VOICE, ...args, join(folder, name)]);
      seeds[name] = readFileSync(join(folder, name));
    } catch {
      console.log(`${name}: left out, since there is no ffmpeg`);
    }
  return seeds;
}

/** Runs a task, and again without what took too much of the machine, as the server does. */
async function importOf(pool, files) {
  const spoiled = new Map();
  for (;;) {
    let part;
    try {
      const task = { files, options: { cut: { how: 'whole' }, clearPaper: false }, folder: join(folder, 'out'), spoiled };
      const found = await pool.run('import', task, new AbortController().signal, (_done, _doing, index) => (part = index));
      // By its file: an archive may be told of twice, and be read in part.
      const read = new Set(found.mouths.map(({ file }) => file));
      return { read: read.size, sentences: found.refused.map(({ sentence }) => sentence), ended: spoiled.size };
    } catch (error) {
      if (!(error instanceof Overstepped) || part === undefined) throw error;
      if (error.of === 'unknown') faults.push(`${files[part]?.name}: ended what reads it`);
      spoiled.set(part, 'took too much');
    }
  }
}

const AT_ONCE = 50;

async function picturesThroughDecoders(pool) {
  for (const [name, bytes] of Object.entries(await seedsOfPictures())) {
    if (!isWanted(name)) continue;
    const random = chance(name);
    const count = { read: 0, refused: 0, ended: 0 };
    writeFileSync(join(folder, name), bytes);
    const whole = await importOf(pool, [{ name, path: join(folder, name) }]);
    if (whole.read === 0) faults.push(`${name} is not read undamaged: ${whole.sentences.join(' ')}`);
    for (let from = 0; from < FILES; from += AT_ONCE) {
      const files = Array.from({ length: Math.min(AT_ONCE, FILES - from) }, (_, index) => {
        const path = join(folder, `${from + index}-${name}`);
        writeFileSync(path, damaged(bytes, random));
        return { name: `${from + index}-${name}`, path };
      });
      try {
        const { read, ended } = await importOf(pool, files);
        count.read += Math.min(read, files.length);
        count.ended += ended;
        count.refused += Math.max(0, files.length - read - ended);
      } catch (error) {
        faults.push(`${name}, from ${from}: ${error.stack}`);
      }
      for (const { path } of files) rmSync(path);
    }
    console.log(`${name}: ${count.read} read, ${count.refused} refused in a sentence, ${count.ended} ended by a limit and told`);
  }
}

async function recordingsThroughDecoders(pool) {
  for (const [name, bytes] of Object.entries(seedsOfRecordings())) {
    if (!isWanted(name)) continue;
    const random = chance(name);
    const count = { read: 0, refused: 0, ended: 0 };
    for (let index = 0; index < FILES; index++) {
      const path = join(folder, `${index}-${name}`);
      writeFileSync(path, damaged(bytes, random));
      try {
        const decoded = await pool.run('decode', { path }, new AbortController().signal);
        count['refusal' in decoded ? 'refused' : 'read'] += 1;
      } catch (error) {
        if (error instanceof Overstepped && error.of !== 'unknown') count.ended += 1;
        else faults.push(`${name} ${index}: ${error.stack}`);
      }
      for (const left of [path, `${path}.wav`]) rmSync(left, { force: true });
    }
    console.log(`${name}: ${count.read} read, ${count.refused} refused in a sentence, ${count.ended} ended by a limit and told`);
  }
}

/** A server on a data folder, once it answers; with modules that are loaded before it. */
function started(data, before = []) {
  const args = [...before.map((module) => `--import=${module}`), join(ROOT, 'server/dist/main.js')];
  const child = spawn(process.execPath, args, {
    env: { ...process.env, ZEST_DATA: data, PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  return new Promise((resolve, reject) => {
    let said = '';
    child.stderr.on('data', (text) => (said += text));
    child.stdout.on('data', (text) => {
      const address = /is at (http:\S+)/.exec(String(text))?.[1];
      if (address) resolve({ child, address, ended: new Promise((over) => child.on('exit', over)) });
    });
    child.on('exit', (code) => reject(new Error(`the server did not start (${code}): ${said.slice(0, 2000)}`)));
  });
}

const SCENE = 'the-wet-stamp';

/** One change of a scene, and its answer. */
async function change(address) {
  const { revision, document } = await (await fetch(`${address}/api/scenes/${SCENE}`)).json();
  const [before] = document.settings;
  const patchId = randomUUID();
  const ops = [{ op: 'put', table: 'settings', id: 'scene', before, after: { ...before, title: patchId } }];
  const answer = await fetch(`${address}/api/scenes/${SCENE}`, {
    method: 'PATCH',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ baseRevision: revision, patchId, reason: 'scene.settings', ops }),
  });
  return { patchId, status: answer.status, text: await answer.text() };
}

/** Changes one after another until the server is gone; what was acknowledged is added to `acknowledged`. */
async function edit(address, acknowledged) {
  for (;;)
    try {
      const { patchId, status, text } = await change(address);
      if (status === 200) acknowledged.push(patchId);
      else if (status !== 409) faults.push(`a change was answered with ${status}: ${text}`);
    } catch {
      return;
    }
}

/** What was acknowledged and is not there. */
async function lookForLost(address, acknowledged) {
  const answer = await fetch(`${address}/api/scenes/${SCENE}/patches?since=0`);
  const rows = await answer.json();
  if (!answer.ok) return void faults.push(`the history was answered with ${answer.status}: ${rows.detail}`);
  const kept = new Set(rows.map(({ patch }) => patch.id));
  for (const id of acknowledged) if (!kept.has(id)) faults.push(`the change ${id} was acknowledged and is lost`);
}

/** Work under way while it dies; what becomes of it is nobody's loss, but it must not keep the server from starting. */
async function work(address, random) {
  const form = new FormData();
  const kind = Math.floor(random() * 3);
  try {
    if (kind === 0) {
      const body = JSON.stringify({ kind: 'bundle' });
      await fetch(`${address}/api/scenes/${SCENE}/hand-offs`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body });
    } else if (kind === 1) {
      form.append('recording', new Blob([readFileSync(VOICE)]), 'line.wav');
      await fetch(`${address}/api/recordings`, { method: 'POST', body: form });
    } else {
      form.append('cut', 'whole');
      form.append('clearPaper', 'false');
      form.append('files', new Blob(['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1h5v5z"/></svg>']), 'ah.svg');
      await fetch(`${address}/api/imports`, { method: 'POST', body: form });
    }
  } catch {
    // The server is gone.
  }
}

async function kills() {
  const data = join(folder, 'data');
  mkdirSync(data);
  const acknowledged = [];
  const random = chance('kills');
  for (let round = 0; round <= KILLS; round++) {
    const { child, address, ended } = await started(data);
    await lookForLost(address, acknowledged);
    if (round === KILLS) {
      child.kill('SIGTERM');
      await ended;
      break;
    }
    const editing = edit(address, acknowledged);
    void work(address, random);
    await new Promise((resolve) => setTimeout(resolve, 50 + random() * 1500));
    child.kill('SIGKILL');
    await Promise.all([ended, editing]);
  }
  console.log(
    `${KILLS} kills: ${acknowledged.length} changes acknowledged, ${faults.filter((fault) => fault.includes('is lost')).length} lost`,
  );
}

const ended = async ({ child, ended: over }) => {
  child.kill('SIGTERM');
  await over;
};

/** Whether a small disk of memory can be mounted here. */
function mounted(disk) {
  mkdirSync(disk);
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=16m', 'tmpfs', disk], { stdio: 'ignore' });
    return true;
  } catch {
    console.log('A full and a read-only disk: left out, since nothing can be mounted here');
    return false;
  }
}

/** A disk that runs full, and has room again; and one that cannot be written from the start. */
async function disks() {
  const disk = join(folder, 'disk');
  if (!mounted(disk)) return;
  const acknowledged = [];
  let server;
  try {
    server = await started(disk);
    const room = Number(execFileSync('df', ['--output=avail', disk]).toString().split('\n')[1]) * 1024;
    writeFileSync(join(disk, 'filler'), Buffer.alloc(Math.max(0, room - 200_000)));
    let told;
    for (let count = 0; count < 500 && !told; count++) {
      const { patchId, status, text } = await change(server.address);
      if (status === 200) acknowledged.push(patchId);
      else told = `${status} ${text}`;
    }
    if (!/^507 .*is full/.test(told ?? '')) faults.push(`on a full disk a change was answered with ${told}`);
    const form = new FormData();
    form.append('recording', new Blob([Buffer.alloc(2_000_000)]), 'line.wav');
    const upload = await fetch(`${server.address}/api/recordings`, { method: 'POST', body: form });
    if (upload.status !== 507) faults.push(`on a full disk a recording was answered with ${upload.status}: ${await upload.text()}`);
    await lookForLost(server.address, acknowledged);
    rmSync(join(disk, 'filler'));
    const again = await change(server.address);
    if (again.status === 200) acknowledged.push(again.patchId);
    else faults.push(`with room again a change was answered with ${again.status}: ${again.text}`);
    await ended(server);
    server = await started(disk);
    await lookForLost(server.address, acknowledged);
    await ended(server);
    server = undefined;
    execFileSync('mount', ['-o', 'remount,ro', disk]);
    await started(disk).then(
      () => faults.push('a server started on a disk that cannot be written'),
      ({ message }) => /disk that cannot be written|cannot be written/.test(message) || faults.push(`on a read-only disk: ${message}`),
    );
    console.log(`A full and a read-only disk: ${acknowledged.length} changes acknowledged, told in a sentence`);
  } finally {
    server?.child.kill('SIGKILL');
    await server?.ended;
    execFileSync('umount', [disk]);
  }
}

/** Two servers on one folder: the second says so, and the first goes on. */
async function twoServers() {
  const data = join(folder, 'two');
  mkdirSync(data);
  const acknowledged = [];
  const first = await started(data);
  const editing = edit(first.address, acknowledged);
  for (let count = 0; count < 5; count++)
    await started(data).then(
      () => faults.push('a second server started on the same folder'),
      ({ message }) => /is in use by another Zest Jaw/.test(message) || faults.push(`the second server: ${message}`),
    );
  await ended(first);
  await editing;
  const again = await started(data);
  await lookForLost(again.address, acknowledged);
  await ended(again);
  console.log(`Two servers: ${acknowledged.length} changes acknowledged, the second refused five times`);
}

/** A clock that jumps by days, back and forth, while changes and work go on. */
async function clocks() {
  const data = join(folder, 'clocks');
  mkdirSync(data);
  const module = join(folder, 'jumpingClock.mjs');
  // Dates stay what they are but for what they take the present to be.
  const clock = [
    'const now = Date.now.bind(Date); let by = 0;',
    'setInterval(() => { by = (Math.random() - 0.5) * 80 * 86_400_000; }, 200).unref();',
    'const present = () => Math.round(now() + by);',
    'globalThis.Date = new Proxy(Date, {',
    '  construct: (Own, given) => (given.length > 0 ? new Own(...given) : new Own(present())),',
    "  get: (Own, name) => (name === 'now' ? present : Own[name]),",
    '});',
  ].join('\n');
  writeFileSync(module, clock);
  const acknowledged = [];
  const random = chance('clocks');
  for (let round = 0; round < Math.max(3, Math.ceil(KILLS / 30)); round++) {
    const server = await started(data, [module]);
    await lookForLost(server.address, acknowledged);
    const editing = edit(server.address, acknowledged);
    for (let count = 0; count < 4; count++) {
      await work(server.address, random);
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    if (round % 2 === 0) server.child.kill('SIGKILL');
    else server.child.kill('SIGTERM');
    await Promise.all([server.ended, editing]);
  }
  const last = await started(data);
  await lookForLost(last.address, acknowledged);
  await ended(last);
  console.log(`Clocks that jump by up to forty days: ${acknowledged.length} changes acknowledged`);
}

const pool = new WorkerPool();
try {
  mkdirSync(join(folder, 'out'));
  await picturesThroughDecoders(pool);
  await recordingsThroughDecoders(pool);
  await kills();
  await disks();
  await twoServers();
  await clocks();
} finally {
  await pool.onModuleDestroy();
  rmSync(folder, { recursive: true, force: true });
}
for (const fault of faults.slice(0, 50)) console.log(`✗ ${fault}`);
console.log(faults.length === 0 ? 'Nothing lost, everything told.' : `${faults.length} faults`);
process.exitCode = faults.length === 0 ? 0 : 1;
