/** The application on a data folder of its own, for tests. */
import type { Type } from '@nestjs/common';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { MikroORM } from '@mikro-orm/libsql';
import type { Patch, SceneDocument } from '@zest-jaw/core';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { openApp } from '../openApp.js';

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

export async function openTestApp(): Promise<TestApp> {
  const folder = mkdtempSync(join(tmpdir(), 'zest-server-'));
  const options = { dataFolder: folder, demoFolder: join(ROOT, 'demo'), webFolder: join(folder, 'none'), quiet: true };
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
    sql: (statement, params) =>
      app
        .get(MikroORM)
        .em.getConnection()
        .execute(statement, [...params]),
    reopen: async () => {
      await app.close();
      app = await openApp(options);
    },
    close: async () => {
      await app.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return testApp;
}
