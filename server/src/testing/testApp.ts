/** The application on a data folder of its own, for tests. */
import type { Type } from '@nestjs/common';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { MikroORM } from '@mikro-orm/core';
import type { Patch, SceneDocument } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import request from 'supertest';
import { openApp } from '../openApp.js';
import { connectionOf } from '../storage/database.js';

const ROOT = join(__dirname, '../../..');

export interface TestApp {
  readonly folder: string;
  agent(): ReturnType<typeof request>;
  /** Ends the application and opens it again on the same data. */
  reopen(): Promise<void>;
  close(): Promise<void>;
  /** A part of the application itself. */
  get<Part>(part: Type<Part>): Part;
  scene(id: string): Promise<SceneAnswer>;
  /** Sends a patch of a scene. */
  send(id: string, baseRevision: number, patch: Patch): ReturnType<ReturnType<typeof request>['patch']>;
  /** Waits for a job's end. */
  ended(jobId: string): Promise<{ state: string; message: string; done: number }>;
  /** The file that a job made, and what it is called. */
  resultOf(jobId: string): Promise<{ bytes: Uint8Array; name: string }>;
  /** Opens a bundle beside what is there; throws with what is said where it cannot be opened. */
  openBundle(zip: Uint8Array): Promise<{ readonly sceneIds: string[]; readonly charts: string[] }>;
  /** Runs a statement past the application, as a damaged disk or an older version might. */
  sql(statement: string, params: readonly unknown[]): Promise<unknown>;
}

export interface SceneAnswer {
  readonly revision: number;
  readonly document: SceneDocument;
  readonly reading: { readonly state: string; readonly message: string } | null;
}

export const RECORDING = readFileSync(join(ROOT, 'core/fixtures/speech/slt-09.wav'));
export const SCRIPT = 'My mother makes marmalade in May.';

/**
 * A database of its own on the server whose address `ZEST_TEST_DATABASE` gives, so that every test here can be run against
 * one: `ZEST_TEST_DATABASE=postgres://… npx jest server`. Undefined without it: then each has a file.
 */
async function maybeDatabase(): Promise<{ database: string; drop(): Promise<void> } | undefined> {
  const server = process.env['ZEST_TEST_DATABASE'];
  if (server === undefined) return undefined;
  const name = `zest_${randomUUID().replaceAll('-', '')}`;
  const run = async (statement: string): Promise<void> => {
    const client = new Client(server);
    await client.connect();
    await client.query(statement);
    await client.end();
  };
  await run(`create database ${name}`);
  return { database: Object.assign(new URL(server), { pathname: `/${name}` }).href, drop: () => run(`drop database ${name} with (force)`) };
}

/**
 * @param at the address of a server database; without it a file of its own
 * @param hasHelpers whether readings and renders wait for helpers
 */
export async function openTestApp(at?: string, hasHelpers = false): Promise<TestApp> {
  const folder = mkdtempSync(join(tmpdir(), 'zest-server-'));
  const own = at === undefined ? await maybeDatabase() : undefined;
  const options = {
    dataFolder: folder,
    demoFolder: join(ROOT, 'demo'),
    webFolder: join(folder, 'none'),
    quiet: true,
    database: at ?? own?.database,
    hasHelpers,
  };
  let app: NestExpressApplication = await openApp(options);
  const agent = (): ReturnType<typeof request> => request(app.getHttpServer());
  const testApp: TestApp = {
    folder,
    agent,
    get: (part) => app.get(part),
    scene: async (id) => (await agent().get(`/api/scenes/${id}`).expect(200)).body as SceneAnswer,
    send: (id, baseRevision, { id: patchId, ...patch }) =>
      agent()
        .patch(`/api/scenes/${id}`)
        .send({ baseRevision, patchId, ...patch }),
    ended: async (jobId) => {
      for (let look = 0; look < 2000; look++) {
        const { body } = await agent().get(`/api/jobs/${jobId}`).expect(200);
        if (['done', 'failed', 'cancelled'].includes(body.state)) return body;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error(`The job ${jobId} did not end.`);
    },
    resultOf: async (jobId) => {
      const answer = await agent()
        .get(`/api/jobs/${jobId}/result`)
        .buffer(true)
        .parse((response, done) => {
          const chunks: Buffer[] = [];
          response.on('data', (chunk: Buffer) => chunks.push(chunk));
          response.on('end', () => done(null, Buffer.concat(chunks)));
        })
        .expect(200);
      return { bytes: new Uint8Array(answer.body as Buffer), name: String(answer.headers['content-disposition']) };
    },
    openBundle: async (zip) => {
      const { body } = await agent().post('/api/bundles').attach('bundle', Buffer.from(zip), 'scene.zip').expect(201);
      const { state, message } = await testApp.ended(String(body.id));
      if (state !== 'done') throw new Error(message);
      return (await agent().get(`/api/bundles/${body.id}`).expect(200)).body as { sceneIds: string[]; charts: string[] };
    },
    sql: (statement, params) => connectionOf(app.get(MikroORM)).execute(statement, [...params]),
    reopen: async () => {
      await app.close();
      app = await openApp(options);
    },
    close: async () => {
      await app.close();
      await own?.drop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return testApp;
}
