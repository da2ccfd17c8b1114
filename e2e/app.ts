/** The real application for a test: its server on a free port, on a data folder of its own. */
import type { SceneDocument, SceneView } from '@zest-jaw/core';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { generate } from 'selfsigned';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
export const SPEECH = join(ROOT, 'core/fixtures/speech');
export const SENTENCES = readFileSync(join(SPEECH, 'sentences.txt'), 'utf8').trim().split('\n');

/** What a room signs in with. */
export const PASSPHRASE = 'three gulls on a stamp';

/** An address by which other devices reach this computer, as a room uses it; loopback where it has no other. */
export const ownAddress = (): string =>
  Object.values(networkInterfaces())
    .flat()
    .find((one) => one?.family === 'IPv4' && !one.internal)?.address ?? '127.0.0.1';

export interface App {
  readonly folder: string;
  url(path: string): string;
  /** Ends the server and starts it again on the same data and port; something may happen to the data meanwhile. */
  restart(meanwhile?: () => void): Promise<void>;
  stop(): Promise<void>;
  json<T>(path: string): Promise<T>;
  /** A new scene by the server's own way: the recording decoded, the scene made, its reading begun. */
  makeScene(recording: Uint8Array, fields: Readonly<Record<string, unknown>>): Promise<{ sceneId: string; jobId: string }>;
}

/** A server with a process of its own, and the address it says. */
interface OwnServer {
  readonly child: ChildProcess;
  readonly origin: string;
}

async function startServer(folder: string, port: number, args: readonly string[] = []): Promise<OwnServer> {
  const child = spawn(process.execPath, [join(ROOT, 'server/dist/main.js'), ...args], {
    env: { ...process.env, ZEST_DATA: folder, PORT: String(port), ZEST_PASSPHRASE: PASSPHRASE },
  });
  const origin = await new Promise<string>((resolve, reject) => {
    let said = '';
    const hear = (chunk: Buffer): void => {
      said += chunk.toString();
      const found = /Zest Jaw is at (https?:\S+)\n/.exec(said);
      if (found) resolve(found[1]!);
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', () => reject(new Error(`The server ended: ${said}`)));
  });
  return { child, origin };
}

async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  // A server that does not end when asked must not hold up the tests; what it had acknowledged is on disk.
  const impatience = setTimeout(() => child.kill('SIGKILL'), 15_000);
  await ended;
  clearTimeout(impatience);
}

interface Answer {
  readonly number: number;
  readonly address?: string;
  readonly fault?: string;
}

/** A process in which a worker's applications run, one after the other. */
interface Host {
  ask(request: Readonly<Record<string, string>>): Promise<Answer>;
  end(): Promise<void>;
}

async function startHost(): Promise<Host> {
  const child = fork(join(ROOT, 'e2e/serverHost.mjs'), { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] });
  const waiting = new Map<number, (answer: Answer) => void>();
  const answered = (number: number): Promise<Answer> =>
    new Promise((resolve, reject) => {
      waiting.set(number, (answer) => (answer.fault ? reject(new Error(answer.fault)) : resolve(answer)));
      child.once('exit', () => reject(new Error('The host of the applications ended.')));
    });
  child.setMaxListeners(0);
  child.on('message', (answer: Answer) => waiting.get(answer.number)?.(answer));
  await answered(0);
  let last = 0;
  return {
    ask: (request) => {
      const answer = answered(++last);
      child.send({ number: last, ...request });
      return answer;
    },
    end: () => end(child),
  };
}

