/** The application on a data folder of its own, for tests. */
import type { NestExpressApplication } from '@nestjs/platform-express';
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
}

export const RECORDING = readFileSync(join(ROOT, 'core/fixtures/speech/slt-09.wav'));
export const SCRIPT = 'My mother makes marmalade in May.';

export async function openTestApp(): Promise<TestApp> {
  const folder = mkdtempSync(join(tmpdir(), 'zest-server-'));
  const options = { dataFolder: folder, demoFolder: join(ROOT, 'demo'), webFolder: join(folder, 'none'), quiet: true };
  let app: NestExpressApplication = await openApp(options);
  return {
    folder,
    agent: () => request(app.getHttpServer()),
    reopen: async () => {
      await app.close();
      app = await openApp(options);
    },
    close: async () => {
      await app.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
