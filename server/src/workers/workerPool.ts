/** Worker threads by kind of work. */
import { Injectable, OnModuleDestroy } from '@nestjs/common';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import pLimit, { type LimitFunction } from 'p-limit';
import { Piscina } from 'piscina';

/** Where the built workers are. Under Jest there is no `.js` beside the source, so the folder is injected. */
export const WORKER_FOLDER = process.env['ZEST_WORKERS'] ?? fileURLToPath(new URL('.', import.meta.url));

/** Readers stay warm; two at most, since each holds a model. The others go after ten seconds without work. */
const POOLS = {
  read: { file: 'read.worker.js', minThreads: 1, maxThreads: 2, idleTimeout: Number.POSITIVE_INFINITY },
  decode: { file: 'decode.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  pronounce: { file: 'pronounce.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 120_000 },
  hear: { file: 'hear.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  check: { file: 'check.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  import: { file: 'import.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  handOff: { file: 'handOff.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  several: { file: 'several.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
  pictures: { file: 'pictures.worker.js', minThreads: 0, maxThreads: 1, idleTimeout: 10_000 },
} as const;

@Injectable()
export class WorkerPool implements OnModuleDestroy {
  private readonly pools = new Map<string, Piscina>();
  private readonly turns = new Map<string, LimitFunction>();

  /** Runs a task in a worker, by what its file calls it; aborting the signal ends its thread. */
  async run<Answer>(
    kind: keyof typeof POOLS,
    task: object,
    signal: AbortSignal,
    report: (done: number, doing: string) => void = () => undefined,
    name = 'default',
  ): Promise<Answer> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', ([done, doing]: [number, string]) => report(done, doing));
    try {
      return await this.turn(kind)(async () => {
        signal.throwIfAborted();
        return (await this.pool(kind).run({ ...task, progress: port2 }, { signal, transferList: [port2], name })) as Answer;
      });
    } finally {
      port1.close();
    }
  }

  async onModuleDestroy(): Promise<void> {
    await Promise.all([...this.pools.values()].map((pool) => pool.destroy()));
  }

  /**
   * Tasks wait here and not in the pool: when a running one is aborted its thread goes, and a
   * pool without threads does not start another for what waits in it.
   */
  private turn(kind: keyof typeof POOLS): LimitFunction {
    let turn = this.turns.get(kind);
    if (!turn) this.turns.set(kind, (turn = pLimit(POOLS[kind].maxThreads)));
    return turn;
  }

  private pool(kind: keyof typeof POOLS): Piscina {
    const { file, ...options } = POOLS[kind];
    let pool = this.pools.get(kind);
    if (!pool)
      this.pools.set(kind, (pool = new Piscina({ filename: `${WORKER_FOLDER}/${file}`, concurrentTasksPerWorker: 1, ...options })));
    return pool;
  }
}