async function openApp(host: Host): Promise<App> {
  const folder = mkdtempSync(join(tmpdir(), 'zest-e2e-'));
  const { address: origin } = (await host.ask({ ask: 'open', folder })) as { address: string };
  // Once restarted it has a process of its own, as every real one has.
  let own: ChildProcess | undefined;
  const close = async (): Promise<void> => {
    if (own) await end(own);
    else await host.ask({ ask: 'close', address: origin });
  };
  return {
    folder,
    url: (path) => origin + path,
    restart: async (meanwhile) => {
      await close();
      meanwhile?.();
      own = (await startServer(folder, Number(new URL(origin).port))).child;
    },
    stop: async () => {
      await close();
      rmSync(folder, { recursive: true, force: true });
    },
    json: async <T>(path: string) => (await (await fetch(origin + path)).json()) as T,
    makeScene: async (recording, fields) => {
      const form = new FormData();
      form.set('recording', new Blob([Uint8Array.from(recording)]), 'line.wav');
      const { id } = (await (await fetch(`${origin}/api/recordings`, { method: 'POST', body: form })).json()) as { id: string };
      for (;;) {
        const job = (await (await fetch(`${origin}/api/jobs/${id}`)).json()) as { state: string; message: string };
        if (job.state === 'done') break;
        if (job.state === 'failed') throw new Error(job.message);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      const headers = { 'content-type': 'application/json' };
      const body = JSON.stringify({ recordingId: id, ...fields });
      return (await (await fetch(`${origin}/api/scenes`, { method: 'POST', headers, body })).json()) as { sceneId: string; jobId: string };
    },
  };
}

/** Each test has an application of its own, with the demo as it was made. */
export const test = base.extend<{ app: App }, { host: Host }>({
  host: [
    async ({}, use) => {
      const host = await startHost();
      await use(host);
      await host.end();
    },
    { scope: 'worker' },
  ],
  app: async ({ host }, use) => {
    const app = await openApp(host);
    await use(app);
    await app.stop();
  },
});

/** The arguments of a start with a certificate for its own address, which nobody but the test trusts. */
async function withCertificate(folder: string): Promise<string[]> {
  const ip = ownAddress();
  const { cert, private: key } = await generate([{ name: 'commonName', value: 'room.example' }], {
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 7, ip }] }],
  });
  const [certFile, keyFile] = [join(folder, 'room.pem'), join(folder, 'room.key')];
  writeFileSync(certFile, cert);
  writeFileSync(keyFile, key);
  return ['--cert', certFile, '--key', keyFile];
}

/** The same where a room shares the server: it is reached by the network, and wants a passphrase. */
export const roomTest = base.extend<{ app: Pick<App, 'url'>; isEncrypted: boolean }>({
  isEncrypted: [false, { option: true }],
  app: async ({ isEncrypted }, use) => {
    const folder = mkdtempSync(join(tmpdir(), 'zest-e2e-'));
    const more = isEncrypted ? await withCertificate(folder) : [];
    const { child, origin } = await startServer(folder, 0, ['--host', ownAddress(), ...more]);
    await use({ url: (path) => origin + path });
    await end(child);
    rmSync(folder, { recursive: true, force: true });
  },
});

export { expect };

export interface ExposureCell {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  readonly inked: boolean;
}

/** The mouth lane as the page tells it to screen readers. */
export async function mouthLane(page: Page): Promise<ExposureCell[]> {
  await page.locator('[role=gridcell][data-drawing]').first().waitFor({ state: 'attached' });
  const cells = await page.locator('[role=gridcell][data-drawing]').evaluateAll((elements) =>
    elements.map((element) => {
      const { from, to, drawing, inked } = (element as HTMLElement).dataset;
      return { from: Number(from), to: Number(to), drawing: drawing!, inked: inked === 'true' };
    }),
  );
  // An exposure that runs over a system's end stands in both.
  return cells.filter((cell, index) => index === 0 || cell.from !== cells[index - 1]!.from).sort((a, b) => a.from - b.from);
}

/** Until all that was changed is on the server. */
export const saved = (page: Page): Promise<void> => expect(page.getByTestId('save-state')).toHaveText('saved');

/** A scene as the server has it. */
export const sceneDocument = async (app: App, scene: string): Promise<SceneDocument> =>
  (await app.json<SceneView>(`/api/scenes/${scene}`)).document;

