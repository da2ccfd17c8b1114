/**
 * Takes away what nobody can ask for any more: files of work that has ended, what arrived and was never taken up, and files
 * that no document, no earlier state and no waiting work has referred to for thirty days. What it took away is kept as a job.
 */
import { MikroORM } from '@mikro-orm/core';
import { Inject, Injectable, Logger, OnModuleDestroy } from '@nestjs/common';
import { hasEnded } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { setImmediate as breathe } from 'node:timers/promises';
import { connectionOf } from './database.js';
import { Asset, Job } from './entities.js';

export const CLEARING_JOB = 'clearing';

/** Folders whose files belong to jobs, and where uploads land for the length of a request. */
export interface WorkFolders {
  readonly exports: string;
  readonly imports: string;
  readonly recordings: string;
  readonly arriving: string;
}

export const WORK_FOLDERS = Symbol('WORK_FOLDERS');

const HOUR = 3_600_000;
/** Files of work that has ended stay for so long, in milliseconds: a page left open over night can still save them. */
export const KEPT_AFTER_END = 24 * HOUR;
/** Files that nothing refers to stay for so long, in milliseconds: whoever undoes further than the history reaches finds them. */
export const KEPT_UNUSED = 30 * 24 * HOUR;
/** The first look for unused files comes when whoever has started the program has their scene, in milliseconds. */
const FIRST_LOOK = 60_000;

/** What was taken away. */
export interface Cleared {
  readonly files: number;
  readonly unused: number;
  readonly bytes: number;
}

function sizeOf(path: string): number {
  const facts = statSync(path);
  return facts.isDirectory() ? readdirSync(path).reduce((sum, name) => sum + sizeOf(join(path, name)), 0) : facts.size;
}

@Injectable()
export class ClearingService implements OnModuleDestroy {
  private readonly logger = new Logger('Clearing');
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(
    private readonly orm: MikroORM,
    @Inject(WORK_FOLDERS) private readonly folders: WorkFolders,
  ) {}

  /** Clears the folders before any work is taken up again, and every hour; looks for unused files every day. */
  async begin(): Promise<void> {
    rmSync(this.folders.arriving, { recursive: true, force: true });
    mkdirSync(this.folders.arriving, { recursive: true });
    await this.clearFolders(new Date());
    const told = (work: Promise<unknown>): void => void work.catch((error: unknown) => this.logger.error(error));
    this.timers.push(
      setInterval(() => told(this.clearFolders(new Date())), HOUR).unref(),
      setTimeout(() => told(this.clearAssets(new Date())), FIRST_LOOK).unref(),
      setInterval(() => told(this.clearAssets(new Date())), 24 * HOUR).unref(),
    );
  }

  onModuleDestroy(): void {
    for (const timer of this.timers) clearTimeout(timer);
  }

  /** Takes away files of work that ended, or that nobody knows. */
  async clearFolders(now: Date): Promise<Cleared> {
    const jobs = await this.orm.em.fork().find(Job, {}, { fields: ['id', 'kind', 'state', 'createdAt', 'request'] });
    const wanted = jobs.filter((job) => !hasEnded(job) || now.getTime() - job.createdAt.getTime() < KEPT_AFTER_END);
    // An import that looks at the files of another needs those too.
    const keep = new Set(wanted.flatMap(({ id, request }) => [id, String(request['source'] ?? id)]));
    const waiting = new Set(jobs.filter((job) => !hasEnded(job)).map(({ id }) => id));
    let [count, bytes] = [0, 0];
    for (const [folder, kept] of [
      [this.folders.exports, keep],
      [this.folders.imports, keep],
      [this.folders.recordings, waiting],
    ] as const)
      for (const name of existsSync(folder) ? readdirSync(folder) : []) {
        if (kept.has(name.replace(/\..*$/, ''))) continue;
        const path = join(folder, name);
        count += 1;
        bytes += sizeOf(path);
        rmSync(path, { recursive: true, force: true });
      }
    return this.noted({ files: count, unused: 0, bytes }, now);
  }

  /** Every hash that is written anywhere but in the table of files itself, and in work that ended long ago. */
  private async referred(now: Date): Promise<Set<string>> {
    const connection = connectionOf(this.orm);
    const found = new Set<string>();
    const note = (text: string): void => {
      for (const [hash] of text.matchAll(/\b[0-9a-f]{64}\b/g)) found.add(hash);
    };
    for (const job of await this.orm.em.fork().find(Job, {}))
      if (!hasEnded(job) || now.getTime() - job.createdAt.getTime() < KEPT_UNUSED) note(JSON.stringify(job.request));
    for (const { tableName, primaryKeys } of Object.values(this.orm.getMetadata().getAll())) {
      if (!tableName || ['asset', 'job'].includes(tableName)) continue;
      const key = primaryKeys[0]!;
      for (let last: unknown; ;) {
        // One at a time, so that whoever asks for something is answered in between: a document has megabytes.
        const after = last === undefined ? '' : 'where ?? > ?';
        const names = last === undefined ? [tableName, key] : [tableName, key, last, key];
        const [row] = await connection.execute<Record<string, unknown>[]>(`select * from ?? ${after} order by ?? limit 1`, names);
        if (!row) break;
        for (const value of Object.values(row)) if (value !== null) note(typeof value === 'string' ? value : JSON.stringify(value));
        last = row[key];
        await breathe();
      }
    }
    return found;
  }

  /** Takes away files that nothing refers to, once they have been so for long enough. */
  async clearAssets(now: Date): Promise<Cleared> {
    const em = this.orm.em.fork();
    const before = await em.find(Asset, {}, { fields: ['hash', 'unusedSince'] });
    const referred = await this.referred(now);
    let [count, bytes] = [0, 0];
    for (const { hash, unusedSince } of before) {
      if (referred.has(hash)) {
        if (unusedSince) await em.nativeUpdate(Asset, { hash }, { unusedSince: null });
      } else if (!unusedSince) await em.nativeUpdate(Asset, { hash }, { unusedSince: now });
      else if (now.getTime() - unusedSince.getTime() > KEPT_UNUSED) {
        const [row] = await connectionOf(this.orm).execute<{ size: number }[]>('select length(bytes) as size from asset where hash = ?', [
          hash,
        ]);
        // Only what is still as it was seen: somebody may have brought the same file again since.
        const removed = await em.nativeDelete(Asset, { hash, unusedSince });
        count += removed;
        if (removed > 0) bytes += Number(row?.size ?? 0);
      }
    }
    return this.noted({ files: 0, unused: count, bytes }, now);
  }

  private async noted(cleared: Cleared, now: Date): Promise<Cleared> {
    const { files, unused, bytes } = cleared;
    if (files + unused === 0) return cleared;
    const em = this.orm.em.fork();
    const what = files > 0 ? `${files} files of work that has ended` : `${unused} files that nothing had used for thirty days`;
    const message = `Took away ${what}: ${(bytes / 1e6).toFixed(1)} MB.`;
    em.create(Job, {
      id: randomUUID(),
      kind: CLEARING_JOB,
      scene: null,
      request: { files, unused, bytes },
      state: 'done',
      done: 1,
      message,
      warnings: [],
      offers: false,
      reading: null,
      attempts: 0,
      createdAt: now,
    });
    await em.flush();
    return cleared;
  }
}
