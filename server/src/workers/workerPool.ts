/** Worker threads by kind of work, and processes for what files that came from anywhere are read by. */
import { Inject, Injectable, OnModuleDestroy, Optional } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import pLimit, { type LimitFunction } from 'p-limit';
import { Piscina } from 'piscina';
import type { Allowance } from './file.process.js';
import { HELPERS, type Helpers } from './helpers.js';
import { ProcessPool } from './processPool.js';

/** Where the built workers are. Under Jest there is no `.js` beside the source, so the folder is injected. */
export const WORKER_FOLDER = process.env['ZEST_WORKERS'] ?? fileURLToPath(new URL('.', import.meta.url));

/** Readers stay warm; two at most, since each holds a model. The others go after ten seconds without work. */
const POOLS = {
  read: { file: 'read.worker.js', minThreads: 1, maxThreads: 2, idleTimeout: Number.POSITIVE_INFINITY },
  pronounce: { file: 'pronounce.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 120_000 },
  hear: { file: 'hear.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  check: { file: 'check.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  handOff: { file: 'handOff.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  several: { file: 'several.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  pictures: { file: 'pictures.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
} as const;

/**
 * Threads import what they run. `require` of a module, which the pool tries first and newer Node allows, instantiates it in one
 * go, and a thread that is ended in the middle of that takes the whole process with it (“IsGraphAsync must be used on an
 * instantiated module”, Node 20.20).
 */
const IMPORTS_ONLY = process.allowedNodeEnvironmentFlags.has('--experimental-require-module') ? ['--no-experimental-require-module'] : [];

const MB = 2 ** 20;

/**
 * Half an hour of sound took 367 to 569 MB and 4 to 49 s of the processor here, by its kind; the largest picture allowed, with all of
 * its pixels drawn, 721 MB and half of its time (docs/measured-once.md). A bundle is held twice, packed and unpacked.
 */
const PROCESSES = {
  decode: { file: 'decode.worker.js', allowance: { memory: 1024 * MB, seconds: 300 } },
  bundle: { file: 'bundle.worker.js', allowance: { memory: 3072 * MB, seconds: 300 } },
  import: { file: 'import.worker.js', allowance: { memory: 1024 * MB, seconds: 20, isOfEachReport: true } },
} as const satisfies Readonly<Record<string, { file: string; allowance: Allowance }>>;

type ThreadKind = keyof typeof POOLS;
type ProcessKind = keyof typeof PROCESSES;

const isInProcess = (kind: ThreadKind | ProcessKind): kind is ProcessKind => kind in PROCESSES;

/** Told the share done, what is being done, and with which part of the whole. */
export type WorkReport = (done: number, doing: string, part?: number) => void;

@Injectable()
export class WorkerPool implements OnModuleDestroy {
  private readonly pools = new Map<string, Piscina>();
  private readonly processes = new Map<string, ProcessPool>();
  private readonly turns = new Map<string, LimitFunction>();

  /** @param helpers who takes readings and renders elsewhere; nobody without them */
  constructor(@Optional() @Inject(HELPERS) private readonly helpers?: Helpers | null) {}

  /**
   * Runs a task in a worker, by what its file calls it; aborting the signal ends its thread, or its process.
   *
   * @throws {Overstepped} where a process took more than it may
   */
  async run<Answer>(
    kind: ThreadKind | ProcessKind,
    task: object,
    signal: AbortSignal,
    report: WorkReport = () => undefined,
    name = 'default',
  ): Promise<Answer> {
    if (this.helpers?.takes(kind, name)) return this.helpers.run<Answer>(randomUUID(), kind, task, { signal, report, name });
    const tell = (told: unknown): void => report(...(told as [number, string, number?]));
    if (isInProcess(kind))
      return this.turn(
        kind,
        1,
      )(() => {
        signal.throwIfAborted();
        return this.process(kind).run<Answer>(task, signal, tell);
      });
    const { port1, port2 } = new MessageChannel();
    port1.on('message', tell);
    try {
      return await this.turn(
        kind,
        POOLS[kind].maxThreads,
      )(async () => {
        signal.throwIfAborted();
        return (await this.pool(kind).run({ ...task, progress: port2 }, { signal, transferList: [port2], name })) as Answer;
      });
    } finally {
      port1.close();
    }
  }

  async onModuleDestroy(): Promise<void> {
    const threads = [...this.pools.values()].map((pool) => pool.destroy());
    await Promise.all([...threads, ...[...this.processes.values()].map((pool) => pool.close()), this.helpers?.close()]);
  }

  /**
   * Tasks wait here and not in the pool: when a running one is aborted its thread goes, and a
   * pool without threads does not start another for what waits in it.
   */
  private turn(kind: string, atOnce: number): LimitFunction {
    let turn = this.turns.get(kind);
    if (!turn) this.turns.set(kind, (turn = pLimit(atOnce)));
    return turn;
  }

  private process(kind: ProcessKind): ProcessPool {
    const { file, allowance } = PROCESSES[kind];
    let pool = this.processes.get(kind);
    if (!pool) this.processes.set(kind, (pool = new ProcessPool(WORKER_FOLDER, file, allowance)));
    return pool;
  }

  private pool(kind: ThreadKind): Piscina {
    const { file, ...options } = POOLS[kind];
    let pool = this.pools.get(kind);
    if (!pool)
      this.pools.set(
        kind,
        (pool = new Piscina({ filename: `${WORKER_FOLDER}/${file}`, concurrentTasksPerWorker: 1, execArgv: IMPORTS_ONLY, ...options })),
      );
    return pool;
  }
}
