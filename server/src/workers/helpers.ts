/**
 * Work that other processes take, on this computer or others: a task lies in a file of the data folder, that it waits is a
 * row in the queue of `pg-boss` in the server database, and whoever takes it says how far it is in a file beside it.
 */
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { deserialize, serialize } from 'node:v8';
import type PgBoss from 'pg-boss';
import type { WorkReport } from './workerPool.js';

/** Injected where helpers take work; null where nobody does. */
export const HELPERS = Symbol('HELPERS');

/** What helpers take: readings and renders. */
export const HELPED = ['read', 'handOff', 'several', 'pictures'] as const;
export type HelpedKind = (typeof HELPED)[number];

/** The server looks so often, in milliseconds, for what has become of a task. */
const LOOKS = 150;
/** A helper says so often, in milliseconds, that it is there. */
export const BEATS = 1_000;
/** One that has said nothing for so long, in milliseconds, is taken for gone, and its task is given to another, once. */
const SILENCE = 20_000;
/** Nobody has taken a task after so long, in milliseconds: whoever waits is told. */
const UNTAKEN = 5_000;

/** What waits in the queue: which task, and what its worker calls it. */
export interface Helped {
  readonly task: string;
  readonly name: string;
}

/** How far a helper is: its beats counted, and what it last reported. */
export interface Told {
  readonly beats: number;
  readonly report?: readonly [done: number, doing: string, part?: number];
}

/** The files of one task. */
export class TaskFiles {
  constructor(
    private readonly folder: string,
    private readonly id: string,
  ) {}

  private at(what: string): string {
    return join(this.folder, `${this.id}.${what}`);
  }

  /** Whole or not at all: whoever looks meanwhile sees what was there before. */
  write(what: 'task' | 'told' | 'answer', value: unknown): void {
    const unfinished = this.at(`${what}.unfinished`);
    writeFileSync(unfinished, serialize(value));
    renameSync(unfinished, this.at(what));
  }

  read<Value>(what: 'task' | 'told' | 'answer'): Value | undefined {
    return existsSync(this.at(what)) ? (deserialize(readFileSync(this.at(what))) as Value) : undefined;
  }

  /** Whether anybody still waits for it. */
  get isWanted(): boolean {
    return existsSync(this.at('task'));
  }

  /** The task first: a helper that works on it sees that nobody waits any more. */
  remove(): void {
    for (const what of ['task', 'told', 'answer']) for (const end of ['', '.unfinished']) rmSync(this.at(`${what}${end}`), { force: true });
  }
}

export const helpersFolder = (dataFolder: string): string => join(dataFolder, 'helpers');

/** @param database its address */
export async function openQueue(database: string): Promise<PgBoss> {
  // Read only where there are helpers.
  const { default: Queue } = await import('pg-boss');
  const queue = new Queue({ connectionString: database, max: 2, application_name: 'zest-jaw', schedule: false });
  // Told where it is asked for something; without anybody who hears this one it would end the process.
  queue.on('error', () => undefined);
  await queue.start();
  for (const kind of HELPED) await queue.createQueue(kind, { name: kind, retryLimit: 0, expireInHours: 12 });
  return queue;
}

/** The server's end. */
export class Helpers {
  private readonly folder: string;
  private queue: PgBoss | undefined;

  constructor(
    dataFolder: string,
    private readonly database: string,
    private readonly silence = SILENCE,
  ) {
    this.folder = helpersFolder(dataFolder);
  }

  /** What waited for a server that ended is asked for anew by that which begins. */
  async begin(): Promise<void> {
    rmSync(this.folder, { recursive: true, force: true });
    mkdirSync(this.folder, { recursive: true });
    this.queue = await openQueue(this.database);
    for (const kind of HELPED) await this.queue.purgeQueue(kind);
  }

  async close(): Promise<void> {
    await this.queue?.stop({ graceful: false });
  }

  /** Whether it is theirs: what somebody waits for at a word is faster here. */
  takes(kind: string, name: string): kind is HelpedKind {
    return (HELPED as readonly string[]).includes(kind) && name !== 'ways';
  }

  /** Waits until a helper has done a task; aborting the signal takes it back. */
  async run<Answer>(
    id: string,
    kind: HelpedKind,
    task: object,
    { signal, report, name }: { signal: AbortSignal; report: WorkReport; name: string },
  ): Promise<Answer> {
    const files = new TaskFiles(this.folder, id);
    files.write('task', task);
    const queue = this.queue!;
    let row: string | undefined;
    try {
      for (let attempt = 0; attempt < 2; attempt++) {
        row = (await queue.send(kind, { task: id, name } satisfies Helped))!;
        const answer = await this.end<Answer>(kind, row, files, signal, report);
        if (answer !== 'silent') return answer.of;
        await queue.cancel(kind, row);
      }
      throw new Error('Two helpers in turn went away in the middle of it.');
    } catch (error) {
      if (row !== undefined) await queue.cancel(kind, row).catch(() => undefined);
      throw error;
    } finally {
      files.remove();
    }
  }

  private async end<Answer>(
    kind: HelpedKind,
    row: string,
    files: TaskFiles,
    signal: AbortSignal,
    report: WorkReport,
  ): Promise<{ readonly of: Answer } | 'silent'> {
    const begun = Date.now();
    let [beats, heardAt, saidWaiting] = [-1, begun, false];
    let last = '';
    for (;;) {
      signal.throwIfAborted();
      const job = await this.queue!.getJobById(kind, row);
      if (!job || job.state === 'cancelled') throw new Error('The task was taken out of the queue.');
      if (job.state === 'completed') return { of: files.read<{ of: Answer }>('answer')!.of };
      if (job.state === 'failed') throw new Error(String((job.output as { message?: string } | null)?.message ?? 'A helper failed.'));
      const now = Date.now();
      if (job.state === 'active') {
        const told = files.read<Told>('told');
        if (told && told.beats !== beats) [beats, heardAt] = [told.beats, now];
        else if (beats < 0 && saidWaiting) [heardAt, saidWaiting] = [now, false];
        if (told?.report && JSON.stringify(told.report) !== last) {
          last = JSON.stringify(told.report);
          report(...told.report);
        }
        if (now - heardAt > this.silence) return 'silent';
      } else if (!saidWaiting && now - begun > UNTAKEN) {
        saidWaiting = true;
        report(0, 'Waiting for a helper');
      } else heardAt = now;
      await wait(LOOKS, undefined, { signal });
    }
  }
}