export async function openDemo(page: Page, app: App, scene: string, step = 'key'): Promise<void> {
  await page.goto(app.url(`/scenes/${scene}/${step}`));
  await expect(page.getByTestId('save-state')).toHaveText('saved');
}

/** Waits for what is tried to be planned, takes it, and waits until it is there. */
export async function takeIt(page: Page): Promise<void> {
  await expect(page.getByText(/\d+ mouths? would change\./)).toBeVisible();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByText('Taken. The ink stayed.')).toBeVisible();
}

/** A scene of the demo all in pencil, its mouths tried by how loud they are. */
export async function tryLoudness(page: Page, app: App): Promise<void> {
  await openDemo(page, app, 'the-wet-stamp');
  await expect(page.getByTestId('bar-sheet')).toHaveAttribute('data-waves', '1');
  await page.getByRole('button', { name: 'Pencil and ink' }).click();
  await page.getByRole('menuitem', { name: 'To pencil: the whole scene' }).click();
  await page.keyboard.press('j');
  await page.getByRole('radio', { name: 'how loud it is' }).click();
  await expect(page.getByText(/\d+ mouths would change\./)).toBeVisible();
}

/** Sentences of one voice joined into one recording, so that reading it takes a while; returns its path and script. */
export function joinedLines(app: App, voice: string, first: number, count: number): { file: string; script: string } {
  const waves = Array.from({ length: count }, (_, index) =>
    readFileSync(join(SPEECH, `${voice}-${String(first + index).padStart(2, '0')}.wav`)),
  );
  const bytes = Buffer.concat([waves[0]!.subarray(0, 44), ...waves.map((wave) => wave.subarray(44))]);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  bytes.writeUInt32LE(bytes.length - 44, 40);
  const file = join(app.folder, `${voice}-${first}-${count}.wav`);
  writeFileSync(file, bytes);
  return { file, script: SENTENCES.slice(first, first + count).join('\n') };
}

/** Plays the Chart step's try-out until more than so many drawings were seen. */
export async function hearTryOut(page: Page, more: number): Promise<void> {
  const tryOut = page.getByRole('region', { name: 'Try-out' });
  await tryOut.getByRole('button', { name: /Play the try-out/ }).click();
  const shown = new Set<string>();
  const look = async (): Promise<number> => {
    shown.add((await tryOut.getAttribute('data-drawing')) ?? '');
    return shown.size;
  };
  await expect.poll(look, { intervals: [60] }).toBeGreaterThan(more);
}

/** Has the track, or a part of it, read again, and takes all that would change. */
export async function readAgain(page: Page, button = 'Read the track again'): Promise<void> {
  await page.getByRole('button', { name: button }).click();
  const offer = page.getByRole('region', { name: 'Read again' });
  await offer.getByRole('button', { name: /^Take (it|all of it)$/ }).click();
  await expect(offer).toBeHidden();
  await saved(page);
}

interface Point {
  readonly x: number;
  readonly y: number;
}

const middleOf = ({ x, y, width, height }: Point & { width: number; height: number }): Point => ({ x: x + width / 2, y: y + height / 2 });

/** A drag with the mouse, by small steps, in pixels of the page; let go at its end unless it stays `held`. */
export async function drag(page: Page, from: Point, to: Point, { held = false } = {}): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 8 });
  if (!held) await page.mouse.up();
}

/** Something taken hold of and let go over a place that shows it would take it. */
export async function dragOnto(page: Page, grip: Locator, place: Locator): Promise<void> {
  await place.scrollIntoViewIfNeeded();
  await grip.scrollIntoViewIfNeeded();
  const [from, to] = [(await grip.boundingBox())!, (await place.boundingBox())!];
  await drag(page, middleOf(from), middleOf(to), { held: true });
  await expect(place).toHaveAttribute('data-over');
  await page.mouse.up();
}

/** Gives a part of the face a lane in the open scene, and goes to it. */
export async function addLane(page: Page, part: string): Promise<void> {
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: `A lane for ${part}` }).click();
}
